"use strict";
// Ticking rows of a list: all at once, and how many are ticked.
document.addEventListener("alpine:init", () => {
  Alpine.data("picking", () => ({
    said: "",
    init() { this.count(); },
    boxes() { return Array.from(this.$root.querySelectorAll("tbody input[type=checkbox]")); },
    all(event) { this.boxes().forEach(box => { box.checked = event.target.checked; }); this.count(); },
    count() {
      const n = this.boxes().filter(box => box.checked).length;
      this.said = n === 0 ? "none ticked" : n + " ticked";
    },
  }));
});
