// Moving a cut along its limb, and a limb to another season. The pages do without: the field takes
// a typed place, and each limb has arrows.
(() => {
  const parts = (text) => new DOMParser().parseFromString(text, "text/html");

  const slider = document.getElementById("slide");
  const slide = document.querySelector("g.slide");
  if (slider && slide) {
    const svg = slide.ownerSVGElement;
    const tick = svg.querySelector(".limb.chosen .cut");
    const grip = slide.querySelector(".grip");
    const axis = slide.dataset.axis.split(";").map((each) => each.split(" ").map(Number));
    const field = document.getElementById("f-cut");
    const start = Number(slider.value);
    let waiting = null;
    let asked = 0;
    const place = (mm) => {
      const i = Math.max(1, axis.findIndex((each) => each[0] >= mm));
      const [a, b] = [axis[i - 1], axis[i]];
      const share = Math.min(1, Math.max(0, (mm - a[0]) / (b[0] - a[0])));
      return [a[1] + (b[1] - a[1]) * share, a[2] + (b[2] - a[2]) * share];
    };
    const from = place(start);
    const show = () => {
      const [x, y] = place(Number(slider.value));
      if (tick) tick.setAttribute("transform", `translate(${x - from[0]} ${y - from[1]})`);
      grip.setAttribute("cx", x);
      grip.setAttribute("cy", y);
    };
    const ask = async () => {
      asked += 1;
      const mine = asked;
      const practice = document.querySelector("input[name=practice]:checked")?.value || "";
      const answer = await fetch(`${slider.dataset.place}?at=${slider.value}&technique=${slider.dataset.technique}&practice=${practice}`);
      if (!answer.ok || mine !== asked) return;
      // The figures, the stub and the sentence change together.
      const page = parts(await answer.text());
      ["#place", "#stub", "h1.now"].forEach((part) => {
        const fresh = page.querySelector(part);
        if (fresh) document.querySelector(part)?.replaceWith(document.importNode(fresh, true));
      });
      field.value = document.querySelector("#place .at").textContent;
    };
    const moved = () => { show(); clearTimeout(waiting); waiting = setTimeout(ask, 120); };
    slider.addEventListener("input", moved);
    const pull = (event) => {
      const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
      const nearest = axis.reduce((best, each) => {
        const far = Math.hypot(each[1] - point.x, each[2] - point.y);
        return far < best[0] ? [far, each[0]] : best;
      }, [Infinity, start]);
      slider.value = nearest[1];
      moved();
    };
    grip.addEventListener("pointerdown", (event) => { grip.setPointerCapture(event.pointerId); event.preventDefault(); });
    grip.addEventListener("pointermove", (event) => { if (event.buttons) pull(event); });
    show();
  }

  // A tree through its years: the page of the year that was slid to.
  const years = document.getElementById("year-slide");
  if (years) {
    years.addEventListener("input", () => { years.form.querySelector("output b").textContent = years.value; });
    years.addEventListener("change", () => years.form.requestSubmit());
  }

  // Tokens dragged from one column to another; a hidden form says where to.
  const drag = (form, tokens, columns, send) => {
    let held = null;
    document.querySelectorAll(tokens).forEach((token) => {
      token.addEventListener("dragstart", (event) => { held = token; event.dataTransfer.setData("text/plain", token.textContent); event.dataTransfer.effectAllowed = "move"; });
      token.addEventListener("dragend", () => { held = null; });
    });
    document.querySelectorAll(columns).forEach((column) => {
      column.addEventListener("dragover", (event) => { if (held) { event.preventDefault(); column.classList.add("over"); } });
      column.addEventListener("dragleave", () => column.classList.remove("over"));
      column.addEventListener("drop", (event) => {
        event.preventDefault();
        if (!held || held.closest(columns) === column) return;
        send(form, held, column);
        form.submit();
      });
    });
  };
  const move = document.getElementById("move");
  if (move) drag(move, ".token[data-limb]", ".column[data-season]", (form, token, column) => { form.action = `${form.dataset.base}${token.dataset.limb}/season`; form.elements.season.value = column.dataset.season; });
  const fix = document.getElementById("fix");
  if (fix) drag(fix, ".token[data-stub]", ".column[data-day]", (form, token, column) => { form.elements.plan_limb.value = token.dataset.stub; form.elements.day.value = column.dataset.day; });
})();
