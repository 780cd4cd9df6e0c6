// A simulated caliper. It types into the field that has the focus in the window that opened it,
// a character at a time, as a keyboard wedge does.
const jaws = document.querySelector("#jaws");
const reading = document.querySelector("#reading");
const fate = document.querySelector("#fate");
const show = () => { reading.textContent = Number(jaws.value).toFixed(1); };
jaws.addEventListener("input", show);
document.querySelector("#steady").addEventListener("click", () => {
  // Three readings near each other; the middle one counts.
  const tries = [-0.3, 0.2, -0.1].map((off, index) => Number(jaws.value) + off * ((Number(jaws.value) * 7 + index) % 1.5)).sort((a, b) => a - b);
  jaws.value = tries[1];
  show();
});
document.querySelector("#send").addEventListener("click", () => {
  const page = window.opener?.document;
  const field = page?.activeElement;
  if (!field || !field.matches("input[type=text], input:not([type]), textarea")) { fate.textContent = "No field has the focus on the other page."; return; }
  const text = `${reading.textContent} mm`;
  const start = field.tagName === "TEXTAREA" ? `${field.value}${field.value && !/\s$/.test(field.value) ? " " : ""}` : "";
  field.value = start;
  [...text].forEach((letter) => {
    field.value += letter;
    field.dispatchEvent(new window.opener.Event("input", { bubbles: true }));
  });
  fate.textContent = `${text} sent.`;
});
