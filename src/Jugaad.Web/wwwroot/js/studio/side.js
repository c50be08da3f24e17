// The margin: the list of pieces, the properties of what is picked, and what was done.
import { BANDS } from "./page.js";
import { act, choice, colour, element, number, redrawn, text, tick } from "./form.js";

const KINDS = {
  words: "words",
  field: "field",
  block: "block",
  table: "table",
  picture: "picture",
  rule: "rule",
  frame: "frame",
  code: "code",
  pageCount: "page count",
};
const TABLES = [
  ["lines", "what is sold"],
  ["taxes", "taxes by rate"],
  ["totals", "what it comes to"],
  ["facts", "the facts: date, due day …"],
];
const ALIGNS = [
  ["left", "left"],
  ["middle", "middle"],
  ["right", "right"],
];
const SIZES = [
  ["", "its own"],
  ["210×297", "A4"],
  ["297×210", "A4 across"],
  ["215.9×279.4", "Letter"],
  ["279.4×215.9", "Letter across"],
  ["148×210", "A5"],
  ["210×148", "A5 across"],
  ["80×0", "strip of 80 mm"],
  ["58×0", "strip of 58 mm"],
];

export const takenPictures = ["image/svg+xml", "image/png", "image/jpeg", "image/webp", "application/pdf"];

export class Side {
  constructor(work, page, shown) {
    Object.assign(this, { work, page, shown, examples: {} });
    this.inks = { dark: "#22282B", quiet: "#566065", rule: "#DDD6C7", accent: work.layout.accent, wash: "#FAF7F0" };
    const names = element(
      "datalist",
      { id: "studio-inks" },
      ...Object.keys(this.inks).map(value => element("option", { value })),
    );
    document.getElementById("studio").append(names);
    this.list = document.getElementById("pieces");
    this.props = document.getElementById("props");
    this.title = document.getElementById("props-title");
    this.done = document.getElementById("done");
    work.addEventListener("picked", () => {
      this.pieces();
      this.properties();
    });
    work.addEventListener("changed", () => {
      this.pieces();
      this.properties();
      this.steps();
    });
    this.list.addEventListener("keydown", event => this.key(event));
    this.pieces();
    this.properties();
    this.steps();
  }

  // The list, by bands, for who does not see the page and for what is hard to hit.
  pieces() {
    const rows = [];
    for (const band of this.work.layout.bands) {
      rows.push(element("li", { className: "studio-band", role: "presentation" }, BANDS[band.kind]));
      for (const piece of band.pieces) {
        const picked = this.work.picked.includes(piece.id);
        const said = [piece.hidden ? "hidden" : "", piece.locked ? "locked" : "", piece.group]
          .filter(Boolean)
          .join(", ");
        const row = element(
          "li",
          {
            role: "option",
            id: `piece-${piece.id}`,
            className: `studio-piece${picked ? " picked" : ""}${piece.hidden ? " hidden" : ""}`,
            on: {
              click: e => {
                this.work.pick([piece.id], e.shiftKey || e.ctrlKey);
                this.page.reveal();
              },
            },
          },
          element("span", {}, piece.id),
          element("span", { className: "quiet small" }, ` ${this.says(piece)}${said ? ` (${said})` : ""}`),
        );
        row.setAttribute("aria-selected", picked);
        rows.push(row);
      }
    }
    const top = this.list.scrollTop;
    this.list.replaceChildren(...rows);
    this.list.scrollTop = top;
    const last = this.work.picked.at(-1);
    if (last) {
      this.list.setAttribute("aria-activedescendant", `piece-${last}`);
      this.into(document.getElementById(`piece-${last}`));
    }
  }
  // Brings a row into sight within the list, and moves nothing else.
  into(row) {
    if (!row) return;
    const at = row.offsetTop - this.list.offsetTop;
    if (at < this.list.scrollTop || at + row.offsetHeight > this.list.scrollTop + this.list.clientHeight)
      this.list.scrollTop = at - 60;
  }
  says(piece) {
    const example = piece.kind === "field" ? this.examples[piece.field] : "";
    return piece.kind === "words"
      ? `“${piece.text.slice(0, 26)}”`
      : piece.kind === "field"
        ? `${piece.field}${example ? `: ${example.slice(0, 24)}` : ""}`
        : piece.kind === "picture"
          ? piece.picture
          : KINDS[piece.kind];
  }
  key(event) {
    const ids = this.work.pieces().map(p => p.piece.id),
      at = ids.indexOf(this.work.picked.at(-1));
    const to = { ArrowDown: at + 1, ArrowUp: at < 0 ? 0 : at - 1, Home: 0, End: ids.length - 1 }[event.key];
    if (to !== undefined && ids[to]) {
      this.work.pick(event.shiftKey ? [...new Set([...this.work.picked, ids[to]])] : [ids[to]]);
      this.page.reveal();
    } else if (event.key === "Enter") this.focus();
    else if (event.key === "Escape") this.page.desk.focus();
    else if (event.key === "Delete") this.work.takeAway();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  focus() {
    this.props.querySelector("input, select, textarea")?.focus();
  }

  steps() {
    this.done.replaceChildren(
      ...this.work.steps
        .map((step, i) =>
          element(
            "li",
            {},
            element(
              "button",
              {
                type: "button",
                className: `plain${i === this.work.at ? " now" : ""}${i > this.work.at ? " quiet" : ""}`,
                "aria-label": `go to the step: ${step.words}`,
                on: { click: () => this.work.go(i) },
              },
              step.words,
            ),
          ),
        )
        .reverse(),
    );
    document.getElementById("undo").disabled = this.work.at === 0;
    document.getElementById("redo").disabled = this.work.at === this.work.steps.length - 1;
  }

  // One value where all of them have it, null where they differ.
  same(get) {
    const values = this.work.those().map(p => get(p.piece));
    return values.every(v => v === values[0]) ? values[0] : null;
  }
  set(name, words) {
    return value => this.work.set(`${words} of ${this.work.name()}`, { [name]: value }, `prop-${name}`);
  }
  num(label, name, words, more) {
    return number(
      label,
      this.same(p => p[name]),
      this.set(name, words),
      more,
    );
  }
  flag(label, name, words) {
    return tick(
      label,
      this.same(p => p[name]),
      this.set(name, words),
    );
  }

  properties() {
    const those = this.work.those();
    if (!those.length) {
      this.title.textContent = "The page";
      redrawn(this.props, this.pageProps());
      return;
    }
    const one = those.length === 1 ? those[0].piece : null;
    this.title.textContent = one ? `${one.id}: ${KINDS[one.kind]}` : `${those.length} pieces`;
    const parts = [];
    if (one) parts.push(...this.contentProps(one, those[0].band));
    parts.push(
      this.row(
        this.num(one?.after ? "Gap" : "Left", "x", "place"),
        this.num("Top", "y", "place"),
        this.num("Wide", "width", "width"),
        this.num("High", "height", "height"),
      ),
    );
    if (those.some(p => !["picture", "rule", "code", "frame"].includes(p.piece.kind))) parts.push(...this.typeProps());
    if (those.every(p => ["rule", "frame"].includes(p.piece.kind)))
      parts.push(
        this.row(
          this.num("Line, mm", "stroke", "line"),
          colour(
            "Colour",
            this.same(p => p.colour),
            this.inks,
            this.set("colour", "colour"),
          ),
        ),
      );
    parts.push(
      this.row(
        colour(
          "Behind it",
          this.same(p => p.background),
          this.inks,
          this.set("background", "ground"),
          "nothing",
        ),
      ),
    );
    parts.push(
      element(
        "div",
        { className: "studio-ticks" },
        this.flag("hidden, keeps its place", "hidden", "hiding"),
        this.flag("locked", "locked", "locking"),
      ),
    );
    const more = element(
      "details",
      {
        className: "fold",
        open: this.moreOpen,
        on: {
          toggle: e => {
            this.moreOpen = e.target.open;
          },
        },
      },
      element("summary", {}, "When it is shown, and how it moves"),
    );
    more.append(
      element(
        "div",
        { className: "studio-ticks" },
        this.flag("closes up where there is less", "closesUp", "closing up"),
        this.flag("stays where it is", "fixed", "staying"),
        this.flag("shrinks to its height", "shrinks", "shrinking"),
      ),
      this.row(this.num("Room below", "below", "room below")),
    );
    if (one) more.append(...this.whenProps(one, those[0].band));
    parts.push(more);
    redrawn(this.props, parts);
  }
  row(...fields) {
    return element("div", { className: "studio-row" }, ...fields);
  }

  typeProps() {
    const faces = [["", "as the page"], ...this.faces()];
    return [
      this.row(
        choice(
          "Typeface",
          this.same(p => p.face),
          faces,
          this.set("face", "typeface"),
          { wide: true },
        ),
        this.num("Size, pt (0: the page’s)", "size", "size", { step: 0.5 }),
      ),
      this.row(
        colour(
          "Colour",
          this.same(p => p.colour),
          this.inks,
          this.set("colour", "colour"),
        ),
        choice(
          "Stands",
          this.same(p => p.align),
          ALIGNS,
          this.set("align", "side"),
        ),
        this.num("Between lines", "leading", "lines"),
      ),
      element(
        "div",
        { className: "studio-ticks" },
        this.flag("bold", "bold", "weight"),
        this.flag("slanted", "italic", "slant"),
      ),
    ];
  }

  fields() {
    return this.work.data.fields.map(([name, group, meaning]) => [
      name,
      `${meaning}${this.examples[name] ? `: ${this.examples[name].slice(0, 40)}` : ""}`,
      group,
    ]);
  }
  // Puts a field where the cursor is.
  fieldInto(area, set) {
    const options = [
      ["", "put in a field …"],
      ...this.fields(),
      ...this.work.data.words.map(w => [
        `Word.${w}`,
        `the word: ${w}`,
        "Words of the program, in the paper’s language",
      ]),
    ];
    return choice(
      "Field",
      "",
      options,
      name => {
        if (!name) return;
        const at = area.selectionStart ?? area.value.length,
          put = `{{ ${name} }}`;
        area.value = area.value.slice(0, at) + put + area.value.slice(area.selectionEnd ?? at);
        set(area.value);
        area.focus();
        area.setSelectionRange(at + put.length, at + put.length);
      },
      { wide: true },
    );
  }

  contentProps(piece, band) {
    const set = this.set.bind(this),
      parts = [];
    if (piece.kind === "words") {
      const words = text("Words", piece.text, set("text", "words"), { rows: 2 });
      parts.push(words, this.fieldInto(words.querySelector("textarea"), set("text", "words")));
    } else if (piece.kind === "field")
      parts.push(choice("Field", piece.field, this.fields(), set("field", "field"), { wide: true }));
    else if (piece.kind === "block") {
      const lines = value => this.work.set(`lines of ${piece.id}`, { lines: value.split("\n") }, "prop-lines");
      const area = text("Lines, which close up where one is empty", piece.lines.join("\n"), lines, {
        rows: Math.max(3, piece.lines.length + 1),
      });
      parts.push(area, this.fieldInto(area.querySelector("textarea"), lines));
    } else if (piece.kind === "table") parts.push(...this.tableProps(piece));
    else if (piece.kind === "picture") {
      const own = Object.keys(this.work.layout.pictures).map(k => [k, k]);
      parts.push(
        choice(
          "Picture",
          piece.picture,
          [["logo", "the logo"], ["signature", "the signature"], ...own],
          set("picture", "picture"),
          { wide: true },
        ),
        this.upload("Another picture (PNG, JPEG, WebP)", key =>
          this.work.set(`picture of ${piece.id}`, { picture: key }),
        ),
      );
    } else if (piece.kind === "code")
      parts.push(
        choice("It says", piece.field, [["", "words of one’s own"], ...this.fields()], set("field", "code"), {
          wide: true,
        }),
        piece.field ? null : text("Words", piece.text, set("text", "code"), { wide: true }),
        element("div", { className: "studio-ticks" }, this.flag("stripes in place of squares", "stripes", "stripes")),
      );
    return parts.filter(Boolean);
  }

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
  }
  usualColumns(of) {
    return this.work.data.columns[of].map(key => ({
      ...structuredClone(this.work.data.table.table.columns[0]),
      key,
      width: key === "Text" || key === "Label" ? 0 : key === "Unit" || key === "No" ? 10 : 18,
      align: key === "Text" || key === "Label" || key === "Unit" ? "left" : "right",
    }));
  }

  whenProps(piece, band) {
    const when = values =>
      this.work.set(`when ${piece.id} is shown`, p => ({ when: { ...p.when, ...values } }), "when");
    const several = value => value.split(/[\s,]+/).filter(Boolean);
    const others = band.pieces.filter(p => p.id !== piece.id && !p.after).map(p => [p.id, p.id]);
    return [
      this.row(
        choice(
          "Only where there is",
          piece.when.has,
          [
            ["", "anything or nothing"],
            ...this.fields().map(([n, w, g]) => [n, w, g]),
            ...this.work.data.fields.map(([n, , g]) => [`!${n}`, `no ${n}`, `Only where there is no …`]),
          ],
          has => when({ has }),
          { wide: true },
        ),
      ),
      this.row(
        choice(
          "On pages",
          piece.when.pages,
          [
            ["all", "all"],
            ["first", "the first"],
            ["later", "later ones"],
            ["last", "the last"],
          ],
          pages => when({ pages }),
        ),
        choice(
          "For",
          piece.when.customer,
          [
            ["", "everybody"],
            ["business", "businesses"],
            ["person", "people"],
          ],
          customer => when({ customer }),
        ),
      ),
      this.row(
        choice(
          "On papers of the kind",
          piece.when.kinds[0] ?? "",
          [
            ["", "all"],
            ...this.work.data.kinds.map(([k, n]) => [k, n]),
            ...this.work.data.kinds.map(([k, n]) => [`!${k}`, `all but ${n}`]),
          ],
          kind => when({ kinds: kind ? [kind] : [] }),
          { wide: true },
        ),
      ),
      this.row(
        text("Languages, such as sv de", piece.when.languages.join(" "), v => when({ languages: several(v) })),
        text("Currencies, such as SEK", piece.when.currencies.join(" "), v =>
          when({ currencies: several(v).map(c => c.toUpperCase()) }),
        ),
      ),
      element(
        "div",
        { className: "studio-ticks" },
        tick("only on drafts", piece.when.draft, draft => when({ draft })),
      ),
      this.row(
        choice("In the band", band.kind, Object.entries(BANDS), kind => this.work.toBand(piece.id, kind, piece.y)),
        choice("Follows, on its line", piece.after, [["", "nothing"], ...others], after =>
          this.work.set(`${piece.id} follows`, { after, x: after ? 3 : piece.x }),
        ),
      ),
    ];
  }

  pageProps() {
    const layout = this.work.layout,
      set = (name, words) => value => this.work.setPage(words, { [name]: value }, `page-${name}`);
    const places = value =>
      value
        .split(/[\s,;]+/)
        .map(Number)
        .filter(n => Number.isFinite(n) && n > 0);
    const pictures = Object.keys(layout.pictures);
    const ground = values => this.work.setPage("the ground", { ground: values });
    const named = text("Name", document.getElementById("layout-name").textContent, () => {}, { wide: true });
    named.querySelector("input").addEventListener("change", async event => {
      const name = await this.shown.rename(event.target.value);
      if (name) document.getElementById("layout-name").textContent = name;
    });
    return [
      named,
      text("What it is good for", layout.about, set("about", "what it is good for"), { rows: 2 }),
      this.row(
        choice("Size", SIZES.find(([k]) => k === `${layout.width}×${layout.height}`)?.[0] ?? "", SIZES, size => {
          if (size) {
            const [width, height] = size.split("×").map(Number);
            this.work.setPage("size of the page", { width, height });
          }
        }),
        number("Width, mm", layout.width, set("width", "width of the page")),
        number("Height, mm (0: a strip)", layout.height, set("height", "height of the page")),
      ),
      this.row(
        number("Margin left", layout.left, set("left", "margin")),
        number("top", layout.top, set("top", "margin")),
        number("right", layout.right, set("right", "margin")),
        number("bottom", layout.bottom, set("bottom", "margin")),
      ),
      this.row(
        choice("Typeface", layout.face, this.faces(), set("face", "typeface of the page"), { wide: true }),
        number("Size of type, pt", layout.size, set("size", "size of the page’s type"), { step: 0.5, min: 4 }),
      ),
      this.row(
        colour(
          "The ink accent",
          layout.accent,
          this.inks,
          v => /^#/.test(v) && this.work.setPage("the accent", { accent: v }, "accent"),
        ),
        choice(
          "Words also in",
          layout.secondLanguage,
          [["", "no other language"], ...this.work.data.languages],
          set("secondLanguage", "second language"),
        ),
      ),
      this.ownFaces(layout),
      element(
        "details",
        { className: "fold", open: !!layout.ground },
        element("summary", {}, "A ground: letterhead beneath all"),
        pictures.length
          ? choice("Picture", layout.ground?.picture ?? "", [["", "none"], ...pictures.map(k => [k, k])], key =>
              ground(key ? { firstOnly: false, mailOnly: false, ...layout.ground, picture: key } : null),
            )
          : null,
        this.upload("Its picture (SVG, PNG, JPEG, WebP, or a PDF page), as large as the page", key =>
          ground({ firstOnly: false, mailOnly: false, ...layout.ground, picture: key }),
        ),
        layout.ground
          ? element(
              "div",
              { className: "studio-ticks" },
              tick("beneath the first page only", layout.ground.firstOnly, firstOnly =>
                ground({ ...layout.ground, firstOnly }),
              ),
              tick("not where it is printed here", layout.ground.mailOnly, mailOnly =>
                ground({ ...layout.ground, mailOnly }),
              ),
            )
          : "",
      ),
      element(
        "details",
        { className: "fold" },
        element("summary", {}, "Guides and bands"),
        this.row(
          text("Guides, mm from the left", layout.guidesAcross.join(" "), v =>
            this.work.setPage("guides", { guidesAcross: places(v) }, "guides"),
          ),
          text("mm from the top", layout.guidesDown.join(" "), v =>
            this.work.setPage("guides", { guidesDown: places(v) }, "guides"),
          ),
        ),
        this.row(
          ...layout.bands.map(b =>
            number(`Height: ${BANDS[b.kind]}`, b.height, height =>
              this.work.setBand(b.kind, `height of the ${BANDS[b.kind]}`, { height }, `band-${b.kind}`),
            ),
          ),
        ),
      ),
    ];
  }

  // Those that ship, and those that go with this layout.
  faces() {
    return [
      ...this.work.data.faces,
      ...Object.entries(this.work.layout.typefaces ?? {}).map(([key, face]) => [key, face.name]),
    ];
  }
  ownFaces(layout) {
    const own = Object.entries(layout.typefaces ?? {}),
      styles = [
        ["regular", "regular"],
        ["bold", "bold"],
        ["italic", "slanted"],
        ["boldItalic", "bold and slanted"],
      ];
    const input = (id, label, done) => {
      const file = element("input", {
        type: "file",
        id,
        className: "form-control",
        accept: ".ttf,.otf,font/ttf,font/otf",
        on: { change: e => e.target.files[0] && done(e.target.files[0]) },
      });
      return element("div", { className: "studio-field wide" }, element("label", { htmlFor: id }, label), file);
    };
    return element(
      "details",
      { className: "fold", open: own.length > 0 },
      element("summary", {}, "Typefaces of your own"),
      ...own.flatMap(([key, face]) => [
        element(
          "p",
          { className: "quiet small" },
          `${face.name}: ${styles
            .filter(([s]) => face[s])
            .map(([, w]) => w)
            .join(", ")} `,
          act("take away", () => this.dropFace(key), `take away the typeface ${face.name}`),
        ),
        ...styles
          .filter(([s]) => !face[s])
          .map(([s, w]) =>
            input(`face-${key}-${s}`, `${face.name}, ${w} (TTF or OTF)`, file => this.takeFace(file, key, s)),
          ),
      ]),
      own.length < 4
        ? input("face-new", "Another typeface (TTF or OTF), its regular file", file => this.takeFace(file))
        : null,
    );
  }
  dropFace(key) {
    const { [key]: gone, ...typefaces } = this.work.layout.typefaces,
      without = face => (face === key ? "" : face);
    this.work.setPage(`took away the typeface ${gone.name}`, {
      typefaces,
      face: this.work.layout.face === key ? "clear" : this.work.layout.face,
      bands: this.work.layout.bands.map(b => ({ ...b, pieces: b.pieces.map(p => ({ ...p, face: without(p.face) })) })),
    });
  }
  async takeFace(file, key = "", style = "regular") {
    if (file.size > 1_000_000) {
      this.shown.say(`${file.name} is larger than 1 MB. Take a file with fewer letters.`, true);
      return;
    }
    const data = await this.bytes(file),
      answer = await jugaad.post("/api/layouts/typeface", { data, name: file.name });
    if (!answer.ok) {
      this.shown.say(answer.data.refusals?.map(r => `${file.name}: ${r.message}`).join(" ") ?? jugaad.noAnswer, true);
      return;
    }
    const typefaces = this.work.layout.typefaces ?? {};
    if (!key) {
      key = this.stem(file.name, "typeface");
      for (let n = 2, stem = key; typefaces[key] || this.work.data.faces.some(([k]) => k === key); n++)
        key = `${stem}-${n}`;
    }
    const face = typefaces[key] ?? { name: file.name.replace(/\.[^.]*$/, "").slice(0, 60) };
    this.work.setPage(`took in the typeface ${face.name}`, {
      typefaces: { ...typefaces, [key]: { ...face, [style]: data } },
    });
  }
  async bytes(file) {
    const bytes = new Uint8Array(await file.arrayBuffer());
    let binary = "";
    for (let i = 0; i < bytes.length; i += 8192) binary += String.fromCharCode(...bytes.subarray(i, i + 8192));
    return btoa(binary);
  }
  stem(name, otherwise) {
    return (
      name
        .replace(/\.[^.]*$/, "")
        .replace(/[^A-Za-z0-9]+/g, "-")
        .replace(/^[^A-Za-z]+/, "")
        .replace(/-+$/, "")
        .slice(0, 30) || otherwise
    );
  }

  upload(label, done) {
    const file = element("input", {
      type: "file",
      className: "form-control",
      accept: takenPictures.join(),
      on: { change: e => e.target.files[0] && this.takePicture(e.target.files[0], done) },
    });
    file.id = `upload-${label.length}`;
    return element("div", { className: "studio-field wide" }, element("label", { htmlFor: file.id }, label), file);
  }
  async takePicture(file, done) {
    if (!takenPictures.includes(file.type)) {
      this.shown.say(`${file.name} is no SVG, PNG, JPEG, WebP or PDF.`, true);
      return;
    }
    if (file.size > 2_000_000) {
      this.shown.say(`${file.name} is larger than 2 MB. Make it smaller first.`, true);
      return;
    }
    // Read and written anew before it is put anywhere, so that what is seen is what is kept.
    const answer = await jugaad.post("/api/layouts/picture", { data: await this.bytes(file), name: file.name });
    if (!answer.ok) {
      this.shown.say(answer.data.refusals?.map(r => r.message).join(" ") ?? jugaad.noAnswer, true);
      return;
    }
    const stem = this.stem(file.name, "picture");
    let key = ["logo", "signature"].includes(stem) ? `${stem}-own` : stem;
    for (let n = 2; this.work.layout.pictures[key]; n++) key = `${stem}-${n}`;
    this.work.setPage(`took in the picture ${key}`, { pictures: { ...this.work.layout.pictures, [key]: answer.data } });
    done(key);
  }
}
