// Stops of a walk one at a time: the day's stubs, or what is due. What is done at a stop is kept on the phone for a moment,
// in which it can be undone, then sent; the next stop is there at once.
(() => {
  const walk = document.querySelector(".hand-walk");
  if (!walk) return;
  const stops = [...walk.querySelectorAll("article.stop")];
  const { made } = document.documentElement.dataset;
  const all = walk.querySelector(".all-set");
  const count = document.getElementById("stop-count");
  const bar = walk.querySelector(".undo-bar");
  const key = `walk:${document.documentElement.dataset.account}:${walk.dataset.key}`;
  // What was done at a stop, by its id: the key of what was kept, and when the page was made on which it was done.
  const done = () => {
    try {
      const all = JSON.parse(localStorage.getItem(key) ?? "{}");
      // Ids alone, as they were remembered before, tell nothing.
      return Array.isArray(all) ? {} : all;
    } catch { return {}; }
  };
  const remember = (all) => { try { localStorage.setItem(key, JSON.stringify(all)); } catch { /* A phone that keeps nothing asks again. */ } };
  const past = () => Object.keys(done());
  // Walks of other days are over.
  try {
    Object.keys(localStorage).filter((each) => each.startsWith("walk:") && each.slice(-10) < walk.dataset.key.slice(-10)).forEach((each) => localStorage.removeItem(each));
  } catch { /* Nothing is kept here. */ }
  const forget = (id) => { const all = done(); delete all[id]; remember(all); };
  const waits = () => stops.filter((stop) => !past().includes(stop.id));

  const fold = (stop) => stop.querySelectorAll("[data-panel]").forEach((panel) => {
    panel.classList.remove("open");
    stop.querySelector(`[data-open="${panel.dataset.panel}"]`)?.setAttribute("aria-expanded", "false");
  });
  const show = (stop, { focus = true } = {}) => {
    stops.forEach((each) => { each.hidden = each !== stop; fold(each); });
    if (all) all.hidden = Boolean(stop);
    const whole = stops.length + Number(walk.dataset.more ?? 0);
    const at = stop ? `${walk.dataset.one} ${stops.indexOf(stop) + 1}` : stops.length;
    count.textContent = `${at} of ${whole}`;
    window.scrollTo(0, 0);
    const head = (stop ?? all)?.querySelector("h2");
    if (focus && head) { head.tabIndex = -1; head.focus({ preventScroll: true }); }
    // What the page opens on is no address to be scrolled to.
    if (stop && focus) history.replaceState(null, "", `#${stop.id}`);
  };
  // The next that waits after this one in walking order, else the first that was passed over.
  const after = (stop) => {
    const waiting = waits();
    return waiting.find((each) => stops.indexOf(each) > stops.indexOf(stop)) ?? waiting[0] ?? null;
  };

  walk.addEventListener("click", (event) => {
    const opener = event.target.closest("[data-open]");
    if (opener) {
      const stop = opener.closest("article");
      const panel = stop.querySelector(`[data-panel="${opener.dataset.open}"]`);
      const opening = !panel.classList.contains("open");
      fold(stop);
      panel.classList.toggle("open", opening);
      opener.setAttribute("aria-expanded", String(opening));
      return;
    }
    const step = event.target.closest("[data-by]");
    if (step) change(step);
  });

  const change = (button) => {
    const stepper = button.closest(".stepper");
    const field = stepper.querySelector("input");
    const by = Number(button.dataset.by);
    if (stepper.dataset.units === "count") {
      field.value = String(Math.max(1, (parseInt(field.value, 10) || 1) + by));
      // Faces as they were planned are those of so many sticks; for another number they are left open.
      const faces = stepper.closest("form").querySelector("[name=faces]");
      if (faces) faces.disabled = field.value !== field.defaultValue;
    } else field.value = window.vestrySteps.step(field.value, stepper.dataset.units, by);
  };

  // From the stub before to this one, where both were set on this walk and not an hour lies between.
  const LONGEST = 3600000;
  let last = Date.now();
  const time = (form) => {
    const field = form.querySelector("[name=minutes]");
    if (!field) return;
    const taken = Date.now() - last;
    field.disabled = taken < 30000 || taken > LONGEST;
    field.value = (taken / 60000).toFixed(1);
  };
  walk.addEventListener("submit", (event) => time(event.target), true);
  document.addEventListener("visibilitychange", () => { if (!document.hidden && Date.now() - last > LONGEST) last = Date.now(); });

  let timer = null;
  const undo = async (entry, stop) => {
    clearTimeout(timer);
    bar.hidden = true;
    if (!(await window.vestryOutbox.drop(entry.id))) return;
    forget(stop.id);
    show(stop);
  };
  walk.addEventListener("kept", ({ target, detail: entry }) => {
    const stop = target.closest("article");
    last = Date.now();
    remember({ ...done(), [stop.id]: { key: entry.key, made } });
    show(after(stop));
    const words = target.dataset.words ?? new URLSearchParams(entry.body).get("what");
    bar.querySelector("span").textContent = `${stop.dataset.label} ${stop.getAttribute(`data-${words}`) ?? words}.`;
    bar.querySelector("button").onclick = () => undo(entry, stop);
    bar.hidden = false;
    clearTimeout(timer);
    timer = setTimeout(() => { bar.hidden = true; }, entry.until - Date.now());
  });

  // What a stop leads to comes in from the side.
  let from = null;
  walk.addEventListener("touchstart", (event) => { from = event.touches.length === 1 ? [event.touches[0].clientX, event.touches[0].clientY] : null; }, { passive: true });
  walk.addEventListener("touchend", (event) => {
    const stop = stops.find((each) => !each.hidden);
    if (!from || !stop?.dataset.aside) return;
    const [x, y] = [event.changedTouches[0].clientX - from[0], event.changedTouches[0].clientY - from[1]];
    if (x < -70 && Math.abs(y) < 50) location.assign(stop.dataset.aside);
  }, { passive: true });

  // The screen stays awake while the hands are busy.
  let awake = null;
  const wake = async () => {
    if (!navigator.wakeLock || awake || document.hidden) return;
    try {
      awake = await navigator.wakeLock.request("screen");
      walk.dataset.awake = "yes";
      awake.addEventListener("release", () => { awake = null; delete walk.dataset.awake; });
    } catch { /* Refused, as on a low battery. */ }
  };
  document.addEventListener("visibilitychange", wake);
  document.addEventListener("pointerdown", wake);
  wake();

  // A page that was made since a stop was done, and has it still, says that it is to do: what was sent was taken back, or
  // was refused. While it waits to be sent the stop is past.
  const look = async () => {
    const kept = await window.vestryOutbox?.keys() ?? [];
    Object.entries(done()).forEach(([id, { key: sent, made: then }]) => {
      if (kept.includes(sent)) remember({ ...done(), [id]: { key: sent, made } });
      else if (then !== made) forget(id);
    });
  };
  const begin = () => {
    if (!stops.length) return;
    const asked = stops.find((stop) => `#${stop.id}` === location.hash && waits().includes(stop));
    show(asked ?? waits()[0] ?? null, { focus: false });
  };
  begin();
  // The outbox comes after this page's own script.
  window.addEventListener("load", () => look().then(() => { if (!stops.some((stop) => !stop.hidden && waits().includes(stop))) begin(); }));
  // What was refused and thrown away is to do again.
  document.addEventListener("dropped", ({ detail: entry }) => {
    const [id] = Object.entries(done()).find(([, each]) => each.key === entry.key) ?? [];
    if (id) { forget(id); begin(); }
  });
})();
