// Keys: stations, finding, turning the tree, opening the working. Never in the way of typing.
(() => {
  const typing = (target) => target.closest("input, textarea, select, [contenteditable], .viewport") !== null;
  const press = (selector) => { const found = document.querySelector(selector); if (found) { found.click(); return true; } return false; };
  const enter = (selector) => { const found = document.querySelector(selector); if (found) { found.focus(); return true; } return false; };
  const toggleWorking = () => {
    const all = [...document.querySelectorAll("details.working")];
    if (all.some((each) => each.open)) { all.forEach((each) => { each.open = false; }); return true; }
    // Those in view: a page that grows to many times its length is read by nobody.
    const near = all.filter((each) => { const box = each.getBoundingClientRect(); return box.height > 0 && box.bottom > 0 && box.top < innerHeight; });
    near.forEach((each) => { each.open = true; });
    return near.length > 0;
  };
  // The limb before or after the chosen one.
  const limb = (step) => {
    const all = [...document.querySelectorAll("svg.elevation a.tag")].sort((a, b) => a.textContent.trim().localeCompare(b.textContent.trim(), undefined, { numeric: true }));
    if (all.length === 0) return false;
    const chosen = all.findIndex((each) => each.classList.contains("chosen"));
    const at = chosen < 0 && step < 0 ? 0 : chosen;
    location.assign(all[(at + step + all.length) % all.length].getAttribute("href"));
    return true;
  };
  const acts = {
    "/": () => { const box = document.querySelector("#find"); if (box) { box.focus(); box.select(); return true; } return false; },
    ",": () => press("[data-key=',']"),
    ".": () => press("[data-key='.']"),
    "[": () => press("[data-key='[']"),
    "]": () => press("[data-key=']']"),
    n: () => press("[data-key='n']") || enter("#lines, [data-key-field='n']"),
    ArrowLeft: () => limb(-1),
    ArrowRight: () => limb(1),
    w: toggleWorking,
    u: () => press("[data-key='u']"),
    "?": () => { const list = document.querySelector("#keys"); if (!list) return false; if (list.open) list.close(); else list.showModal(); return true; },
  };
  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
    const station = /^[1-7]$/.test(event.key) && document.querySelector(`.stations li:nth-child(${event.key}) a`);
    if (station) { station.click(); event.preventDefault(); return; }
    if (acts[event.key] && acts[event.key]()) event.preventDefault();
  });
  document.addEventListener("click", (event) => { if (event.target.matches("#keys-open")) acts["?"](); });
})();
