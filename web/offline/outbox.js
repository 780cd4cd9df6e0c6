// Deeds go by way of a box on the phone: put in first, sent in their order, and taken out only when the
// server gives a receipt that names them. A browser that is closed in between, or a server that dies
// half way, loses nothing and doubles nothing: each deed carries a key of its own.
(() => {
  if (!("indexedDB" in window)) return;
  const account = document.documentElement.dataset.account;
  // Whose the kept pages are: those of another person are let go. A session that ended leaves them, and what waits to be
  // sent, for the same person alone; signing out lets them go.
  const PAGES = "vestry-pages-2";
  const owner = localStorage.getItem("pages-of");
  if (owner !== account && (account || !owner) && "caches" in window) caches.delete(PAGES);
  if (account) localStorage.setItem("pages-of", account);

  const open = () => new Promise((done, failed) => {
    const wish = indexedDB.open("vestry", 1);
    wish.onupgradeneeded = () => wish.result.createObjectStore("outbox", { keyPath: "id", autoIncrement: true });
    wish.onsuccess = () => done(wish.result);
    wish.onerror = () => failed(wish.error);
  });
  const inBox = async (mode, act) => {
    const box = await open();
    try {
      return await new Promise((done, failed) => {
        const work = box.transaction("outbox", mode);
        const wish = act(work.objectStore("outbox"));
        work.oncomplete = () => done(wish && wish.result);
        work.onerror = () => failed(work.error);
        work.onabort = () => failed(work.error);
      });
    } finally { box.close(); }
  };
  const put = (entry) => inBox("readwrite", (store) => store.put(entry));
  const remove = (id) => inBox("readwrite", (store) => store.delete(id));
  const all = async () => (await inBox("readonly", (store) => store.getAll())).filter((entry) => entry.account === account);

  // How many were sent since midnight.
  const today = () => new Date().toDateString();
  const sent = (more = 0) => {
    const [day, count] = (sessionStorage.getItem("outbox-sent") ?? "").split("|");
    const now = (day === today() ? Number(count) : 0) + more;
    if (more) sessionStorage.setItem("outbox-sent", `${today()}|${now}`);
    return now;
  };
  const clock = (moment) => new Date(moment).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

  // What is waiting, and what was refused, at the head of the page.
  const show = async () => {
    let entries = await all();
    // A page with a line for it says how old it is, how many wait and how many were sent; only what was refused is more.
    const line = document.querySelector("[data-outbox-line]");
    if (line) {
      const waiting = entries.filter((entry) => !entry.refused).length;
      line.textContent = [`kept ${clock(document.documentElement.dataset.made)}`, waiting && `${waiting} waiting`, sent() && `${sent()} sent`].filter(Boolean).join(" · ");
      entries = entries.filter((entry) => entry.refused);
    }
    let bar = document.getElementById("outbox");
    if (entries.length === 0) { if (bar) bar.remove(); return; }
    if (!bar) {
      bar = document.createElement("section");
      bar.id = "outbox";
      bar.className = "outbox";
      bar.setAttribute("aria-label", "Waiting to be sent");
      bar.setAttribute("role", "status");
      document.querySelector("main").prepend(bar);
    }
    const refused = entries.filter((entry) => entry.refused);
    const waiting = entries.length - refused.length;
    const parts = [];
    if (waiting > 0) {
      const words = document.createElement("p");
      words.textContent = `${waiting} ${waiting === 1 ? "entry is" : "entries are"} kept on this phone and will be sent when there is signal: ${entries.filter((entry) => !entry.refused).map((entry) => entry.label).join(", ")}.`;
      const again = document.createElement("button");
      again.type = "button";
      again.textContent = "Send now";
      again.addEventListener("click", () => send());
      parts.push(words, again);
    }
    refused.forEach((entry) => {
      const words = document.createElement("p");
      words.className = "error";
      words.textContent = `${entry.label} was not taken: ${entry.refused}`;
      const look = document.createElement("a");
      look.href = `${entry.page.replace(/#.*/, "")}#refused-${entry.id}`;
      look.textContent = "Open its form, as it was typed";
      const drop = document.createElement("button");
      drop.type = "button";
      drop.textContent = `Throw away ${entry.label}`;
      drop.addEventListener("click", async () => {
        await remove(entry.id);
        document.dispatchEvent(new CustomEvent("dropped", { detail: entry }));
        show();
      });
      parts.push(words, look, drop);
    });
    bar.replaceChildren(...parts);
  };

  // At the door of a session that ended: how much waits for it.
  const atTheDoor = async () => {
    const door = !account && owner && document.querySelector("main form[action='/sign-in']");
    if (!door) return;
    const waiting = (await inBox("readonly", (store) => store.getAll())).filter((entry) => entry.account === owner).length;
    if (waiting === 0) return;
    const words = document.createElement("p");
    words.className = "straw";
    words.id = "waiting-here";
    words.textContent = `${waiting} ${waiting === 1 ? "entry waits" : "entries wait"} on this phone. Sign in as before, and ${waiting === 1 ? "it is" : "they are"} sent.`;
    door.before(words);
  };

  // Asks the server, and gives up when the line hangs.
  const PATIENCE = 8000;
  const ask = async (url, options, patience = PATIENCE) => {
    const gone = new AbortController();
    const timer = setTimeout(() => gone.abort(), patience);
    try {
      return await fetch(url, { ...options, signal: gone.signal });
    } finally { clearTimeout(timer); }
  };

  // A token of this session; null without signal, and when nobody is signed in.
  const token = async () => {
    const answer = await ask("/token", { headers: { accept: "application/json" }, redirect: "manual", cache: "no-store" });
    if (!answer.ok) return null;
    const told = await answer.json();
    return told.account === account ? told.token : null;
  };

  // One deed: its receipt, null when there was none, or why it was refused.
  const post = async (entry, key) => {
    const headers = { accept: "application/json", "x-csrf-token": key };
    let body = entry.body;
    if (entry.photo) {
      body = new FormData();
      new URLSearchParams(entry.body).forEach((value, name) => body.append(name, value));
      body.append("photo", entry.photo, "photo.jpg");
    } else headers["content-type"] = "application/x-www-form-urlencoded";
    // A picture takes longer on a poor line than words do.
    const answer = await ask(entry.url, { method: "POST", redirect: "manual", headers, body }, entry.photo ? PATIENCE * 8 : PATIENCE);
    if (!(answer.headers.get("content-type") || "").startsWith("application/json")) return unanswered(answer);
    const told = await answer.json();
    return told.key === entry.key ? told : null;
  };

  // What an answer means that is no receipt: what will never be taken, what broke for this one alone, else that the line
  // does not carry.
  const NEVER = {
    400: "it cannot be read",
    403: "it is not yours to do there any more: ask a steward",
    404: "there is no such place any more, or you are not of its orchard",
    413: "it is more than can be taken",
  };
  const unanswered = (answer) => {
    if (answer.status === 500) return { later: true };
    if (answer.status === 403 && !answer.headers.get("vestry-refused")) return null;
    return NEVER[answer.status] ? { refused: `${NEVER[answer.status]}.` } : null;
  };

  // In order; stops at the first that finds no server, and goes on past one that is refused or that breaks.
  let began = 0;
  const sendAll = async () => {
    let last = null;
    const work = async () => {
      began = Date.now();
      // What can still be undone waits its time.
      const waiting = (await all()).filter((entry) => !entry.refused && !(entry.until > began));
      if (waiting.length === 0) return;
      const key = await token();
      if (!key) return;
      for (const entry of waiting) {
        const told = await post(entry, key);
        if (!told) return;
        if (told.later) continue;
        if (told.refused) await put({ ...entry, refused: told.refused });
        else { await remove(entry.id); last = told; sent(1); }
      }
    };
    try {
      if (navigator.locks) await navigator.locks.request("vestry-outbox", work); else await work();
    } catch (trouble) {
      // No server: what is in the box stays there.
    }
    await show();
    await planNext({ tried: true, carried: last !== null });
    return last;
  };
  // When the next round is: as soon as the first deed that was held back is due; and what a round could not send is tried
  // again, less and less often, for a poor line comes back without a word.
  const SOON = 5000;
  const SELDOM = 300000;
  let pause = SOON;
  let timer = null;
  const planNext = async ({ tried = false, carried = false } = {}) => {
    const waiting = account ? (await all()).filter((entry) => !entry.refused) : [];
    const held = waiting.filter((entry) => entry.until > began).map((entry) => Math.max(0, entry.until - Date.now()) + 50);
    const left = held.length < waiting.length;
    if (carried || !left) pause = SOON;
    clearTimeout(timer);
    if (waiting.length === 0) return;
    timer = setTimeout(() => send(), Math.min(left ? pause : SELDOM, ...held));
    if (tried && left) pause = Math.min(pause * 2, SELDOM);
  };
  // One round after another: a deed put in while a round is under way goes with the next.
  let round = Promise.resolve(null);
  const send = () => { round = round.then(sendAll, sendAll); return round; };

  // What is there as the page opens, and what comes in its place.
  const bind = (selector, bound) => document.querySelectorAll(`${selector}:not([data-bound])`).forEach((form) => {
    form.dataset.bound = "yes";
    bound(form);
  });
  const offline = (form) => {
    // A kept page may be used again: each opening is a deed of its own.
    const key = form.querySelector("input[name=client_key]");
    if (key && !form.querySelector(".error")) key.value = crypto.randomUUID();
    const same = form.querySelector("[data-same='client_key']");
    if (key && same) same.value = key.value;
    form.addEventListener("submit", async (event) => {
      event.preventDefault();
      // Pressed again while the first press is on its way, it is the same deed.
      if (form.dataset.busy) return;
      form.dataset.busy = "yes";
      const free = () => { delete form.dataset.busy; };
      const fields = new FormData(form, event.submitter);
      fields.delete("authenticity_token");
      const entry = { key: fields.get("client_key"), url: form.getAttribute("action"), body: new URLSearchParams(fields).toString(), label: form.dataset.offline, page: form.dataset.form ? new URL(form.dataset.form, location.href).href : location.href, account, at: new Date().toISOString() };
      if (form.dataset.hold) entry.until = Date.now() + Number(form.dataset.hold) * 1000;
      try {
        entry.id = await put(entry);
      } catch (trouble) {
        form.submit();
        return;
      }
      if (entry.until) {
        free();
        if (key) key.value = crypto.randomUUID();
        form.dispatchEvent(new CustomEvent("kept", { bubbles: true, detail: entry }));
        await show();
        await planNext();
        return;
      }
      // Answered at once, whatever the line does: it is kept, and being sent.
      const late = setTimeout(() => show().then(() => document.getElementById("outbox")?.scrollIntoView()), 250);
      const told = await send();
      clearTimeout(late);
      free();
      if (form.dataset.refused) { await remove(Number(form.dataset.refused)); delete form.dataset.refused; }
      const mine = (await all()).find((each) => each.key === entry.key);
      if (mine && mine.refused) {
        // The server answered: its own page says what is wrong, at the field.
        await remove(mine.id);
        form.submit();
        return;
      } else if (mine) {
        if (key) key.value = crypto.randomUUID();
        if (same) same.value = key.value;
        form.dispatchEvent(new CustomEvent("waits", { bubbles: true }));
        document.getElementById("outbox")?.scrollIntoView();
      } else if (told) {
        const to = new URL(told.location, location.href);
        const here = to.pathname + to.search === location.pathname + location.search;
        location.assign(to.href);
        if (here) {
          // What the address points at comes into sight, not where the hand was on the page before.
          if (to.hash) history.scrollRestoration = "manual";
          location.reload();
        }
      }
    });
  };

  // A photo, made small here, kept with the deeds and sent once.
  const LONGEST_SIDE = 1600;
  const small = async (file) => {
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" }).catch(() => null);
    if (!picture) return file;
    const by = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [Math.round(picture.width * by), Math.round(picture.height * by)];
    canvas.getContext("2d").drawImage(picture, 0, 0, canvas.width, canvas.height);
    return (await new Promise((done) => canvas.toBlob(done, "image/jpeg", 0.82))) ?? file;
  };
  const dayOf = (moment) => new Date(moment - new Date(moment).getTimezoneOffset() * 60000).toISOString().slice(0, 10);
  const photographed = (form) => form.querySelector("[type=file]").addEventListener("change", async ({ target }) => {
    const file = target.files[0];
    if (!file) return;
    const fields = new FormData(form);
    ["authenticity_token", "photo"].forEach((name) => fields.delete(name));
    // Its own day: as the picture says it, else the file, where the page is of today.
    const told = await globalThis.pictures?.read(file) ?? {};
    if (document.documentElement.dataset.day === dayOf(Date.now())) fields.set("taken_on", told.day ?? dayOf(file.lastModified));
    globalThis.pictures?.offer(form, told);
    fields.set("client_key", crypto.randomUUID());
    const entry = { key: fields.get("client_key"), url: form.getAttribute("action"), body: new URLSearchParams(fields).toString(), photo: await small(file), label: form.dataset.photo, page: new URL(form.dataset.form, location.href).href, account, at: new Date().toISOString() };
    try { await put(entry); } catch (trouble) { form.submit(); return; }
    target.value = "";
    const words = form.querySelector("label span");
    words.textContent = "Photo kept";
    await show();
    await send();
    setTimeout(() => { words.textContent = "Photo"; }, 3000);
  });
  const bindAll = () => { bind("form[data-offline]", offline); bind("form[data-photo]", photographed); };
  bindAll();
  document.addEventListener("swapped", bindAll);

  // A deed that was refused comes back into its form with everything that was typed, and why.
  const again = async () => {
    const id = Number((location.hash.match(/^#refused-(\d+)$/) || [])[1]);
    const entry = id && (await all()).find((each) => each.id === id);
    if (!entry) return;
    const form = [...document.querySelectorAll("form[data-offline]")].find((each) => each.getAttribute("action") === entry.url);
    if (!form) return;
    const typed = new URLSearchParams(entry.body);
    // What the page itself says anew, whatever was sent.
    const OF_THE_PAGE = ["authenticity_token", "version"];
    const fill = () => {
      for (const control of form.elements) {
        if (!control.name || OF_THE_PAGE.includes(control.name) || control.matches("button, [type=file]")) continue;
        if (["checkbox", "radio"].includes(control.type)) control.checked = typed.getAll(control.name).includes(control.value);
        else if (typed.has(control.name)) control.value = typed.get(control.name);
      }
    };
    fill();
    // What is drawn beside the fields follows them, and changes none of them.
    for (const control of form.elements) {
      if (!control.name || control.type === "hidden" || control.matches("button, [type=file]")) continue;
      ["input", "change"].forEach((kind) => control.dispatchEvent(new Event(kind, { bubbles: true })));
    }
    fill();
    form.dataset.refused = String(id);
    const why = document.createElement("p");
    why.className = "error";
    why.setAttribute("role", "alert");
    why.textContent = `It was not taken: ${entry.refused}`;
    form.prepend(why);
    form.closest("details")?.setAttribute("open", "");
    why.scrollIntoView({ block: "center" });
  };

  // Without signal the page of a stub is that of the plan: what was asked for is written into its form.
  const unasked = document.getElementById("not-as-asked");
  const asked = unasked && document.querySelector("form[data-offline]#log-form");
  if (asked) {
    new URLSearchParams(location.search).forEach((value, name) => {
      const control = asked.elements[name];
      if (!control || (control.options && ![...control.options].some((each) => each.value === value))) return;
      control.value = value;
      if (control.matches?.("select, input")) ["input", "change"].forEach((kind) => control.dispatchEvent(new Event(kind, { bubbles: true })));
    });
    unasked.textContent = "There is no signal. What you asked for is written into the form; the rest of this page is of what was planned.";
  }

  // A page that was kept on another day: a day nobody touched is that of the phone now.
  const made = document.documentElement.dataset.made;
  const midnight = (time) => new Date(time.getFullYear(), time.getMonth(), time.getDate());
  const days = made ? Math.round((midnight(new Date()) - midnight(new Date(made))) / 86400000) : 0;
  if (days > 0) {
    document.querySelectorAll("form[data-offline] input[type=date], form[data-offline] input[type=hidden][data-day]").forEach((field) => {
      if (!field.value || field.value !== field.defaultValue || field.value !== document.documentElement.dataset.day) return;
      const [year, month, day] = field.value.split("-").map(Number);
      field.value = new Date(Date.UTC(year, month - 1, day + days)).toISOString().slice(0, 10);
    });
  }

  window.addEventListener("hashchange", again);
  window.addEventListener("online", () => send());
  document.addEventListener("visibilitychange", () => { if (!document.hidden) send(); });

  // The day's pages, all at once: on a phone, when they are not of this hour.
  const HOUR = 3600000;
  const slug = document.documentElement.dataset.orchard;
  const pocketKey = () => `pocket:${account}:${slug}:${document.documentElement.dataset.day}`;
  const fillPocket = (worker) => {
    const inHand = window.matchMedia("(pointer: coarse), (max-width: 860px)").matches;
    if (!slug || !inHand || Date.now() - Number(localStorage.getItem(pocketKey()) ?? 0) < HOUR) return;
    worker.postMessage({ pocket: `/o/${slug}/graft/pocket` });
  };

  // A page that was kept, and not made just now, says when it was made.
  const old = made && Date.now() - new Date(made).getTime();
  if (old > 180000 && !document.querySelector("[data-outbox-line]")) {
    const words = document.createElement("p");
    words.className = "kept-hint";
    words.textContent = `Kept since ${old > 72000000 ? `${new Date(made).toLocaleDateString("en-GB", { day: "numeric", month: "long" })}, ` : ""}${clock(made)}: there is no fresher page without signal.`;
    document.querySelector("main")?.prepend(words);
  }

  if ("serviceWorker" in navigator && window.isSecureContext && account) {
    // The worker is given up by the browser where one of its files does not come: it is asked for again, later each
    // time, for as long as the page is open.
    const LATEST = 60000;
    const installed = async () => {
      const registration = await navigator.serviceWorker.register("/sw.js");
      if (registration.active) return registration.active;
      const coming = registration.installing ?? registration.waiting;
      const given = new Promise((done) => coming?.addEventListener("statechange", () => coming.state === "redundant" && done(null)));
      return coming ? Promise.race([given, navigator.serviceWorker.ready.then((ready) => ready.active)]) : null;
    };
    const withWorker = async (wait = 2000) => {
      const worker = await installed().catch(() => null);
      if (!worker) { setTimeout(withWorker, wait, Math.min(2 * wait, LATEST)); return; }
      const links = [...document.querySelectorAll("a[data-keep]")].map((each) => each.href);
      worker.postMessage({ keep: [location.href, ...links] });
      fillPocket(worker);
    };
    withWorker();
    navigator.serviceWorker.addEventListener("message", ({ data }) => {
      // Only now can the page be opened without signal.
      if (data.kept === location.href) document.documentElement.dataset.kept = "yes";
      if (!data.pocketed) return;
      localStorage.setItem(pocketKey(), String(Date.now()));
      document.documentElement.dataset.pocket = String(data.pages);
    });
    document.querySelectorAll("form[action='/sign-out']").forEach((form) => form.addEventListener("submit", () => {
      localStorage.removeItem("pages-of");
      navigator.serviceWorker.controller?.postMessage({ forget: true });
    }));
  }

  // Takes a deed back out that was not sent yet.
  const drop = async (id) => {
    const entry = (await all()).find((each) => each.id === id && each.until > Date.now());
    if (entry) await remove(id);
    await show();
    return Boolean(entry);
  };
  // A photo that something else on the page made, kept and sent as any other.
  const keepPhoto = async (entry) => {
    await put({ ...entry, page: location.href, account, at: new Date().toISOString() });
    await show();
    await send();
  };
  // The keys of what waits here, or was refused.
  const keys = async () => (await all()).map((entry) => entry.key);
  window.vestryOutbox = { drop, keepPhoto, keys };

  atTheDoor();
  show().then(again).then(() => send());
})();
