// Styles may tell a page whose scripts run.
document.documentElement.classList.add("scripted");

// What moves under the hand. Every page reads, and every form submits, without it.
document.addEventListener("alpine:init", () => {
  // Says how a typed length was understood, as the server reads it.
  window.Alpine.data("echo", () => ({
    understood: "",
    tone: "",
    async read(event) {
      const text = event.target.value.trim();
      if (text === "") { this.say("", ""); return; }
      const units = this.$root.dataset.units;
      const answer = await fetch(`/measure?units=${units}&text=${encodeURIComponent(text)}`).catch(() => null);
      // Without signal nobody can say; what was typed stands.
      if (!answer) { this.say("", ""); return; }
      const words = await answer.text();
      if (event.target.value.trim() === text) this.say(answer.ok ? `= ${words}` : words, answer.ok ? "" : "unread");
    },
    say(words, tone) { this.understood = words; this.tone = tone; },
  }));
});

// A length read, said, and taken a step on: whole millimetres, or eighths of an inch, from whatever was typed, with its
// unit or the orchard's.
window.vestrySteps = (() => {
  const WORTH = { mm: 1, cm: 10, m: 1000, in: 25.4, "\"": 25.4, ft: 304.8, "'": 304.8 };
  const LENGTH = /^(?:(\d+(?:[.,]\d+)?|[.,]\d+)(?![\d/.,]))?\s*(?:(\d+)\/(\d+))?\s*(mm|cm|m|in|ft|"|')?$/i;
  const gcd = (a, b) => (b ? gcd(b, a % b) : a);
  const inches = (count, parts) => {
    const [whole, part] = [Math.floor(count / parts), count % parts];
    const by = gcd(part, parts);
    return `${[whole || (part ? null : "0"), part ? `${part / by}/${parts / by}` : null].filter(Boolean).join(" ")} in`;
  };
  // @returns the length in words, as the pages say it: inches in eighths, below one in sixteenths, feet from three feet up
  const say = (mm, units) => {
    if (mm < 0) return `-${say(-mm, units)}`;
    if (units !== "imperial") return `${Math.round(mm)} mm`;
    const parts = mm < 25.4 ? 16 : 8;
    const count = Math.round((mm / 25.4) * parts);
    if (count < 36 * parts) return inches(count, parts);
    const rest = count % (12 * parts);
    return [`${Math.floor(count / (12 * parts))} ft`, rest && inches(rest, parts)].filter(Boolean).join(" ");
  };
  // @returns the length in mm; null for what is no length
  const read = (text, units) => {
    const [, feet, rest] = text.trim().match(/^(\d+)\s*(?:ft|')\s*(\d.*)$/i) ?? [];
    if (feet !== undefined) return ((more) => more === null ? null : Number(feet) * WORTH.ft + more)(read(rest, "imperial"));
    const [, whole, over, under, unit] = text.trim().match(LENGTH) ?? [];
    if (whole === undefined && over === undefined) return null;
    const number = Number((whole ?? "0").replace(",", ".")) + (over ? Number(over) / Number(under) : 0);
    return number * WORTH[(unit ?? (units === "imperial" ? "in" : "mm")).toLowerCase()];
  };
  // @returns the next length up or down, at least a step long; what is no length stays as it was typed
  const step = (text, units, by) => {
    const mm = text.trim() === "" ? 0 : read(text, units);
    if (mm === null || !Number.isFinite(mm)) return text;
    const size = units === "imperial" ? 25.4 / 8 : 1;
    // What lies between two steps goes to the next one.
    const steps = Math.max(1, (by > 0 ? Math.floor : Math.ceil)(Math.round((mm / size) * 1000) / 1000) + by);
    return say(steps * size, units);
  };
  return { read, step, say };
})();

// Where nobody answers, what was worked out for other figures than those of now says so; a fresh part in its place
// does not. It lies over the part, so that nothing moves under the hand.
window.vestryStale = (part, answer) => {
  // What was refused as it is being typed is no silence.
  if (answer && answer.status < 500) return;
  if (!part || part.classList.contains("stale")) return;
  part.classList.add("stale");
  if (part.matches("h1")) return;
  const words = document.createElement("p");
  words.className = "straw stale-words";
  words.setAttribute("role", "status");
  words.textContent = "There is no answer now: this is of what stood here before.";
  part.prepend(words);
};

// Alpine comes when a measure is first typed into: a page that is only read does without it.
document.addEventListener("focusin", function fetchAlpine({ target }) {
  if (!target.closest("[x-data]")) return;
  document.removeEventListener("focusin", fetchAlpine);
  const script = document.createElement("script");
  script.src = "/alpine.js";
  // What was typed meanwhile is read now, also where the hand has gone on to another field.
  script.addEventListener("load", () => document.querySelectorAll("[x-data] input").forEach((field) => {
    if (field === document.activeElement || field.value !== field.defaultValue) field.dispatchEvent(new Event("input", { bubbles: true }));
  }));
  document.head.append(script);
});

// On a narrow screen a caution is shown whole once a day; after that it is a line that opens.
const foldCautions = () => {
  const key = `cautions:${new Date().toDateString()}`;
  let told = [];
  try { told = JSON.parse(localStorage.getItem(key) ?? "[]"); } catch { return; }
  document.querySelectorAll("p.caution").forEach((words) => {
    const name = [...words.querySelectorAll("b")].map((each) => each.textContent).join(" ");
    if (!told.includes(name)) { told.push(name); return; }
    const fold = document.createElement("details");
    fold.className = "caution fold-caution";
    const title = document.createElement("summary");
    title.textContent = name;
    words.replaceWith(fold);
    words.classList.remove("caution");
    fold.append(title, words);
  });
  Object.keys(localStorage).filter((each) => each.startsWith("cautions:") && each !== key).forEach((each) => localStorage.removeItem(each));
  localStorage.setItem(key, JSON.stringify(told));
};

// On a narrow screen what is looked at late is folded.
document.addEventListener("DOMContentLoaded", () => {
  if (window.matchMedia("(max-width: 860px)").matches) document.querySelectorAll("details.narrow-folded").forEach((fold) => { fold.open = false; });
  if (window.matchMedia("(max-width: 640px)").matches) foldCautions();
  // What an address points at is in sight once the page has its shape; so is the first field that was refused.
  const pointed = /^#[\w-]+$/.test(location.hash) && document.getElementById(location.hash.slice(1));
  if (pointed) pointed.scrollIntoView();
  else document.querySelector(".field.wrong")?.scrollIntoView({ block: "center" });
  window.addEventListener("load", () => setTimeout(() => { history.scrollRestoration = "auto"; }));

  // A press that comes back to the same page leaves the hand where it was.
  document.addEventListener("submit", ({ target }) => {
    if (target.matches("form[data-stay]")) sessionStorage.setItem("stay", JSON.stringify({ page: location.pathname, y: window.scrollY, at: Date.now() }));
  });
  const stay = JSON.parse(sessionStorage.getItem("stay") || "null");
  sessionStorage.removeItem("stay");
  if (stay && stay.page === location.pathname && Date.now() - stay.at < 20000) {
    const back = () => window.scrollTo(0, stay.y);
    back();
    // The browser goes to what the address points at once more when all is loaded.
    window.addEventListener("load", () => requestAnimationFrame(back));
  }
});

// A drawing through time that is wider than the screen opens on today.
const toToday = (within) => within.querySelectorAll(".scroll").forEach((scroll) => {
  const today = scroll.querySelector("svg .today");
  if (!today || scroll.scrollWidth <= scroll.clientWidth) return;
  scroll.scrollLeft += today.getBoundingClientRect().left - scroll.getBoundingClientRect().left - scroll.clientWidth / 2;
});
document.addEventListener("toggle", ({ target }) => { if (target.open) toToday(target); }, true);
document.addEventListener("DOMContentLoaded", () => toToday(document));
// What came in place of a part of the page has the same shape.
document.addEventListener("swapped", () => {
  if (window.matchMedia("(max-width: 640px)").matches) foldCautions();
  toToday(document);
});

// The demo's day: picked, or pulled along the year.
document.addEventListener("DOMContentLoaded", () => {
  const picked = document.getElementById("demo-day");
  const year = document.querySelector("nav.year");
  if (!picked) return;
  picked.addEventListener("change", () => { if (picked.value) picked.form.submit(); });
  const line = year?.querySelector(".year-band .today");
  if (!line) return;
  const band = line.ownerSVGElement;
  const grip = document.createElement("div");
  grip.className = "today-grip";
  grip.title = "Pull the demo's day along the year";
  const share = () => parseFloat(line.getAttribute("x1")) / 100;
  const put = () => { grip.style.left = `${band.getBoundingClientRect().left - year.getBoundingClientRect().left + share() * band.getBoundingClientRect().width - 9}px`; };
  const from = share();
  grip.addEventListener("pointerdown", (event) => { grip.setPointerCapture(event.pointerId); event.preventDefault(); });
  grip.addEventListener("pointermove", (event) => {
    if (!event.buttons) return;
    const box = band.getBoundingClientRect();
    const at = `${(Math.min(0.999, Math.max(0, (event.clientX - box.left) / box.width)) * 100).toFixed(3)}%`;
    line.setAttribute("x1", at);
    line.setAttribute("x2", at);
    put();
  });
  grip.addEventListener("pointerup", () => {
    const days = Math.round((share() - from) * 365);
    if (days === 0) return;
    const day = new Date(`${picked.value}T00:00:00Z`);
    day.setUTCDate(day.getUTCDate() + days);
    picked.value = day.toISOString().slice(0, 10);
    picked.form.submit();
  });
  year.append(grip);
  put();
  window.addEventListener("resize", put);
});

// On paper a list is open, and closed again after.
addEventListener("beforeprint", () => document.querySelectorAll("details[data-printed]:not([open])").forEach((list) => {
  list.open = true;
  list.dataset.printed = "shut";
}));
addEventListener("afterprint", () => document.querySelectorAll("details[data-printed=shut]").forEach((list) => {
  list.open = false;
  list.dataset.printed = "";
}));

// A form that is gone back to carries the key of what was sent with it. Sent again as it was, it is the same deed and is
// done once; with something changed it is another, and gets a key of its own.
document.addEventListener("submit", ({ target: form, submitter }) => {
  const keys = [...form.querySelectorAll("input[type=hidden][name=client_key], input[type=hidden][name=once]")];
  if (keys.length === 0) return;
  // What is secret is kept nowhere.
  const left = ["authenticity_token", "client_key", "once", ...[...form.querySelectorAll("[type=password]")].map((field) => field.name)];
  const said = [...new FormData(form)].filter(([name]) => !left.includes(name))
    .map(([name, value]) => `${name}=${value instanceof File ? `${value.name} ${value.size}` : value}`).concat(submitter?.name ? `${submitter.name}=${submitter.value}` : []).join("\n");
  // As many as a person goes back over.
  const MOST = 20;
  try {
    let sent = JSON.parse(sessionStorage.getItem("sent") ?? "[]");
    keys.forEach((key) => {
      const before = sent.find(([each]) => each === key.value);
      if (before && before[1] !== said) key.value = crypto.randomUUID();
      sent = [...sent.filter(([each]) => each !== key.value), [key.value, said]].slice(-MOST);
    });
    sessionStorage.setItem("sent", JSON.stringify(sent));
  } catch { /* A browser that keeps nothing sends what the page says. */ }
}, true);
