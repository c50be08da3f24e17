// The properties of the page itself: its size and margins, typefaces, ground, guides and bands.
import { BANDS } from "./page.js";
import { act, choice, colour, element, number, text, tick } from "./form.js";

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

export const paper = {
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
  },

  // Those that ship, and those that go with this layout.
  faces() {
    return [
      ...this.work.data.faces,
      ...Object.entries(this.work.layout.typefaces ?? {}).map(([key, face]) => [key, face.name]),
    ];
  },

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
  },

  dropFace(key) {
    const { [key]: gone, ...typefaces } = this.work.layout.typefaces,
      without = face => (face === key ? "" : face);
    this.work.setPage(`took away the typeface ${gone.name}`, {
      typefaces,
      face: this.work.layout.face === key ? "clear" : this.work.layout.face,
      bands: this.work.layout.bands.map(b => ({ ...b, pieces: b.pieces.map(p => ({ ...p, face: without(p.face) })) })),
    });
  },

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
  },
};
