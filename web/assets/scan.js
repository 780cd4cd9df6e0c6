// A label's square code, read by the camera or from a photo of it, here on the phone; then on to where it leads.
(() => {
  const video = document.getElementById("scan-video");
  if (!video) return;
  const said = document.getElementById("scan-said");
  const canvas = document.createElement("canvas");
  const paper = canvas.getContext("2d", { willReadFrequently: true });
  // No more pixels than so many across: more take longer and read no better.
  const MOST = 900;
  let over = false;

  const lead = (text) => {
    let place;
    try { place = new URL(text); } catch { /* Words, and no address. */ }
    if (!/^\/(t\/[0-9A-Za-z]{9}|o\/[a-z0-9-]+\/wood\/bundles\/\d+)$/.test(place?.pathname)) { said.textContent = "That code is no label of an orchard."; return; }
    over = true;
    said.textContent = "Read.";
    // A label made elsewhere leads to the same limb here: its code goes with it.
    location.assign(place.pathname);
  };
  const read = (source, width, height) => {
    if (!width || !window.jsQR) return false;
    const by = Math.min(1, MOST / Math.max(width, height));
    canvas.width = Math.round(width * by);
    canvas.height = Math.round(height * by);
    paper.drawImage(source, 0, 0, canvas.width, canvas.height);
    const found = window.jsQR(paper.getImageData(0, 0, canvas.width, canvas.height).data, canvas.width, canvas.height);
    if (!found?.data) return false;
    lead(found.data);
    return true;
  };

  document.getElementById("scan-photo").addEventListener("change", async ({ target }) => {
    const file = target.files[0];
    if (!file) return;
    const picture = await createImageBitmap(file).catch(() => null);
    if (!picture) { said.textContent = "That file is no picture."; return; }
    if (!read(picture, picture.width, picture.height)) said.textContent = "No code was found in this picture: fill it with the label, and hold still.";
  });

  const look = () => {
    if (over) return;
    read(video, video.videoWidth, video.videoHeight);
    setTimeout(look, 150);
  };
  const start = async () => {
    if (!navigator.mediaDevices?.getUserMedia) { said.textContent = "This browser gives no camera here: take a photo of the label, or type its code."; return; }
    try {
      video.srcObject = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
      await video.play();
      video.classList.add("on");
      said.textContent = "Hold the label in the frame.";
      look();
    } catch {
      said.textContent = "The camera was not allowed: take a photo of the label, or type its code.";
    }
  };
  document.getElementById("scan-start").addEventListener("click", start);
  window.addEventListener("pagehide", () => video.srcObject?.getTracks().forEach((track) => track.stop()));
})();
