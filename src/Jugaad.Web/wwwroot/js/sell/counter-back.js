"use strict";
// Goods that come back over the counter: the sale by its number, how many of what, and the money back.

const counterBack = () => ({
  back: { on: false, number: "", reason: "", goods: true, way: 0, sale: null, bill: {}, refusals: [], turn: 0 },

  get sells() {
    return !this.back.on;
  },
  get backWord() {
    return this.back.on ? "Back to selling" : "Goods come back";
  },
  get saleTitle() {
    return this.back.sale ? this.back.sale.title : "";
  },
  get saleTotal() {
    const sale = this.back.sale;
    return sale ? sale.total + (sale.open ? ", " + sale.open + " still owed" : ", paid") : "";
  },
  get saleLines() {
    return this.back.sale ? this.back.sale.lines : [];
  },
  backLabel(line) {
    return "Comes back of " + line.text;
  },
  backSaid(field) {
    const found = this.back.refusals.find(r => r.field === field);
    return found ? found.message : "";
  },
  backSaidOf(line) {
    return this.backSaid("back[" + line.id + "]");
  },
  backClass(field) {
    return this.backSaid(field) ? "is-refused" : "";
  },

  toggleBack() {
    this.back = { ...counterBack().back, on: !this.back.on, way: this.begin.way };
    this.problems = [];
    this.sold = null;
    this.$nextTick(() => document.getElementById(this.back.on ? "back-number" : "scan").focus());
  },
  // What is said of a field stands there; the rest stands above.
  takeBackRefusals(refusals) {
    const known = r => r.field === "number" || r.field === "reason" || /^back\[/.test(r.field);
    this.back.refusals = refusals.filter(known);
    this.problems = refusals.filter(r => !known(r)).map(r => r.message);
  },
  async findSale() {
    const answer = await fetch("/api/counter/sale?number=" + encodeURIComponent(this.back.number), {
      credentials: "same-origin",
    }).catch(() => null);
    const data = answer ? await answer.json().catch(() => ({})) : {};
    this.back.sale = null;
    this.back.bill = {};
    this.problems = [];
    if (!answer || !answer.ok) {
      this.takeBackRefusals(data.refusals || [{ field: "number", message: jugaad.noAnswer }]);
      return;
    }
    this.back.refusals = [];
    this.back.sale = { ...data, lines: data.lines.map(line => ({ ...line, back: "" })) };
  },
  backBody() {
    const back = {};
    this.saleLines.forEach(line => {
      back[line.id] = line.back;
    });
    return {
      invoiceId: this.back.sale.id,
      back,
      reason: this.back.reason,
      goodsBack: this.back.goods,
      way: this.back.way,
      formKey: this.formKey,
    };
  },
  get backEmpty() {
    return !this.saleLines.some(line => String(line.back).trim());
  },
  async reckonBack() {
    const turn = ++this.back.turn;
    if (!this.back.sale || this.backEmpty) {
      this.back.bill = {};
      return;
    }
    const answer = await jugaad.post("/api/counter/back/reckon", this.backBody());
    if (turn !== this.back.turn) return;
    if (answer.ok) {
      this.back.bill = answer.data;
      this.takeBackRefusals([]);
    } else this.takeBackRefusals(answer.data.refusals || []);
  },
  // Sent again under its own key until it is known whether it was done, as a sale is.
  async takeBack() {
    if (this.busy || !this.back.sale) return;
    this.busy = true;
    const body = this.backBody();
    let answer = await jugaad.post("/api/counter/back", body);
    while (answer.lost) {
      this.trouble = answer.data.refusals[0].message;
      await new Promise(resolve => setTimeout(resolve, 1500));
      answer = await jugaad.post("/api/counter/back", body);
    }
    this.trouble = "";
    this.busy = false;
    if (!answer.ok) {
      this.takeBackRefusals(answer.data.refusals || []);
      return;
    }
    const paid = this.back.bill.paidBack ? "Given back " + this.back.bill.paidBack : "";
    this.formKey = jugaad.key();
    this.toggleBack();
    this.sold = { ...answer.data, paid };
  },
});
