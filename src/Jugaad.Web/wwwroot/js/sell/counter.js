"use strict";
// The counter. It holds what is scanned; every figure comes from the server.
document.addEventListener("alpine:init", () => {
  Alpine.data("counter", () =>
    jugaad.together(counterBack(), {
      begin: {},
      lines: [],
      scan: "",
      things: finder(),
      nextKey: 1,
      reckoned: 0,
      asking: Promise.resolve(),
      people: finder(),
      customerText: "",
      customerName: "",
      customerId: 0,
      way: 0,
      way2: 0,
      amount1: "",
      given: "",
      bill: {},
      problems: [],
      trouble: "",
      status: "",
      busy: false,
      sold: null,
      formKey: "",
      restored: false,
      currency: "",
      pricedFor: 0,

      init() {
        this.begin = JSON.parse(document.getElementById("begin").textContent);
        this.way = this.begin.way;
        this.formKey = jugaad.key();
        this.currency = this.begin.home;
        this.restore();
        this.$nextTick(() => document.getElementById("scan").focus());
      },
      // What stands on the counter is kept in this browser, so that leaving the page loses nothing.
      get keptUnder() {
        return "counter of " + this.begin.who;
      },
      keep() {
        if (this.empty) localStorage.removeItem(this.keptUnder);
        else
          localStorage.setItem(
            this.keptUnder,
            JSON.stringify({
              lines: this.lines,
              nextKey: this.nextKey,
              customerId: this.customerId,
              customerText: this.customerText,
              customerName: this.customerName,
              currency: this.currency,
              pricedFor: this.pricedFor,
            }),
          );
      },
      restore() {
        let kept = null;
        try {
          kept = JSON.parse(localStorage.getItem(this.keptUnder));
        } catch {
          kept = null;
        }
        if (!kept || !Array.isArray(kept.lines) || !kept.lines.length) return;
        Object.assign(this, kept, { restored: true });
        this.reckon();
      },
      startAnew() {
        Object.assign(this, {
          lines: [],
          bill: {},
          problems: [],
          given: "",
          amount1: "",
          way2: 0,
          way: this.begin.way,
          customerId: 0,
          customerText: "",
          customerName: "",
          currency: this.begin.home,
          pricedFor: 0,
          restored: false,
        });
        this.keep();
        document.getElementById("scan").focus();
      },
      byHand(i) {
        this.lines[i].byHand = true;
      },
      get warnings() {
        return this.bill.warnings || [];
      },

      get empty() {
        return this.lines.length === 0;
      },
      get pays() {
        return this.way > 0;
      },
      get splits() {
        return this.way > 0 && this.way2 > 0;
      },
      get inCash() {
        return (
          this.begin.cash &&
          (this.begin.cash.includes(this.way) || (this.way > 0 && this.begin.cash.includes(this.way2)))
        );
      },
      get blocked() {
        return this.busy || this.empty;
      },
      label(i, cell) {
        return "Line " + (i + 1) + ", " + cell;
      },
      amount(i) {
        return (this.bill.lines || [])[i] || "";
      },

      address(typed) {
        return (
          "/api/items?q=" +
          encodeURIComponent(typed) +
          (this.customerId ? "&customer=" + this.customerId : "") +
          "&place=0&withTax=true"
        );
      },
      tell(why) {
        this.trouble = why;
      },
      look() {
        const typed = this.scan.trim();
        if (typed.length < 2) this.things.close();
        else this.things.look(this.address(typed));
      },
      keyScan(event) {
        if (this.things.move(event)) return;
        if (event.key === "Escape") this.things.close();
        else if (event.key === "Enter" && !event.ctrlKey && this.scan.trim()) {
          event.preventDefault();
          this.enterScan(this.scan.trim());
        }
      },
      // A scanner is quicker than the list: the box is free for the next scan at once, and each is put down in its turn.
      enterScan(typed) {
        const answer = this.things.enter(this.address(typed), why => this.tell(why));
        this.scan = "";
        this.afterwards(async () => {
          const { row } = await answer;
          if (row) this.put(row);
          else this.problems = ["No item has the code, name or barcode “" + typed + "”."];
        });
      },
      afterwards(work) {
        this.asking = this.asking.then(work, work);
        return this.asking;
      },
      pick(n) {
        const row = this.things.rows[n];
        this.things.close();
        this.scan = "";
        this.put(row);
      },
      put(row) {
        const there = this.lines.find(l => l.itemId === row.id && /^\d+$/.test(String(l.quantity).trim()));
        if (there) there.quantity = String(Number(there.quantity) + 1);
        else
          this.lines.push({
            key: this.nextKey++,
            itemId: row.id,
            text: row.text,
            quantity: "1",
            unit: row.unit,
            unitPrice: row.price,
            discount: row.discount,
            taxCodeId: row.taxCodeId,
            accountId: row.accountId,
            role: "item",
          });
        this.problems = [];
        this.sold = null;
        this.reckon();
      },
      remove(i) {
        this.lines.splice(i, 1);
        this.reckon();
        document.getElementById("scan").focus();
      },

      customerAddress() {
        return "/api/customers?q=" + encodeURIComponent(this.customerText.trim());
      },
      get customerSettled() {
        return this.customerId > 0 && this.customerText === this.customerName;
      },
      lookCustomer() {
        if (this.customerSettled) return;
        this.customerId = 0;
        if (this.customerText.trim().length > 1) this.people.look(this.customerAddress());
        else {
          this.people.close();
          this.afterwards(() => this.priceAnew());
        }
      },
      keyCustomer(event) {
        if (this.people.move(event)) return;
        if (event.key !== "Enter" || event.ctrlKey) return;
        event.preventDefault();
        const typed = this.customerText.trim();
        if (!typed || this.customerSettled) {
          document.getElementById("scan").focus();
          return;
        }
        const answer = this.people.enter(this.customerAddress(), why => this.tell(why));
        document.getElementById("scan").focus();
        this.afterwards(async () => {
          const { row } = await answer;
          if (this.customerText.trim() !== typed) return;
          if (row) this.useCustomer(row);
          else
            this.problems = [
              "No customer is called “" + typed + "” or has that code. Empty the field for nobody in particular.",
            ];
        });
      },
      pickCustomer(n) {
        const row = this.people.rows[n];
        this.people.close();
        this.useCustomer(row);
      },
      useCustomer(row) {
        this.customerId = row.id;
        this.customerText = this.customerName = row.title;
        this.people.close();
        this.problems = [];
        return this.afterwards(() => this.priceAnew());
      },
      // The lines get the prices, discounts and taxes of whoever buys now; a price typed by hand stays, unless the currency changes.
      async priceAnew() {
        if (this.pricedFor === this.customerId || this.empty) {
          this.pricedFor = this.customerId;
          this.reckon();
          return;
        }
        const asked = this.lines.map(l => l.key),
          wanted = this.customerId;
        const answer = await jugaad.post("/api/drafts/customer", {
          form: { ...this.body().form, placeId: 0 },
          before: this.pricedFor || null,
          currency: this.currency,
        });
        if (answer.ok && wanted === this.customerId) {
          const moved = answer.data.currency !== this.currency;
          this.currency = answer.data.currency;
          this.pricedFor = wanted;
          answer.data.lines.forEach((cells, n) => {
            const line = this.lines.find(l => l.key === asked[n]);
            if (!line) return;
            Object.assign(line, { discount: cells.discount, taxCodeId: cells.taxCodeId });
            if (moved || !line.byHand) line.unitPrice = cells.unitPrice;
          });
        }
        this.reckon();
      },

      body() {
        const parts =
          this.way === -1
            ? []
            : [{ accountId: this.way, amount: this.splits ? this.amount1 : "" }].concat(
                this.splits ? [{ accountId: this.way2, amount: "" }] : [],
              );
        return {
          form: {
            kind: "invoice",
            customerId: this.customerId,
            date: this.begin.date,
            pricesIncludeTax: true,
            lines: this.lines,
            charges: [],
          },
          parts,
          given: this.inCash ? this.given : "",
          onAccount: this.way === -1,
          formKey: this.formKey,
          customerText: this.customerText,
        };
      },
      async reckon() {
        const turn = ++this.reckoned;
        this.keep();
        if (this.empty) {
          this.bill = {};
          return;
        }
        const answer = await jugaad.post("/api/counter/reckon", this.body());
        if (turn !== this.reckoned) return;
        this.trouble = answer.lost ? answer.data.refusals[0].message : "";
        if (answer.ok) {
          this.bill = answer.data;
          this.problems = [];
        } else if (answer.lost)
          setTimeout(() => {
            if (turn === this.reckoned) this.reckon();
          }, 1500);
        else this.problems = (answer.data.refusals || []).map(r => r.message);
      },
      // A sale without an answer may have been made or not: it is sent again just as it was, under its own key, until it is known.
      async sell() {
        if (this.blocked) return;
        this.busy = true;
        await this.asking;
        const body = this.body(),
          asSold = JSON.stringify(body);
        let answer = await jugaad.post("/api/counter", body);
        while (answer.lost) {
          this.trouble = answer.data.refusals[0].message;
          await new Promise(resolve => setTimeout(resolve, 1500));
          answer = await jugaad.post("/api/counter", body);
        }
        this.trouble = "";
        this.busy = false;
        if (!answer.ok) {
          this.problems = (answer.data.refusals || []).map(r => r.message);
          return;
        }
        this.sold = answer.data;
        this.formKey = jugaad.key();
        if (JSON.stringify({ ...this.body(), formKey: body.formKey }) !== asSold) {
          this.problems = [
            "The sale went through as it stood when the money was taken. What you changed since is still here and is not sold.",
          ];
          return;
        }
        this.startAnew();
      },
      get soldText() {
        return this.sold
          ? this.sold.number + ", " + this.sold.total + (this.sold.paid ? ". " + this.sold.paid + "." : ".")
          : "";
      },
      get slipAddress() {
        return this.sold ? "/papers/" + this.sold.id + "/pdf?style=slip" : "#";
      },
      get sheetAddress() {
        return this.sold ? "/papers/" + this.sold.id + "/pdf" : "#";
      },
      get paperAddress() {
        return this.sold ? "/papers/" + this.sold.id : "#";
      },
      keys(event) {
        if (event.ctrlKey && event.key === "Enter") {
          event.preventDefault();
          this.sell();
        } else if (event.key === "F9" && this.inCash) {
          event.preventDefault();
          const box = document.getElementById("given");
          box.focus();
          box.select();
        }
      },
    }),
  );
});
