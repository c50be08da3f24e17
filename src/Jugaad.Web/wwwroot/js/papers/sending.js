"use strict";
// How a paper goes: each way shows the fields that it needs.
document.addEventListener("alpine:init", () => {
  Alpine.data("sending", () => ({
    how: "mail",
    init() {
      this.how = document.getElementById("how").dataset.begins;
    },
    get byMail() {
      return ["mail", "link", "hybrid"].includes(this.how);
    },
    get byNetwork() {
      return this.how === "network";
    },
    get byMessage() {
      return this.how === "message";
    },
    get byPrint() {
      return this.how === "print";
    },
    get withPaper() {
      return this.how === "mail" || this.how === "hybrid";
    },
  }));
});
