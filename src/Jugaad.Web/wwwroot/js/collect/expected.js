"use strict";
// A week that is pointed at, or picked, shows what it is made of; the look back is asked for when somebody wants it.

document.addEventListener("alpine:init", () => {
  Alpine.data("expected", () => ({
    picked: "",
    init() {
      this.$root.querySelectorAll(".week").forEach(week => {
        week.addEventListener("mouseenter", () => this.show(week.dataset.week));
        week.addEventListener("mouseleave", () => this.show(this.picked));
        week.addEventListener("click", () => this.choose(week.dataset.week));
      });
      this.$root.querySelectorAll("#weeks button").forEach(button => {
        button.addEventListener("focus", () => this.show(button.dataset.week));
        button.addEventListener("blur", () => this.show(this.picked));
      });
    },
    pick(event) {
      this.choose(event.currentTarget.dataset.week);
    },
    choose(week) {
      this.picked = this.picked === week ? "" : week;
      this.show(this.picked);
    },
    show(week) {
      this.$root.querySelectorAll("#parts tbody tr").forEach(row => {
        row.hidden = week !== "" && row.dataset.week !== week;
      });
      this.$root
        .querySelectorAll("#weeks tbody tr, .week")
        .forEach(row => row.classList.toggle("is-active", week !== "" && row.dataset.week === week));
    },
  }));

  Alpine.data("lookBack", () => ({
    async look(event) {
      event.currentTarget.disabled = true;
      const place = this.$root.querySelector(".look-back");
      const answer = await fetch(this.$root.dataset.address, { credentials: "same-origin" });
      place.innerHTML = answer.ok ? await answer.text() : "That could not be read. Load the page again.";
    },
  }));
});
