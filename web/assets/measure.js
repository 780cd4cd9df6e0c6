// A figure from a picture: the card's corners are put, the edge is marked, what it measures is said with how far off it
// may be, and nothing is kept until it is taken. Every mark is pulled by pointer or thumb, with a magnifier, or moved by
// keys.
(() => {
  const LONGEST = 1600;
  const KINDS = { length: "between two edges", oval: "by two ends and two sides", outline: "round its edge" };
  const COUNTS = { length: 2, oval: 4, outline: 8 };
  const FIRST = { girth: "length", stub: "oval", stick: "length", union: "length", opening: "outline", margin: "length", shoot: "length" };
  const SVG = "http://www.w3.org/2000/svg";
  const made = (name, facts = {}, ...inside) => {
    const element = document.createElement(name);
    Object.entries(facts).forEach(([key, value]) => { if (key in element && key !== "list") element[key] = value; else element.setAttribute(key, value); });
    element.append(...inside);
    return element;
  };
  const drawn = (name, facts) => {
    const element = document.createElementNS(SVG, name);
    Object.entries(facts).forEach(([key, value]) => element.setAttribute(key, value));
    return element;
  };

  // A length as the orchard says it.
  const say = (mm, units) => units === "imperial" || mm >= 20 ? vestrySteps.say(mm, units) : `${mm.toFixed(1)} mm`;
  // The least that is said to be off, in mm: no finer than a length is said.
  const LEAST = { imperial: 25.4 / 16, metric: 0.1 };
  // A known length to begin with, in mm.
  const KNOWN = { imperial: 4 * 25.4, metric: 100 };

  // What of a measure goes into a field.
  const figure = (what, kind, told) => {
    if (what === "girth") return { mm: Math.PI * told.mean, error: Math.PI * told.error };
    if (what === "opening") return { mm: told.a, error: told.error, across: told.b };
    return { mm: kind === "length" ? told.a : told.mean, error: told.error };
  };

  // The place where marks are set: a picture, and over it what is set in it.
  const bench = (picture, state, { units, what, card, changed }) => {
    const { width, height } = picture;
    const canvas = made("canvas", { width, height });
    canvas.getContext("2d").drawImage(picture, 0, 0, width, height);
    const svg = drawn("svg", { viewBox: `0 0 ${width} ${height}`, class: "marking", role: "group", "aria-label": "The picture, with its marks" });
    const glass = made("canvas", { className: "magnifier", width: 150, height: 150, hidden: true });
    const frame = made("div", { className: "pictured" }, canvas, svg, glass);
    const [cardLine, edge] = [drawn("path", { class: "card-line" }), drawn("path", { class: "edge-line" })];
    // Marks that lie where they were laid out, and that nobody has put anywhere: nothing is measured by them.
    const unset = new Set();
    const layOut = (of, count) => {
      [...unset].filter((each) => each.startsWith(of)).forEach((each) => unset.delete(each));
      for (let n = 0; n < count; n++) unset.add(of + n);
    };
    svg.append(cardLine, edge);
    const path = (points, closed) => points.map(([x, y], i) => `${i ? "L" : "M"}${x} ${y}`).join("") + (closed ? "Z" : "");

    const show = () => {
      const known = state.corners ?? state.ruler;
      cardLine.setAttribute("d", path(known, Boolean(state.corners)));
      const oval = state.kind === "oval" ? [state.points[0], state.points[2], state.points[1], state.points[3]] : state.points;
      edge.setAttribute("d", path(oval, state.kind !== "length"));
      svg.querySelectorAll(".mark").forEach((mark) => {
        const [x, y] = state[mark.dataset.of][mark.dataset.n];
        mark.setAttribute("transform", `translate(${x} ${y})`);
        mark.classList.toggle("unset", unset.has(mark.dataset.of + mark.dataset.n));
      });
      changed();
    };
    const magnify = ([x, y]) => {
      glass.hidden = false;
      const half = width / 16;
      const brush = glass.getContext("2d");
      brush.clearRect(0, 0, 150, 150);
      brush.drawImage(canvas, x - half, y - half, half * 2, half * 2, 0, 0, 150, 150);
      brush.beginPath();
      brush.moveTo(75, 60); brush.lineTo(75, 90); brush.moveTo(60, 75); brush.lineTo(90, 75);
      brush.strokeStyle = "#c2571a";
      brush.lineWidth = 2;
      brush.stroke();
      glass.classList.toggle("right", x < width / 2);
    };
    const put = (of, n, [x, y]) => {
      state[of][n] = [Math.min(width, Math.max(0, Math.round(x * 10) / 10)), Math.min(height, Math.max(0, Math.round(y * 10) / 10))];
      unset.delete(of + n);
      show();
    };
    const add = (of, n, name) => {
      const mark = drawn("g", { class: `mark ${of}`, tabindex: "0", role: "button", "aria-label": name, "data-of": of, "data-n": n });
      mark.append(drawn("circle", { class: "hit" }), drawn("circle", { class: "ring" }), drawn("circle", { class: "dot" }));
      let taken = null;
      const at = (event) => { const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse()); return [point.x, point.y]; };
      mark.addEventListener("pointerdown", (event) => {
        mark.setPointerCapture(event.pointerId);
        event.preventDefault();
        mark.focus({ preventScroll: true });
        const [x, y] = at(event);
        taken = [state[of][n][0] - x, state[of][n][1] - y];
        // One that is taken hold of and left where it is, is right there.
        put(of, n, state[of][n]);
        magnify(state[of][n]);
      });
      mark.addEventListener("pointermove", (event) => {
        if (!taken || !event.buttons) return;
        const [x, y] = at(event);
        put(of, n, [x + taken[0], y + taken[1]]);
        magnify(state[of][n]);
      });
      ["pointerup", "pointercancel", "blur"].forEach((name) => mark.addEventListener(name, () => { taken = null; glass.hidden = true; }));
      mark.addEventListener("keydown", (event) => {
        const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
        if (!by) return;
        event.preventDefault();
        event.stopPropagation();
        const times = event.shiftKey ? 10 : 1;
        put(of, n, [state[of][n][0] + by[0] * times, state[of][n][1] + by[1] * times]);
        magnify(state[of][n]);
      });
      svg.append(mark);
    };
    const lay = () => {
      svg.querySelectorAll(".mark").forEach((mark) => mark.remove());
      (state.corners ?? []).forEach((_, n) => add("corners", n, `Corner ${n + 1} of the card`));
      (state.ruler ?? []).forEach((_, n) => add("ruler", n, `End ${n + 1} of the known length`));
      state.points.forEach((_, n) => add("points", n, `Mark ${n + 1} on the edge`));
      resize();
      show();
    };
    // As large on every screen as a thumb wants them.
    const RADII = { hit: 22, ring: 8, dot: 2 };
    const resize = () => {
      const scale = width / (svg.clientWidth || 400);
      svg.querySelectorAll("circle").forEach((circle) => circle.setAttribute("r", RADII[circle.getAttribute("class")] * scale));
    };
    new ResizeObserver(resize).observe(svg);
    // Where marks begin: in the middle, beside the card.
    const fresh = (kind) => {
      const [x, y, r] = [width * 0.5, height * 0.42, Math.min(width, height) * 0.16];
      const round = (count, from = 0) => Array.from({ length: count }, (_, i) => [x + r * Math.cos(from + (i * 2 * Math.PI) / count), y + r * Math.sin(from + (i * 2 * Math.PI) / count)]);
      state.kind = kind;
      state.points = kind === "outline" ? round(COUNTS.outline) : kind === "oval" ? [[x - r, y], [x + r, y], [x, y - r], [x, y + r]] : [[x - r, y], [x + r, y]];
      layOut("points", COUNTS[kind]);
    };
    const onCard = (corners) => {
      delete state.ruler;
      delete state.ruler_mm;
      layOut("ruler", 0);
      layOut("corners", corners ? 0 : 4);
      Object.assign(state, { corners: corners ?? [[0.3, 0.68], [0.6, 0.68], [0.6, 0.88], [0.3, 0.88]].map(([u, v]) => [u * width, v * height]), width_mm: card[0], height_mm: card[1] });
    };
    const onRuler = (mm) => {
      ["corners", "width_mm", "height_mm"].forEach((name) => delete state[name]);
      Object.assign(state, { ruler: [[width * 0.25, height * 0.8], [width * 0.75, height * 0.8]], ruler_mm: mm });
      layOut("corners", 0);
      layOut("ruler", 2);
    };
    const find = () => globalThis.measuringCard?.find(canvas.getContext("2d").getImageData(0, 0, width, height)) ?? null;
    if (!state.points) { fresh(FIRST[what] ?? "length"); onCard(null); }
    lay();
    return { frame, canvas, lay, fresh, onCard, onRuler, find, units, unset };
  };

  // Which marks are still to be set.
  const waits = (unset) => {
    const [scale, edge] = [[...unset].filter((each) => !each.startsWith("points")).length, [...unset].filter((each) => each.startsWith("points")).length];
    const told = [scale && `${scale} of the ${[...unset].some((each) => each.startsWith("ruler")) ? "known length" : "card"}`, edge && `${edge} on the edge`].filter(Boolean);
    return `Still to set: ${told.join(", ")}.`;
  };

  // What is said of the marks as they stand.
  const words = (state, what, units, astray, unset) => {
    if (unset.size) return { told: null, text: waits(unset) };
    const told = globalThis.pictured.measure(state);
    if (!told) return { told: null, text: state.corners ? "The card's corners go round as a clock does, none across another." : "Set the two ends of the known length." };
    const { mm, error, across } = figure(what, state.kind, told);
    const size = across === undefined ? say(mm, units) : `${say(mm, units)} by ${say(across ?? 0, units)}`;
    const doubts = [told.askew > astray && "The picture is taken too much from the side to be trusted: stand straight before it.", state.ruler && "By a known length alone: only what lies along it is to be trusted."].filter(Boolean);
    return { told, mm, error, across, text: `${size} ± ${say(Math.max(error, LEAST[units]), units)}`, doubts };
  };

  const small = async (file) => {
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
    const by = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
    if (by === 1) return picture;
    const canvas = made("canvas", { width: Math.round(picture.width * by), height: Math.round(picture.height * by) });
    canvas.getContext("2d").drawImage(picture, 0, 0, canvas.width, canvas.height);
    return canvas;
  };

  // The tools beside the picture: how it is marked, and by what it is scaled.
  const tools = (work, state, { what, units, astray, thumb, done, name, drop }) => {
    const said = made("output", { className: "told" });
    const doubts = made("p", { className: "straw", hidden: true });
    const found = made("p", { className: "hint" });
    const take = made("button", { type: "button", className: "go", textContent: "Take this" });
    const show = () => {
      state.mark_px = markPx(work.canvas, thumb);
      const now = words(state, what, units, astray, work.unset);
      said.textContent = now.text;
      doubts.hidden = !now.doubts?.length;
      doubts.textContent = (now.doubts ?? []).join(" ");
      take.disabled = !now.told;
      take.onclick = () => done(now);
    };
    const kinds = made("select", { className: "choice-of", "aria-label": "How it is marked" }, ...Object.entries(KINDS).map(([kind, text]) => made("option", { value: kind, textContent: text, selected: kind === state.kind })));
    kinds.addEventListener("change", () => { work.fresh(kinds.value); work.lay(); });
    const long = made("input", { type: "text", inputMode: "decimal", value: vestrySteps.say(state.ruler_mm ?? KNOWN[units], units), "aria-label": "How long it is", className: "short", hidden: !state.ruler });
    const by = made("select", { className: "choice-of", "aria-label": "What is known of its size" }, made("option", { value: "card", textContent: "the measuring card lies in it" }), made("option", { value: "ruler", textContent: "a known length lies in it" }));
    by.value = state.ruler ? "ruler" : "card";
    by.addEventListener("change", () => {
      long.hidden = by.value === "card";
      if (by.value === "card") work.onCard(work.find()); else work.onRuler(vestrySteps.read(long.value, units) || KNOWN[units]);
      work.lay();
    });
    long.addEventListener("input", () => { const mm = vestrySteps.read(long.value, units); if (mm > 0) { state.ruler_mm = mm; show(); } });
    const side = made("div", { className: "marking-tools" }, made("h2", { textContent: name }), found, made("p", {}, by, " ", long), made("p", {}, kinds), said, doubts, made("p", { className: "act" }, take, " ", ...drop));
    return { side, show, found };
  };
  // A thumb under the magnifier, which shows four times as much, is off by so many millimetres of the screen.
  const markPx = (canvas, thumb) => {
    const seen = canvas.getBoundingClientRect().width || 400;
    return Math.round(Math.max(1, (canvas.width / seen) * (thumb * (96 / 25.4)) / 4) * 10) / 10;
  };

  const open = async (field, file) => {
    const { pictured: what, photos, limb, other, name, card, astray, thumb } = field.dataset;
    const [input, units] = [field.querySelector("input:not([type=file]), textarea"), field.dataset.units];
    // Some fields want a number alone.
    const typed = (mm) => !field.dataset.plain || units === "imperial" ? say(mm, units) : String(Math.round(mm));
    field.querySelector(".no-picture")?.remove();
    let picture;
    try { picture = await small(file); } catch {
      const words = made("p", { className: "error no-picture", textContent: "That file is no picture that this browser can open: take a photo, or choose another." });
      words.setAttribute("role", "alert");
      field.append(words);
      return;
    }
    const state = {};
    const dialog = made("dialog", { className: "measuring", "aria-label": `${name} in a picture` });
    const leave = made("button", { type: "button", textContent: "Leave it" });
    leave.addEventListener("click", () => dialog.close());
    let panel = null;
    const work = bench(picture, state, { units, what, card: card.split(" ").map(Number), changed: () => panel?.show() });
    const done = async ({ mm, across }) => {
      // Among lines it is put where they are being written.
      if (input.matches("textarea")) input.setRangeText(typed(mm), input.selectionStart, input.selectionEnd, "end");
      else input.value = typed(mm);
      input.dispatchEvent(new Event("input", { bubbles: true }));
      const second = other && input.form.elements[other];
      if (second && across !== undefined) { second.value = say(across, units); second.dispatchEvent(new Event("input", { bubbles: true })); }
      dialog.close();
      const photo = await new Promise((ready) => work.canvas.toBlob(ready, "image/jpeg", 0.85));
      const told = await globalThis.pictures?.read(file) ?? {};
      const fields = new URLSearchParams({ limb: limb ?? "", taken_on: told.day ?? document.documentElement.dataset.day, client_key: crypto.randomUUID(), measures: JSON.stringify([{ what, ...state }]) });
      await globalThis.vestryOutbox?.keepPhoto({ url: photos, body: fields.toString(), photo, label: `Picture of ${name.toLowerCase()}`, key: fields.get("client_key") });
      field.querySelector(".from-picture span").textContent = "From a picture, kept with it";
      field.querySelector(".from-picture").dataset.kept = "yes";
    };
    panel = tools(work, state, { what, units, astray: Number(astray), thumb: Number(thumb), done, name: `${name} in a picture`, drop: [leave] });
    dialog.append(work.frame, panel.side);
    dialog.addEventListener("close", () => dialog.remove());
    document.body.append(dialog);
    dialog.showModal();
    const corners = work.find();
    if (corners) { work.onCard(corners); work.lay(); }
    panel.found.textContent = corners ? "The card was found: look that its corners sit, and set the marks." : "Pull the four corners onto the card's frame, its long side first, and set the marks.";
    panel.show();
  };

  const bindFields = () => document.querySelectorAll("[data-pictured]:not([data-bound])").forEach((field) => {
    field.dataset.bound = "yes";
    const file = made("input", { type: "file", accept: "image/*", hidden: true });
    // A card's frame with something round in it; beside it, where there is room, in words.
    const sign = drawn("svg", { viewBox: "0 0 24 24", width: "22", height: "22", "aria-hidden": "true" });
    sign.append(drawn("path", { d: "M3 7V4h6M15 4h6v3M21 17v3h-6M9 20H3v-3" }), drawn("circle", { cx: "12", cy: "12", r: "5" }));
    const button = made("button", { type: "button", className: "from-picture", title: "From a picture" }, sign, made("span", { textContent: "From a picture" }));
    button.setAttribute("aria-label", `From a picture: ${field.dataset.name}`);
    button.addEventListener("click", () => file.click());
    file.addEventListener("change", async () => {
      if (file.files[0]) await open(field, file.files[0]);
      file.value = "";
    });
    field.append(button, file);
  });
  bindFields();
  document.addEventListener("swapped", bindFields);

  // A picture that is kept, with its marks, to be looked at and corrected.
  document.querySelectorAll("[data-marks]").forEach(async (place) => {
    const { marks, picture, what, units, name, card, astray, thumb } = place.dataset;
    const form = document.getElementById(place.dataset.form);
    const answer = await fetch(picture).catch(() => null);
    if (!answer?.ok) return;
    const state = JSON.parse(marks);
    let panel = null;
    const work = bench(await createImageBitmap(await answer.blob()), state, { units, what, card: card.split(" ").map(Number), changed: () => panel?.show() });
    const done = () => { form.elements.marks.value = JSON.stringify(state); form.requestSubmit(); };
    panel = tools(work, state, { what, units, astray: Number(astray), thumb: Number(thumb), done, name, drop: [] });
    place.replaceChildren(work.frame, ...(form ? [panel.side] : []));
    panel.show();
  });
})();
