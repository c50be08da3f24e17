"use strict";
// A list that follows what one types. Enter belongs to what was typed: it waits for the answer to exactly that, however
// slow, then takes the entry that one moved to, else the exact one, else the first. A late answer to something older
// changes nothing.

const finder = () => {
  // Questions under way by address, so that Enter shares the one that typing asked.
  const underWay = new Map();
  const question = address => {
    if (!underWay.has(address)) {
      const answer = jugaad.ask(address);
      underWay.set(address, answer);
      answer.then(() => underWay.delete(address));
    }
    return underWay.get(address);
  };

  return {
    rows: [],
    active: 0,
    moved: false,
    // Whose answer the rows are, and what was asked last.
    of: "",
    wanted: "",

    get shown() {
      return this.rows.length > 0;
    },
    get expanded() {
      return this.shown ? "true" : "false";
    },
    isActive(i) {
      return i === this.active ? "true" : "false";
    },
    rowClass(i) {
      return i === this.active ? "is-active" : "";
    },

    // While one types. Answers whether this is still what is asked.
    async look(address) {
      this.wanted = address;
      const answer = await question(address);
      if (this.wanted !== address) return false;
      if (answer.ok) {
        this.rows = answer.data;
        this.of = address;
        this.active = 0;
        this.moved = false;
      }
      return answer.ok;
    },
    close() {
      this.rows = [];
      this.of = this.wanted = "";
      this.active = 0;
      this.moved = false;
    },

    // Up and down; true where the key was meant for the list.
    move(event) {
      if (!this.shown || (event.key !== "ArrowDown" && event.key !== "ArrowUp")) return false;
      event.preventDefault();
      this.active =
        event.key === "ArrowDown" ? Math.min(this.active + 1, this.rows.length - 1) : Math.max(this.active - 1, 0);
      this.moved = true;
      return true;
    },

    // What Enter takes of the answer to this address: the row, and whether it is exactly what was typed or was moved to.
    // There is no row where nothing fits. Where the server does not answer, it says so and asks on. Who asks a second time
    // for what was found already gives its id.
    async enter(address, say, id = null) {
      const had = this.of === address ? this.rows : null,
        picked = had && this.moved ? had[this.active] : null;
      this.close();
      if (picked) return { row: picked, exact: true };
      const answer = had ? { ok: true, data: had } : await question(address);
      const rows = answer.ok ? answer.data : await jugaad.insist(address, say);
      const exact = rows.find(r => r.id !== undefined && r.id === id) || rows.find(r => r.exact);
      return { row: exact || rows[0] || null, exact: Boolean(exact) };
    },
  };
};
