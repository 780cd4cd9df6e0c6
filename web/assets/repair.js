// The unrolled trunk under the hand: margins dragged up and down, scions sideways. The margins are the
// typed run's, the places the typed bearings': both submit without it.
(() => {
  const field = document.querySelector("#unrolled");
  if (!field) return;
  const run = document.getElementById("f-margins");
  const girth = document.getElementById("f-girth");
  const names = { 0: "n", 22.5: "nne", 45: "ne", 67.5: "ene", 90: "e", 112.5: "ese", 135: "se", 157.5: "sse", 180: "s", 202.5: "ssw", 225: "sw", 247.5: "wsw", 270: "w", 292.5: "wnw", 315: "nw", 337.5: "nnw" };
  const imperial = run?.closest("form").querySelector("[data-units]")?.dataset.units === "imperial";
  const say = (mm) => vestrySteps.say(mm, imperial ? "imperial" : "metric").replace(/ (mm|in)$/, "");
  const line = (at, low, high) => `${names[at] ?? at} ${high - low < 1 ? "closed" : `${say(low)} to ${say(high)}`}`;
  const told = () => run.dispatchEvent(new Event("input", { bubbles: true }));
  const figures = (svg) => ({ scale: Number(svg.dataset.scale), soil: Number(svg.dataset.soil), left: Number(svg.dataset.left), girth: Number(svg.dataset.girth) });
  const spot = (svg, event) => new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());

  // Where a typed line was read; the bearings of all that are typed.
  const bearing = (typed) => {
    const word = typed.trim().split(/\s+/)[0].toLowerCase();
    const named = Object.keys(names).find((key) => names[key] === word);
    return named === undefined ? parseFloat(word) % 360 : Number(named);
  };
  const lines = () => run.value.split(/\n|;|,(?!\d)/).map((each) => each.trim()).filter(Boolean);

  // The typed run with one reading as it was dragged: every other line stays as it was typed.
  const written = (svg, at) => {
    const { scale, soil } = figures(svg);
    const edge = (which) => (soil - Number(svg.querySelector(`circle.reading[data-bearing="${at}"][data-edge="${which}"]`).getAttribute("cy"))) / scale;
    const dragged = line(Number(at), edge("low"), edge("high"));
    const typed = lines();
    const place = typed.findIndex((each) => bearing(each) === Number(at));
    if (place < 0) typed.push(dragged); else typed[place] = dragged;
    return typed.join("\n");
  };

  let held = null;
  field.addEventListener("pointerdown", (event) => {
    const svg = event.target.closest("svg.unrolled");
    const grip = event.target.closest("circle.grip");
    const scion = event.target.closest("g.scion.planned");
    if (!svg || !run || !(grip || scion)) return;
    held = { svg, grip, scion, from: spot(svg, event) };
    field.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  field.addEventListener("pointermove", (event) => {
    if (!held) return;
    const point = spot(held.svg, event);
    if (held.grip) {
      const other = held.svg.querySelector(`circle.reading[data-bearing="${held.grip.dataset.bearing}"][data-edge="${held.grip.dataset.edge === "high" ? "low" : "high"}"]`);
      const limit = Number(other.getAttribute("cy"));
      held.grip.setAttribute("cy", held.grip.dataset.edge === "high" ? Math.min(point.y, limit) : Math.max(point.y, limit));
    } else {
      held.shift = point.x - held.from.x;
      held.scion.setAttribute("transform", `translate(${held.shift} 0)`);
    }
  });
  const drop = () => {
    if (!held) return;
    const { svg, grip, scion, shift } = held;
    held = null;
    if (grip) { run.value = written(svg, grip.dataset.bearing); told(); return; }
    const places = document.querySelector("#places input[name=bearings]");
    if (!places || Math.abs(shift || 0) < 2) return;
    const { scale, girth: round } = figures(svg);
    const moved = [...svg.querySelectorAll("g.scion.planned")].map((each) => {
      const at = Number(each.dataset.bearing);
      const turned = each === scion ? at + (shift / scale / round) * 360 : at;
      return Math.round((((turned % 360) + 360) % 360) * 10) / 10;
    });
    places.value = moved.sort((a, b) => a - b).join(" ");
    places.form.requestSubmit();
  };
  field.addEventListener("pointerup", drop);
  field.addEventListener("pointercancel", drop);

  const eight = document.getElementById("eight");
  if (eight && run) {
    eight.hidden = false;
    eight.addEventListener("click", () => {
      if (!girth.value) return girth.focus();
      const typed = lines();
      const there = typed.map(bearing);
      const missing = [0, 45, 90, 135, 180, 225, 270, 315].filter((at) => !there.includes(at));
      run.value = [...typed, ...missing.map((at) => line(at, 100, 200))].join("\n");
      return told();
    });
  }
})();
