// Moving a cut along its limb, and a limb to another season. The pages do without: the field takes
// a typed place, and each limb has arrows.
(() => {
  const parts = (text) => new DOMParser().parseFromString(text, "text/html");

  // The cut, moved along the limb: by the slider under it, by pulling the cursor, or the tick on the tree. Length and
  // thickness follow at once; everything else comes from the server, one answer at a time, the latest asked for last.
  const bindRule = () => {
    const slider = document.getElementById("slide");
    const rule = document.getElementById("rule");
    if (!slider || !rule || rule.dataset.bound) return;
    rule.dataset.bound = "yes";
    const length = Number(rule.dataset.length);
    const field = document.getElementById("f-cut");
    const start = Number(slider.value);
    let wanted = null;
    let busy = false;
    const share = () => `${Math.min(100, Math.max(0, (Number(slider.value) / length) * 100))}%`;
    // The tick on the tree, where the drawing shows this limb.
    const slide = () => document.querySelector("g.slide");
    const axis = () => slide()?.dataset.axis.split(";").map((each) => each.split(" ").map(Number));
    const place = (line, mm) => {
      const i = Math.max(1, line.findIndex((each) => each[0] >= mm));
      const [a, b] = [line[i - 1], line[i]];
      const part = Math.min(1, Math.max(0, (mm - a[0]) / (b[0] - a[0])));
      return [a[1] + (b[1] - a[1]) * part, a[2] + (b[2] - a[2]) * part];
    };
    const show = () => {
      rule.querySelector(".cursor").setAttribute("x", share());
      rule.querySelectorAll(".method-bar .at").forEach((line) => ["x1", "x2"].forEach((end) => line.setAttribute(end, share())));
      const line = axis();
      if (!line) return;
      const from = place(line, start);
      const [x, y] = place(line, Number(slider.value));
      slide().ownerSVGElement.querySelector(".limb.chosen .cut")?.setAttribute("transform", `translate(${x - from[0]} ${y - from[1]})`);
      slide().querySelector(".grip").setAttribute("cx", x);
      slide().querySelector(".grip").setAttribute("cy", y);
    };
    const ask = async () => {
      if (busy) return;
      busy = true;
      while (wanted !== null) {
        const at = wanted;
        wanted = null;
        const chosen = (name) => document.querySelector(`input[name=${name}]:checked`)?.value || "";
        const answer = await fetch(`${slider.dataset.place}?at=${at}&technique=${chosen("technique") || slider.dataset.technique}&practice=${chosen("practice")}`).catch(() => null);
        if (!answer?.ok) { window.vestryStale(document.getElementById("place"), answer); continue; }
        const page = parts(await answer.text());
        if (wanted !== null) continue;
        // The figures, the stub, the scores and the sentence change together; what is open stays open.
        ["#place", "#stub", "#methods", "#sticks", "h1.now"].forEach((part) => {
          const fresh = page.querySelector(part);
          const old = document.querySelector(part);
          if (!fresh || !old) return;
          const open = [...old.querySelectorAll("details")].map((each) => each.open);
          const node = document.importNode(fresh, true);
          [...node.querySelectorAll("details")].forEach((each, i) => { each.open = open[i] ?? each.open; });
          old.replaceWith(node);
        });
        const words = document.querySelector("#place .at")?.textContent;
        if (words) { field.value = words; rule.querySelector(".at-cut").textContent = words; }
        show();
      }
      busy = false;
    };
    const moved = () => { show(); wanted = slider.value; ask(); };
    slider.addEventListener("input", moved);
    document.addEventListener("change", (event) => {
      if (!rule.isConnected) return;
      if (event.target.matches("#sticks input")) moved();
      // Another method has another best place: its page, in place.
      if (event.target.matches("#methods input[data-look]")) window.vestrySwap(event.target.dataset.look, "main");
    });
    const pull = (event) => {
      const line = axis();
      const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(slide().ownerSVGElement.getScreenCTM().inverse());
      const nearest = line.reduce((best, each) => {
        const far = Math.hypot(each[1] - point.x, each[2] - point.y);
        return far < best[0] ? [far, each[0]] : best;
      }, [Infinity, start]);
      slider.value = nearest[1];
      moved();
    };
    const grip = () => {
      const found = slide()?.querySelector(".grip");
      if (!found || found.dataset.bound) return;
      found.dataset.bound = "yes";
      found.addEventListener("pointerdown", (event) => { found.setPointerCapture(event.pointerId); event.preventDefault(); });
      found.addEventListener("pointermove", (event) => { if (event.buttons) pull(event); });
    };
    const laid = rule.querySelector(".limb-rule");
    const along = (event) => {
      const box = laid.getBoundingClientRect();
      slider.value = Math.round((Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)) * length) / 5) * 5;
      moved();
    };
    laid.addEventListener("pointerdown", (event) => { laid.setPointerCapture(event.pointerId); along(event); event.preventDefault(); });
    laid.addEventListener("pointermove", (event) => { if (event.buttons) along(event); });
    document.addEventListener("swapped", () => { if (rule.isConnected) { grip(); show(); } });
    grip();
    show();
  };
  bindRule();
  document.addEventListener("swapped", bindRule);

  // Trees chosen on the orchard by pulling across them: they are written into a field, and rows are ticked beside it.
  const choosing = document.querySelector("[data-choose]");
  if (choosing) {
    const field = document.querySelector(choosing.dataset.choose);
    const rows = [...field.form.querySelectorAll('[name="rows[]"]')];
    const trees = [...choosing.querySelectorAll(".tree")];
    const told = document.getElementById("choosing-told");
    const label = (tree) => tree.dataset.tree.toUpperCase();
    const single = () => new Set(field.value.toUpperCase().match(/[^\s,;]+/g) ?? []);
    const ticked = (tree) => rows.some((row) => row.checked && row.value === tree.dataset.row);
    const isChosen = (tree) => ticked(tree) || single().has(label(tree));
    const show = () => {
      const all = trees.filter((tree) => { const on = isChosen(tree); tree.classList.toggle("wanted", on); return on; });
      if (all.length) told.textContent = `${all.length === 1 ? "1 tree is" : `${all.length} trees are`} chosen.`;
    };
    const set = (tree, on) => {
      const names = single();
      if (on) { if (!ticked(tree)) names.add(label(tree)); } else {
        // A tree left out of a whole row: the others of the row stay, each by its own name.
        if (ticked(tree)) {
          rows.find((row) => row.value === tree.dataset.row).checked = false;
          trees.filter((each) => each.dataset.row === tree.dataset.row).forEach((each) => names.add(label(each)));
        }
        names.delete(label(tree));
      }
      field.value = [...names].join(" ");
      show();
    };
    let adding = null;
    const over = (event) => {
      const tree = document.elementFromPoint(event.clientX, event.clientY)?.closest("[data-choose] .tree");
      if (!tree) return;
      if (adding === null) adding = !isChosen(tree);
      if (isChosen(tree) !== adding) set(tree, adding);
    };
    choosing.addEventListener("pointerdown", (event) => { event.target.releasePointerCapture?.(event.pointerId); adding = null; over(event); event.preventDefault(); });
    choosing.addEventListener("pointermove", (event) => { if (event.buttons) over(event); });
    field.form.addEventListener("input", show);
    show();
  }

  // A tree through its years: the page of the year that was slid to.
  const bindYears = () => {
    const years = document.getElementById("year-slide");
    if (!years || years.dataset.bound) return;
    years.dataset.bound = "yes";
    const shown = () => `${years.form.getAttribute("action")}?${years.name}=${years.value}`;
    const draw = () => window.vestrySwap(shown(), years.dataset.swap ?? "main");
    years.addEventListener("input", () => {
      years.form.querySelector("output b").textContent = years.value;
      // A drawing beside the slider follows the hand; a page that holds it waits until it is let go.
      if (years.dataset.swap) draw();
    });
    if (!years.dataset.swap) years.addEventListener("change", draw);
  };
  bindYears();
  document.addEventListener("swapped", bindYears);
})();
