// Parts of a page changed in place: the hand, the place on the page and the focus stay where they are. Every link that
// does so leads to a whole page too.
(() => {
  const parse = (text) => new DOMParser().parseFromString(text, "text/html");
  let asked = 0;

  // Fetches a page and puts its parts in place of those here; what was asked for before is forgotten.
  const swap = async (address, selectors) => {
    asked += 1;
    const mine = asked;
    const answer = await fetch(address).catch(() => null);
    if (!answer || !answer.ok || answer.redirected) { if (mine === asked) location.assign(address); return false; }
    const page = parse(await answer.text());
    if (mine !== asked) return false;
    const held = document.activeElement;
    const key = held?.dataset?.key ?? null;
    selectors.split(",").forEach((selector) => {
      const fresh = page.querySelector(selector);
      const old = document.querySelector(selector);
      if (fresh && old) old.replaceWith(document.importNode(fresh, true));
    });
    if (!held?.isConnected && key) document.querySelector(`[data-key="${CSS.escape(key)}"]`)?.focus({ preventScroll: true });
    history.replaceState(null, "", address);
    document.dispatchEvent(new CustomEvent("swapped"));
    return true;
  };

  document.addEventListener("click", (event) => {
    const link = event.target.closest("a[data-swap]");
    if (!link || event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    swap(link.href, link.dataset.swap);
  });

  // The tree turned by pulling it: a step of fifteen degrees for every so many pixels.
  const STEP = 22;
  let pull = null;
  document.addEventListener("pointerdown", (event) => {
    const drawing = event.target.closest("#drawing .elevation") && document.getElementById("drawing");
    if (!drawing || event.button !== 0 || event.target.closest("a, .grip")) return;
    pull = { x: event.clientX, from: Number(drawing.dataset.from), shown: Number(drawing.dataset.from) };
    drawing.classList.add("turning");
    event.preventDefault();
  });
  document.addEventListener("pointermove", (event) => {
    if (!pull) return;
    if (!event.buttons) { pull = null; return; }
    const steps = Math.round((event.clientX - pull.x) / STEP);
    const to = (((pull.from + steps * 15) % 360) + 360) % 360;
    if (to === pull.shown) return;
    pull.shown = to;
    const address = new URL(location.href);
    address.searchParams.set("from", to);
    swap(address.href, "#drawing").then(() => pull && document.getElementById("drawing")?.classList.add("turning"));
  });
  document.addEventListener("pointerup", () => { pull = null; document.getElementById("drawing")?.classList.remove("turning"); });

  window.vestrySwap = swap;
})();
