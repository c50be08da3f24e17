"use strict";
// The receipt's allocation. The server proposes and reckons; this puts its answer into the fields.

document.addEventListener("alpine:init", () => {
  Alpine.data("receipt", () => ({
    left: "",
    problem: "",
    worth: "",
    turn: 0,
    sent: false,
    init() {
      this.$root.querySelectorAll("input.fig").forEach(box => box.addEventListener("input", () => this.ask("")));
      this.$root.querySelectorAll("#way, #date").forEach(box => box.addEventListener("change", () => this.ask("")));
      this.ask("");
    },
    async ask(how) {
      const turn = ++this.turn;
      const body = new FormData(this.$root);
      body.set("how", how);
      const answer = await fetch("/receive/new?handler=Propose", { method: "POST", body, credentials: "same-origin" });
      if (turn !== this.turn || !answer.ok) return;
      const said = await answer.json();
      this.left = said.left;
      this.problem = said.problem;
      this.worth = said.worth || "";
      document.querySelectorAll("[id^='rest-of-']").forEach(label => {
        const rest = (said.rests || []).find(r => "rest-of-" + r.id === label.id);
        label.hidden = !rest;
        if (rest) label.querySelector("span").textContent = rest.amount;
        else label.querySelector("input").checked = false;
      });
      if (!how || !said.parts) return;
      document.getElementById("amount").value = said.amount;
      said.parts.forEach(part => {
        const box = document.getElementById("against[" + part.id + "]");
        if (box) box.value = part.amount;
      });
    },
    again() {
      this.ask("");
    },
    oldest() {
      this.ask("oldest");
    },
    none() {
      this.ask("none");
    },
    full(event) {
      this.ask("full:" + event.currentTarget.dataset.item);
    },
    once(event) {
      if (this.sent) event.preventDefault();
      this.sent = true;
    },
  }));
});
