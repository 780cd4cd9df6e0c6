// Styles may tell a page whose scripts run.
document.documentElement.classList.add("scripted");

// What moves under the hand. Every page reads, and every form submits, without it.
document.addEventListener("alpine:init", () => {
  // Says how a typed length was understood, as the server reads it.
  window.Alpine.data("echo", () => ({
    understood: "",
    async read(event) {
      const text = event.target.value.trim();
      if (text === "") { this.understood = ""; return; }
      const units = this.$root.dataset.units;
      const answer = await fetch(`/measure?units=${units}&text=${encodeURIComponent(text)}`).catch(() => null);
      // Without signal nobody can say; what was typed stands.
      if (!answer) { this.understood = ""; return; }
      const words = await answer.text();
      if (event.target.value.trim() === text) this.understood = answer.ok ? `= ${words}` : words;
    },
  }));
});

// Alpine comes when a measure is first typed into: a page that is only read does without it.
document.addEventListener("focusin", function fetchAlpine({ target }) {
  if (!target.closest("[x-data]")) return;
  document.removeEventListener("focusin", fetchAlpine);
  const script = document.createElement("script");
  script.src = "/alpine.js";
  // What was typed meanwhile is read now.
  script.addEventListener("load", () => { if (document.activeElement === target) target.dispatchEvent(new Event("input", { bubbles: true })); });
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
  document.querySelectorAll("form[data-stay]").forEach((form) => form.addEventListener("submit", () => {
    sessionStorage.setItem("stay", JSON.stringify({ page: location.pathname, y: window.scrollY, at: Date.now() }));
  }));
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
