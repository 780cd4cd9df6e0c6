// What a picture says of itself: its own day, and the place it was taken at. Both are read here, before the picture is
// made small and stripped; the place is offered for the tree and sent only when that is pressed.
(() => {
  let reader;
  const load = () => reader ??= new Promise((done) => {
    const script = Object.assign(document.createElement("script"), { src: document.querySelector("script[src*='/picture.js']").src.replace("picture.js", "exif.js").replace(/\?.*/, "") });
    script.addEventListener("load", () => done(globalThis.exifr));
    script.addEventListener("error", () => { reader = null; done(null); });
    document.head.append(script);
  });
  // The moment of the picture, as its Exif block numbers it.
  const TAKEN = 0x9003;

  // @returns {day, latitude, longitude}, each only where the picture says it.
  const read = async (file) => {
    const exifr = await load();
    const told = await exifr?.parse(file, { gps: true, exif: true, translateKeys: false, reviveValues: false }).catch(() => null);
    // The day on which it was taken, by the camera's own clock.
    const at = String(told?.[TAKEN] ?? "").match(/^(\d{4}):(\d\d):(\d\d)/);
    const day = at ? at.slice(1).join("-") : null;
    const { latitude, longitude } = told ?? {};
    const sound = Number.isFinite(latitude) && Number.isFinite(longitude) && Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 && (latitude || longitude);
    return { day, ...(sound ? { latitude, longitude } : {}) };
  };

  // On flat ground, which an orchard is.
  const away = (one, other) => Math.hypot((one.latitude - other.latitude) * 111320, (one.longitude - other.longitude) * 111320 * Math.cos(one.latitude * Math.PI / 180));

  // Offers its place for a tree that has none, and asks where it was taken far from the tree's own.
  const offer = (form, told) => {
    const place = form.parentElement.querySelector("[data-picture-place]");
    if (!place || !("latitude" in told)) return;
    const { tree, latitude, longitude, far } = place.dataset;
    const words = place.querySelector("p");
    const keep = place.querySelector("button");
    place.elements.latitude.value = told.latitude.toFixed(6);
    place.elements.longitude.value = told.longitude.toFixed(6);
    const off = latitude ? Math.round(away(told, { latitude: Number(latitude), longitude: Number(longitude) })) : null;
    if (off !== null && off <= Number(far)) return;
    words.textContent = off === null ? `This picture was taken at ${place.elements.latitude.value}, ${place.elements.longitude.value}. Does ${tree} stand there?` : `This picture was taken ${off} m from where ${tree} stands. Is it of another tree?`;
    keep.hidden = off !== null;
    place.hidden = false;
  };

  document.addEventListener("change", async ({ target }) => {
    const form = target.matches?.("input[type=file][name=photo]") && target.form;
    if (!form || !target.files[0] || form.dataset.photo) return;
    const told = await read(target.files[0]);
    if (told.day && form.elements.taken_on) form.elements.taken_on.value = told.day;
    offer(form, told);
  });
  globalThis.pictures = { read, offer };
})();
