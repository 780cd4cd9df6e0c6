// Parts of a page changed in place: the hand, the place on the page and the focus stay where they are. Every link that
// does so leads to a whole page too.
(() => {
  const parse = (text) => new DOMParser().parseFromString(text, "text/html");
  let asked = 0;

  // How the thing that has the focus is found again in what comes in its place.
  const known = (held) => {
    if (!held || held === document.body) return null;
    if (held.id) return `#${CSS.escape(held.id)}`;
    if (held.dataset.key) return `[data-key="${CSS.escape(held.dataset.key)}"]`;
    if (held.name) return `${held.tagName}[name="${CSS.escape(held.name)}"]${held.value ? `[value="${CSS.escape(held.value)}"]` : ""}`;
    return null;
  };

  // What scripts are bound to as a page is opened: where such a thing would be changed for another, the page is opened.
  const BOUND = "[data-marks], [data-progress], [data-choose], #union, #unrolled, #log-form, .hand-walk, .practising";
  const boundIn = (selectors) => selectors.split(",").some((selector) => document.querySelector(selector)?.querySelector(BOUND));

  // Puts parts of another page in place of those here.
  const replace = (page, selectors) => {
    const held = document.activeElement;
    const key = known(held);
    selectors.split(",").forEach((selector) => {
      const fresh = page.querySelector(selector);
      const old = document.querySelector(selector);
      if (!fresh || !old) return;
      const part = document.importNode(fresh, true);
      // What was folded stays so.
      const folds = old.querySelectorAll("details.narrow-folded");
      part.querySelectorAll("details.narrow-folded").forEach((each, place) => { each.open = folds[place]?.open ?? each.open; });
      old.replaceWith(part);
    });
    if (!held?.isConnected && key) document.querySelector(key)?.focus({ preventScroll: true });
  };

  // Fetches a page and puts its parts in place of those here; what was asked for before is forgotten. A deed is asked
  // for with its form's fields, and answered by the page it leads to, or by its own page with what is wrong.
  const swap = async (address, selectors, deed) => {
    if (!deed && boundIn(selectors)) { location.assign(address); return true; }
    asked += 1;
    const mine = asked;
    const answer = await fetch(address, deed).catch(() => null);
    const readable = answer && (answer.ok || (deed && [409, 422].includes(answer.status)));
    if (!readable || (!deed && answer.redirected)) { if (mine === asked && !deed) location.assign(address); return readable; }
    const page = parse(await answer.text());
    if (mine !== asked && !deed) return false;
    replace(page, selectors);
    if (page.title) document.title = page.title;
    if (!deed || answer.redirected) history.replaceState(null, "", deed ? answer.url : address);
    document.dispatchEvent(new CustomEvent("swapped"));
    return true;
  };

  document.addEventListener("click", (event) => {
    const link = event.target.closest("a[data-swap]");
    if (!link || event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    swap(link.href, link.dataset.swap);
  });

  // A form whose answer is shown in place; where nothing answers, it is sent as any form is.
  document.addEventListener("submit", async (event) => {
    const form = event.target.closest("form[data-swap]");
    if (!form || event.defaultPrevented || boundIn(form.dataset.swap)) return;
    event.preventDefault();
    const fields = new FormData(form);
    if (event.submitter?.name) fields.append(event.submitter.name, event.submitter.value);
    const to = event.submitter?.getAttribute("formaction") || form.getAttribute("action");
    const done = await swap(to, form.dataset.swap, { method: "POST", body: new URLSearchParams(fields) });
    if (!done) { form.removeAttribute("data-swap"); form.requestSubmit(event.submitter); }
  });

  // A question that is drawn as it is typed is answered in place, and where nobody answers it keeps what was typed.
  document.addEventListener("submit", async (event) => {
    const form = event.target.closest("form[data-draws][method=get]");
    if (!form || event.defaultPrevented) return;
    event.preventDefault();
    const page = await draw(form);
    // What could not be read is said at its field, on its own page.
    if (page?.querySelector("form[data-draws] .error")) { form.submit(); return; }
    const { hash } = new URL(form.action);
    if (page) history.replaceState(null, "", `${form.dataset.draws}?${fieldsOf(form)}${hash}`);
    if (hash) document.querySelector(hash)?.scrollIntoView();
  });

  // What is typed is drawn: a form's fields go to the page that draws them, as they change. Tokens stay at home, and so
  // do long notes, which draw nothing and would not fit an address.
  const LONGEST = 1500;
  const HOME = ["authenticity_token", "client_key", "version"];
  const waits = new WeakMap();
  const fieldsOf = (form) => new URLSearchParams([...new FormData(form)].filter(([name, value]) => !HOME.includes(name) && typeof value === "string" && value.length <= LONGEST));
  // @returns the page that answered; null where none did, or something was typed since
  const draw = async (form) => {
    clearTimeout(waits.get(form)?.timer);
    const turn = (waits.get(form)?.turn ?? 0) + 1;
    waits.set(form, { turn });
    const answer = await fetch(`${form.dataset.draws}?${fieldsOf(form)}`).catch(() => null);
    if (waits.get(form).turn !== turn) return null;
    if (!answer?.ok) {
      form.dataset.drawn.split(",").forEach((selector) => window.vestryStale(document.querySelector(selector), answer));
      return null;
    }
    const page = parse(await answer.text());
    // The form stays under the hand: what stands above it grows upwards, and does not shrink.
    const { top } = form.getBoundingClientRect();
    const above = form.dataset.drawn.split(",").map((selector) => [selector, document.querySelector(selector)?.getBoundingClientRect()])
      .filter(([, box]) => box && box.bottom <= top);
    replace(page, form.dataset.drawn);
    document.dispatchEvent(new CustomEvent("swapped"));
    above.forEach(([selector, box]) => { document.querySelector(selector).style.minHeight = `${box.height}px`; });
    scrollBy({ top: form.getBoundingClientRect().top - top, behavior: "instant" });
    return page;
  };
  document.addEventListener("input", ({ target }) => {
    const form = target.closest?.("form[data-draws]");
    if (!form) return;
    clearTimeout(waits.get(form)?.timer);
    waits.set(form, { turn: (waits.get(form)?.turn ?? 0) + 1, timer: setTimeout(() => draw(form), 200) });
  });

  // The tree turned by pulling it: a step of fifteen degrees for every so many pixels.
  const STEP = 22;
  let pull = null;
  document.addEventListener("pointerdown", (event) => {
    const drawing = event.target.closest("#drawing .elevation") && document.getElementById("drawing");
    if (!drawing || event.button !== 0 || event.target.closest("a, .grip")) return;
    pull = { x: event.clientX, from: Number(drawing.dataset.from), shown: Number(drawing.dataset.from) };
    drawing.classList.add("turning");
    event.preventDefault();
  });
  document.addEventListener("pointermove", (event) => {
    if (!pull) return;
    if (!event.buttons) { pull = null; return; }
    const steps = Math.round((event.clientX - pull.x) / STEP);
    const to = (((pull.from + steps * 15) % 360) + 360) % 360;
    if (to === pull.shown) return;
    pull.shown = to;
    const address = new URL(location.href);
    address.searchParams.set("from", to);
    swap(address.href, "#drawing").then(() => pull && document.getElementById("drawing")?.classList.add("turning"));
  });
  document.addEventListener("pointerup", () => { pull = null; document.getElementById("drawing")?.classList.remove("turning"); });

  window.vestrySwap = swap;
})();
