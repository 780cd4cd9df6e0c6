// Finds the measuring card's frame in a picture: what is dark against what is round it, in one piece, with four straight
// sides and a bright middle. Offered, never trusted unseen.
(() => {
  const LONGEST = 480;
  // Share of the frame's rectangle that is dark: 4 mm round a card of 60 by 40 is three tenths.
  const DARK = [0.16, 0.5];

  const far = ([x, y], [u, v]) => Math.hypot(u - x, v - y);

  // Grey, and no larger than need be: each cell the mean of the pixels in it.
  const shrunk = ({ data, width, height }) => {
    const by = Math.max(1, Math.max(width, height) / LONGEST);
    const [w, h] = [Math.floor(width / by), Math.floor(height / by)];
    const grey = new Float32Array(w * h);
    for (let y = 0; y < h; y += 1) {
      for (let x = 0; x < w; x += 1) {
        let [sum, count] = [0, 0];
        for (let v = Math.floor(y * by); v < Math.floor((y + 1) * by); v += 1) {
          for (let u = Math.floor(x * by); u < Math.floor((x + 1) * by); u += 1) {
            const i = (v * width + u) * 4;
            sum += data[i] * 0.299 + data[i + 1] * 0.587 + data[i + 2] * 0.114;
            count += 1;
          }
        }
        grey[y * w + x] = sum / count;
      }
    }
    return { grey, w, h, by };
  };

  // Dark against the mean of a window round each place, by sums over rectangles.
  const dark = ({ grey, w, h }) => {
    const sums = new Float64Array((w + 1) * (h + 1));
    for (let y = 0; y < h; y += 1) {
      let row = 0;
      for (let x = 0; x < w; x += 1) {
        row += grey[y * w + x];
        sums[(y + 1) * (w + 1) + x + 1] = sums[y * (w + 1) + x + 1] + row;
      }
    }
    const reach = Math.round(Math.max(w, h) / 10);
    const mask = new Uint8Array(w * h);
    for (let y = 0; y < h; y += 1) {
      for (let x = 0; x < w; x += 1) {
        const [l, r, t, b] = [Math.max(0, x - reach), Math.min(w, x + reach), Math.max(0, y - reach), Math.min(h, y + reach)];
        const mean = (sums[b * (w + 1) + r] - sums[t * (w + 1) + r] - sums[b * (w + 1) + l] + sums[t * (w + 1) + l]) / ((r - l) * (b - t));
        if (grey[y * w + x] < mean * 0.72) mask[y * w + x] = 1;
      }
    }
    return mask;
  };

  // Pieces of dark that hang together.
  const pieces = (mask, w, h) => {
    const seen = new Uint8Array(w * h);
    const found = [];
    for (let start = 0; start < w * h; start += 1) {
      if (!mask[start] || seen[start]) continue;
      const [piece, stack] = [[], [start]];
      seen[start] = 1;
      while (stack.length) {
        const at = stack.pop();
        piece.push(at);
        const [x, y] = [at % w, Math.floor(at / w)];
        [[x + 1, y], [x - 1, y], [x, y + 1], [x, y - 1]].forEach(([u, v]) => {
          const next = v * w + u;
          if (u >= 0 && v >= 0 && u < w && v < h && mask[next] && !seen[next]) { seen[next] = 1; stack.push(next); }
        });
      }
      found.push(piece);
    }
    return found;
  };

  // Andrew's monotone chain.
  const hull = (points) => {
    const sorted = [...points].sort((one, other) => one[0] - other[0] || one[1] - other[1]);
    const turn = (o, a, b) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
    const half = (all) => {
      const chain = [];
      all.forEach((point) => {
        while (chain.length > 1 && turn(chain[chain.length - 2], chain[chain.length - 1], point) <= 0) chain.pop();
        chain.push(point);
      });
      return chain.slice(0, -1);
    };
    return [...half(sorted), ...half(sorted.reverse())];
  };

  const area = (points) => Math.abs(points.reduce((sum, [x, y], i) => {
    const [u, v] = points[(i + 1) % points.length];
    return sum + x * v - u * y;
  }, 0)) / 2;

  // The four corners of a hull: the two furthest apart, and those furthest off to either side of the line between.
  const corners = (round) => {
    let [best, pair] = [0, null];
    round.forEach((one, i) => round.slice(i + 1).forEach((other) => { if (far(one, other) > best) { best = far(one, other); pair = [one, other]; } }));
    if (!pair) return null;
    const off = ([x, y]) => ((x - pair[0][0]) * (pair[1][1] - pair[0][1]) - (y - pair[0][1]) * (pair[1][0] - pair[0][0])) / best;
    const left = round.reduce((most, point) => (off(point) > off(most) ? point : most));
    const right = round.reduce((most, point) => (off(point) < off(most) ? point : most));
    return [pair[0], right, pair[1], left];
  };

  // The edge of a piece near one side, as a line through it by least squares (its main axis).
  const line = (edge) => {
    const mean = [0, 1].map((axis) => edge.reduce((sum, point) => sum + point[axis], 0) / edge.length);
    let [xx, xy, yy] = [0, 0, 0];
    edge.forEach(([x, y]) => { xx += (x - mean[0]) ** 2; xy += (x - mean[0]) * (y - mean[1]); yy += (y - mean[1]) ** 2; });
    const way = Math.atan2(2 * xy, xx - yy) / 2;
    return { at: mean, way: [Math.cos(way), Math.sin(way)] };
  };
  const meet = (one, other) => {
    const cross = one.way[0] * other.way[1] - one.way[1] * other.way[0];
    if (Math.abs(cross) < 1e-6) return null;
    const t = ((other.at[0] - one.at[0]) * other.way[1] - (other.at[1] - one.at[1]) * other.way[0]) / cross;
    return [one.at[0] + one.way[0] * t, one.at[1] + one.way[1] * t];
  };

  // Sides drawn through the outer edge of the piece, but for near the corners, and where they meet.
  const refined = (rough, edge) => {
    const lines = rough.map((from, i) => {
      const to = rough[(i + 1) % 4];
      const long = far(from, to);
      const near = edge.filter(([x, y]) => {
        const along = ((x - from[0]) * (to[0] - from[0]) + (y - from[1]) * (to[1] - from[1])) / long;
        const off = Math.abs((x - from[0]) * (to[1] - from[1]) - (y - from[1]) * (to[0] - from[0])) / long;
        return along > long * 0.12 && along < long * 0.88 && off < Math.max(2, long * 0.03);
      });
      return near.length >= 6 ? line(near) : null;
    });
    if (lines.some((each) => !each)) return null;
    const found = lines.map((each, i) => meet(lines[(i + 3) % 4], each));
    return found.every(Boolean) ? found : null;
  };

  // As a clock goes, a long side first, from the corner that is further up.
  const ordered = (four) => {
    const middle = [0, 1].map((axis) => four.reduce((sum, point) => sum + point[axis], 0) / 4);
    const round = [...four].sort((one, other) => Math.atan2(one[1] - middle[1], one[0] - middle[0]) - Math.atan2(other[1] - middle[1], other[0] - middle[0]));
    const side = (i) => far(round[i % 4], round[(i + 1) % 4]);
    const first = side(0) + side(2) >= side(1) + side(3) ? 0 : 1;
    const [one, other] = [first, (first + 2) % 4].map((i) => round[i][1] + round[(i + 1) % 4][1]);
    const start = one <= other ? first : (first + 2) % 4;
    return [0, 1, 2, 3].map((i) => round[(start + i) % 4]);
  };

  // @param picture {data, width, height} as a canvas gives it
  // @returns four corners in its pixels, or null where no frame is plain to see
  const find = (picture) => {
    const small = shrunk(picture);
    const { grey, w, h, by } = small;
    const mask = dark(small);
    let best = null;
    pieces(mask, w, h).forEach((piece) => {
      if (piece.length < w * h * 0.0015 || piece.length > w * h * 0.4) return;
      const within = new Set(piece);
      const edge = piece.filter((at) => !within.has(at - 1) || !within.has(at + 1) || !within.has(at - w) || !within.has(at + w))
        .map((at) => [at % w, Math.floor(at / w)]);
      // One that runs out of the picture is no whole frame.
      if (edge.some(([x, y]) => x < 1 || y < 1 || x > w - 2 || y > h - 2)) return;
      const round = hull(edge);
      const rough = corners(round);
      if (!rough || area(rough) < area(round) * 0.9) return;
      const share = piece.length / area(round);
      if (share < DARK[0] || share > DARK[1]) return;
      // Only what lies outermost: the hull passes near it.
      const outer = edge.filter((point) => rough.some((from, i) => {
        const to = rough[(i + 1) % 4];
        return Math.abs((point[0] - from[0]) * (to[1] - from[1]) - (point[1] - from[1]) * (to[0] - from[0])) / far(from, to) < 1.6;
      }));
      const four = refined(rough, outer);
      if (!four) return;
      const middle = [0, 1].map((axis) => four.reduce((sum, point) => sum + point[axis], 0) / 4);
      const bright = grey[Math.round(middle[1]) * w + Math.round(middle[0])];
      const black = piece.reduce((sum, at) => sum + grey[at], 0) / piece.length;
      if (bright < black * 1.6) return;
      const sides = [0, 1, 2, 3].map((i) => far(four[i], four[(i + 1) % 4]));
      const [one, other] = [sides[0] + sides[2], sides[1] + sides[3]].sort((a, b) => b - a);
      if (one / other > 3.2) return;
      const score = area(four) * (bright - black);
      if (!best || score > best.score) best = { score, four };
    });
    // The middle of a cell, and half a cell outwards: the edge's cells lie within the frame.
    return best && grown(ordered(best.four)).map(([x, y]) => [(x + 0.5) * by, (y + 0.5) * by]);
  };
  const grown = (four) => {
    const middle = [0, 1].map((axis) => four.reduce((sum, point) => sum + point[axis], 0) / 4);
    return four.map(([x, y]) => {
      const long = Math.hypot(x - middle[0], y - middle[1]);
      return [x + ((x - middle[0]) / long) * 0.7, y + ((y - middle[1]) / long) * 0.7];
    });
  };

  globalThis.measuringCard = { find };
})();
