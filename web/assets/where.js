// The phone's own place: offered for a tree or an orchard, with how sure it is; and the trees that stand nearest to it.
(() => {
  // So long the phone is given to find itself.
  const PATIENCE = { enableHighAccuracy: true, timeout: 15000, maximumAge: 0 };
  const ask = (said) => new Promise((done) => {
    if (!navigator.geolocation) { said.textContent = "This phone does not say where it is."; done(null); return; }
    said.textContent = "Finding where you stand…";
    navigator.geolocation.getCurrentPosition(({ coords }) => done(coords), (trouble) => {
      said.textContent = trouble.code === 1 ? "The phone's place was not allowed." : "The phone could not find itself: try under open sky.";
      done(null);
    }, PATIENCE);
  });
  // A metre is about the last of five decimals.
  const degrees = (number) => number.toFixed(6);

  document.addEventListener("click", async (event) => {
    const button = event.target.closest("[data-where]");
    if (!button) return;
    const said = button.parentElement.querySelector("[role=status]");
    const place = await ask(said);
    if (!place) return;
    if (button.dataset.where === "nearest") { location.assign(`${button.dataset.to}?lat=${degrees(place.latitude)}&lon=${degrees(place.longitude)}`); return; }
    const fields = button.closest("form").elements;
    fields.latitude.value = degrees(place.latitude);
    fields.longitude.value = degrees(place.longitude);
    fields.latitude.dispatchEvent(new Event("input", { bubbles: true }));
    said.textContent = `Where you stand, to ${Math.max(1, Math.round(place.accuracy))} m.${place.accuracy > 8 ? " That is wider than a row: wait for a better one, or measure." : ""}`;
  });
})();
