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

// On a narrow screen the drawing is folded, so that the docket comes first.
document.addEventListener("DOMContentLoaded", () => {
  if (window.matchMedia("(max-width: 640px)").matches) {
    document.querySelectorAll("details.fold").forEach((fold) => { fold.open = false; });
  }
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
