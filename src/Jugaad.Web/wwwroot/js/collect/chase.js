"use strict";
// The chase list by keyboard: one customer is current; Enter opens their slip in place, with the cursor where the
// promise is written; Enter there notes it, and the list comes back with the next customer current.

document.addEventListener("alpine:init", () => {
  const remembered = "chase-at";
  Alpine.data("chase", () => ({
    at: 0,
    busy: false,
    init() {
      this.at = Number(sessionStorage.getItem(remembered) || 0);
      sessionStorage.removeItem(remembered);
      this.mark();
      this.$root.addEventListener("submit", () => {
        sessionStorage.setItem(remembered, this.at);
      });
    },
    rows() {
      return Array.from(this.$root.querySelectorAll(".chase-row"));
    },
    current() {
      return this.rows()[this.at];
    },
    mark() {
      const rows = this.rows();
      this.at = Math.max(0, Math.min(this.at, rows.length - 1));
      rows.forEach((row, i) => row.classList.toggle("is-active", i === this.at));
      if (rows[this.at]) rows[this.at].scrollIntoView({ block: "nearest" });
    },
    turn(event) {
      const row = event.target.closest(".chase-row");
      this.at = this.rows().indexOf(row);
      this.mark();
      return row.querySelector(".slip") ? this.fold(row) : this.unfold(row);
    },
    fold(row) {
      const slip = row.querySelector(".chase-slip");
      slip.hidden = true;
      slip.replaceChildren();
      row.classList.remove("is-open");
    },
    // The slip is what the customer's own page shows, and stands in the list while it is open.
    async unfold(row) {
      if (this.busy) return;
      this.busy = true;
      this.rows()
        .filter(r => r.classList.contains("is-open"))
        .forEach(r => this.fold(r));
      const wishes = this.$root.dataset.wishes;
      const answer = await fetch("/collect/" + row.dataset.customer + "?slip=1" + (wishes ? "&" + wishes : ""), {
        credentials: "same-origin",
      });
      this.busy = false;
      if (!answer.ok) {
        window.location = "/collect/" + row.dataset.customer;
        return;
      }
      const slip = row.querySelector(".chase-slip");
      slip.innerHTML = await answer.text();
      slip.hidden = false;
      row.classList.add("is-open");
      row.scrollIntoView({ block: "nearest" });
      const first = slip.querySelector("#until");
      if (first) first.focus();
    },
    keys(event) {
      const row = this.current();
      if (
        event.key === "Escape" &&
        row &&
        row.classList.contains("is-open") &&
        !document.querySelector("#day-calendar:popover-open")
      ) {
        this.fold(row);
        row.focus();
        event.preventDefault();
        return;
      }
      if (
        /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName) ||
        event.ctrlKey ||
        event.altKey ||
        event.metaKey ||
        !row
      )
        return;
      if (event.key === "ArrowDown") {
        this.at++;
        this.mark();
        event.preventDefault();
      } else if (event.key === "ArrowUp") {
        this.at--;
        this.mark();
        event.preventDefault();
      } else if (event.key === "Enter" && !/^(BUTTON|A|SUMMARY)$/.test(event.target.tagName)) {
        event.preventDefault();
        this.unfold(row);
      } else if (event.key === "x") this.press(row, "button[value=NoAnswer]");
      else if (event.key === "w") this.press(row, "button[name=week]");
    },
    async press(row, which) {
      if (!row.querySelector(".slip")) await this.unfold(row);
      const button = row.querySelector(which);
      if (button && !this.busy) {
        this.busy = true;
        button.form.requestSubmit(button);
      }
    },
  }));
});
