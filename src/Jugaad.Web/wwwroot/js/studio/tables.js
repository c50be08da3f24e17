// The properties of a table: its columns, their order, widths and heads.
import { ALIGNS } from "./names.js";
import { act, choice, colour, element, number, tick } from "./form.js";

const TABLES = [
  ["lines", "what is sold"],
  ["taxes", "taxes by rate"],
  ["totals", "what it comes to"],
  ["facts", "the facts: date, due day …"],
];

export const tables = {
  tableProps(piece) {
    const table = piece.table,
      put = (words, values, run = "") =>
        this.work.set(
          `${words} of ${piece.id}`,
          p => ({ table: { ...p.table, ...(typeof values === "function" ? values(p.table) : values) } }),
          run,
        );
    const column = (i, values, run) =>
      put("a column", t => ({ columns: t.columns.map((c, n) => (n === i ? { ...c, ...values } : c)) }), run);
    const parts = [
      choice("It tells", table.of, TABLES, of => put("what it tells", { of, columns: this.usualColumns(of) }), {
        wide: true,
      }),
    ];
    const keys = this.work.data.columns[table.of];
    if (keys.length) {
      const head = element(
        "tr",
        {},
        ...["Column", "Its head", "Wide", "Stands", ""].map(h =>
          element("th", {}, h || element("span", { className: "sr" }, "More")),
        ),
      );
      const body = table.columns.map((c, i) =>
        element(
          "tr",
          {},
          element("th", { scope: "row" }, c.key),
          element(
            "td",
            {},
            element("input", {
              className: "form-control",
              value: c.title,
              placeholder: "its word",
              "aria-label": `head of ${c.key}`,
              "data-prop": `title-${c.key}`,
              on: { input: e => column(i, { title: e.target.value }, `title-${i}`) },
            }),
          ),
          element(
            "td",
            {},
            element("input", {
              type: "number",
              min: 0,
              step: 0.5,
              className: "form-control",
              value: c.width,
              title: "0: what the others leave",
              "aria-label": `width of ${c.key}`,
              "data-prop": `width-${c.key}`,
              on: {
                input: e =>
                  Number.isFinite(e.target.valueAsNumber) && column(i, { width: e.target.valueAsNumber }, `width-${i}`),
              },
            }),
          ),
          element(
            "td",
            {},
            element(
              "select",
              {
                className: "form-select",
                "aria-label": `side of ${c.key}`,
                "data-prop": `align-${c.key}`,
                on: { change: e => column(i, { align: e.target.value }) },
              },
              ...ALIGNS.map(([v, w]) => element("option", { value: v, selected: c.align === v }, w)),
            ),
          ),
          element(
            "td",
            { className: "nowrap" },
            i > 0
              ? act(
                  "↑",
                  () =>
                    put("the order", t => ({
                      columns: t.columns.map((x, n, all) => (n === i - 1 ? all[i] : n === i ? all[i - 1] : x)),
                    })),
                  `↑ ${c.key} earlier`,
                )
              : null,
            act(
              "×",
              () => put("a column less", t => ({ columns: t.columns.filter((_, n) => n !== i) })),
              `× take ${c.key} away`,
            ),
          ),
        ),
      );
      parts.push(
        element(
          "div",
          { className: "studio-columns" },
          element("table", {}, element("thead", {}, head), element("tbody", {}, ...body)),
        ),
      );
      const missing = keys.filter(k => !table.columns.some(c => c.key === k));
      if (missing.length)
        parts.push(
          choice(
            "Another column",
            "",
            [["", "put in …"], ...missing.map(k => [k, k])],
            key =>
              key &&
              put("a column more", t => ({
                columns: [
                  ...t.columns,
                  {
                    ...structuredClone(this.work.data.table.table.columns[0]),
                    key,
                    width: key === "Text" || key === "Label" ? 0 : 15,
                    align: key === "Text" || key === "Label" || key === "Unit" ? "left" : "right",
                  },
                ],
              })),
          ),
        );
    } else
      parts.push(
        number(
          "Beside each other, at most",
          table.perRow,
          perRow => put("facts in a row", { perRow: Math.max(1, Math.min(12, Math.round(perRow))) }, "per-row"),
          { step: 1, min: 1 },
        ),
      );
    parts.push(
      element(
        "div",
        { className: "studio-ticks" },
        ...(keys.length
          ? [
              tick("heads", table.heads, heads => put("heads", { heads })),
              tick("two lines a row, for strips", table.stacked, stacked => put("stacking", { stacked })),
            ]
          : []),
        tick("rules", table.ruled, ruled => put("rules", { ruled })),
      ),
    );
    parts.push(
      this.row(
        number("Heads, pt", table.headSize, headSize => put("size of heads", { headSize }, "head-size"), { step: 0.5 }),
        number("Room below rows", table.rowGap, rowGap => put("room between rows", { rowGap }, "row-gap")),
        colour(
          "Every second row",
          table.striped,
          this.inks,
          striped => put("stripes", { striped }, "striped"),
          "nothing",
        ),
      ),
    );
    if (table.of === "totals") {
      const sum = (values, run) => put("the sum", t => ({ sum: { ...t.sum, ...values } }), run);
      parts.push(
        element("h3", {}, "What it comes to"),
        this.row(
          number("Size of the sum, pt", table.sum.size, size => sum({ size }, "sum-size"), { step: 0.5 }),
          colour("Colour of the sum", table.sum.colour, this.inks, c => sum({ colour: c }, "sum-colour")),
        ),
        element(
          "div",
          { className: "studio-ticks" },
          tick("the sum bold", table.sum.bold, bold => sum({ bold })),
          tick("double rule beneath", table.sum.doubleRule, doubleRule => sum({ doubleRule })),
        ),
      );
    }
    return parts;
  },

  usualColumns(of) {
    return this.work.data.columns[of].map(key => ({
      ...structuredClone(this.work.data.table.table.columns[0]),
      key,
      width: key === "Text" || key === "Label" ? 0 : key === "Unit" || key === "No" ? 10 : 18,
      align: key === "Text" || key === "Label" || key === "Unit" ? "left" : "right",
    }));
  },
};
