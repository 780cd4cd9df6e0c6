// The unrolled trunk under the hand: margins dragged up and down, scions sideways. The margins are the
// typed run's, the places the typed bearings': both submit without it.
(() => {
  const field = document.querySelector("#unrolled");
  if (!field) return;
  const run = document.getElementById("f-margins");
  const girth = document.getElementById("f-girth");
  const names = { 0: "n", 22.5: "nne", 45: "ne", 67.5: "ene", 90: "e", 112.5: "ese", 135: "se", 157.5: "sse", 180: "s", 202.5: "ssw", 225: "sw", 247.5: "wsw", 270: "w", 292.5: "wnw", 315: "nw", 337.5: "nnw" };
  const imperial = run?.closest("form").querySelector("[data-units]")?.dataset.units === "imperial";
  const say = (mm) => (imperial ? `${(Math.round((mm / 25.4) * 8) / 8)}` : `${Math.round(mm)}`);
  const line = (at, low, high) => `${names[at] ?? at} ${high - low < 1 ? "closed" : `${say(low)} to ${say(high)}`}`;
  const told = () => run.dispatchEvent(new Event("input", { bubbles: true }));
  const figures = (svg) => ({ scale: Number(svg.dataset.scale), soil: Number(svg.dataset.soil), left: Number(svg.dataset.left), girth: Number(svg.dataset.girth) });
  const spot = (svg, event) => new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());

  // Each reading as drawn, with the closed ones as they are typed.
  const written = (svg) => {
    const { scale, soil } = figures(svg);
    const open = new Map();
    svg.querySelectorAll("circle.reading").forEach((each) => {
      const at = Number(each.dataset.bearing);
      open.set(at, { ...open.get(at), [each.dataset.edge]: (soil - Number(each.getAttribute("cy"))) / scale });
    });
    const closed = run.value.split(/\n|;|,(?!\d)/).map((each) => each.trim()).filter((each) => /\s(closed|bark|alive)$/i.test(each));
    const lines = [...open].map(([at, edge]) => [at, line(at, edge.low, edge.high)]);
    closed.forEach((each) => {
      const word = each.split(/\s+/)[0].toLowerCase();
      const at = Number(Object.keys(names).find((key) => names[key] === word) ?? parseFloat(word));
      if (!open.has(at)) lines.push([at, `${names[at] ?? at} closed`]);
    });
    return lines.sort((a, b) => a[0] - b[0]).map((each) => each[1]).join("\n");
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
    if (grip) { run.value = written(svg); told(); return; }
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
      run.value = [0, 45, 90, 135, 180, 225, 270, 315].map((at) => line(at, 100, 200)).join("\n");
      return told();
    });
  }
})();
