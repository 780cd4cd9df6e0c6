// Asks the browser for a security key and sends its answer with the form.
(() => {
  const form = document.querySelector("form[data-security-key]");
  if (!form) return;
  const bytes = (text) => Uint8Array.from(atob(text.replace(/-/g, "+").replace(/_/g, "/")), (each) => each.charCodeAt(0));
  const text = (buffer) => btoa(String.fromCharCode(...new Uint8Array(buffer))).replace(/\+/g, "-").replace(/\//g, "_").replace(/=/g, "");
  const trouble = form.querySelector("[data-trouble]");
  const creating = form.dataset.securityKey === "create";

  const options = () => {
    const told = JSON.parse(form.dataset.options);
    told.challenge = bytes(told.challenge);
    if (told.user) told.user.id = bytes(told.user.id);
    for (const key of told.excludeCredentials || []) key.id = bytes(key.id);
    for (const key of told.allowCredentials || []) key.id = bytes(key.id);
    return { publicKey: told };
  };

  const answer = (key) => {
    const parts = creating ? ["attestationObject", "clientDataJSON"] : ["authenticatorData", "clientDataJSON", "signature", "userHandle"];
    const response = Object.fromEntries(parts.filter((part) => key.response[part]).map((part) => [part, text(key.response[part])]));
    return JSON.stringify({ type: key.type, id: text(key.rawId), rawId: text(key.rawId), response });
  };

  form.addEventListener("submit", async (event) => {
    if (form.querySelector("[data-answer]").value) return;
    event.preventDefault();
    try {
      const key = await (creating ? navigator.credentials.create(options()) : navigator.credentials.get(options()));
      form.querySelector("[data-answer]").value = answer(key);
      form.submit();
    } catch {
      trouble.textContent = navigator.credentials ? "The key did not answer. Try again." : "This browser knows no security keys here.";
      trouble.hidden = false;
    }
  });
})();
