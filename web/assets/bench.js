// The bench: a stick's disc pulled round the rim sets its face, pulled by its edge its size. The fields of the form say
// the same, and are all that is sent.
(() => {
  const parts = (text) => new DOMParser().parseFromString(text, "text/html");
  const field = (name) => document.querySelector(`#log-form [name=${name}]`);
  const whole = (degrees, upright) => (upright ? ((degrees % 360) + 360) % 360 : ((degrees + 540) % 360) - 180);
  // Where a stick sits, as Drawings::Spoken says it.
  const spoken = (degrees, upright) => {
    if (upright) return `${degrees} degrees from north`;
    if (degrees === 0 || Math.abs(degrees) === 180) return `on the ${degrees === 0 ? "upper" : "under"} side`;
    return `${Math.abs(degrees)} degrees ${degrees > 0 ? "right" : "left"} of the upper side`;
  };

  const bind = () => {
    const svg = document.querySelector("#bench svg.bench-stub");
    if (!svg || svg.dataset.bound) return;
    svg.dataset.bound = "yes";
    const [middle, scale, wood] = ["middle", "scale", "wood"].map((name) => Number(svg.dataset[name]));
    const [ofWood, ofStick] = svg.dataset.seats.split(" ").map(Number);
    const upright = svg.querySelector("text").textContent === "north";
    const discs = [...svg.querySelectorAll(".disc")];
    const radius = () => Number(discs[0]?.querySelector(".stick").getAttribute("r") || 0);
    const put = (disc, degrees) => {
      const rounded = whole(Math.round(degrees), upright);
      const turn = (rounded * Math.PI) / 180;
      const rim = Math.max(wood * ofWood + radius() * ofStick, 0);
      disc.dataset.deg = rounded;
      disc.setAttribute("transform", `translate(${middle + Math.sin(turn) * rim} ${middle - Math.cos(turn) * rim})`);
      disc.setAttribute("aria-valuenow", rounded);
      disc.setAttribute("aria-valuetext", spoken(rounded, upright));
    };
    const say = () => { field("faces").value = discs.map((disc) => disc.dataset.deg).join(" "); };
    const size = (px) => {
      const r = Math.min(60, Math.max(6, px));
      const mm = Math.round(((r * 2) / scale) * 2) / 2;
      discs.forEach((disc) => {
        disc.querySelector(".stick").setAttribute("r", r);
        disc.querySelector(".edge").setAttribute("cx", r);
        disc.querySelector("text").setAttribute("y", -r - 7);
        put(disc, Number(disc.dataset.deg));
      });
      const units = field("scion").closest("[data-units]")?.dataset.units;
      field("scion").value = units === "imperial" ? vestrySteps.say(mm, units) : `${mm} mm`;
    };
    const point = (event) => new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
    discs.forEach((disc) => {
      let edge = false;
      disc.addEventListener("pointerdown", (event) => {
        edge = event.target.classList.contains("edge");
        disc.setPointerCapture(event.pointerId);
        disc.focus({ preventScroll: true });
        event.preventDefault();
      });
      disc.addEventListener("pointermove", (event) => {
        if (!event.buttons) return;
        const at = point(event);
        if (edge) {
          const place = disc.transform.baseVal.consolidate().matrix;
          size(Math.hypot(at.x - place.e, at.y - place.f));
        } else {
          put(disc, (Math.atan2(at.x - middle, middle - at.y) * 180) / Math.PI);
          say();
        }
      });
      disc.addEventListener("pointerup", () => { if (edge) redraw(); });
      disc.addEventListener("keydown", (event) => {
        const turn = { ArrowLeft: -5, ArrowDown: -5, ArrowRight: 5, ArrowUp: 5, PageUp: 45, PageDown: -45 }[event.key];
        if (turn) { put(disc, Number(disc.dataset.deg) + turn); say(); } else if (event.key === "+" || event.key === "-") { size(radius() + (event.key === "+" ? 1 : -1) * scale * 0.25); } else return;
        event.preventDefault();
        event.stopPropagation();
      });
    });
  };

  // What is typed or chosen is drawn: the bench comes anew from the server, the form stays.
  let asked = 0;
  const redraw = async () => {
    const form = document.getElementById("log-form");
    if (!form?.dataset.bench) return;
    asked += 1;
    const mine = asked;
    const query = new URLSearchParams();
    ["technique", "stub", "scion", "sticks", "faces"].forEach((name) => { if (field(name)?.value) query.set(name, field(name).value); });
    const answer = await fetch(`${form.dataset.bench}?${query}`).catch(() => null);
    if (mine !== asked) return;
    if (!answer?.ok) { window.vestryStale(document.getElementById("bench"), answer); return; }
    const fresh = parts(await answer.text()).querySelector("#bench");
    if (fresh) document.getElementById("bench").replaceWith(document.importNode(fresh, true));
    bind();
  };
  // What a method does not know is not asked.
  document.getElementById("log-form")?.addEventListener("change", ({ target }) => {
    if (target.name !== "technique") return;
    document.querySelectorAll("#log-form [data-methods]").forEach((part) => { part.hidden = !part.dataset.methods.split(" ").includes(target.value); });
    const across = document.querySelector("#log-form [data-across]");
    if (across) across.querySelector("label").textContent = `${JSON.parse(across.dataset.across)[target.value]} across`;
  });
  let waiting = null;
  document.getElementById("log-form")?.addEventListener("input", (event) => {
    if (!["technique", "stub", "scion", "sticks", "faces"].includes(event.target.name)) return;
    if (event.target.name === "sticks") {
      if (field("faces")) field("faces").value = "";
      document.querySelectorAll("#log-form [data-many]").forEach((word) => { word.textContent = event.target.value === "1" ? word.dataset.one : word.dataset.many; });
    }
    clearTimeout(waiting);
    waiting = setTimeout(redraw, 180);
  });
  bind();
})();
