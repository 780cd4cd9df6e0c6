// Measuring in a picture, as bin/reckon pictured does it, so that a figure is said where there is no signal too. The
// server reckons it again from the marks, and keeps its own.
(() => {
  const far = ([x, y], [u, v]) => Math.hypot(u - x, v - y);

  // The projective map that takes four places to four others; null for what lies beyond the horizon.
  const projective = (from, to) => {
    const rows = from.flatMap(([x, y], i) => {
      const [u, v] = to[i];
      return [[x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]];
    });
    rows.forEach((_, column) => {
      let best = column;
      for (let row = column; row < 8; row += 1) if (Math.abs(rows[row][column]) > Math.abs(rows[best][column])) best = row;
      [rows[column], rows[best]] = [rows[best], rows[column]];
      rows.forEach((row, i) => {
        if (i === column) return;
        const times = row[column] / rows[column][column];
        row.forEach((_, j) => { row[j] -= times * rows[column][j]; });
      });
    });
    const [a, b, c, d, e, f, g, h] = rows.map((row, i) => row[8] / row[i]);
    return ([x, y]) => {
      const off = g * x + h * y + 1;
      return off > 1e-9 ? [(a * x + b * y + c) / off, (d * x + e * y + f) / off] : null;
    };
  };

  // Each corner turns to the right: four corners of a card, round as a clock goes.
  const sound = (corners) => corners.every((middle, i) => {
    const [one, other] = [corners[(i + 3) % 4], corners[(i + 1) % 4]];
    const [back, on] = [[middle[0] - one[0], middle[1] - one[1]], [other[0] - middle[0], other[1] - middle[1]]];
    const size = Math.hypot(...back) * Math.hypot(...on);
    return size > 0 && (back[0] * on[1] - back[1] * on[0]) / size > 0.01;
  });

  // How far the worst side is from its length under the similarity that fits the corners best.
  const askew = (corners, card) => {
    const about = (four) => {
      const middle = [0, 1].map((axis) => four.reduce((sum, place) => sum + place[axis], 0) / 4);
      return four.map(([x, y]) => [x - middle[0], y - middle[1]]);
    };
    const [z, w] = [about(corners), about(card)];
    let [real, turned, size] = [0, 0, 0];
    z.forEach(([x, y], i) => {
      real += x * w[i][0] + y * w[i][1];
      turned += x * w[i][1] - y * w[i][0];
      size += x * x + y * y;
    });
    const scale = Math.hypot(real, turned) / size;
    return Math.max(...z.map((place, i) => {
      const mm = far(w[i], w[(i + 1) % 4]);
      return Math.abs(far(place, z[(i + 1) % 4]) * scale - mm) / mm;
    }));
  };

  const outline = (points) => {
    let [area, long, ends] = [0, 0, null];
    points.forEach(([x, y], i) => {
      const [u, v] = points[(i + 1) % points.length];
      area += x * v - u * y;
      points.slice(i + 1).forEach((other) => { if (far(points[i], other) > long) { long = far(points[i], other); ends = [points[i], other]; } });
    });
    const [from, to] = ends ?? [points[0], points[0]];
    const off = points.map(([x, y]) => ((x - from[0]) * (to[1] - from[1]) - (y - from[1]) * (to[0] - from[0])) / (long || 1));
    return { a: long, b: Math.max(...off) - Math.min(...off), area: Math.abs(area) / 2 };
  };

  const shape = (kind, points) => {
    if (kind === "outline") return outline(points);
    const long = far(points[0], points[1]);
    if (kind === "length") return { a: long, b: null, area: null };
    const [a, b] = [long, far(points[2], points[3])].sort((one, other) => other - one);
    return { a, b, area: (Math.PI * a * b) / 4 };
  };

  // @param marks {kind, points, corners, width_mm, height_mm} or {kind, points, ruler, ruler_mm}, and mark_px
  // @returns {a, b, mean, area, error, askew}, or null where the marks measure nothing
  const measure = (marks) => {
    const { kind, points, corners, ruler, mark_px: mark } = marks;
    const card = corners && [[0, 0], [marks.width_mm, 0], [marks.width_mm, marks.height_mm], [0, marks.height_mm]];
    const figures = (all) => {
      const pairs = [];
      for (let i = 0; i < all.length; i += 2) pairs.push([all[i], all[i + 1]]);
      const [set, known] = [pairs.slice(0, points.length), pairs.slice(points.length)];
      if (corners && !sound(known)) return null;
      const plane = corners ? projective(known, card) : ([x, y]) => { const scale = marks.ruler_mm / far(...known); return [x * scale, y * scale]; };
      const places = set.map(plane);
      if (places.some((place) => !place || !place.every(Number.isFinite))) return null;
      const told = shape(kind, places);
      return { ...told, mean: told.area === null ? told.a : Math.sqrt((4 * told.area) / Math.PI) };
    };
    const all = [...points, ...(corners ?? ruler)].flat();
    const found = figures(all);
    if (!found || !(found.a > 0)) return null;
    const STEP = 0.01;
    let error = 0;
    for (let i = 0; i < all.length; i += 1) {
      const other = figures(all.map((each, j) => (j === i ? each + STEP : each)));
      if (!other) return null;
      const name = kind === "length" ? "a" : "mean";
      error += (((other[name] - found[name]) / STEP) * mark) ** 2;
    }
    return { ...found, error: Math.sqrt(error), askew: corners ? askew(corners, card) : 0 };
  };

  globalThis.pictured = { measure, projective, sound };
})();
