"use strict";
// The bench by keyboard: one line is current; its proposals are placed with Enter or their number.

document.addEventListener("alpine:init", () => {
  Alpine.data("bench", () => ({
    at: 0,
    busy: false,
    init() {
      this.mark();
    },
    lines() {
      return Array.from(document.querySelectorAll(".bank-line"));
    },
    mark() {
      const lines = this.lines();
      this.at = Math.max(0, Math.min(this.at, lines.length - 1));
      lines.forEach((line, i) => line.classList.toggle("is-active", i === this.at));
      if (lines[this.at]) lines[this.at].scrollIntoView({ block: "nearest" });
    },
    keys(event) {
      const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
      if (typing || event.ctrlKey || event.altKey || event.metaKey || this.busy) return;
      const line = this.lines()[this.at];
      if (event.key === "ArrowDown") {
        this.at++;
        this.mark();
        event.preventDefault();
      } else if (event.key === "ArrowUp") {
        this.at--;
        this.mark();
        event.preventDefault();
      } else if (
        event.key === "Enter" &&
        event.target.tagName !== "BUTTON" &&
        event.target.tagName !== "A" &&
        event.target.tagName !== "SUMMARY"
      ) {
        this.place(line, 0);
        event.preventDefault();
      } else if (/^[1-4]$/.test(event.key)) this.place(line, Number(event.key) - 1);
      else if (event.key === "a") {
        const all = document.querySelector("#all-sure");
        if (all) all.requestSubmit();
      } else if (event.key === "e" && line) location.href = line.querySelector(".by-hand").href;
      else if (event.key === "z") {
        const back = document.querySelector(".put-back");
        if (back) back.requestSubmit();
      }
    },
    place(line, nth) {
      const form = line && line.querySelectorAll("form.proposal")[nth];
      if (!form) return;
      this.busy = true;
      form.requestSubmit();
    },
  }));
});
