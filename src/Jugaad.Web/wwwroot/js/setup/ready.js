"use strict";
// Puts values into many fields at once; nothing is kept before the form is.
document.addEventListener("alpine:init", () => {
  Alpine.data("ready", () => ({
    rows(part) {
      return [...this.$root.querySelectorAll(`[data-part="${part}"] tr[data-code]`)];
    },
    field(row, name) {
      return row.querySelector(`[name$="].${name}"]`);
    },
    set(field, value) {
      if (field.tagName === "SELECT" && ![...field.options].some(o => o.value === value))
        field.add(new Option(value, value));
      field.value = value;
    },
    fill(event) {
      const { part, from, fields } = event.currentTarget.dataset;
      const values = from.split(",").map(id => document.getElementById(id).value.trim());
      for (const row of this.rows(part))
        fields.split(",").forEach((name, i) => {
          const field = this.field(row, name);
          if (field.value === "" && values[i] !== "") this.set(field, values[i]);
        });
    },
    // Cells are apart by tabs, as spreadsheets copy them, or by semicolons.
    paste(event) {
      const { part, fields } = event.currentTarget.dataset;
      const box = document.getElementById(`paste-${part}`);
      const byCode = new Map(this.rows(part).map(row => [row.dataset.code.toLowerCase(), row]));
      const left = [];
      for (const line of box.value.split("\n").filter(l => l.trim() !== "")) {
        const cells = line.split(line.includes("\t") ? "\t" : ";").map(c => c.trim());
        const row = byCode.get(cells[0].toLowerCase());
        if (!row) left.push(line);
        else
          fields.split(",").forEach((name, i) => {
            if (cells[i + 1]) this.set(this.field(row, name), cells[i + 1]);
          });
      }
      box.value = left.join("\n");
    },
  }));
});
