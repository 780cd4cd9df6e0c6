// Deeds go by way of a box on the phone: put in first, sent in their order, and taken out only when the
// server gives a receipt that names them. A browser that is closed in between, or a server that dies
// half way, loses nothing and doubles nothing: each deed carries a key of its own.
(() => {
  if (!("indexedDB" in window)) return;
  const account = document.documentElement.dataset.account;
  // Nobody is signed in here: the pages kept for whoever was are let go. What waits to be sent stays,
  // for them alone.
  if (!account && "caches" in window) caches.delete("vestry-pages-1");

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

  // What is waiting, and what was refused, at the head of the page.
  const show = async () => {
    const entries = await all();
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
      look.href = entry.page;
      look.textContent = "Open its form";
      const drop = document.createElement("button");
      drop.type = "button";
      drop.textContent = `Throw away ${entry.label}`;
      drop.addEventListener("click", async () => { await remove(entry.id); show(); });
      parts.push(words, look, drop);
    });
    bar.replaceChildren(...parts);
  };

  // A token of this session; null without signal, and when nobody is signed in.
  const token = async () => {
    const answer = await fetch("/token", { headers: { accept: "application/json" }, redirect: "manual", cache: "no-store" });
    if (!answer.ok) return null;
    const told = await answer.json();
    return told.account === account ? told.token : null;
  };

  // One deed: its receipt, null when there was none, or why it was refused.
  const post = async (entry, key) => {
    const answer = await fetch(entry.url, { method: "POST", redirect: "manual", headers: { accept: "application/json", "content-type": "application/x-www-form-urlencoded", "x-csrf-token": key }, body: entry.body });
    if (!(answer.headers.get("content-type") || "").startsWith("application/json")) return null;
    const told = await answer.json();
    return told.key === entry.key ? told : null;
  };

  // In order; stops at the first that finds no server, and goes on past one that is refused.
  const sendAll = async () => {
    let last = null;
    const work = async () => {
      const waiting = (await all()).filter((entry) => !entry.refused);
      if (waiting.length === 0) return;
      const key = await token();
      if (!key) return;
      for (const entry of waiting) {
        const told = await post(entry, key);
        if (!told) return;
        if (told.refused) await put({ ...entry, refused: told.refused });
        else { await remove(entry.id); last = told; }
      }
    };
    try {
      if (navigator.locks) await navigator.locks.request("vestry-outbox", work); else await work();
    } catch (trouble) {
      // No server: what is in the box stays there.
    }
    await show();
    return last;
  };
  // One round after another: a deed put in while a round is under way goes with the next.
  let round = Promise.resolve(null);
  const send = () => { round = round.then(sendAll, sendAll); return round; };

  document.querySelectorAll("form[data-offline]").forEach((form) => {
    // A kept page may be used again: each opening is a deed of its own.
    const key = form.querySelector("input[name=client_key]");
    if (key && !form.querySelector(".error")) key.value = crypto.randomUUID();
    form.addEventListener("submit", async (event) => {
      event.preventDefault();
      const fields = new FormData(form, event.submitter);
      fields.delete("authenticity_token");
      const entry = { key: fields.get("client_key"), url: form.getAttribute("action"), body: new URLSearchParams(fields).toString(), label: form.dataset.offline, page: location.href, account, at: new Date().toISOString() };
      try {
        await put(entry);
      } catch (trouble) {
        form.submit();
        return;
      }
      const told = await send();
      const mine = (await all()).find((each) => each.key === entry.key);
      if (mine && mine.refused) {
        // The server answered: its own page says what is wrong, at the field.
        await remove(mine.id);
        form.submit();
      } else if (mine) {
        if (key) key.value = crypto.randomUUID();
        document.getElementById("outbox").scrollIntoView();
      } else if (told) {
        const to = new URL(told.location, location.href);
        const here = to.pathname + to.search === location.pathname + location.search;
        location.assign(to.href);
        if (here) location.reload();
      }
    });
  });

  window.addEventListener("online", () => send());
  document.addEventListener("visibilitychange", () => { if (!document.hidden) send(); });

  if ("serviceWorker" in navigator && window.isSecureContext && account) {
    navigator.serviceWorker.register("/sw.js").then(() => navigator.serviceWorker.ready).then((ready) => {
      const links = [...document.querySelectorAll("a[data-keep]")].map((each) => each.href);
      ready.active.postMessage({ keep: [location.href, ...links] });
      document.documentElement.dataset.kept = "yes";
    }).catch(() => {});
    document.querySelectorAll("form[action='/sign-out']").forEach((form) => form.addEventListener("submit", () => navigator.serviceWorker.controller?.postMessage({ forget: true })));
  }

  show().then(() => send());
})();
