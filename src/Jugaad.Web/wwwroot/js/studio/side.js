// The margin: the list of pieces, what was done, and the properties of what is picked, which stand in parts of their own.
import { KINDS } from "./names.js";
import { BANDS } from "./page.js";
import { element } from "./form.js";
import { paper } from "./paper.js";
import { properties } from "./properties.js";
import { tables } from "./tables.js";
import { uploads } from "./uploads.js";

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
}

Object.assign(Side.prototype, properties, tables, paper, uploads);
