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
});
