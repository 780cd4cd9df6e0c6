// How often the measuring card's frame is found in made pictures, and how far off its corners are: node bin/card_rate.mjs
// [how many of each]. The same pictures every time.
import fs from "fs";
import vm from "vm";

const assets = new URL("../web/assets/", import.meta.url);
["rectify.js", "card.js"].forEach((name) => vm.runInThisContext(fs.readFileSync(new URL(name, assets), "utf8")));
const many = Number(process.argv[2] ?? 100);
const [WIDTH, HEIGHT] = [1200, 900];
const CARD = [[-30, -20], [30, -20], [30, 20], [-30, 20]];

let seed = 1;
const random = () => { seed = (seed * 1664525 + 1013904223) % 4294967296; return seed / 4294967296; };
const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

// Where a place in the card's plane is seen by a camera so far off, turned away by a tilt about an axis.
const camera = (tilt, about, spin, far, middle) => {
  const [t, a, s] = [tilt, about, spin].map((degrees) => (degrees * Math.PI) / 180);
  return ([x, y]) => {
    const [u, v] = [x * Math.cos(s) - y * Math.sin(s), x * Math.sin(s) + y * Math.cos(s)];
    const [along, off] = [u * Math.cos(a) + v * Math.sin(a), v * Math.cos(a) - u * Math.sin(a)];
    const scale = 1400 / (far + off * Math.sin(t));
    const across = off * Math.cos(t);
    return [middle[0] + scale * (along * Math.cos(a) - across * Math.sin(a)), middle[1] + scale * (along * Math.sin(a) + across * Math.cos(a))];
  };
};

// A card on bark, among dark things, lit from one side, with noise.
const made = ({ tilt, noise, things, light }) => {
  const middle = [WIDTH / 2 + (random() - 0.5) * 300, HEIGHT / 2 + (random() - 0.5) * 200];
  const seen = camera(tilt, random() * 180, random() * 360, 260 + random() * 420, middle);
  const corners = CARD.map(seen);
  const back = globalThis.pictured.projective(corners, CARD);
  const [fine, broad, from, bark] = [random() * 0.2 + 0.05, random() * 0.03, random() * 9, 70 + random() * 90];
  const dark = Array.from({ length: things }, () => [random() * WIDTH, random() * HEIGHT, 10 + random() * 70, 10 + random() * 70, random() * 60]);
  const [right, down] = [(random() - 0.5) * light, (random() - 0.5) * light];
  const shade = (x, y) => {
    const place = back([x + 0.5, y + 0.5]);
    const [u, v] = place ? place.map(Math.abs) : [999, 999];
    if (u <= 30 && v <= 20) return u <= 26 && v <= 16 ? 225 : 28;
    if (u <= 36 && v <= 26) return 225;
    const over = dark.find(([cx, cy, rx, ry]) => ((x - cx) / rx) ** 2 + ((y - cy) / ry) ** 2 < 1);
    return over ? over[4] : bark + 25 * Math.sin(x * fine + Math.sin(y * broad) * 3 + from) + 18 * Math.sin(y * broad * 3 + x * 0.01);
  };
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4);
  for (let y = 0; y < HEIGHT; y += 1) {
    for (let x = 0; x < WIDTH; x += 1) {
      const grey = shade(x, y) * (1 + right * (x / WIDTH - 0.5) + down * (y / HEIGHT - 0.5)) + normal() * noise;
      data.set([grey * 1.04, grey, grey * 0.9, 255], (y * WIDTH + x) * 4);
    }
  }
  return { data, width: WIDTH, height: HEIGHT, corners };
};

const CASES = {
  "straight on, bark alone": { tilt: 0, noise: 4, things: 0, light: 0.2 },
  "20 degrees askew, six dark things": { tilt: 20, noise: 6, things: 6, light: 0.5 },
  "35 degrees askew, six dark things": { tilt: 35, noise: 6, things: 6, light: 0.5 },
  "20 degrees askew, noisy, dim on one side": { tilt: 20, noise: 18, things: 6, light: 1.2 },
  "20 degrees askew, twenty dark things": { tilt: 20, noise: 8, things: 20, light: 0.6 },
  "20 degrees askew, very noisy": { tilt: 20, noise: 40, things: 6, light: 0.5 },
};
console.log("| picture | found | wrong | not found | corners off, median | worst | ms |\n|---|---|---|---|---|---|---|");
Object.entries(CASES).forEach(([name, facts]) => {
  const off = [];
  let [wrong, none, ms] = [0, 0, 0];
  for (let n = 0; n < many; n += 1) {
    const picture = made(facts);
    const began = performance.now();
    const found = globalThis.measuringCard.find(picture);
    ms += performance.now() - began;
    const side = Math.hypot(picture.corners[0][0] - picture.corners[1][0], picture.corners[0][1] - picture.corners[1][1]);
    // Either long side may be called the first.
    const far = found && Math.min(...[0, 2].map((turn) => Math.max(...found.map(([x, y], i) => Math.hypot(x - picture.corners[(i + turn) % 4][0], y - picture.corners[(i + turn) % 4][1]))))) / side;
    if (!found) none += 1; else if (far < 0.05) off.push(far); else wrong += 1;
  }
  off.sort((one, other) => one - other);
  const share = (value) => (value === undefined ? "–" : `${(value * 100).toFixed(1)} %`);
  console.log(`| ${name} | ${off.length} of ${many} | ${wrong} | ${none} | ${share(off[off.length >> 1])} | ${share(off[off.length - 1])} | ${Math.round(ms / many)} |`);
});
