// Surveying under the hand: lines drawn as they are typed, a limb pointed on the compass, the
// orchard moved about. Every form submits and every page reads without it.
(() => {
  const parts = (text) => new DOMParser().parseFromString(text, "text/html");

  // Limb lines, read by the server as they are typed.
  const bindLines = () => document.querySelectorAll("form[data-echo]:not([data-bound-echo])").forEach((form) => {
    form.dataset.boundEcho = "yes";
    const area = form.querySelector("textarea");
    const echo = form.dataset.into ? document.querySelector(form.dataset.into) : form.querySelector(".echo");
    let waiting = null;
    let asked = 0;
    const read = async () => {
      asked += 1;
      const mine = asked;
      const body = new URLSearchParams(new FormData(form));
      body.set("what", "echo");
      const answer = await fetch(form.dataset.echo, { method: "POST", body }).catch(() => null);
      if (!answer?.ok || mine !== asked) return;
      const page = parts(await answer.text());
      // The tree as it would be stands in the main drawing, and what was read beside the lines.
      const typed = page.querySelector("svg.elevation");
      const drawn = document.querySelector("#drawing svg.elevation");
      if (typed && drawn) { drawn.replaceWith(document.importNode(typed, true)); typed.remove(); }
      echo.replaceChildren(...page.body.childNodes);
    };
    form.addEventListener("input", () => { clearTimeout(waiting); waiting = setTimeout(read, 300); });
  });
  bindLines();
  document.addEventListener("swapped", bindLines);

  // The word that could not be read, chosen where it stands.
  document.querySelectorAll("textarea[data-select]").forEach((area) => {
    const start = area.value.split("\n").slice(0, Number(area.dataset.line) - 1).join("\n").length;
    const at = area.value.indexOf(area.dataset.select, start);
    area.focus();
    if (at >= 0) area.setSelectionRange(at, at + area.dataset.select.length);
    area.scrollIntoView({ block: "center" });
  });

  // A drawn compass or quadrant beside a slider; both say the same.
  const needles = {
    rose: { turn: (value) => `rotate(${value})`, from: (x, y) => Math.round((Math.atan2(x, -y) * 180) / Math.PI + 360) % 360 },
    rise: { turn: (value) => `rotate(${-value} -40 20)`, from: (x, y) => Math.round((Math.atan2(20 - y, x + 40) * 180) / Math.PI) },
  };
  const bindNeedles = () => document.querySelectorAll("svg.rose:not([data-bound]), svg.rise:not([data-bound])").forEach((svg) => {
    svg.dataset.bound = "yes";
    const kind = needles[svg.classList.contains("rose") ? "rose" : "rise"];
    const slider = document.getElementById(svg.dataset.for);
    // Nothing was pointed until a hand has: an empty field has no needle.
    const show = () => {
      const angle = slider.value.trim() === "" ? NaN : Number(slider.value);
      svg.classList.toggle("unset", Number.isNaN(angle));
      svg.querySelector(".needle").setAttribute("transform", kind.turn(angle || 0));
    };
    const point = (event) => {
      const place = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
      slider.value = kind.from(place.x, place.y);
      show();
    };
    slider.addEventListener("input", show);
    show();
    svg.addEventListener("pointerdown", (event) => { svg.setPointerCapture(event.pointerId); point(event); });
    svg.addEventListener("pointermove", (event) => { if (event.buttons) point(event); });
  });
  bindNeedles();
  document.addEventListener("swapped", bindNeedles);

  // A file on its way in: how far it is.
  const progress = document.querySelector("[data-progress]");
  if (progress) {
    const ask = async () => {
      const answer = await fetch(progress.dataset.progress).catch(() => null);
      // A line that fails for a moment is asked again, a server that is in trouble too.
      if (!answer || answer.status >= 500) { setTimeout(ask, 3000); return; }
      if (!answer.ok) return;
      const now = await answer.json();
      const bar = progress.querySelector("progress");
      // How much there is may be known only once it is under way.
      if (now.all) bar.max = now.all;
      bar.value = now.done;
      progress.querySelector(".hint").firstChild.textContent = now.said ?? `${now.done} of ${now.lines}. `;
      if (now.over ?? ["done", "failed"].includes(now.state)) location.reload(); else setTimeout(ask, 700);
    };
    setTimeout(ask, 700);
  }

  // The orchard: dragged, scrolled, pinched, or moved by keys; what comes into view is sent for.
  const bindMap = () => {
    const map = document.querySelector("svg.orchard-map.viewport:not([data-bound])");
    if (!map) return;
    map.dataset.bound = "yes";
    const figure = map.closest("figure");
    const view = { x: Number(map.dataset.x), y: Number(map.dataset.y), span: Number(map.dataset.span) };
    let drawn = { ...view };
    let waiting = null;
    let asked = 0;
    const metres = () => view.span / map.clientWidth;
    const shift = () => {
      const scale = drawn.span / view.span;
      const x = ((drawn.x - view.x) / view.span) * 860 + 430 * (1 - scale);
      const y = ((view.y - drawn.y) / view.span) * 860 + 260 * (1 - scale);
      map.querySelector(".marks").setAttribute("transform", `translate(${x} ${y}) scale(${scale})`);
    };
    const query = () => `${figure.dataset.filters ?? ""}&x=${view.x.toFixed(1)}&y=${view.y.toFixed(1)}&w=${view.span.toFixed(1)}`;
    const send = async () => {
      if (!figure.dataset.window) return;
      asked += 1;
      const mine = asked;
      const wanted = { ...view };
      const answer = await fetch(`${figure.dataset.window}?${query()}`).catch(() => null);
      if (!answer?.ok || mine !== asked) return;
      const page = parts(await answer.text());
      const marks = document.importNode(page.querySelector("g.marks"), true);
      map.querySelector(".marks").replaceWith(marks);
      map.setAttribute("aria-label", page.querySelector("[data-title]").dataset.title);
      document.querySelector("#window-list")?.replaceChildren(...page.querySelector(".list").childNodes);
      drawn = wanted;
      shift();
      history.replaceState(null, "", `${location.pathname}?${query()}`);
    };
    const moved = () => { shift(); clearTimeout(waiting); waiting = setTimeout(send, 160); };
    const zoom = (times) => { view.span = Math.min(Math.max(view.span * times, 12), 100000); moved(); };
    const pointers = new Map();
    let dragged = false;
    map.addEventListener("pointerdown", (event) => { pointers.set(event.pointerId, event); dragged = false; });
    map.addEventListener("pointermove", (event) => {
      const before = pointers.get(event.pointerId);
      if (!before) return;
      if (pointers.size === 2) {
        const other = [...pointers.values()].find((each) => each.pointerId !== event.pointerId);
        const gap = (one) => Math.hypot(one.clientX - other.clientX, one.clientY - other.clientY);
        if (gap(event) > 0) zoom(gap(before) / gap(event));
      } else {
        const [x, y] = [event.clientX - before.clientX, event.clientY - before.clientY];
        if (Math.hypot(x, y) > 3 || dragged) { dragged = true; view.x -= x * metres(); view.y += y * metres(); moved(); } else return;
      }
      pointers.set(event.pointerId, event);
    });
    ["pointerup", "pointercancel", "pointerleave"].forEach((name) => map.addEventListener(name, (event) => pointers.delete(event.pointerId)));
    map.addEventListener("click", (event) => { if (dragged) { event.preventDefault(); dragged = false; } }, true);
    map.addEventListener("dragstart", (event) => event.preventDefault());
    map.addEventListener("wheel", (event) => { if (!event.ctrlKey) return; event.preventDefault(); zoom(event.deltaY > 0 ? 1.2 : 1 / 1.2); }, { passive: false });
    map.addEventListener("keydown", (event) => {
      const step = view.span / 6;
      const acts = { ArrowLeft: () => { view.x -= step; }, ArrowRight: () => { view.x += step; }, ArrowUp: () => { view.y += step; }, ArrowDown: () => { view.y -= step; }, "+": () => zoom(0.6), "=": () => zoom(0.6), "-": () => zoom(1.6) };
      if (!acts[event.key]) return;
      acts[event.key]();
      moved();
      event.preventDefault();
    });
  };
  bindMap();
  document.addEventListener("swapped", bindMap);
})();
