"use strict";
// The editor of all documents. It holds what is typed; every figure comes from the server. What it does with lines and how
// it keeps what is typed stand in files of their own.

document.addEventListener("alpine:init", () => {
  Alpine.data("editor", () =>
    jugaad.together(editorLines(), editorFinding(), editorKeep(), {
      draft: { lines: [], charges: [] },
      figures: { taxes: [], lines: [] },
      currency: "",
      defaults: {},
      customerText: "",
      customerName: "",
      refusals: [],
      warnings: [],
      general: [],
      conflict: false,
      changes: [],
      customerForm: false,
      itemForm: false,
      nc: {},
      ni: {},
      newCustomerOffered: false,
      lastCustomer: null,
      status: "",
      stale: false,
      busy: false,
      dirty: false,
      nextKey: 1,
      figuresTurn: 0,
      taxesTurn: 0,
      formKey: "",
      savedAs: "",
      currencyNote: "",
      places: [],
      tradeDiscount: "",
      seen: {},
      chargeTax: null,
      alike: [],

      customerSaid: [],
      customerBefore: null,
      wordedIn: "",
      deliveries: null,

      init() {
        const read = JSON.parse(document.getElementById("draft").textContent);
        this.defaults = read;
        this.load(read.form);
        this.customerText = this.customerName = read.customer;
        this.currency = read.currency;
        this.currencyNote = read.currencyNote || "";
        this.seen = read.seen || {};
        if (read.chosen) {
          this.lastCustomer = read.chosen;
          this.places = read.chosen.places;
          this.tradeDiscount = read.chosen.discount;
          if (!this.draft.id) this.draft.pricesIncludeTax = read.chosen.withTax;
        }
        this.formKey = jugaad.key();
        this.nc = { country: read.country, currency: read.home };
        // A kept draft keeps its codes; a new one for a chosen customer begins with theirs.
        this.draft.lines.concat(this.draft.charges).forEach(line => {
          line.taxByHand = Boolean(this.draft.id);
        });
        this.wordedIn = this.language();
        this.savedAs = this.typed();
        this.unsaved = read.unsaved;
        if (read.taken) this.takeTyping(read.taken);
        else if (this.draft.customerId && this.draft.id) this.compute();
        else if (this.draft.customerId) {
          this.followTaxes(true);
          this.offerDeliveries();
        }
        window.addEventListener("beforeunload", event => {
          if (this.dirty) event.preventDefault();
        });
        this.startKeeping();
        this.$nextTick(() => {
          // Selects get their values only once their options are there.
          this.draft = { ...this.draft };
          document.getElementById(this.draft.customerId ? "lines[0].text" : "customer").focus();
        });
      },

      load(form) {
        const plain = line => ({ role: "item", choice: "firm", chosen: false, ...line, key: this.nextKey++ });
        this.draft = {
          ...form,
          termsId: form.termsId || 0,
          seriesId: form.seriesId || 0,
          sellerId: form.sellerId || 0,
          lines: form.lines.map(plain),
          charges: form.charges.map(charge => ({ ...charge, key: this.nextKey++ })),
        };
        if (!this.draft.lines.length) this.pushLine();
      },

      // Places and what is said of them.
      lineId(i, cell) {
        return "lines[" + i + "]." + cell;
      },
      chargeId(i, cell) {
        return "charges[" + i + "]." + cell;
      },
      lineLabel(i, cell) {
        return "Line " + (i + 1) + ", " + cell;
      },
      chargeLabel(i) {
        return "Remove charge " + (i + 1);
      },
      has(field) {
        return this.refusals.some(r => r.field === field);
      },
      said(field) {
        const found = this.refusals.find(r => r.field === field);
        return found ? found.message : "";
      },
      refusedClass(field) {
        return this.has(field) ? "is-refused" : "";
      },
      // What is wrong with a line stands below it, each with the name of its cell.
      saidOfLine(i) {
        const names = {
          text: "What",
          quantity: "Quantity",
          unit: "Unit",
          unitPrice: "Price",
          discount: "Discount",
          taxCode: "Tax",
          account: "Account",
        };
        const at = this.lineId(i, "");
        const unknown = (this.draft.lines[i] || {}).unknown;
        return (unknown ? [{ field: "unknown", text: unknown }] : []).concat(
          this.refusals
            .filter(r => r.field.startsWith(at))
            .map(r => ({ field: r.field, text: (names[r.field.slice(at.length)] || "Line") + ": " + r.message })),
        );
      },
      get pageWarnings() {
        return this.warnings.filter(w => !w.field.startsWith("lines["));
      },
      // Figures and warnings count the lines that they were asked about, which may have moved since.
      countedAs(i) {
        return (this.figures.keys || []).indexOf((this.draft.lines[i] || {}).key);
      },
      warnedOfLine(i) {
        const at = "lines[" + this.countedAs(i) + "].";
        return this.warnings.filter(w => w.field.startsWith(at)).map(w => w.message);
      },
      get openingOpen() {
        return Boolean(this.defaults.form && this.defaults.form.opening);
      },
      spaced(text) {
        return text + " ";
      },
      amountOf(i) {
        return (this.figures.lines || [])[this.countedAs(i)] || "";
      },
      get rateWay() {
        return this.draft.ratePerHome ? "1" : "";
      },
      set rateWay(way) {
        this.draft.ratePerHome = way === "1";
      },
      get staleClass() {
        return this.stale ? "stale" : "";
      },
      get dueHint() {
        return this.draft.dueDate || !this.figures.due
          ? ""
          : this.figures.due + (this.figures.terms ? ", " + this.figures.terms : "");
      },
      get taxCells() {
        return (this.figures.taxes || []).flatMap((tax, i) => [
          { key: "l" + i, look: "lbl", text: tax.label },
          { key: "f" + i, look: "fig", text: tax.tax },
        ]);
      },

      // A refusal goes to its cell; the two kinds of discount share one.
      take(refusals, prefix, keys = []) {
        // Empty lines are not sent, so the server's count of lines is turned back into the one that is seen.
        const place = n => {
          const at = this.draft.lines.findIndex(l => l.key === keys[n]);
          return at < 0 ? n : at;
        };
        const seen = field => field.replace(/^lines\[(\d+)\]/, (_, n) => "lines[" + place(n) + "]");
        this.refusals = refusals.map(r => ({
          field: prefix + seen(r.field).replace(/discount(Percent|Amount)$/, "discount"),
          message: r.message,
        }));
        // What has no place of its own on the page is said at its head.
        const known = f => document.getElementById(f) || f === "lines" || f.startsWith("st.") || f.startsWith("lines[");
        this.general = this.refusals.filter(r => !r.field || !known(r.field)).map(r => r.message);
      },

      async useCustomer(row) {
        const before =
          this.draft.customerId && this.draft.customerId !== row.id
            ? this.draft.customerId
            : this.lastCustomer && this.lastCustomer.id !== row.id
              ? this.lastCustomer.id
              : null;
        const undo = before ? { customer: this.lastCustomer, draft: JSON.parse(JSON.stringify(this.draft)) } : null;
        this.draft.customerId = row.id;
        this.lastCustomer = row;
        this.customerText = this.customerName = row.title;
        const priced = this.draft.lines.some(l => String(l.unitPrice).trim()),
          typedIn = this.currency;
        // Another customer is billed in their usual currency; the same one as before.
        if (before || !this.draft.currency || !row.currencies.includes(this.draft.currency))
          this.draft.currency = row.currency;
        this.currency = this.draft.currency;
        this.customerSaid = [];
        this.places = row.places || [];
        this.draft.placeId = -1;
        this.tradeDiscount = row.discount || "";
        // What was typed already stays; lines without a price take the customer's discount and way of pricing.
        if (!priced) {
          this.draft.pricesIncludeTax = Boolean(row.withTax);
          this.draft.lines.forEach(l => {
            l.discount = this.tradeDiscount;
          });
        }
        this.newCustomerOffered = false;
        this.people.close();
        if (priced && (before || typedIn !== this.currency)) await this.reprice(before, undo, typedIn);
        await this.reword();
        this.offerDeliveries();
        await this.followTaxes();
      },
      get currencies() {
        return (this.lastCustomer && this.lastCustomer.currencies) || [];
      },
      get billsSeveral() {
        return this.currencies.length > 1;
      },
      // The same lines in another of the customer's currencies: items at its prices, what was typed converted.
      async switchCurrency() {
        const typedIn = this.currency,
          sent = this.filled(),
          keys = this.sentKeys(sent);
        if (this.draft.lines.some(l => String(l.unitPrice).trim())) {
          const answer = await jugaad.post("/api/drafts/customer", {
            form: sent,
            before: null,
            currency: typedIn,
            keepsPrices: false,
          });
          if (!answer.ok || answer.data.currency !== this.draft.currency) {
            this.draft.currency = typedIn;
            this.take(answer.data.refusals || [], "", keys);
            return;
          }
          this.takeCells(answer.data, keys);
          this.currencyNote = answer.data.said.join("; ");
        }
        this.currency = this.draft.currency;
        this.offerDeliveries();
        this.changed();
      },
      // In which the paper is written, as things stand; nothing as long as there is no customer.
      language() {
        return this.draft.language || (this.lastCustomer && this.lastCustomer.language) || "";
      },
      // Texts that are as items and kinds have them become those of the other language; what was typed stays.
      async reword() {
        const before = this.wordedIn,
          now = this.language();
        this.wordedIn = now;
        if (before !== now) {
          const sent = this.filled(),
            keys = this.sentKeys(sent);
          const answer = await jugaad.post("/api/drafts/language", { form: sent, before, language: now });
          if (answer.ok) {
            answer.data.texts.forEach((text, n) => {
              const here = this.lineOf(keys[n]);
              if (here) here.text = text;
            });
            this.draft.note = answer.data.note;
          }
        }
        this.changed();
      },
      // Lines that were priced already follow the new customer, and what that changed is said.
      async reprice(before, undo, typedIn) {
        const sent = this.filled(),
          keys = this.sentKeys(sent);
        const answer = await jugaad.post("/api/drafts/customer", {
          form: sent,
          before,
          currency: typedIn,
          keepsPrices: Boolean(this.defaults.fromStarter && !before),
        });
        if (!answer.ok) return;
        this.takeCells(answer.data, keys);
        this.customerSaid = before || typedIn !== this.currency ? answer.data.said : [];
        this.customerBefore = undo;
      },
      // Cells that the server turned into another currency, or with tax into without.
      takeCells(cells, keys) {
        cells.lines.forEach((line, n) => {
          const here = this.lineOf(keys[n]);
          if (here) Object.assign(here, line, { key: here.key });
        });
        (cells.charges || []).forEach((charge, n) => {
          if (this.draft.charges[n]) Object.assign(this.draft.charges[n], charge, { key: this.draft.charges[n].key });
        });
        this.draft.discount = cells.discount || "";
      },
      // Prices go with the switch; where they cannot, the switch goes back.
      async switchMode() {
        const withTax = this.draft.pricesIncludeTax,
          sent = this.filled(),
          keys = this.sentKeys(sent);
        if (!sent.lines.length && !sent.charges.length) {
          this.changed();
          return;
        }
        const answer = await jugaad.post("/api/drafts/price-mode", sent);
        if (!answer.ok) {
          this.draft.pricesIncludeTax = !withTax;
          this.take(answer.data.refusals || [], "", keys);
          return;
        }
        this.takeCells(answer.data, keys);
        this.currencyNote =
          "The prices here are now " +
          (withTax ? "with" : "without") +
          " tax: list prices from the list, others converted by the tax of their line. Switch back to have them as before.";
        this.changed();
      },
      get customerSaidText() {
        return this.customerSaid.join("; ");
      },
      undoCustomer() {
        const back = this.customerBefore;
        this.draft = { ...back.draft, version: this.draft.version, id: this.draft.id };
        if (back.customer) {
          this.lastCustomer = back.customer;
          this.customerText = this.customerName = back.customer.title;
          this.currency = this.draft.currency || back.customer.currency;
          this.tradeDiscount = back.customer.discount || "";
          this.places = back.customer.places || [];
        }
        this.customerSaid = [];
        this.currencyNote = "";
        this.changed();
      },
      // What was delivered to the customer and is not billed is offered.
      async offerDeliveries() {
        this.deliveries = null;
        if (this.draft.kind !== "invoice" || !this.draft.customerId || this.draft.lines.some(l => l.fromLineId)) return;
        const open = await jugaad.get(
          "/api/drafts/deliveries?customer=" + this.draft.customerId + "&currency=" + this.currency,
        );
        this.deliveries = open.count ? open : null;
      },
      get deliveriesCount() {
        return this.deliveries ? this.deliveries.count : 0;
      },
      get deliveriesText() {
        return this.deliveries
          ? (this.deliveries.count === 1 ? "One delivery" : this.deliveries.count + " deliveries") +
              " to this customer, " +
              this.deliveries.net +
              ", not billed yet."
          : "";
      },
      takeDeliveries() {
        const taken = this.deliveries;
        this.draft.lines = this.draft.lines.filter(l => l.text.trim() || String(l.unitPrice).trim());
        this.draft.pricesIncludeTax = taken.withTax;
        taken.lines.forEach(cells =>
          this.draft.lines.push({ choice: "firm", chosen: false, ...cells, key: this.nextKey++, taxByHand: false }),
        );
        taken.charges.forEach(cells => this.draft.charges.push({ ...cells, key: this.nextKey++ }));
        this.deliveries = null;
        this.followTaxes();
      },
      // Which tax code applies follows the customer and the item; a code chosen by hand stays.
      async followTaxes(atFirst = false) {
        const turn = ++this.taxesTurn;
        const asked = this.draft.lines.map(l => ({ key: l.key, itemId: l.itemId }));
        const { kind, customerId, placeId, date, taxDate } = this.draft;
        const answer = await jugaad.post("/api/drafts/taxes", {
          kind,
          customerId,
          placeId,
          date,
          taxDate,
          lines: asked.map(l => ({ itemId: l.itemId })),
        });
        // Whoever asked again meanwhile gets the answer that counts.
        if (turn !== this.taxesTurn) return;
        if (answer.ok) this.useTaxes(asked, answer.data);
        if (!atFirst) {
          this.changed();
          return;
        }
        this.savedAs = this.typed();
        this.compute();
      },
      // Lines may have moved or changed while the answer was on its way: each is known by its key.
      useTaxes(asked, data) {
        this.chargeTax = data.charge.taxCodeId;
        this.draft.charges.forEach(c => {
          if (!c.taxByHand) c.taxCodeId = this.chargeTax;
        });
        data.lines.forEach((tax, n) => {
          const line = this.lineOf(asked[n].key);
          if (!line || line.itemId !== asked[n].itemId || line.taxByHand || this.isWords(line)) return;
          line.taxCodeId = tax.taxCodeId;
          line.why = tax.why;
        });
      },
      lineOf(key) {
        return this.draft.lines.find(l => l.key === key);
      },
      isWords(line) {
        return line.role === "text" || line.role === "section" || line.role === "subtotal";
      },
      follow() {
        this.followTaxes();
      },
      isPlace(id) {
        return this.draft.placeId === id;
      },
      chooseChargeTax(i) {
        this.draft.charges[i].taxByHand = true;
        this.changed();
      },
      chooseTax(i) {
        this.draft.lines[i].taxByHand = true;
        this.draft.lines[i].why = "";
        this.changed();
      },
      // Where the price comes from, as long as it is that price, and why the tax is what it is.
      whyOf(i) {
        const line = this.draft.lines[i];
        if (!line) return "";
        const price = line.priceFrom && line.unitPrice === line.priceSaid ? line.priceFrom : "";
        return [price, line.why || ""].filter(t => t).join(" · ");
      },
      saysAnything(i) {
        return (
          this.saidOfLine(i).length > 0 || this.whyOf(i) !== "" || this.warnedOfLine(i).length > 0 || this.isChoice(i)
        );
      },

      // New customers and items on the spot; one that is there already is pointed out.
      async lookAlike() {
        this.alike = await jugaad.get(
          "/api/customers/alike?name=" +
            encodeURIComponent(this.nc.name || "") +
            "&email=" +
            encodeURIComponent(this.nc.email || "") +
            "&taxNumber=" +
            encodeURIComponent(this.nc.taxNumber || ""),
        );
      },
      alikeWhy(row) {
        return row.code + (row.city ? " in " + row.city : "") + " " + row.why + ".";
      },
      async useAlike(row) {
        const rows = await jugaad.get("/api/customers?q=" + encodeURIComponent(row.code));
        this.alike = [];
        this.closeForms();
        const found = rows.find(r => r.id === row.id);
        if (found) this.chooseCustomer(found);
      },
      openCustomer() {
        this.nc.name = this.customerText;
        this.customerForm = true;
        this.lookAlike();
        this.$nextTick(() => document.getElementById("nc-email").focus());
      },
      openItem() {
        this.ni = { unit: "C62", taxCodeId: this.defaults.taxCodeId, accountId: this.defaults.accountId };
        this.itemForm = true;
        this.$nextTick(() => document.getElementById("ni-code").focus());
      },
      closeForms() {
        this.customerForm = this.itemForm = false;
        this.refusals = this.refusals.filter(r => !/^n[ci]\./.test(r.field));
      },
      async addCustomer() {
        const answer = await jugaad.post("/api/customers", { ...this.nc, formKey: jugaad.key() });
        if (!answer.ok) {
          this.take(answer.data.refusals || [], "nc.");
          return;
        }
        this.closeForms();
        this.chooseCustomer(answer.data);
      },
      async addItem() {
        const answer = await jugaad.post("/api/items", { ...this.ni, formKey: jugaad.key() });
        if (!answer.ok) {
          this.take(answer.data.refusals || [], "ni.");
          return;
        }
        this.closeForms();
        let i = this.draft.lines.findIndex(l => !l.text.trim());
        if (i < 0) {
          this.pushLine();
          i = this.draft.lines.length - 1;
        }
        this.useItem(this.draft.lines[i], answer.data);
        this.focusCell(i, "quantity");
        this.followTaxes();
      },

      // A key is meant for the document too when it is struck while no field has the focus.
      keysOfNobody(event) {
        if (event.target === document.body) this.keys(event);
      },
      // Keys: Enter goes on to the next cell, and adds a line at the end.
      keys(event) {
        this.keysPressed++;
        const row = event.target.closest("tr[data-line]");
        if (event.key === "Escape") {
          this.closeLists();
          this.closeForms();
          return;
        }
        if (event.key === "F8") {
          event.preventDefault();
          this.shelve();
          return;
        }
        if (event.altKey && event.key.toLowerCase() === "w") {
          event.preventDefault();
          this.addText();
          return;
        }
        if (event.ctrlKey && event.key === "Enter") {
          event.preventDefault();
          this.toSend();
          return;
        }
        if (event.ctrlKey && event.key.toLowerCase() === "s") {
          event.preventDefault();
          if (this.defaults.isChange) this.toPaper();
          else this.save();
          return;
        }
        if (row && event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
          event.preventDefault();
          this.moveLine(Number(row.dataset.line), event.key === "ArrowUp" ? -1 : 1);
          return;
        }
        if (event.key !== "Enter" || event.target.tagName === "TEXTAREA" || event.target.tagName === "BUTTON") return;
        event.preventDefault();
        if (!row) return;
        const cells = Array.from(row.querySelectorAll("input, select"));
        const next = cells[cells.indexOf(event.target) + 1];
        if (next) {
          next.focus();
          if (next.select) next.select();
          return;
        }
        const i = Number(row.dataset.line) + 1;
        if (i === this.draft.lines.length) {
          this.pushLine();
          this.followTaxes();
        }
        this.focusCell(i, "text");
      },

      // Figures and saving.
      changed() {
        // A pause after the last key may end after the draft was saved with it.
        this.dirty = this.typed() !== this.savedAs;
        if (this.dirty) this.status = "";
        this.stale = true;
        this.compute();
      },
      typed() {
        return JSON.stringify({ ...this.draft, id: 0, version: 0, theirs: 0 }, (name, value) =>
          name === "touched" || name === "unknown" ? undefined : value,
        );
      },
      // Lines that nothing has been typed into do not count; nor, while one types, do those that have no price yet.
      filled(whileTyping = false) {
        const priced = l => String(l.unitPrice).trim();
        const counts = l =>
          this.isWords(l)
            ? l.role === "subtotal" || l.text.trim()
            : whileTyping
              ? priced(l)
              : l.text.trim() || priced(l);
        const whole = id => Number(id) || null;
        return {
          ...this.draft,
          lines: this.draft.lines.filter(counts),
          termsId: whole(this.draft.termsId),
          seriesId: whole(this.draft.seriesId),
          sellerId: whole(this.draft.sellerId),
          seen: this.seen,
          formKey: this.formKey,
        };
      },
      sentKeys(body) {
        return body.lines.map(l => l.key);
      },
      async compute() {
        const turn = ++this.figuresTurn;
        if (!this.draft.customerId) {
          this.stale = false;
          return;
        }
        const body = this.filled(true);
        if (!body.lines.some(l => String(l.unitPrice).trim())) {
          this.figures = { taxes: [], lines: [] };
          this.stale = false;
          this.refusals = [];
          this.general = [];
          return;
        }
        const keys = this.sentKeys(body);
        const answer = await jugaad.post("/api/drafts/figures", body);
        if (turn !== this.figuresTurn) return;
        this.trouble = answer.lost ? answer.data.refusals[0].message : "";
        if (answer.lost) return;
        if (answer.ok && !answer.data.refusals) {
          this.figures = { ...answer.data, keys };
          this.followShares(answer.data.discounts, keys);
          this.currency = answer.data.currency;
          this.warnings = answer.data.warnings;
          this.seen = { ...answer.data.treatments, ...this.seen };
          this.refusals = [];
          this.general = [];
          this.stale = false;
        } else this.take(answer.data.refusals || [], "", keys);
      },
      async keepMine() {
        this.draft.version = this.draft.theirs;
        this.conflict = false;
        await this.save();
      },
      takeTheirs() {
        this.dirty = false;
        location.href = "/sell/edit/" + this.draft.id;
      },
      async toPaper() {
        if (await this.save()) location.href = "/papers/" + this.draft.id;
      },
      async toSend() {
        if (await this.save()) location.href = "/papers/" + this.draft.id + "/send";
      },
    }),
  );
});
