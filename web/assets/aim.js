// A limb's bearing and rise from the phone that is held along it, its top edge towards the limb's end: one press.
(() => {
  const button = document.querySelector("[data-aim]");
  if (!button) return;
  const aim = button.closest(".aim");
  const said = document.getElementById("aim-said");
  const [bearing, rise] = ["bearing", "rise"].map((name) => document.getElementById(`h-${name}`));
  // So long a phone is given to say which way it points.
  const PATIENCE = 1500;
  const turn = (degrees) => (degrees * Math.PI) / 180;

  // Where the top edge points, in the frame of east, north and up, after the turns alpha about the vertical and beta
  // about the short side: (-sin a cos b, cos a cos b, sin b). A turn about its long side changes nothing.
  const along = (alpha, beta) => ({
    bearing: (Math.atan2(-Math.sin(turn(alpha)) * Math.cos(turn(beta)), Math.cos(turn(alpha)) * Math.cos(turn(beta))) * 180) / Math.PI,
    rise: (Math.asin(Math.sin(turn(beta))) * 180) / Math.PI,
  });
  const put = (field, degrees) => {
    field.value = String(degrees);
    field.dispatchEvent(new Event("input", { bubbles: true }));
  };
  const take = ({ alpha, beta, absolute, webkitCompassHeading: heading }) => {
    const held = along(heading === undefined ? alpha : -heading, beta);
    put(rise, Math.round(held.rise));
    if (heading === undefined && !absolute) { said.textContent = `It rises ${Math.round(held.rise)}°. This phone does not know north: turn the dial by hand.`; return; }
    const east = Number(aim.dataset.declination || 0);
    const degrees = ((Math.round(held.bearing + east) % 360) + 360) % 360;
    put(bearing, degrees);
    said.textContent = `${degrees}° from north, rising ${Math.round(held.rise)}°. ${aim.dataset.declination ? `A declination of ${aim.dataset.declination}° is in it.` : "From magnetic north: the orchard's declination is not set."}`;
  };
  button.addEventListener("click", async () => {
    const asks = window.DeviceOrientationEvent?.requestPermission;
    if (asks && (await DeviceOrientationEvent.requestPermission().catch(() => "denied")) !== "granted") {
      said.textContent = "The phone does not give its bearing here: turn the dials by hand.";
      return;
    }
    const kinds = "ondeviceorientationabsolute" in window ? ["deviceorientationabsolute", "deviceorientation"] : ["deviceorientation"];
    let over = null;
    const stop = () => { clearTimeout(over); kinds.forEach((kind) => window.removeEventListener(kind, heard)); };
    let better = null;
    const heard = (event) => {
      if (event.beta === null || event.beta === undefined) return;
      // One that knows north is waited for a moment.
      if (!event.absolute && event.webkitCompassHeading === undefined && kinds.length > 1) { better = better ?? event; return; }
      stop();
      take(event);
    };
    kinds.forEach((kind) => window.addEventListener(kind, heard));
    over = setTimeout(() => {
      stop();
      if (better) take(better); else said.textContent = "This phone does not say how it is held: turn the dials by hand.";
    }, PATIENCE);
  });

  // Kept without signal, the page is ready for the next limb at once.
  const form = document.getElementById("limb-form");
  form.addEventListener("waits", () => {
    const tag = document.getElementById("h-tag");
    const kept = tag.value;
    tag.value = kept.replace(/\d+$/, (number) => Number(number) + 1).replace(/[A-Y]$/i, (letter) => String.fromCharCode(letter.charCodeAt(0) + 1));
    form.querySelectorAll("[name=girth], [name=length], [name=fork]").forEach((field) => { field.value = ""; });
    [bearing, rise].forEach((field) => { field.value = ""; field.dispatchEvent(new Event("input", { bubbles: true })); });
    said.textContent = `${kept} is kept on this phone.`;
  });

  // Steps of the girth, from a limb's common one where nothing was measured.
  const COMMON = "100 mm";
  document.querySelectorAll(".limb-by-hand [data-by]").forEach((each) => each.addEventListener("click", () => {
    const field = each.parentElement.querySelector("input");
    const stepped = window.vestrySteps.step(field.value.trim() || COMMON, each.parentElement.dataset.units, Number(each.dataset.by));
    // The label says the unit.
    field.value = stepped.replace(/ (mm|in)$/, "");
  }));
})();
