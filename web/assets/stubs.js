// The day's stubs one at a time. What is set or left is kept on the phone for a moment, in which it can be undone, then
// sent; the next stub is there at once.
(() => {
  const walk = document.querySelector(".stub-walk");
  if (!walk) return;
  const stubs = [...walk.querySelectorAll("article.stub")];
  const all = walk.querySelector(".all-set");
  const count = document.getElementById("stub-count");
  const bar = walk.querySelector(".undo-bar");
  const key = `stubs:${document.documentElement.dataset.account}:${walk.dataset.key}`;
  const past = () => { try { return JSON.parse(localStorage.getItem(key) ?? "[]"); } catch { return []; } };
  const remember = (ids) => { try { localStorage.setItem(key, JSON.stringify(ids)); } catch { /* A phone that keeps nothing asks again. */ } };
  const waits = () => stubs.filter((stub) => !past().includes(stub.id));

  const fold = (stub) => stub.querySelectorAll("[data-panel]").forEach((panel) => {
    panel.classList.remove("open");
    stub.querySelector(`[data-open="${panel.dataset.panel}"]`)?.setAttribute("aria-expanded", "false");
  });
  const show = (stub, { focus = true } = {}) => {
    stubs.forEach((each) => { each.hidden = each !== stub; fold(each); });
    if (all) all.hidden = Boolean(stub);
    count.textContent = stub ? `stub ${stubs.indexOf(stub) + 1} of ${stubs.length}` : `${stubs.length} of ${stubs.length}`;
    window.scrollTo(0, 0);
    const head = (stub ?? all)?.querySelector("h2");
    if (focus && head) { head.tabIndex = -1; head.focus({ preventScroll: true }); }
    if (stub) history.replaceState(null, "", `#${stub.id}`);
  };
  // The next that waits after this one in walking order, else the first that was passed over.
  const after = (stub) => {
    const waiting = waits();
    return waiting.find((each) => stubs.indexOf(each) > stubs.indexOf(stub)) ?? waiting[0] ?? null;
  };

  walk.addEventListener("click", (event) => {
    const opener = event.target.closest("[data-open]");
    if (opener) {
      const stub = opener.closest("article");
      const panel = stub.querySelector(`[data-panel="${opener.dataset.open}"]`);
      const opening = !panel.classList.contains("open");
      fold(stub);
      panel.classList.toggle("open", opening);
      opener.setAttribute("aria-expanded", String(opening));
      return;
    }
    const step = event.target.closest("[data-by]");
    if (step) change(step);
  });

  // Whole millimetres, or eighths of an inch.
  const eighths = (n) => {
    const gcd = (a, b) => (b ? gcd(b, a % b) : a);
    const [whole, part] = [Math.floor(n / 8), n % 8];
    const by = gcd(part, 8);
    return `${[whole || null, part ? `${part / by}/${8 / by}` : null].filter(Boolean).join(" ")} in`;
  };
  const inEighths = (text) => {
    const [, whole, up, down] = text.match(/^(\d+(?:\.\d+)?(?![\d/]))?\s*(?:(\d+)\/(\d+))?/) ?? [];
    return Math.round(((Number(whole ?? 0)) + (up ? Number(up) / Number(down) : 0)) * 8);
  };
  const change = (button) => {
    const stepper = button.closest(".stepper");
    const field = stepper.querySelector("input");
    const by = Number(button.dataset.by);
    if (stepper.dataset.units === "imperial") field.value = eighths(Math.max(1, inEighths(field.value) + by));
    else field.value = `${Math.max(1, (by > 0 ? Math.floor : Math.ceil)(parseFloat(field.value) || 0) + by)} mm`;
  };

  let timer = null;
  const undo = async (entry, stub) => {
    clearTimeout(timer);
    bar.hidden = true;
    if (!(await window.vestryOutbox.drop(entry.id))) return;
    remember(past().filter((id) => id !== stub.id));
    show(stub);
  };
  walk.addEventListener("kept", ({ target, detail: entry }) => {
    const stub = target.closest("article");
    remember([...new Set([...past(), stub.id])]);
    show(after(stub));
    bar.querySelector("span").textContent = target.dataset.panel === "set" ? `${stub.dataset.label} is set.` : `${stub.dataset.label} is left.`;
    bar.querySelector("button").onclick = () => undo(entry, stub);
    bar.hidden = false;
    clearTimeout(timer);
    timer = setTimeout(() => { bar.hidden = true; }, entry.until - Date.now());
  });

  // The cuts come in from the side.
  let from = null;
  walk.addEventListener("touchstart", (event) => { from = event.touches.length === 1 ? [event.touches[0].clientX, event.touches[0].clientY] : null; }, { passive: true });
  walk.addEventListener("touchend", (event) => {
    const stub = stubs.find((each) => !each.hidden);
    if (!from || !stub) return;
    const [x, y] = [event.changedTouches[0].clientX - from[0], event.changedTouches[0].clientY - from[1]];
    if (x < -70 && Math.abs(y) < 50) location.assign(stub.dataset.cuts);
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

  if (stubs.length) {
    const asked = stubs.find((stub) => `#${stub.id}` === location.hash && waits().includes(stub));
    show(asked ?? waits()[0] ?? null, { focus: false });
  }
})();
