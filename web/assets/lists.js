// Lists: sorted by the heading that is pressed, and the filters of a page remembered for the next way there.
(() => {
  const stored = (key) => { try { return localStorage.getItem(key); } catch { return null; } };
  const store = (key, value) => { try { localStorage.setItem(key, value); } catch { /* A browser that keeps nothing. */ } };

  const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];
  const WORTH = { m: 1000, ft: 304.8, in: 25.4 };
  const DAY = 86400000;
  // What a cell is sorted by: its day, or a day as it comes every year; a number with its unit, else its words.
  const worth = (cell) => {
    const day = cell?.querySelector("time[datetime]");
    if (day) return [0, Date.parse(day.dateTime) / DAY];
    const text = cell?.textContent.trim().replace(/\s+/g, " ") ?? "";
    const yearly = text.match(/^(\d{1,2}) ([a-z]{3})[a-z]*\b/i);
    const month = yearly ? MONTHS.indexOf(yearly[2].toLowerCase()) : -1;
    if (month >= 0) return [0, month * 31 + Number(yearly[1])];
    // Feet, whole inches and their eighths: "3 ft 2 1/2 in", "8 3/4 in", "3/8 in".
    const inches = text.match(/^(?:(\d+) ft )?(?:(\d+) )?(?:(\d+)\/(\d+) )?in\b/);
    if (inches) {
      const [feet, whole, over, under] = inches.slice(1).map((each) => Number(each ?? 0));
      return [0, WORTH.ft * feet + WORTH.in * (whole + (under ? over / under : 0))];
    }
    if (text.startsWith("under 1 %")) return [0, 0.5];
    const number = text.match(/^(-?[\d.]+)\s*(mm|m|ft|in|%)?(?:[\s,]|$)/);
    if (number) return [0, Number(number[1]) * (WORTH[number[2]] ?? 1)];
    return text === "" || text === "–" ? [2, ""] : [1, text];
  };
  const compare = (a, b) => a[0] - b[0] || (a[0] === 0 ? a[1] - b[1] : String(a[1]).localeCompare(String(b[1]), undefined, { numeric: true }));

  const sort = (table, column, down) => {
    const body = table.tBodies[0];
    const rows = [...body.rows].map((row, at) => ({ row, at, by: worth(row.cells[column]) }));
    rows.sort((a, b) => (down ? compare(b.by, a.by) : compare(a.by, b.by)) || a.at - b.at);
    body.append(...rows.map((each) => each.row));
    table.querySelectorAll("thead th").forEach((th, at) => {
      if (at === column) th.setAttribute("aria-sort", down ? "descending" : "ascending"); else th.removeAttribute("aria-sort");
    });
  };

  const key = (table) => `order:${location.pathname}:${[...document.querySelectorAll("table[data-sorts]")].indexOf(table)}`;
  const bind = () => document.querySelectorAll("table[data-sorts]:not([data-bound])").forEach((table) => {
    table.dataset.bound = "yes";
    table.querySelectorAll("thead th").forEach((th, column) => {
      if (th.querySelector(".visually-hidden") || th.textContent.trim() === "") return;
      const button = document.createElement("button");
      button.type = "button";
      button.className = "sorts";
      button.append(...th.childNodes);
      th.append(button);
      button.addEventListener("click", () => {
        const down = th.getAttribute("aria-sort") === "ascending";
        sort(table, column, down);
        store(key(table), `${column} ${down}`);
      });
    });
    const [column, down] = (stored(key(table)) ?? "").split(" ");
    if (column && table.rows[0]?.cells[Number(column)]) sort(table, Number(column), down === "true");
  });
  bind();
  document.addEventListener("swapped", bind);

  // The filters last chosen on a page; the way back to it leads to them.
  const filters = (path) => `filters:${path}`;
  document.addEventListener("click", (event) => {
    const link = event.target.closest("nav.facets a");
    if (link && link.pathname === location.pathname) store(filters(link.pathname), link.search === "?" ? "" : link.search);
  });
  document.querySelectorAll(".stations a, .year-strip a").forEach((link) => {
    const last = link.search === "" && stored(filters(link.pathname));
    if (last) link.search = last;
  });
})();
