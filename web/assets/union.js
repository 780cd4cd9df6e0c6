// A visit: parts of the drawn union are pressed, and step through what may be seen of them. The form's own fields hold
// it all; without scripts they are filled in as words.
(() => {
  const union = document.getElementById("union");
  const form = document.getElementById("visit-form");
  if (!union || !form) return;
  const parts = (text) => new DOMParser().parseFromString(text, "text/html");
  const radios = (name) => [...form.querySelectorAll(`input[type=radio][name="${name}"]`)];
  const said = { full: "all round" };

  const show = (part) => {
    const name = part.dataset.part;
    const chosen = radios(name).find((radio) => radio.checked)?.value;
    part.classList.toggle("unseen", !chosen);
    if (chosen) part.dataset.is = chosen;
    const words = chosen ? said[chosen] ?? chosen : "not looked at";
    part.querySelector(".say").textContent = words;
    part.setAttribute("aria-label", `${part.dataset.words} ${words}`);
  };

  let asked = 0;
  let waiting = null;
  const mean = () => {
    clearTimeout(waiting);
    waiting = setTimeout(async () => {
      asked += 1;
      const mine = asked;
      const fields = new URLSearchParams(new FormData(form));
      fields.delete("client_key");
      const answer = await fetch(form.getAttribute("action").replace(/visits$/, "meaning"), { method: "POST", body: fields }).catch(() => null);
      // What an earlier press meant is not what this one means.
      if (mine !== asked) return;
      if (!answer?.ok) { document.getElementById("meaning").replaceChildren(); return; }
      const fresh = parts(await answer.text()).querySelector("#meaning");
      if (fresh) document.getElementById("meaning").replaceChildren(...document.importNode(fresh, true).childNodes);
    }, 60);
  };

  // From what it looks like to what comes next, and round by way of not looked at.
  const step = (part) => {
    const name = part.dataset.part;
    const states = part.dataset.states.split(" ");
    const all = radios(name);
    const now = all.find((radio) => radio.checked);
    if (!now) (all.find((radio) => radio.value === part.dataset.is) ?? all[0]).checked = true;
    else if (states.indexOf(now.value) === states.length - 1) { now.checked = false; part.dataset.is = states[0]; } else all.find((radio) => radio.value === states[states.indexOf(now.value) + 1]).checked = true;
    show(part);
    mean();
  };

  const dead = form.elements.dead_sticks;
  const kill = (stick) => {
    stick.classList.toggle("is-dead");
    stick.setAttribute("aria-pressed", stick.classList.contains("is-dead"));
    const all = [...union.querySelectorAll(".stick-of")];
    const gone = all.filter((each) => each.classList.contains("is-dead"));
    dead.value = gone.map((each) => each.dataset.stick).join(" ");
    if (form.elements.sticks_alive) form.elements.sticks_alive.value = gone.length ? all.length - gone.length : "";
    mean();
  };

  const pressed = (event) => {
    const part = event.target.closest(".part, .stick-of");
    if (!part || (event.type === "keydown" && !["Enter", " "].includes(event.key))) return;
    event.preventDefault();
    if (part.matches(".part")) step(part); else kill(part);
  };
  union.addEventListener("click", pressed);
  union.addEventListener("keydown", pressed);

  // A shoot pulled up its ruler.
  const pull = union.querySelector(".pull");
  const top = Number(union.dataset.top);
  const high = Number(union.dataset.high);
  const most = Number(union.dataset.mm);
  const length = form.elements.longest_shoot;
  const units = form.querySelector("[name=longest_shoot]")?.closest("[data-units]")?.dataset.units;
  const measured = (mm) => {
    const held = Math.min(most, Math.max(0, mm));
    pull.setAttribute("transform", `translate(478 ${top - (held / most) * high})`);
    pull.classList.remove("unseen");
    pull.dataset.mm = held;
    pull.parentNode.querySelector(".say").textContent = length.value;
    pull.setAttribute("aria-valuenow", held);
    pull.setAttribute("aria-valuetext", length.value);
  };
  const set = (mm) => {
    const held = Math.min(most, Math.max(0, Math.round(mm / 2) * 2));
    length.value = vestrySteps.say(held, units);
    measured(held);
    mean();
  };
  const point = (event) => new DOMPoint(event.clientX, event.clientY).matrixTransform(union.getScreenCTM().inverse());
  pull.addEventListener("pointerdown", (event) => { pull.setPointerCapture(event.pointerId); event.preventDefault(); pull.focus({ preventScroll: true }); });
  pull.addEventListener("pointermove", (event) => { if (event.buttons) set(((top - point(event).y) / high) * most); });
  pull.addEventListener("keydown", (event) => {
    const by = { ArrowUp: 2, ArrowRight: 2, ArrowDown: -2, ArrowLeft: -2, PageUp: 20, PageDown: -20 }[event.key];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    set(Number(pull.dataset.mm || 0) + by);
  });

  // Sticks and shoot as the fields have them; where those say nothing, as they were drawn.
  const follow = () => {
    const gone = dead.value.split(" ").filter(Boolean);
    if (gone.length) {
      union.querySelectorAll(".stick-of").forEach((each) => {
        each.classList.toggle("is-dead", gone.includes(each.dataset.stick));
        each.setAttribute("aria-pressed", each.classList.contains("is-dead"));
      });
    }
    const mm = window.vestrySteps.read(length.value, units);
    if (mm !== null) measured(mm);
    union.querySelectorAll(".part").forEach(show);
  };
  form.addEventListener("change", () => { follow(); mean(); });
  follow();
  // With the drawing beside it, the words are folded; what was refused stands open.
  const words = form.querySelector(".in-words");
  if (window.matchMedia("(min-width: 861px)").matches && !words.hasAttribute("data-wrong")) words.open = false;
})();
