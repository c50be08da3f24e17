// The properties of what is picked: place, content, type, and when it is shown.
import { ALIGNS, KINDS } from "./names.js";
import { BANDS } from "./page.js";
import { choice, colour, element, number, redrawn, text, tick } from "./form.js";

export const properties = {
  // One value where all of them have it, null where they differ.
  same(get) {
    const values = this.work.those().map(p => get(p.piece));
    return values.every(v => v === values[0]) ? values[0] : null;
  },

  set(name, words) {
    return value => this.work.set(`${words} of ${this.work.name()}`, { [name]: value }, `prop-${name}`);
  },

  num(label, name, words, more) {
    return number(
      label,
      this.same(p => p[name]),
      this.set(name, words),
      more,
    );
  },

  flag(label, name, words) {
    return tick(
      label,
      this.same(p => p[name]),
      this.set(name, words),
    );
  },

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
  },

  row(...fields) {
    return element("div", { className: "studio-row" }, ...fields);
  },

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
  },

  fields() {
    return this.work.data.fields.map(([name, group, meaning]) => [
      name,
      `${meaning}${this.examples[name] ? `: ${this.examples[name].slice(0, 40)}` : ""}`,
      group,
    ]);
  },

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
  },

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
  },

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
  },
};
