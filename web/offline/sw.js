// Keeps the pages of the day at hand, so that they open without signal. What was opened, or what a
// day's sheet leads to, is kept; everything else is asked for as usual.
const SHELL = "vestry-shell-5";
const PAGES = "vestry-pages-2";
const FILES = ["/vestry.css", "/mark.svg", "/manifest.webmanifest", ...["vestry", "outbox", "alpine", "swap", "keys", "lists", "survey", "bench", "hand", "aim", "where", "union", "plan", "repair", "picture", "exif", "rectify", "card", "measure"].map((name) => `/${name}.js`)];
// The stations' pages, whichever they are; files are none.
const KEPT = [/^\/o\/[a-z0-9-]+\/(today|survey|plan|wood|slip|graft|tend|tally|repair)(\/[\w\/-]*)?$/];
// Those the hand waits for: where they are kept, they come after a moment though the line is slow. Any other is as fresh
// as the server says, or is kept only for where there is no signal.
const IN_HAND = [/\/slip\/walk$/, /\/graft\/(sheet|stubs)$/, /\/graft\/limbs\/\d+(\/cuts|\/different)?$/, /\/tend\/(stops|grafts\/\d+)$/];
const ASSETS = /^\/(vestry\.css|[a-z]+\.js|mark\.svg|mark-\d+\.png|manifest\.webmanifest|type\/[\w.-]+)$/;
const POLICY = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; font-src 'self'; connect-src 'self'; manifest-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";
// A page that came so lately is not asked for again beside the one that is looked at.
const LATELY = 600000;
// So long a page that is kept waits for a fresher one; one that is not kept waits for the line.
const PATIENCE = 4000;
const LONGEST = 25000;
// Pages that are the same whatever is asked of them; any other answers under its own address alone.
const WHATEVER_ASKED = [/\/graft\/limbs\/\d+(\/cuts|\/different)?$/, /\/tend\/grafts\/\d+$/];

const pause = (time) => new Promise((done) => setTimeout(done, time));
// What did not come over a poor line is asked for again, twice.
const patiently = async (ask) => {
  for (const time of [1000, 5000]) {
    try { return await ask(); } catch (trouble) { await pause(time); }
  }
  return ask();
};

self.addEventListener("install", (event) => {
  const fill = async () => {
    const shell = await caches.open(SHELL);
    await Promise.all(FILES.map((file) => patiently(() => shell.add(file))));
    await self.skipWaiting();
  };
  event.waitUntil(fill());
});

self.addEventListener("activate", (event) => {
  event.waitUntil(caches.keys().then((names) => Promise.all(names.filter((name) => ![SHELL, PAGES].includes(name)).map((name) => caches.delete(name)))).then(() => self.clients.claim()));
});

const kept = (url) => KEPT.some((pattern) => pattern.test(url.pathname));

// A page that was sent somewhere else (to sign in, say) is not that page.
const sound = (answer) => answer.ok && !answer.redirected && (answer.headers.get("content-type") || "").startsWith("text/html");

// A word for the reader, and the way to undo what was just done, are for once: a page is kept without them.
const ONCE = /<p class="notice"[^]*?<\/p>|<form class="undo"[^]*?<\/form>/g;

// A page is kept with the moment at which it came.
const HELD = "x-held-since";
// What was asked for before somebody signed out is not kept after it.
let signedOut = 0;
const store = async (address, html, at, since) => {
  if (since !== signedOut) return;
  const pages = await caches.open(PAGES);
  await pages.put(address, new Response(html.replace(ONCE, ""), { headers: { "content-type": "text/html; charset=utf-8", "content-security-policy": POLICY, [HELD]: String(at) } }));
};
// Where a label leads, for one that is scanned without signal.
const lead = async (address, to, since) => {
  if (since !== signedOut) return;
  await (await caches.open(PAGES)).put(new URL(address, self.location.origin).href, new Response(null, { status: 302, headers: { location: to } }));
};
const label = async (request) => {
  try {
    return await fetch(request.url, { credentials: "same-origin", redirect: "manual" });
  } catch (trouble) {
    const known = await (await caches.open(PAGES)).match(request.url);
    return known ? Response.redirect(new URL(known.headers.get("location"), self.location.origin).href, 302) : said("There is no signal, and this label is none of the day's.");
  }
};
// No more than so many are kept; the oldest go.
const MOST = 500;
const prune = async () => {
  const pages = await caches.open(PAGES);
  const keys = await pages.keys();
  await Promise.all(keys.slice(0, Math.max(0, keys.length - MOST)).map((key) => pages.delete(key)));
};
const age = (answer) => Date.now() - Number(answer?.headers.get(HELD) ?? 0);

// A redirect (to sign in, say) is handed on as one: the browser follows it itself.
const fromNetwork = async (request, patience) => {
  const since = signedOut;
  const gone = new AbortController();
  const timer = setTimeout(() => gone.abort(), patience);
  try {
    const answer = await fetch(request.url, { credentials: "same-origin", redirect: "manual", signal: gone.signal });
    if (sound(answer)) await store(request.url, await answer.clone().text(), Date.now(), since);
    return answer;
  } finally {
    clearTimeout(timer);
  }
};

const said = (words) => new Response(`<!doctype html><html lang=en><meta charset=utf-8><meta name=viewport content="width=device-width, initial-scale=1"><title>Vestry</title><link rel=stylesheet href=/vestry.css><main class="page wide"><h1 class=now>${words}</h1><p>Go back to the day's sheet or what is due: the day's pages are kept here.</p></main></html>`, { status: 503, headers: { "content-type": "text/html; charset=utf-8" } });

// A page of a stub that is kept as planned, where something else was asked of it: it says that it is not of that.
const NOT_AS_ASKED = '<p class="straw" id="not-as-asked" role="alert">There is no signal. This page is of what was planned, and not of what you asked for.</p>';
const asPlanned = async (kept) => {
  const html = (await kept.text()).replace(OPENING, () => OPENING + NOT_AS_ASKED);
  return new Response(html, { headers: kept.headers });
};

const page = async (request) => {
  const pages = await caches.open(PAGES);
  const { pathname, search } = new URL(request.url);
  const exact = await pages.match(request.url);
  const anyhow = !exact && WHATEVER_ASKED.some((pattern) => pattern.test(pathname)) ? await pages.match(request.url, { ignoreSearch: true }) : null;
  const otherwise = Boolean(anyhow && search && pathname.includes("/graft/"));
  const known = exact || (otherwise ? await asPlanned(anyhow) : anyhow) || null;
  try {
    // What is not as it was asked for is no answer to a line that is slow.
    const hasten = known && !otherwise && IN_HAND.some((pattern) => pattern.test(new URL(request.url).pathname));
    return await fromNetwork(request, hasten ? PATIENCE : LONGEST);
  } catch (trouble) {
    if (known) return known;
    // What gave up waiting was slow; what could not be reached at all is no signal.
    return said(trouble.name === "AbortError" ? "The line is slow: this page did not come within half a minute. Try once more." : "There is no signal, and this page is not among those that are kept here.");
  }
};

const asset = async (request) => {
  const store = await caches.open(SHELL);
  // An address with a digest never changes its content.
  const same = new URL(request.url).search && (await store.match(request));
  if (same) return same;
  try {
    const answer = await fetch(request);
    if (answer.ok) {
      await store.delete(request, { ignoreSearch: true });
      await store.put(request, answer.clone());
    }
    return answer;
  } catch (trouble) {
    const known = await store.match(request, { ignoreSearch: true });
    if (known) return known;
    throw trouble;
  }
};

self.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== "GET" || url.origin !== self.location.origin) return;
  if (event.request.mode === "navigate" && kept(url)) event.respondWith(page(event.request));
  else if (event.request.mode === "navigate" && /^\/t\/[0-9A-Z]{9}$/.test(url.pathname)) event.respondWith(label(event.request));
  else if (ASSETS.test(url.pathname)) event.respondWith(asset(event.request));
});

// The page that is looked at first, which is told of when it is here; what it leads to one after another, as nobody
// waits for it. What did not come and is not here at all is asked for once more.
const keep = async (addresses, tell) => {
  const pages = await caches.open(PAGES);
  const ours = addresses.map((address) => new URL(address, self.location.origin)).filter((url) => url.origin === self.location.origin && kept(url));
  const fetched = async (url) => {
    if (age(await pages.match(url.href)) >= LATELY) await fromNetwork(new Request(url.href), 20000).catch(() => null);
    return pages.match(url.href);
  };
  const missing = [];
  for (const url of ours) {
    if (!await fetched(url)) missing.push(url);
    else if (url.href === addresses[0]) tell();
  }
  if (missing.length > 0) await pause(5000);
  for (const url of missing) if (await fetched(url) && url.href === addresses[0]) tell();
  await prune();
};

// The day's pages in one answer: frames that many share, and what stands in each.
const pocket = async (address) => {
  const since = signedOut;
  const answer = await fetch(address, { credentials: "same-origin", redirect: "error" });
  if (!answer.ok) throw new Error("not given");
  const frames = [];
  const now = Date.now();
  let count = 0;
  for (const line of (await answer.text()).split("\n")) {
    if (line === "") continue;
    const told = JSON.parse(line);
    if (told.html !== undefined) { frames[told.frame] = told.html; continue; }
    if (told.to) { await lead(told.address, told.to, since); continue; }
    const [before, after] = frames[told.frame].split(OPENING + CLOSING);
    const head = before.replace("<title></title>", () => `<title>${told.title}</title>`).replace('data-made=""', `data-made="${new Date(now).toISOString()}"`);
    await store(new URL(told.address, self.location.origin).href, head + OPENING + told.main + CLOSING + after, now, since);
    count += 1;
  }
  await prune();
  return count;
};
const OPENING = '<main id="main" tabindex="-1">';
const CLOSING = "</main>";

self.addEventListener("message", (event) => {
  if (event.data.keep) event.waitUntil(keep(event.data.keep, () => event.source?.postMessage({ kept: event.data.keep[0] })));
  if (event.data.pocket) event.waitUntil(patiently(() => pocket(event.data.pocket)).then((pages) => event.source?.postMessage({ pocketed: event.data.pocket, pages })).catch(() => {}));
  if (event.data.forget) { signedOut += 1; event.waitUntil(caches.delete(PAGES)); }
});
