// Reads the code in each of some raw pictures: node read_codes.mjs WIDTHxHEIGHT:FILE ...; one line each.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
const jsQR = createRequire(import.meta.url)("../../node_modules/jsqr/dist/jsQR.js");
for (const asked of process.argv.slice(2)) {
  const [, width, height, file] = asked.match(/^(\d+)x(\d+):(.+)$/);
  const found = jsQR(new Uint8ClampedArray(readFileSync(file)), Number(width), Number(height));
  console.log(found ? found.data : "");
}
