"use strict";
// Finding customers and items in the editor. Enter goes on at once to where one types next; what it asked for is put in its
// place when the answer comes, in the order in which it was asked, and wherever the line has gone meanwhile.

const editorFinding = () => ({
  people: finder(),
  things: finder(),
  itemList: "",
  asking: Promise.resolve(),
  keysPressed: 0,

  // What Enter asked for and has not got yet; a save waits for it.
  settled() {
    return this.asking;
  },
  afterwards(work) {
    this.asking = this.asking.then(work, work);
    return this.asking;
  },
  tell(why) {
    this.trouble = why;
  },
  closeLists() {
    const line = this.draft.lines.find((l, i) => this.lineId(i, "text") === this.itemList);
    // Words that are to stay words are not looked up by the next Enter.
    if (line && this.things.shown) line.touched = false;
    this.people.close();
    this.things.close();
  },

  customerAddress() {
    return "/api/customers?q=" + encodeURIComponent(this.customerText.trim());
  },
  get customerSettled() {
    return this.draft.customerId > 0 && this.customerText === this.customerName;
  },
  async lookCustomer() {
    if (this.customerSettled) return;
    this.draft.customerId = 0;
    const typed = this.customerText.trim();
    if (!(await this.people.look(this.customerAddress())) || this.customerSettled) return;
    this.newCustomerOffered = typed.length > 1 && !this.people.rows.some(r => r.exact);
    if (document.activeElement.id !== "customer") this.people.close();
  },
  keyCustomer(event) {
    if (event.altKey || event.ctrlKey || this.people.move(event)) return;
    if (event.key === "ArrowDown") {
      this.people.look(this.customerAddress());
      event.preventDefault();
    } else if (event.key === "Enter") {
      event.preventDefault();
      event.stopPropagation();
      this.enterCustomer();
    }
  },
  enterCustomer() {
    const typed = this.customerText.trim();
    if (!typed) return;
    this.focusCell(0, "text");
    if (this.customerSettled) {
      this.people.close();
      return;
    }
    this.draft.customerId = 0;
    const pressed = this.keysPressed,
      answer = this.people.enter(this.customerAddress(), why => this.tell(why));
    this.afterwards(async () => {
      const { row } = await answer;
      if (this.customerText.trim() !== typed) return;
      if (row) {
        await this.useCustomer(row);
        return;
      }
      this.newCustomerOffered = typed.length > 1;
      // Whoever types on elsewhere is not torn away.
      if (pressed === this.keysPressed && typed.length > 1) this.openCustomer();
    });
  },
  leaveCustomer() {
    this.people.close();
  },
  pickCustomer(i) {
    this.chooseCustomer(this.people.rows[i]);
  },
  chooseCustomer(row) {
    this.focusCell(0, "text");
    this.afterwards(() => this.useCustomer(row));
  },

  showsItems(i) {
    return this.things.shown && this.itemList === this.lineId(i, "text");
  },
  itemsExpanded(i) {
    return this.showsItems(i) ? "true" : "false";
  },
  itemAddress(text) {
    const { customerId, placeId, pricesIncludeTax } = this.draft,
      day = this.draft.taxDate || this.draft.date;
    return (
      "/api/items?q=" +
      encodeURIComponent(text) +
      (customerId ? "&customer=" + customerId : "") +
      (day ? "&date=" + encodeURIComponent(day) : "") +
      (placeId >= 0 ? "&place=" + placeId : "") +
      "&withTax=" +
      Boolean(pricesIncludeTax) +
      "&language=" +
      this.language() +
      "&currency=" +
      (this.draft.currency || "")
    );
  },
  async lookItem(i) {
    const line = this.draft.lines[i];
    if (!line) return;
    this.changed();
    // Whoever has left the cell in the meantime wants no list any more.
    const here = document.activeElement && document.activeElement.id === this.lineId(i, "text"),
      typed = line.text.trim();
    if (!here || !this.hasFigures(i) || typed.length < 2 || !line.touched) {
      this.things.close();
      return;
    }
    this.itemList = this.lineId(i, "text");
    await this.things.look(this.itemAddress(typed));
  },
  keyItem(event, i) {
    if (event.altKey || event.ctrlKey || !this.hasFigures(i)) return;
    const line = this.draft.lines[i];
    if (this.showsItems(i) && this.things.move(event)) return;
    if (event.key === "ArrowDown") {
      this.itemList = this.lineId(i, "text");
      this.things.look(this.itemAddress(line.text.trim()));
      event.preventDefault();
      event.stopPropagation();
    } else if (event.key === "Enter" && this.asksForItem(line)) {
      event.preventDefault();
      event.stopPropagation();
      this.enterItem(line, i);
    }
  },
  touch(i) {
    Object.assign(this.draft.lines[i], { touched: true, unknown: "" });
  },
  // Only what was typed here since is looked up, not words that one just passes by.
  asksForItem(line) {
    return line.text.trim().length > 1 && Boolean(line.touched || (this.things.moved && this.things.shown));
  },
  enterItem(line, i) {
    const typed = line.text.trim(),
      scanned = /^\d{8,14}$/.test(typed),
      had = { unit: line.unit, unitPrice: line.unitPrice, discount: line.discount };
    const address = this.itemAddress(typed),
      answer = this.things.enter(address, why => this.tell(why));
    line.touched = false;
    // After a scan one scans on; after words comes how many.
    if (scanned) this.toNextLine(i);
    else this.focusCell(i, "quantity");
    const pressed = this.keysPressed;
    this.afterwards(async () => {
      // The customer may have been settled meanwhile, and with it the price.
      const first = await answer,
        since = this.itemAddress(typed);
      const { row, exact } =
        since === address ? first : await this.things.enter(since, why => this.tell(why), first.row && first.row.id);
      const now = this.lineOf(line.key);
      if (!now || now.text.trim() !== typed) return;
      const fits = row && (exact || (!scanned && !now.itemId));
      if (fits) {
        this.useItem(now, row, had);
        if (row.barcode && !scanned && pressed === this.keysPressed) this.toNextLine(this.draft.lines.indexOf(now));
      } else if (scanned)
        now.unknown = "No item has the barcode " + typed + ". Choose one by name, or add it as a new item.";
    });
  },
  toNextLine(i) {
    if (i === this.draft.lines.length - 1) this.pushLine();
    this.focusCell(i + 1, "text");
  },
  leaveItem() {
    this.things.close();
  },
  pickItem(i, n) {
    const line = this.draft.lines[i],
      row = this.things.rows[n];
    this.things.close();
    this.focusCell(i, "quantity");
    this.useItem(line, row);
  },
  // Puts an item into a line; what was typed into its other cells since it was asked for stays.
  useItem(line, row, had = null) {
    const again =
      row.scanned &&
      this.draft.lines.find(
        l =>
          l !== line &&
          l.itemId === row.id &&
          l.role === "item" &&
          !l.fromLineId &&
          /^\d+$/.test(String(l.quantity).trim()),
      );
    if (again) {
      this.countAgain(line, again, row);
      return;
    }
    const untouched = cell => !had || line[cell] === had[cell];
    if (untouched("unit")) line.unit = row.unit;
    if (untouched("unitPrice")) line.unitPrice = row.price;
    if (untouched("discount")) line.discount = row.discount || line.discount;
    Object.assign(line, {
      itemId: row.id,
      text: row.text,
      touched: false,
      taxCodeId: row.taxCodeId,
      accountId: row.accountId,
      why: row.why || "",
      priceFrom: row.priceFrom || "",
      priceSaid: row.price,
      taxByHand: false,
    });
    this.changed();
  },
  // The same thing scanned again is one more of it, and its line is free for the next.
  countAgain(line, there, row) {
    there.quantity = String(Number(there.quantity) + 1);
    const at = this.draft.lines.indexOf(line);
    if (this.draft.lines[at + 1]) this.draft.lines.splice(at, 1);
    else {
      line.text = "";
      this.focusCell(at, "text");
    }
    this.status = row.title + ": " + there.quantity;
    this.changed();
  },
});
