"use strict";
// The counter. It holds what is scanned; every figure comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("counter", () => ({
    begin: {}, lines: [], scan: "", rows: [], active: 0, turn: 0, nextKey: 1, reckoned: 0,
    customers: [], customerText: "", customerId: 0, way: 0, way2: 0, amount1: "", given: "",
    bill: {}, problems: [], status: "", busy: false, sold: null, formKey: "",

    init() {
      this.begin = JSON.parse(document.getElementById("begin").textContent);
      this.way = this.begin.way;
      this.formKey = jugaad.key();
      this.$nextTick(() => document.getElementById("scan").focus());
    },
    get empty() { return this.lines.length === 0; },
    get listOpen() { return this.rows.length ? "true" : "false"; },
    get customersOpen() { return this.customers.length ? "true" : "false"; },
    get pays() { return this.way > 0; },
    get splits() { return this.way > 0 && this.way2 > 0; },
    get inCash() { return this.begin.cash && (this.begin.cash.includes(this.way) || (this.way > 0 && this.begin.cash.includes(this.way2))); },
    get blocked() { return this.busy || this.empty; },
    label(i, cell) { return "Line " + (i + 1) + ", " + cell; },
    amount(i) { return (this.bill.lines || [])[i] || ""; },
    rowClass(n) { return n === this.active ? "is-active" : ""; },
    rowOn(n) { return n === this.active ? "true" : "false"; },

    address(typed) { return "/api/items?q=" + encodeURIComponent(typed) + (this.customerId ? "&customer=" + this.customerId : "") + "&place=0&withTax=true"; },
    async look() {
      const turn = ++this.turn, typed = this.scan.trim();
      if (typed.length < 2) { this.rows = []; return; }
      const rows = await jugaad.get(this.address(typed));
      if (turn !== this.turn) return;
      this.rows = rows; this.active = 0;
    },
    async keyScan(event) {
      if (event.key === "ArrowDown") { this.active = Math.min(this.active + 1, this.rows.length - 1); event.preventDefault(); }
      else if (event.key === "ArrowUp") { this.active = Math.max(this.active - 1, 0); event.preventDefault(); }
      else if (event.key === "Escape") this.rows = [];
      else if (event.key === "Enter" && !event.ctrlKey && this.scan.trim()) {
        event.preventDefault();
        // A scanner is quicker than the list.
        const rows = await jugaad.get(this.address(this.scan.trim()));
        this.turn++; this.rows = rows; this.active = Math.min(this.active, Math.max(0, rows.length - 1));
        const exact = this.rows.findIndex(r => r.scanned);
        if (exact >= 0 || this.rows.length) this.take(exact >= 0 ? exact : this.active);
        else this.problems = ["No item has the code, name or barcode “" + this.scan.trim() + "”."];
      }
    },
    take(n) {
      const row = this.rows[n];
      const there = this.lines.find(l => l.itemId === row.id && /^\d+$/.test(String(l.quantity).trim()));
      if (there) there.quantity = String(Number(there.quantity) + 1);
      else this.lines.push({ key: this.nextKey++, itemId: row.id, text: row.text, quantity: "1", unit: row.unit, unitPrice: row.price, discount: row.discount, taxCodeId: row.taxCodeId, accountId: row.accountId, role: "item" });
      this.scan = ""; this.rows = []; this.problems = []; this.sold = null; this.turn++;
      this.reckon();
    },
    remove(i) { this.lines.splice(i, 1); this.reckon(); document.getElementById("scan").focus(); },

    async lookCustomer() {
      this.customerId = 0;
      this.customers = this.customerText.trim().length > 1 ? await jugaad.get("/api/customers?q=" + encodeURIComponent(this.customerText)) : [];
      if (!this.customerText.trim()) this.reckon();
    },
    async keyCustomer(event) {
      if (event.key !== "Enter" || event.ctrlKey) return;
      event.preventDefault();
      if (!this.customers.length) await this.lookCustomer();
      if (this.customers.length) this.takeCustomer(0);
    },
    takeCustomer(n) { const row = this.customers[n]; this.customerId = row.id; this.customerText = row.title; this.customers = []; this.reckon(); },

    body() {
      const parts = this.way === -1 ? [] : [{ accountId: this.way, amount: this.splits ? this.amount1 : "" }].concat(this.splits ? [{ accountId: this.way2, amount: "" }] : []);
      return { form: { kind: "invoice", customerId: this.customerId, date: this.begin.date, pricesIncludeTax: true, lines: this.lines, charges: [] }, parts, given: this.inCash ? this.given : "", onAccount: this.way === -1, formKey: this.formKey };
    },
    async reckon() {
      const turn = ++this.reckoned;
      if (this.empty) { this.bill = {}; return; }
      const answer = await jugaad.post("/api/counter/reckon", this.body());
      if (turn !== this.reckoned) return;
      if (answer.ok) { this.bill = answer.data; this.problems = []; }
      else this.problems = (answer.data.refusals || []).map(r => r.message);
    },
    async sell() {
      if (this.blocked) return;
      this.busy = true;
      const answer = await jugaad.post("/api/counter", this.body());
      this.busy = false;
      if (!answer.ok) { this.problems = (answer.data.refusals || []).map(r => r.message); return; }
      this.sold = answer.data;
      Object.assign(this, { lines: [], bill: {}, problems: [], given: "", amount1: "", way2: 0, way: this.begin.way, customerId: 0, customerText: "", formKey: jugaad.key() });
      document.getElementById("scan").focus();
    },
    get soldText() { return this.sold ? this.sold.number + ", " + this.sold.total + (this.sold.paid ? ". " + this.sold.paid + "." : ".") : ""; },
    get slipAddress() { return this.sold ? "/papers/" + this.sold.id + "/pdf?style=slip" : "#"; },
    get sheetAddress() { return this.sold ? "/papers/" + this.sold.id + "/pdf" : "#"; },
    get paperAddress() { return this.sold ? "/papers/" + this.sold.id : "#"; },
    keys(event) {
      if (event.ctrlKey && event.key === "Enter") { event.preventDefault(); this.sell(); }
      else if (event.key === "F9" && this.inCash) { event.preventDefault(); const box = document.getElementById("given"); box.focus(); box.select(); }
    },
  }));
});
