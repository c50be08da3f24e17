"use strict";
// The receipt sheet. Whose money a row is, what it is for and what all come to is asked of the server.

document.addEventListener("alpine:init", () => {
  Alpine.data("sheet", () => ({
    sum: "",
    differs: "",
    said: "",
    turn: 0,
    init() {
      this.ask();
    },
    rows() {
      return [...document.querySelectorAll("#rows tr")];
    },
    async ask() {
      this.grow();
      const turn = ++this.turn;
      const answer = await fetch("/receive/sheet?handler=Propose", {
        method: "POST",
        body: new FormData(this.$root),
        credentials: "same-origin",
      });
      if (turn !== this.turn || !answer.ok) return;
      const said = await answer.json();
      this.sum = said.sum;
      this.differs = said.differs;
      this.rows().forEach(tr => {
        const row = said.rows.find(r => String(r.row) === tr.dataset.row);
        const typing = tr.contains(document.activeElement) && row && row.problem;
        tr.querySelector(".who").textContent = row ? row.who : "";
        const why = tr.querySelector(".why");
        why.textContent = !row ? "" : row.problem && !typing ? row.problem : row.why;
        why.classList.toggle("late", Boolean(row && row.problem && !typing));
        tr.querySelector(".rest").textContent = row ? row.rest : "";
        tr.querySelector(".keep-it").hidden = !(row && row.keeps);
      });
    },
    // There is always an empty row at the end.
    grow() {
      const rows = this.rows(),
        last = rows[rows.length - 1];
      if (rows.length >= 300 || ![...last.querySelectorAll("input:not([type=checkbox])")].some(box => box.value.trim()))
        return;
      const next = last.cloneNode(true),
        from = "rows[" + last.dataset.row + "]",
        to = "rows[" + (Number(last.dataset.row) + 1) + "]";
      next.dataset.row = String(Number(last.dataset.row) + 1);
      next.querySelectorAll("[id], [name], label[for]").forEach(e => {
        if (e.id) e.id = e.id.replace(from, to);
        if (e.name) e.name = e.name.replace(from, to);
        if (e.htmlFor) e.htmlFor = e.htmlFor.replace(from, to);
      });
      next.querySelectorAll("input").forEach(box => {
        box.value = "";
        box.checked = false;
        box.classList.remove("is-refused");
        box.removeAttribute("aria-invalid");
      });
      next.querySelectorAll(".refusal").forEach(words => words.remove());
      next.querySelectorAll(".who, .why, .rest").forEach(words => {
        words.textContent = "";
      });
      next.querySelectorAll("label.sr").forEach(label => {
        label.textContent = label.textContent.replace(/row \d+/, "row " + (Number(next.dataset.row) + 1));
      });
      last.after(next);
    },
    keys(event) {
      if (event.key !== "Enter") return;
      if (event.ctrlKey) {
        event.preventDefault();
        this.$root.requestSubmit();
        return;
      }
      if (!event.target.matches("#rows input")) return;
      event.preventDefault();
      this.grow();
      const boxes = [...document.querySelectorAll("#rows input:not([type=checkbox])")];
      const next = boxes[boxes.indexOf(event.target) + 1];
      if (next) next.focus();
    },
  }));
});
