// The layout as it is worked on: what is picked, what was done, and the way back. Nothing here knows of the page.

const round = value => Math.round(value * 100) / 100;

export class Work extends EventTarget {
  constructor(data) {
    super();
    this.data = data;
    this.layout = data.layout;
    this.picked = [];
    this.steps = [{ words: "opened", layout: data.layout, picked: [] }];
    this.at = 0;
  }

  tell(kind) {
    this.dispatchEvent(new Event(kind));
  }

  // Every piece with its band, in the order in which they are drawn.
  pieces() {
    return this.layout.bands.flatMap(band => band.pieces.map(piece => ({ band, piece })));
  }
  find(id) {
    return this.pieces().find(p => p.piece.id === id);
  }
  band(kind) {
    return this.layout.bands.find(b => b.kind === kind);
  }
  those() {
    return this.picked.map(id => this.find(id)).filter(Boolean);
  }
  loose() {
    return this.those().filter(p => !p.piece.locked);
  }

  // A group is picked together.
  withGroups(ids) {
    const groups = new Set(ids.map(id => this.find(id)?.piece.group).filter(Boolean));
    return [
      ...new Set([
        ...ids,
        ...this.pieces()
          .filter(p => groups.has(p.piece.group))
          .map(p => p.piece.id),
      ]),
    ];
  }
  pick(ids, adding = false) {
    const all = this.withGroups(ids);
    this.picked = adding
      ? all.every(id => this.picked.includes(id))
        ? this.picked.filter(id => !all.includes(id))
        : [...new Set([...this.picked, ...all])]
      : all;
    this.tell("picked");
  }

  // One change, with the words that tell of it. Changes of one kind that follow each other closely are one step.
  change(words, layout, run = "") {
    if (layout === this.layout) return;
    const last = this.steps[this.at],
      now = Date.now();
    this.layout = layout;
    if (run && last.run === run && now - last.time < 900 && this.at === this.steps.length - 1)
      Object.assign(last, { layout, time: now, picked: this.picked });
    else {
      this.steps = [...this.steps.slice(0, this.at + 1), { words, layout, run, time: now, picked: this.picked }];
      this.at = this.steps.length - 1;
    }
    this.tell("changed");
  }
  go(at) {
    if (at < 0 || at >= this.steps.length || at === this.at) return;
    this.at = at;
    this.layout = this.steps[at].layout;
    this.picked = this.picked.filter(id => this.find(id));
    this.tell("changed");
    this.tell("picked");
  }
  undo() {
    this.go(this.at - 1);
  }
  redo() {
    this.go(this.at + 1);
  }

  // The same layout with some pieces changed; what is not changed stays the very same object.
  mapped(ids, to) {
    const these = new Set(ids);
    return {
      ...this.layout,
      bands: this.layout.bands.map(band =>
        band.pieces.some(p => these.has(p.id))
          ? { ...band, pieces: band.pieces.map(p => (these.has(p.id) ? to(p, band) : p)) }
          : band,
      ),
    };
  }
  set(words, values, run = "") {
    this.change(
      words,
      this.mapped(this.picked, p => ({ ...p, ...(typeof values === "function" ? values(p) : values) })),
      run,
    );
  }
  setPage(words, values, run = "") {
    this.change(words, { ...this.layout, ...values }, run);
  }
  setBand(kind, words, values, run = "") {
    this.change(
      words,
      { ...this.layout, bands: this.layout.bands.map(b => (b.kind === kind ? { ...b, ...values } : b)) },
      run,
    );
  }

  name() {
    return this.picked.length === 1 ? this.picked[0] : `${this.picked.length} pieces`;
  }

  move(dx, dy, run = "") {
    const ids = this.loose().map(p => p.piece.id);
    if (!ids.length) return;
    this.change(
      `moved ${this.name()}`,
      this.mapped(ids, p => this.moved(p, dx, dy)),
      run,
    );
  }
  moved(piece, dx, dy) {
    // What follows another keeps its gap when that moves along with it.
    const along = piece.after && this.picked.includes(piece.after);
    const most = Math.max(0, this.layout.width - (piece.after ? 0 : piece.width));
    return {
      ...piece,
      x: along ? piece.x : round(Math.min(Math.max(0, piece.x + dx), most)),
      y: round(Math.max(0, piece.y + dy)),
    };
  }
  size(dw, dh, run = "") {
    const ids = this.loose().map(p => p.piece.id);
    this.change(
      `sized ${this.name()}`,
      this.mapped(ids, p => ({
        ...p,
        width: round(Math.max(p.kind === "rule" ? 0 : 2, Math.min(p.width + dw, this.layout.width - p.x))),
        height: round(Math.max(0, p.height + dh)),
      })),
      run,
    );
  }

  freeId(stem) {
    const taken = new Set(this.pieces().map(p => p.piece.id));
    for (let n = 1; ; n++) {
      const id = n === 1 ? stem : `${stem}-${n}`;
      if (!taken.has(id)) return id;
    }
  }
  put(kind, piece, words) {
    const whole = { ...structuredClone(this.data.piece), ...piece, id: this.freeId(piece.id || piece.kind) };
    const bands = this.band(kind) ? this.layout.bands : [...this.layout.bands, { kind, height: 10, pieces: [] }];
    this.picked = [whole.id];
    this.change(words, {
      ...this.layout,
      bands: bands.map(b => (b.kind === kind ? { ...b, pieces: [...b.pieces, whole] } : b)),
    });
    this.tell("picked");
    return whole.id;
  }
  takeAway() {
    const gone = new Set(this.loose().map(p => p.piece.id));
    if (!gone.size) return;
    const words = `took away ${this.name()}`;
    this.picked = this.picked.filter(id => !gone.has(id));
    this.change(words, {
      ...this.layout,
      bands: this.layout.bands.map(b =>
        b.pieces.some(p => gone.has(p.id))
          ? {
              ...b,
              pieces: b.pieces
                .filter(p => !gone.has(p.id))
                .map(p => (gone.has(p.after) ? { ...p, after: "", x: round(Math.min(p.x + 20, 100)) } : p)),
            }
          : b,
      ),
    });
    this.tell("picked");
  }

  // To another band, where it keeps its place on the page.
  toBand(id, kind, y) {
    const found = this.find(id);
    if (!found || found.band.kind === kind) return;
    const bands = this.band(kind) ? this.layout.bands : [...this.layout.bands, { kind, height: 10, pieces: [] }];
    const piece = { ...found.piece, after: "", y: round(Math.max(0, y)) };
    this.change(`${id} to another band`, {
      ...this.layout,
      bands: bands.map(b =>
        b.kind === found.band.kind
          ? { ...b, pieces: b.pieces.filter(p => p.id !== id) }
          : b.kind === kind
            ? { ...b, pieces: [...b.pieces, piece] }
            : b,
      ),
    });
  }

  order(forward) {
    const these = new Set(this.picked);
    this.change(forward ? `${this.name()} before the others` : `${this.name()} behind the others`, {
      ...this.layout,
      bands: this.layout.bands.map(b => {
        const some = b.pieces.filter(p => these.has(p.id)),
          rest = b.pieces.filter(p => !these.has(p.id));
        return some.length ? { ...b, pieces: forward ? [...rest, ...some] : [...some, ...rest] } : b;
      }),
    });
  }
  group(on) {
    const name = on ? this.freeGroup() : "";
    this.set(on ? `${this.name()} as one group` : `${this.name()} out of the group`, { group: name });
  }
  freeGroup() {
    const taken = new Set(this.pieces().map(p => p.piece.group));
    for (let n = 1; ; n++) if (!taken.has(`group ${n}`)) return `group ${n}`;
  }

  // Copied pieces stay in the browser, so that they can be put into another layout.
  copy() {
    const some = this.those().map(p => ({ band: p.band.kind, piece: p.piece }));
    const pictures = Object.fromEntries(
      some
        .map(s => s.piece.picture)
        .filter(k => this.layout.pictures[k])
        .map(k => [k, this.layout.pictures[k]]),
    );
    const typefaces = Object.fromEntries(
      some
        .map(s => s.piece.face)
        .filter(k => this.layout.typefaces?.[k])
        .map(k => [k, this.layout.typefaces[k]]),
    );
    try {
      if (some.length) localStorage.setItem("jugaad-pieces", JSON.stringify({ some, pictures, typefaces }));
    } catch {
      // More than a browser keeps: the pieces go without what is heavy, and show it as missing.
      localStorage.setItem(
        "jugaad-pieces",
        JSON.stringify({
          some: some.map(s => ({ ...s, piece: { ...s.piece, face: typefaces[s.piece.face] ? "" : s.piece.face } })),
          pictures: {},
          typefaces: {},
        }),
      );
    }
    return some.length;
  }
  paste(from = null) {
    let kept;
    try {
      kept = from ?? JSON.parse(localStorage.getItem("jugaad-pieces") ?? "null");
    } catch {
      kept = null;
    }
    if (!kept?.some?.length) return 0;
    const ids = new Map(),
      added = [];
    let layout = this.layout;
    for (const { band, piece } of kept.some) {
      const taken = new Set(layout.bands.flatMap(b => b.pieces.map(p => p.id)));
      let id = piece.id;
      for (let n = 2; taken.has(id); n++) id = `${piece.id.replace(/-\d+$/, "")}-${n}`;
      ids.set(piece.id, id);
      const after =
        ids.get(piece.after) ??
        (layout.bands.find(b => b.kind === band)?.pieces.some(p => p.id === piece.after) ? piece.after : "");
      const set = {
        ...structuredClone(piece),
        id,
        after,
        x: round(Math.min(piece.x + 3, Math.max(0, layout.width - piece.width))),
        y: round(piece.y + 3),
        locked: false,
      };
      const bands = layout.bands.some(b => b.kind === band)
        ? layout.bands
        : [...layout.bands, { kind: band, height: 10, pieces: [] }];
      layout = { ...layout, bands: bands.map(b => (b.kind === band ? { ...b, pieces: [...b.pieces, set] } : b)) };
      added.push(id);
    }
    layout = {
      ...layout,
      pictures: { ...kept.pictures, ...layout.pictures },
      typefaces: { ...kept.typefaces, ...layout.typefaces },
    };
    this.picked = added;
    this.change(added.length === 1 ? `put in ${added[0]}` : `put in ${added.length} pieces`, layout);
    this.tell("picked");
    return added.length;
  }
  double() {
    this.paste({ some: this.those().map(p => ({ band: p.band.kind, piece: p.piece })), pictures: {} });
  }
}

export { round };
