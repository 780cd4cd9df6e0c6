// An exercise: its drawing is pulled and pressed, by pointer, thumb or keys. The form's own fields hold the answer;
// without scripts they are filled in as words.
(() => {
  const drawing = document.querySelector(".practising .practice");
  const form = document.getElementById("practice-form");
  if (!drawing || !form || drawing.classList.contains("judged")) return;
  const field = (name) => form.querySelector(`[name="${CSS.escape(name)}"]`);
  const box = (name, value) => form.querySelector(`[name="${name}[]"][value="${value}"]`);
  const point = (event) => new DOMPoint(event.clientX, event.clientY).matrixTransform(drawing.getScreenCTM().inverse());
  const within = (number, least, most) => Math.min(most, Math.max(least, number));
  // Lengths stand in the fields in the orchard's unit, or in one that is typed, and are mm in the drawing.
  const inches = field("unit")?.value === "in";
  const unit = inches ? 25.4 : 1;
  const number = (text) => Number(text.replace(",", "."));
  const mmIn = (text) => {
    const mm = window.vestrySteps.read(text.trim().replace(/^-/, ""), inches ? "imperial" : "metric");
    return mm === null ? NaN : mm * (text.trim().startsWith("-") ? -1 : 1);
  };
  const mmOf = (input) => mmIn(input.value);
  const written = (mm, digits) => (inches ? String(Number((mm / unit).toFixed(3))) : mm.toFixed(digits));
  const said = (mm) => (inches ? `${(mm / unit).toFixed(2)} inches` : `${mm} mm`);

  // What is pulled follows the pointer that took it.
  const pulled = (grip, follow) => {
    grip.addEventListener("pointerdown", (event) => {
      grip.setPointerCapture(event.pointerId);
      event.preventDefault();
      grip.focus({ preventScroll: true });
    });
    grip.addEventListener("pointermove", (event) => { if (event.buttons) follow(point(event)); });
  };
  const keyed = (grip, steps, move) => grip.addEventListener("keydown", (event) => {
    const by = steps[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    move(by);
  });

  const toWood = () => {
    const scale = Number(drawing.dataset.scale);
    const most = Number(drawing.dataset.most);
    const [middle, radius] = [235, 190];
    drawing.querySelectorAll(".grip-of").forEach((outer) => {
      const n = outer.dataset.face;
      const grip = outer.querySelector(".grip");
      const face = drawing.querySelector(`.face[data-face="${n}"]`);
      const [depth, turn] = [field(`depth_${n}`), field(`at_${n}`)];
      const show = () => {
        const [deep, at] = [mmOf(depth), number(turn.value)];
        if (!Number.isFinite(deep) || !Number.isFinite(at)) return;
        outer.setAttribute("transform", `rotate(${at})`);
        face.setAttribute("transform", `rotate(${at})`);
        face.firstElementChild.setAttribute("transform", `translate(0 ${deep * scale})`);
        grip.setAttribute("transform", `translate(0 ${deep * scale - radius})`);
        grip.setAttribute("aria-valuenow", deep);
        grip.setAttribute("aria-valuetext", `${said(deep)} deep, turned to ${at}°`);
      };
      const set = (deep, at) => {
        depth.value = written(within(deep, 0, most), 2);
        turn.value = Math.round(((at % 360) + 360) % 360);
        show();
      };
      pulled(grip, ({ x, y }) => {
        const [east, north] = [x - middle, middle - y];
        const at = (Math.atan2(east, north) * 180) / Math.PI;
        set((radius - Math.hypot(east, north)) / scale, at);
      });
      keyed(grip, { ArrowUp: [-0.05, 0], ArrowDown: [0.05, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1],
                    PageDown: [0.5, 0], PageUp: [-0.5, 0] },
        ([deeper, round]) => set((mmOf(depth) || 0) + deeper, number(turn.value) + round));
      [depth, turn].forEach((each) => each.addEventListener("input", show));
      show();
    });
  };

  const whichShoot = () => {
    const scale = Number(drawing.dataset.scale);
    drawing.querySelectorAll(".press").forEach((shoot) => {
      const n = shoot.dataset.shoot;
      const [tick, up] = [box("cut", n), field(`up_${n}`)];
      const line = drawing.querySelector(`[data-line="${n}"]`);
      const show = () => {
        shoot.classList.toggle("cut", tick.checked);
        shoot.setAttribute("aria-pressed", tick.checked);
        const at = line.getPointAtLength((mmOf(up) || 0) * scale);
        shoot.querySelector(".blade").setAttribute("transform", `translate(${at.x} ${at.y})`);
      };
      const toggle = () => { tick.checked = !tick.checked; show(); };
      shoot.addEventListener("click", toggle);
      shoot.addEventListener("keydown", (event) => {
        if (event.key === "Enter" || event.key === " ") { event.preventDefault(); toggle(); }
      });
      keyed(shoot, { ArrowUp: 5, ArrowDown: -5 }, (by) => {
        up.value = written(within((mmOf(up) || 0) + by, 0, Math.floor(line.getTotalLength() / scale)), 0);
        show();
      });
      [tick, up].forEach((each) => each.addEventListener("input", show));
      show();
    });
  };

  const shootWood = () => {
    const left = Number(drawing.dataset.left);
    const most = Number(drawing.dataset.mm);
    const cuts = field("cuts");
    const all = () => cuts.value.split(/\s+/).map(mmIn).filter((mm) => mm > 0);
    const draw = () => {
      const group = drawing.querySelector(".cuts");
      group.replaceChildren(...all().map((mm) => {
        const path = document.createElementNS("http://www.w3.org/2000/svg", "path");
        path.setAttribute("class", "cut");
        path.setAttribute("d", `M${left + mm} 78v54`);
        return path;
      }));
    };
    // A press on the wood cuts there; on a cut it takes it back.
    drawing.querySelectorAll(".wood, .older, .cuts").forEach((wood) => wood.addEventListener("click", (event) => {
      const mm = Math.round(point(event).x - left);
      const near = all().find((each) => Math.abs(each - mm) < 8);
      cuts.value = (near ? all().filter((each) => each !== near) : [...all(), mm]).sort((a, b) => a - b)
        .map((each) => written(each, 0)).join(" ");
      draw();
    }));
    cuts.addEventListener("input", draw);
    drawing.querySelectorAll(".bud-of").forEach((bud) => {
      const tick = box("bud", bud.dataset.node);
      const show = () => {
        bud.classList.toggle("named", tick.checked);
        bud.setAttribute("aria-pressed", tick.checked);
      };
      const toggle = () => { tick.checked = !tick.checked; show(); };
      bud.addEventListener("click", toggle);
      bud.addEventListener("keydown", (event) => {
        if (event.key === "Enter" || event.key === " ") { event.preventDefault(); toggle(); }
      });
      tick.addEventListener("input", show);
    });
    drawing.querySelectorAll(".end").forEach((end) => {
      const typed = field(end.dataset.end);
      const show = () => {
        if (!Number.isFinite(mmOf(typed))) return;
        end.setAttribute("transform", `translate(${left + mmOf(typed)} 0)`);
        end.setAttribute("aria-valuenow", mmOf(typed));
        end.setAttribute("aria-valuetext", said(Math.round(mmOf(typed))));
      };
      const set = (mm) => { typed.value = written(within(Math.round(mm), 0, most), 0); show(); };
      pulled(end, ({ x }) => set(x - left));
      keyed(end, { ArrowLeft: -2, ArrowRight: 2, PageDown: -20, PageUp: 20 }, (by) => set((mmOf(typed) || 0) + by));
      typed.addEventListener("input", show);
      show();
    });
  };

  // What is pressed is ticked in the form, and the other way round.
  const picked = () => drawing.querySelectorAll(".pick").forEach((pick) => {
    const tick = box(pick.dataset.box, pick.dataset.value);
    const show = () => {
      pick.classList.toggle("picked", tick.checked);
      pick.setAttribute("aria-pressed", tick.checked);
    };
    const toggle = () => { tick.checked = !tick.checked; show(); };
    pick.addEventListener("click", toggle);
    pick.addEventListener("keydown", (event) => {
      if (event.key === "Enter" || event.key === " ") { event.preventDefault(); toggle(); }
    });
    tick.addEventListener("input", show);
    show();
  });

  // What is slid along one axis, and perhaps leaned.
  const slid = () => drawing.querySelectorAll(".slide").forEach((slide) => {
    const { axis, field: name, turn, angle } = slide.dataset;
    const [per, least, most, step] = ["per", "least", "most", "step"].map((key) => Number(slide.dataset[key]));
    const [typed, lean, leans] = [field(name), turn && field(turn), slide.querySelector(".leans")];
    const read = angle ? (input) => number(input.value) : mmOf;
    let taken = null;
    const show = () => {
      const now = read(typed);
      if (!Number.isFinite(now)) return;
      slide.setAttribute("transform", axis === "x" ? `translate(${now * per} 0)` : `translate(0 ${now * per})`);
      slide.setAttribute("aria-valuenow", now);
      slide.setAttribute("aria-valuetext", angle ? `${now}°` : said(Math.round(now * 10) / 10));
      if (lean) leans.setAttribute("transform", `rotate(${number(lean.value)} ${leans.dataset.middle})`);
    };
    const set = (to) => {
      const tenths = Math.round(within(to, least, most) * 10) / 10;
      typed.value = angle || !inches ? String(tenths) : written(tenths, 1);
      show();
    };
    slide.addEventListener("pointerdown", (event) => { taken = { at: point(event)[axis], was: read(typed) || 0 }; });
    pulled(slide, (at) => set(taken.was + (at[axis] - taken.at) / per));
    const along = axis === "x" ? { ArrowLeft: -step, ArrowRight: step } : { ArrowUp: -step, ArrowDown: step };
    keyed(slide, along, (by) => set((read(typed) || 0) + by));
    if (lean) {
      keyed(slide, { ArrowUp: 0.2, ArrowDown: -0.2 }, (by) => {
        lean.value = (number(lean.value) + by).toFixed(1);
        show();
      });
      lean.addEventListener("input", show);
    }
    typed.addEventListener("input", show);
    show();
  });

  // What is pulled along a rim that is not round.
  const round = () => drawing.querySelectorAll(".round").forEach((stick) => {
    const typed = field(stick.dataset.field);
    const radii = drawing.dataset.radii.split(" ").map(Number);
    const scale = Number(drawing.dataset.scale) / 100;
    const far = (at) => {
      const from = Math.floor(at / 10) % 36;
      return radii[from] + ((radii[(from + 1) % 36] - radii[from]) * (at % 10)) / 10;
    };
    const show = () => {
      const at = ((Number(typed.value) % 360) + 360) % 360;
      if (!Number.isFinite(at)) return;
      stick.setAttribute("transform", `rotate(${at})`);
      stick.querySelector(".out").setAttribute("transform", `translate(0 ${-far(at) * scale})`);
      stick.setAttribute("aria-valuenow", at);
    };
    const set = (at) => { typed.value = Math.round(((at % 360) + 360) % 360); show(); };
    pulled(stick, ({ x, y }) => set((Math.atan2(x - 240, 240 - y) * 180) / Math.PI));
    keyed(stick, { ArrowLeft: -2, ArrowRight: 2, PageUp: 20, PageDown: -20 }, (by) => set(Number(typed.value) + by));
    typed.addEventListener("input", show);
    show();
  });

  // What is pulled anywhere.
  const placed = () => drawing.querySelectorAll(".placed").forEach((thing) => {
    const [right, up] = [field(thing.dataset.x), field(thing.dataset.y)];
    const show = () => {
      const [x, y] = [mmOf(right), mmOf(up)];
      if (!Number.isFinite(x) || !Number.isFinite(y)) return;
      thing.setAttribute("transform", `translate(${x} ${-y})`);
      thing.setAttribute("aria-valuenow", x);
      thing.setAttribute("aria-valuetext", `${said(Math.round(x))} right, ${said(Math.round(y))} up`);
    };
    const set = (x, y) => {
      right.value = written(Math.round(within(x, -260, 260)), 0);
      up.value = written(Math.round(within(y, -260, 260)), 0);
      show();
    };
    pulled(thing, ({ x, y }) => set(x, -y));
    keyed(thing, { ArrowLeft: [-5, 0], ArrowRight: [5, 0], ArrowUp: [0, 5], ArrowDown: [0, -5] },
      ([x, y]) => set((mmOf(right) || 0) + x, (mmOf(up) || 0) + y));
    [right, up].forEach((typed) => typed.addEventListener("input", show));
    show();
  });

  // The path of a blade, drawn in one.
  const blade = () => {
    const scales = ["left", "axis", "half", "across", "along"].map((key) => [key, Number(drawing.dataset[key])]);
    const { left, axis, half, across, along } = Object.fromEntries(scales);
    const [points, path] = [field("points"), drawing.querySelector(".cutting")];
    const side = () => form.querySelector("[name=side]:checked").value;
    let drawn = null;
    const finely = (mm) => (inches ? written(mm, 2) : String(mm));
    const show = () => {
      const up = side() === "up";
      const all = points.value.split(/\s+/).filter(Boolean).map((pair) => pair.split(":").map(mmIn))
        .sort((a, b) => a[0] - b[0]);
      const high = (deep) => up ? axis - half + deep * across : axis + half - deep * across;
      path.setAttribute("d", all.map(([at, deep], i) => `${i ? "L" : "M"}${left + at * along} ${high(deep)}`).join(""));
    };
    const add = ({ x, y }) => {
      const up = side() === "up";
      const at = within((x - left) / along, 0, 150);
      const deep = within(up ? (y - axis + half) / across : (axis + half - y) / across, -19, 59);
      const last = drawn[drawn.length - 1];
      if (!last || Math.abs(last[0] - at) >= 0.4) drawn.push([Math.round(at * 10) / 10, Math.round(deep * 100) / 100]);
      points.value = drawn.slice(0, 400).map(([along, into]) => `${finely(along)}:${finely(into)}`).join(" ");
      show();
    };
    drawing.addEventListener("pointerdown", (event) => {
      if (event.target.closest(".slide")) return;
      drawing.setPointerCapture(event.pointerId);
      event.preventDefault();
      drawn = [];
      // It is cut on the side that it is drawn on.
      const start = point(event);
      form.querySelector(`[name=side][value=${start.y < axis ? "up" : "down"}]`).checked = true;
      add(start);
    });
    drawing.addEventListener("pointermove", (event) => { if (drawn && event.buttons) add(point(event)); });
    drawing.addEventListener("pointerup", () => { drawn = null; });
    form.querySelectorAll("[name=side], [name=points]").forEach((each) => each.addEventListener("input", show));
    show();
  };

  // Slips that are moved up and down.
  const slips = () => drawing.addEventListener("click", (event) => {
    const clock = event.target.closest("[data-clock]");
    if (clock) {
      const which = clock.dataset.clock;
      field(which).value = clock.closest("li").dataset.step;
      drawing.querySelectorAll(`[data-clock="${which}"]`)
        .forEach((each) => each.setAttribute("aria-pressed", each === clock));
      return;
    }
    const button = event.target.closest("[data-move]");
    if (!button) return;
    const slip = button.closest("li");
    const other = button.dataset.move === "-1" ? slip.previousElementSibling : slip.nextElementSibling;
    if (!other) return;
    if (button.dataset.move === "-1") other.before(slip); else other.after(slip);
    button.focus();
    field("order").value = [...drawing.children].map((each) => each.dataset.step).join(" ");
  });

  // What goes on to its next choice when it is pressed.
  const cycled = () => drawing.querySelectorAll(".cycle").forEach((part) => {
    const typed = field(part.dataset.field);
    const options = part.dataset.options.split(" ");
    const words = part.querySelector(".chosen-now");
    const show = () => {
      part.dataset.now = typed.value;
      if (words) words.textContent = typed.value;
      part.querySelectorAll(".stick").forEach((stick, n) => stick.classList.toggle("set", n < Number(typed.value)));
      part.setAttribute("aria-label", `${part.dataset.says}: ${typed.value}`);
    };
    const on = (by) => {
      typed.value = options[(options.indexOf(typed.value) + by + options.length) % options.length];
      show();
    };
    part.addEventListener("click", () => on(1));
    part.addEventListener("keydown", (event) => {
      if (event.key === "Enter" || event.key === " ") { event.preventDefault(); on(1); }
    });
    keyed(part, { ArrowUp: 1, ArrowDown: -1, ArrowRight: 1, ArrowLeft: -1 }, on);
    typed.addEventListener("input", show);
    show();
  });

  // How long it took, where that is asked.
  const clock = field("seconds");
  if (clock) {
    const began = Date.now();
    form.addEventListener("submit", () => { clock.value = Math.round((Date.now() - began) / 100) / 10; });
  }

  picked();
  slid();
  round();
  placed();
  cycled();
  if (drawing.dataset.practice === "order") slips();
  if (drawing.dataset.practice === "face") blade();
  ({ "to-wood": toWood, "which-shoot": whichShoot, shoot: shootWood })[drawing.dataset.practice]?.();
})();
