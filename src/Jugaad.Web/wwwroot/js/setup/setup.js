"use strict";
// Setup: what a number pattern means, while one types.

document.addEventListener("alpine:init", () => {
  // A part that repeats: another empty row from the template, with the next number.
  Alpine.data("rows", () => ({
    add() {
      const blank = this.$refs.blank,
        rows = this.$root.querySelectorAll(".repeat").length;
      const row = document.createElement("div");
      row.append(blank.content.cloneNode(true));
      row.innerHTML = row.innerHTML.replaceAll("__i__", rows);
      blank.before(row.firstElementChild);
      blank.previousElementSibling.querySelector("input:not([type=hidden])").focus();
    },
  }));

  // How far an import is; when it is finished, the page says what became of it.
  Alpine.data("progress", () => ({
    done: "",
    init() {
      this.ask();
    },
    async ask() {
      const now = await jugaad.get("/api/moving/" + this.$root.dataset.id);
      if (now.finished) {
        location.reload();
        return;
      }
      this.done = now.done;
      document.getElementById("progress").value = now.done;
      setTimeout(() => this.ask(), 400);
    },
  }));

  // A customer that is there already is pointed out while one types.
  Alpine.data("alike", () => ({
    rows: [],
    init() {
      const fields = ["name", "taxNumber", "registrationNumber", "email"];
      this.$el.addEventListener("input", event => {
        if (!fields.includes(event.target.name)) return;
        clearTimeout(this.later);
        this.later = setTimeout(() => this.look(fields), 250);
      });
    },
    address(row) {
      return "/customers/" + row.id;
    },
    async look(fields) {
      const typed = fields.map(f => f + "=" + encodeURIComponent(document.getElementById(f).value));
      this.rows = await jugaad.get(
        "/api/customers/alike?" +
          typed.concat(this.$root.dataset.except ? ["except=" + this.$root.dataset.except] : []).join("&"),
      );
    },
  }));

  Alpine.data("pattern", () => ({
    words: "",
    init() {
      const follow = () => {
        clearTimeout(this.later);
        this.later = setTimeout(() => this.ask(), 200);
      };
      this.$el.addEventListener("input", follow);
      this.ask();
    },
    async ask() {
      const pattern = document.getElementById("pattern").value,
        restarts = document.getElementById("restarts").value,
        usedFor = document.getElementById("usedFor").value;
      this.words =
        (
          await jugaad.get(
            "/setup/numbers?handler=Preview&pattern=" +
              encodeURIComponent(pattern) +
              "&usedFor=" +
              usedFor +
              "&restarts=" +
              restarts,
          )
        ).words || "";
    },
  }));
});
