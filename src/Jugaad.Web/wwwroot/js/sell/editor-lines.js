"use strict";
// The lines of the editor: adding, moving, dragging, and rows to and from a spreadsheet.

const editorLines = () => ({
  dragged: -1,
  draggedOver: -1,

  hasFigures(i) {
    const line = this.draft.lines[i];
    return Boolean(line) && line.role !== "text" && line.role !== "section" && line.role !== "subtotal";
  },
  isChoice(i) {
    const line = this.draft.lines[i];
    return Boolean(line) && Boolean(line.choice) && line.choice !== "firm";
  },
  whatSpan(i) {
    return this.hasFigures(i) ? 1 : document.querySelector(".lines thead tr").children.length - 3;
  },
  whatHint(i) {
    return (
      { text: "words only", section: "heading of a section", subtotal: "Subtotal" }[
        this.draft.lines[i] && this.draft.lines[i].role
      ] || ""
    );
  },
  whatClass(i) {
    const line = this.draft.lines[i];
    return (
      this.refusedClass(this.lineId(i, "text")) +
      (line && line.role === "section" ? " heading" : "") +
      (line && line.role === "subtotal" ? " subtotal" : "")
    );
  },

  // A price or discount of its own: the line is no longer its share of what it was made from.
  ownPrice(i) {
    this.draft.lines[i].shares = false;
  },
  // What a share is reduced by follows its quantity.
  followShares(discounts, keys) {
    discounts.forEach((discount, n) => {
      const line = this.lineOf(keys[n]);
      if (line && line.shares && discount !== null) line.discount = discount;
    });
  },

  pushLine(more) {
    this.draft.lines.push({
      key: this.nextKey++,
      role: "item",
      choice: "firm",
      chosen: false,
      itemId: null,
      text: "",
      quantity: "1",
      unit: "C62",
      unitPrice: "",
      discount: this.tradeDiscount,
      taxCodeId: this.defaults.taxCodeId,
      accountId: this.defaults.accountId,
      fromLineId: null,
      ...more,
    });
  },
  addLine() {
    this.pushLine();
    this.followTaxes();
    this.focusCell(this.draft.lines.length - 1, "text");
  },
  addWords(role) {
    // An empty line at the end gives way, so that no gap is left.
    const last = this.draft.lines[this.draft.lines.length - 1];
    if (last && last.role === "item" && !last.text.trim() && !String(last.unitPrice).trim()) this.draft.lines.pop();
    this.pushLine({ role, discount: "", quantity: "", taxByHand: true });
    if (role !== "subtotal") this.focusCell(this.draft.lines.length - 1, "text");
    this.changed();
  },
  addText() {
    this.addWords("text");
  },
  addSection() {
    this.addWords("section");
  },
  addSubtotal() {
    this.addWords("subtotal");
  },
  removeLine(i) {
    this.draft.lines.splice(i, 1);
    if (!this.draft.lines.length) this.pushLine();
    this.changed();
    this.focusCell(Math.max(0, i - 1), "text");
  },
  moveLine(i, by) {
    this.moveTo(i, i + by);
  },
  moveTo(from, to) {
    if (to < 0 || to >= this.draft.lines.length || from === to) return;
    const [line] = this.draft.lines.splice(from, 1);
    this.draft.lines.splice(to, 0, line);
    this.changed();
    this.focusCell(to, "text");
  },

  // By drag; the keys do the same.
  dragFrom(event, i) {
    this.dragged = i;
    event.dataTransfer.effectAllowed = "move";
    event.dataTransfer.setData("text/plain", String(i));
  },
  dragOver(event) {
    if (this.dragged >= 0) event.preventDefault();
  },
  dropOn(event, i) {
    if (this.dragged < 0) return;
    event.preventDefault();
    this.moveTo(this.dragged, i);
    this.dragged = -1;
  },
  dragEnd() {
    this.dragged = -1;
  },
  dragClass(i) {
    return this.dragged === i ? "dragged" : "";
  },

  addCharge() {
    this.draft.charges.push({
      key: this.nextKey++,
      text: "Freight",
      amount: "",
      taxCodeId: this.chargeTax || this.defaults.taxCodeId,
      accountId: this.defaults.accountId,
    });
    const i = this.draft.charges.length - 1;
    this.$nextTick(() => document.getElementById(this.chargeId(i, "amount")).focus());
  },
  removeCharge(i) {
    this.draft.charges.splice(i, 1);
    this.changed();
  },
  focusCell(i, cell) {
    this.$nextTick(() => {
      const box = document.getElementById(this.lineId(i, cell));
      if (box) {
        box.focus();
        if (box.select) box.select();
      }
    });
  },

  // The same discount for every line, in place of one on the whole.
  async discountLines() {
    const sent = this.filled(),
      keys = this.sentKeys(sent);
    const answer = await jugaad.post("/api/drafts/discount-to-lines", sent);
    if (!answer.ok) {
      this.take(answer.data.refusals || [], "", keys);
      return;
    }
    answer.data.discounts.forEach((discount, n) => {
      const line = this.lineOf(keys[n]);
      if (line && discount !== null) Object.assign(line, { discount, shares: false });
    });
    this.draft.discount = "";
    this.changed();
  },

  // Rows of a spreadsheet have tabs; they become lines where one pastes them.
  async paste(event) {
    const row = event.target.closest("tr[data-line]");
    const text = event.clipboardData ? event.clipboardData.getData("text/plain") : "";
    if (!row || !event.target.id.endsWith(".text") || !/[\t]|\n./.test(text.trim())) return;
    event.preventDefault();
    await this.pasteRows(Number(row.dataset.line), text);
  },
  async pasteRows(at, text) {
    const answer = await jugaad.post("/api/drafts/paste", {
      text,
      customerId: this.draft.customerId || 0,
      date: this.draft.date,
      placeId: this.draft.placeId,
      currency: this.draft.currency || "",
      pricesIncludeTax: Boolean(this.draft.pricesIncludeTax),
      language: this.language(),
    });
    if (!answer.ok) {
      this.take(answer.data.refusals || [], "");
      return;
    }
    const here = this.draft.lines[at];
    const empty = here && !here.text.trim() && !String(here.unitPrice).trim() ? 1 : 0;
    const made = answer.data.lines.map(cells => ({
      choice: "firm",
      chosen: false,
      ...cells,
      discount: cells.discount || this.tradeDiscount,
      key: this.nextKey++,
    }));
    this.draft.lines.splice(at + 1 - empty, empty, ...made);
    await this.followTaxes();
    this.status = made.length + (made.length === 1 ? " line pasted." : " lines pasted.");
  },
  async copyLines() {
    const units = document.querySelector(".lines select[id$='.unit']");
    const unit = code => {
      const option = units && Array.from(units.options).find(o => o.value === code);
      return option ? option.text : code;
    };
    const rows = this.draft.lines.map((line, i) =>
      this.hasFigures(i)
        ? [
            line.text.replace(/\s+/g, " "),
            line.quantity,
            unit(line.unit),
            line.unitPrice,
            line.discount,
            this.amountOf(i),
          ]
        : [line.text],
    );
    await navigator.clipboard.writeText(rows.map(cells => cells.join("\t")).join("\n"));
    this.status = "The lines are on the clipboard.";
  },

  useStarter(event) {
    if (event.target.value) {
      this.dirty = false;
      location.href =
        "/sell/edit?kind=" +
        this.draft.kind.replace(" ", "-") +
        "&starter=" +
        event.target.value +
        (this.draft.customerId ? "&customer=" + this.draft.customerId : "");
    }
  },
});
