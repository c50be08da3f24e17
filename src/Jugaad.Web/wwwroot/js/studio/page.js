// The page on the workbench: the drawing that the server made, and over it what is picked, moved and sized.
import { around, linesOf, snapped } from "./arrange.js";
import { round } from "./work.js";

const NS = "http://www.w3.org/2000/svg";
const PX = 96 / 25.4;
const BANDS = {
  firstHead: "first head",
  laterHead: "later head",
  lines: "lines",
  totals: "totals",
  closing: "closing",
  foot: "foot",
};

const make = (name, attributes, parent) => {
  const element = document.createElementNS(NS, name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  parent?.append(element);
  return element;
};

export class Page {
  constructor(work, desk) {
    this.work = work;
    this.desk = desk;
    this.zoom = 0;
    this.drawn = null;
    work.addEventListener("picked", () => this.over());
    addEventListener("resize", () => this.zoom === 0 && this.lay());
  }

  show(drawn) {
    this.drawn = drawn;
    const left = this.desk.scrollLeft,
      top = this.desk.scrollTop;
    this.desk.replaceChildren(...drawn.pages.map((svg, page) => this.sheet(svg, page)));
    this.lay();
    this.over();
    this.desk.scrollTo(left, top);
  }

  sheet(svg, page) {
    const sheet = document.createElement("div");
    sheet.className = "studio-page";
    sheet.dataset.page = page;
    const paper = document.createElement("div");
    paper.className = "studio-paper";
    paper.innerHTML = svg;
    sheet.append(this.ruler(true), this.ruler(false), paper);
    const over = make("svg", { class: "studio-over", viewBox: `0 0 ${this.drawn.width} ${this.drawn.height}` });
    paper.append(over);
    over.addEventListener("pointerdown", event => this.down(event, page, over));
    for (const band of this.drawn.bands.filter(b => b.page === page)) {
      const tab = document.createElement("span");
      tab.className = "studio-tab";
      tab.textContent = BANDS[band.band];
      tab.dataset.y = band.y;
      sheet.append(tab);
    }
    return sheet;
  }

  ruler(across) {
    const length = across ? this.drawn.width : this.drawn.height;
    const svg = make("svg", {
      class: `studio-ruler ${across ? "across" : "down"}`,
      viewBox: across ? `0 0 ${length} 5` : `0 0 5 ${length}`,
      "aria-hidden": "true",
    });
    let path = "";
    for (let mm = 0; mm <= length; mm++) {
      const tall = mm % 10 === 0 ? 3 : mm % 5 === 0 ? 2 : 1;
      path += across ? `M${mm} 5v-${tall}` : `M5 ${mm}h-${tall}`;
      if (mm % 20 === 0 && mm > 0)
        make("text", across ? { x: mm + 0.6, y: 2.6 } : { x: 0.2, y: mm - 0.6 }, svg).textContent = mm;
    }
    make("path", { d: path }, svg);
    // A guide is drawn out of the ruler.
    svg.addEventListener("pointerdown", event => this.newGuide(event, across));
    return svg;
  }

  scale() {
    return this.zoom || Math.max(0.4, (this.desk.clientWidth - 92) / (this.drawn.width * PX));
  }
  lay() {
    if (!this.drawn) return;
    const scale = this.scale() * PX;
    for (const sheet of this.desk.querySelectorAll(".studio-page")) {
      const paper = sheet.querySelector(".studio-paper");
      paper.style.width = `${this.drawn.width * scale}px`;
      paper.style.height = `${this.drawn.height * scale}px`;
      for (const ruler of sheet.querySelectorAll(".studio-ruler"))
        if (ruler.classList.contains("across")) ruler.style.width = `${this.drawn.width * scale}px`;
        else ruler.style.height = `${this.drawn.height * scale}px`;
      let under = -99;
      for (const tab of sheet.querySelectorAll(".studio-tab")) {
        under = Math.max(under + 19, Number(tab.dataset.y) * scale + 18);
        tab.style.top = `${under}px`;
      }
    }
  }
  zoomTo(zoom) {
    this.zoom = zoom === 0 ? 0 : Math.min(4, Math.max(0.3, zoom));
    this.lay();
  }

  spotsOn(page) {
    return this.drawn.spots.filter(s => s.page === page);
  }
  boxOf(id, page = null) {
    return this.drawn?.spots.find(s => s.piece === id && (page === null || s.page === page));
  }
  overOf(page) {
    return this.desk.querySelector(`.studio-page[data-page="${page}"] .studio-over`);
  }

  // What lies over the drawing.
  over() {
    if (!this.drawn) return;
    for (let page = 0; page < this.drawn.pages.length; page++) {
      const over = this.overOf(page);
      if (!over) continue;
      over.replaceChildren();
      const { layout } = this.work,
        high = this.drawn.height;
      make(
        "rect",
        {
          class: "studio-margins",
          x: layout.left,
          y: layout.top,
          width: Math.max(1, layout.width - layout.left - layout.right),
          height: Math.max(1, high - layout.top - layout.bottom),
        },
        over,
      );
      for (const band of this.drawn.bands.filter(b => b.page === page)) {
        const y = Math.min(high - 0.3, band.y + band.height);
        make("line", { class: "studio-edge", x1: 0, x2: layout.width, y1: y, y2: y }, over);
        make("rect", { class: "studio-edge-grip", x: 0, y: y - 1, width: 8, height: 2, "data-band": band.band }, over);
      }
      layout.guidesAcross.forEach((x, i) =>
        make("line", { class: "studio-guide", x1: x, x2: x, y1: 0, y2: high, "data-guide": `across-${i}` }, over),
      );
      layout.guidesDown.forEach((y, i) =>
        make("line", { class: "studio-guide", x1: 0, x2: layout.width, y1: y, y2: y, "data-guide": `down-${i}` }, over),
      );
      // The small lie over the large, and what says something over what does not, so that all can be hit.
      for (const spot of this.spotsOn(page).sort(
        (a, b) => a.shown - b.shown || b.width * b.height - a.width * a.height,
      )) {
        const piece = this.work.find(spot.piece)?.piece;
        if (!piece) continue;
        make(
          "rect",
          {
            class: `studio-spot${piece.hidden ? " off" : ""}${piece.locked ? " locked" : ""}`,
            x: spot.x,
            y: spot.y,
            width: Math.max(0.8, spot.width),
            height: Math.max(0.8, spot.height),
            "data-piece": spot.piece,
          },
          over,
        );
      }
      for (const id of this.work.picked) this.mark(over, id, page);
    }
  }

  mark(over, id, page) {
    const spot = this.boxOf(id, page),
      piece = this.work.find(id)?.piece;
    if (!spot || !piece) return;
    make(
      "rect",
      { class: "studio-picked", x: spot.x, y: spot.y, width: spot.width, height: spot.height, "data-mark": id },
      over,
    );
    if (piece.locked || this.work.picked.length > 1) return;
    const side = 2.2 / Math.max(0.7, this.scale());
    for (const [name, fx, fy] of [
      ["nw", 0, 0],
      ["n", 0.5, 0],
      ["ne", 1, 0],
      ["e", 1, 0.5],
      ["se", 1, 1],
      ["s", 0.5, 1],
      ["sw", 0, 1],
      ["w", 0, 0.5],
    ])
      make(
        "rect",
        {
          class: `studio-handle ${name}`,
          x: spot.x + spot.width * fx - side / 2,
          y: spot.y + spot.height * fy - side / 2,
          width: side,
          height: side,
          "data-handle": name,
          "data-piece": id,
        },
        over,
      );
  }

  at(event, over) {
    const box = over.getBoundingClientRect();
    return {
      x: ((event.clientX - box.left) / box.width) * this.drawn.width,
      y: ((event.clientY - box.top) / box.height) * this.drawn.height,
    };
  }

  // Follows the pointer until it is let go; Escape puts all back.
  follow(event, over, moving, done) {
    const start = this.at(event, over);
    let far = false,
      last = start;
    over.setPointerCapture?.(event.pointerId);
    const end = commit => {
      over.removeEventListener("pointermove", move);
      over.removeEventListener("pointerup", up);
      removeEventListener("keydown", key, true);
      over.querySelectorAll(".studio-snap, .studio-frame").forEach(e => e.remove());
      if (commit) done(last.x - start.x, last.y - start.y, far, last, start);
      else {
        this.show(this.drawn);
      }
    };
    const move = to => {
      last = this.at(to, over);
      far ||= Math.hypot(last.x - start.x, last.y - start.y) * this.scale() > 0.8;
      if (far) moving(last.x - start.x, last.y - start.y, to, last, start);
    };
    const up = () => end(true);
    const key = pressed => {
      if (pressed.key === "Escape") {
        pressed.preventDefault();
        pressed.stopPropagation();
        end(false);
      }
    };
    over.addEventListener("pointermove", move);
    over.addEventListener("pointerup", up);
    addEventListener("keydown", key, true);
  }

  down(event, page, over) {
    if (event.button !== 0) return;
    event.preventDefault();
    this.desk.focus({ preventScroll: true });
    const { handle, piece, band, guide } = event.target.dataset;
    if (handle) this.resize(event, page, over, piece, handle);
    else if (band) this.bandEdge(event, over, band);
    else if (guide) this.moveGuide(event, over, guide);
    else if (piece) this.drag(event, page, over, piece);
    else this.frame(event, page, over);
  }

  lines(page) {
    const others = this.spotsOn(page).filter(s => s.shown && !this.work.picked.includes(s.piece));
    return this.snaps() ? linesOf(this.work.layout, others, this.grid()) : { across: [], down: [], grid: 0 };
  }
  reach() {
    return 1.2 / Math.max(0.5, this.scale());
  }
  showSnap(over, { across, down }) {
    over.querySelectorAll(".studio-snap").forEach(e => e.remove());
    for (const x of across) make("line", { class: "studio-snap", x1: x, x2: x, y1: 0, y2: this.drawn.height }, over);
    for (const y of down) make("line", { class: "studio-snap", x1: 0, x2: this.drawn.width, y1: y, y2: y }, over);
  }

  drag(event, page, over, id) {
    const was = this.work.picked.includes(id);
    if (event.shiftKey) {
      this.work.pick([id], true);
      return;
    }
    if (!was) this.work.pick([id]);
    if (!this.work.loose().length) return;
    const boxes = this.work.picked.map(p => this.boxOf(p, page)).filter(Boolean),
      box = around(boxes),
      lines = this.lines(page);
    let dx = 0,
      dy = 0;
    this.follow(
      event,
      over,
      (mx, my) => {
        const snap = snapped({ ...box, x: box.x + mx, y: box.y + my }, lines, this.reach());
        [dx, dy] = [mx + snap.dx, my + snap.dy];
        this.showSnap(over, snap);
        this.shift(page, dx, dy);
        this.told(`${round(box.x + dx)} mm from the left, ${round(box.y + dy)} mm from the top`);
      },
      (_, __, far) => {
        if (!far) {
          if (was && this.work.picked.length > 1) this.work.pick([id]);
          return;
        }
        this.work.move(round(dx), round(dy));
        if (this.work.picked.length === 1) this.rehome(id, page, box.y + dy);
      },
    );
  }

  // Let go over another band, a piece belongs to that from then on.
  rehome(id, page, y) {
    const found = this.work.find(id);
    const band = this.drawn.bands.find(b => b.page === page && y >= b.y && y < b.y + b.height);
    if (band && found && band.band !== found.band.kind) this.work.toBand(id, band.band, y - band.y);
  }

  // Shows what is picked where it would be, before the server draws it there.
  shift(page, dx, dy) {
    const sheet = this.desk.querySelector(`.studio-page[data-page="${page}"]`);
    for (const id of this.work.loose().map(p => p.piece.id)) {
      for (const part of sheet.querySelectorAll(
        `.studio-paper g[data-piece="${id}"], .studio-over [data-mark="${id}"], .studio-over .studio-handle[data-piece="${id}"]`,
      ))
        part.setAttribute("transform", `translate(${dx} ${dy})`);
    }
  }

  resize(event, page, over, id, handle) {
    const box = this.boxOf(id, page),
      lines = this.lines(page);
    let by = { dx: 0, dy: 0, dw: 0, dh: 0 };
    this.follow(
      event,
      over,
      (mx, my) => {
        const west = handle.includes("w"),
          east = handle.includes("e"),
          north = handle.includes("n"),
          south = handle.includes("s");
        const edges = {
          across: west ? [box.x + mx] : east ? [box.x + box.width + mx] : [],
          down: north ? [box.y + my] : south ? [box.y + box.height + my] : [],
        };
        const snap = snapped(box, lines, this.reach(), edges);
        const [x, y] = [mx + snap.dx, my + snap.dy];
        by = { dx: west ? x : 0, dw: west ? -x : east ? x : 0, dy: north ? y : 0, dh: north ? -y : south ? y : 0 };
        this.showSnap(over, snap);
        const mark = over.querySelector(`[data-mark="${id}"]`);
        if (mark)
          for (const [key, value] of Object.entries({
            x: box.x + by.dx,
            y: box.y + by.dy,
            width: Math.max(1, box.width + by.dw),
            height: Math.max(0.5, box.height + by.dh),
          }))
            mark.setAttribute(key, value);
        this.told(`${round(box.width + by.dw)} mm wide, ${round(box.height + by.dh)} mm high`);
      },
      (_, __, far) => {
        if (!far) return;
        const piece = this.work.find(id).piece;
        // What had grown is taken from the height that it was drawn with.
        this.work.set(`sized ${id}`, {
          x: round(Math.max(0, piece.x + by.dx)),
          y: round(Math.max(0, piece.y + by.dy)),
          width: round(Math.max(piece.kind === "rule" ? 0 : 2, piece.width + by.dw)),
          height: round(Math.max(0, piece.height + by.dh)),
        });
      },
    );
  }

  bandEdge(event, over, kind) {
    const band = this.work.band(kind);
    if (!band) return;
    let height = band.height;
    this.follow(
      event,
      over,
      (_, my) => {
        height = round(Math.max(0, band.height + my));
        this.told(`${BANDS[kind]}: ${height} mm`);
        const grip = over.querySelector(`[data-band="${kind}"]`);
        grip?.setAttribute("transform", `translate(0 ${my})`);
        grip?.previousSibling?.setAttribute("transform", `translate(0 ${my})`);
      },
      (_, __, far) => far && this.work.setBand(kind, `height of the ${BANDS[kind]}`, { height }),
    );
  }

  newGuide(event, across) {
    event.preventDefault();
    const over = event.currentTarget.parentElement.querySelector(".studio-over");
    this.follow(
      event,
      over,
      (_, __, ___, to) => this.showSnap(over, across ? { across: [], down: [to.y] } : { across: [to.x], down: [] }),
      (_, __, far, to) => {
        if (!far) return;
        // Out of the upper ruler comes a line across, out of the left one a line down.
        if (across) this.setGuides("guidesDown", [...this.work.layout.guidesDown, to.y]);
        else this.setGuides("guidesAcross", [...this.work.layout.guidesAcross, to.x]);
      },
    );
  }
  setGuides(name, places) {
    this.work.setPage("set a guide", { [name]: places.map(p => Math.round(p * 10) / 10) });
  }
  moveGuide(event, over, guide) {
    const [way, i] = guide.split("-"),
      name = way === "across" ? "guidesAcross" : "guidesDown";
    this.follow(
      event,
      over,
      (_, __, ___, to) =>
        this.showSnap(over, way === "across" ? { across: [to.x], down: [] } : { across: [], down: [to.y] }),
      (_, __, far, to) => {
        if (!far) return;
        const place = way === "across" ? to.x : to.y,
          all = [...this.work.layout[name]];
        // Dragged off the page, it is gone.
        if (place < 0 || place > (way === "across" ? this.drawn.width : this.drawn.height)) all.splice(Number(i), 1);
        else all[Number(i)] = place;
        this.setGuides(name, all);
      },
    );
  }

  // A frame drawn around several picks them.
  frame(event, page, over) {
    const adding = event.shiftKey;
    const frame = make("rect", { class: "studio-frame", x: 0, y: 0, width: 0, height: 0 }, over);
    const box = (a, b) => ({
      x: Math.min(a.x, b.x),
      y: Math.min(a.y, b.y),
      width: Math.abs(a.x - b.x),
      height: Math.abs(a.y - b.y),
    });
    this.follow(
      event,
      over,
      (_, __, ___, to, from) => {
        for (const [key, value] of Object.entries(box(to, from))) frame.setAttribute(key, value);
      },
      (_, __, far, to, from) => {
        frame.remove();
        if (!far) {
          if (!adding) this.work.pick([]);
          return;
        }
        const f = box(to, from);
        const inside = this.spotsOn(page)
          .filter(s => s.x >= f.x && s.y >= f.y && s.x + s.width <= f.x + f.width && s.y + s.height <= f.y + f.height)
          .map(s => s.piece);
        this.work.pick(adding ? [...new Set([...this.work.picked, ...inside])] : inside);
      },
    );
  }

  // Brings what is picked into sight.
  reveal() {
    const id = this.work.picked[0];
    this.desk.querySelector(`[data-mark="${id}"]`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }
}

export { BANDS };
