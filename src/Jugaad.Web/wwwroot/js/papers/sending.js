"use strict";
// How a paper goes: each way shows the fields that it needs.
document.addEventListener("alpine:init", () => {
  Alpine.data("sending", () => ({
    how: "mail",
    init() { this.how = document.getElementById("how").dataset.begins; },
    get byMail() { return this.how === "mail" || this.how === "link"; },
    get byMessage() { return this.how === "message"; },
    get byPrint() { return this.how === "print"; },
    get withPaper() { return this.how === "mail"; },
  }));
});
