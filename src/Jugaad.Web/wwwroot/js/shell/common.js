"use strict";
// What every page shares: calls to the server, the jump box, and the keys.

const jugaad = {
  token() {
    return document.querySelector("meta[name=form-token]").content;
  },

  // Posts JSON. A page that was open too long gets a new token and tries once more, so nothing typed is lost. Where no
  // answer comes, or one that says nothing of what was sent, "lost" is true: it may have been done or not.
  async post(address, body, again = true) {
    let answer, text;
    try {
      answer = await fetch(address, {
        method: "POST",
        credentials: "same-origin",
        headers: { "Content-Type": "application/json", "X-Form-Token": jugaad.token() },
        body: JSON.stringify(body),
      });
      text = await answer.text();
    } catch {
      return { ok: false, lost: true, status: 0, data: { refusals: [{ field: "", message: jugaad.noAnswer }] } };
    }
    let data = {};
    try {
      data = text ? JSON.parse(text) : {};
    } catch {
      data = {};
    }
    if (answer.status === 400 && data.stale && again) {
      const fresh = await jugaad.ask("/api/token");
      if (fresh.ok) {
        document.querySelector("meta[name=form-token]").content = fresh.data.token;
        return jugaad.post(address, body, false);
      }
    }
    const lost = answer.status === 401 || answer.status >= 500;
    if (answer.status === 401) data.refusals = [{ field: "", message: jugaad.signedOut }];
    else if (lost) data.refusals = [{ field: "", message: jugaad.noAnswer }];
    else if (!answer.ok && !data.refusals && !data.conflict)
      data.refusals = [
        { field: "", message: "The server could not take this. What you typed is still here; try again in a moment." },
      ];
    return { ok: answer.ok, lost, status: answer.status, data };
  },

  noAnswer: "The server does not answer. What you typed is still here, and is sent again by itself.",
  signedOut:
    "You have been signed out. Sign in again in another tab; what you typed is still here, and is sent again by itself.",

  // Asks once. "ok" tells an answer with nothing in it from no answer at all.
  async ask(address) {
    try {
      const answer = await fetch(address, { credentials: "same-origin" });
      if (answer.ok) return { ok: true, data: await answer.json() };
      return { ok: false, why: answer.status === 401 ? jugaad.signedOut : jugaad.noAnswer };
    } catch {
      return { ok: false, why: jugaad.noAnswer };
    }
  },
  async get(address) {
    const answer = await jugaad.ask(address);
    return answer.ok ? answer.data : [];
  },
  // Asks until there is an answer, and says meanwhile why there is none.
  async insist(address, say) {
    for (;;) {
      const answer = await jugaad.ask(address);
      say(answer.ok ? "" : answer.why);
      if (answer.ok) return answer.data;
      await new Promise(resolve => setTimeout(resolve, 1500));
    }
  },

  // One object of several parts, with what they compute kept as it is.
  together(...parts) {
    return parts.reduce((whole, part) => Object.defineProperties(whole, Object.getOwnPropertyDescriptors(part)), {});
  },

  key() {
    return Array.from(crypto.getRandomValues(new Uint8Array(16)), b => b.toString(16).padStart(2, "0")).join("");
  },
};

// A ledger that is wider than its box can be scrolled by the arrow keys too.
const reach = () =>
  document.querySelectorAll(".scrolls").forEach(box => {
    const wide = box.scrollWidth > box.clientWidth + 1;
    if (wide) {
      box.tabIndex = 0;
      box.setAttribute("role", "group");
      box.setAttribute("aria-label", "A wide table; the arrow keys scroll it");
    } else {
      box.removeAttribute("tabindex");
      box.removeAttribute("role");
      box.removeAttribute("aria-label");
    }
  });
// What a list comes to is asked for once its rows are there, and holds nothing up.
async function sumUp(foot) {
  const answer = await jugaad.ask(foot.dataset.totals);
  if (!answer.ok) return;
  foot.querySelector(".in-all").textContent = answer.data.words;
  const sums = document.querySelector("tfoot[data-sums]");
  if (!sums) return;
  const cell = (row, text, look) => {
    const made = row.insertCell();
    made.textContent = text;
    made.className = look;
    return made;
  };
  for (const sum of answer.data.sums) {
    const row = sums.insertRow();
    cell(row, "All that is shown, in " + sum.currency, "").colSpan = Number(sums.dataset.lead);
    for (const key of sums.dataset.sums.split(",")) cell(row, sum.amounts[key], "fig nowrap");
    cell(row, sum.currency, "");
  }
}

// So are the sums of a long report.
async function sumReport(foot) {
  const answer = await jugaad.ask(foot.dataset.reportSums);
  if (!answer.ok) return;
  for (const sum of answer.data) {
    const row = foot.insertRow();
    row.className = "party";
    for (const { text, look } of sum) {
      const cell = row.insertCell();
      cell.textContent = text;
      cell.className = look;
    }
    // Some rows say more than the sums do, such as what they were billed in.
    const heads = foot.closest("table").querySelectorAll("thead th").length;
    if (row.cells.length < heads) row.insertCell().colSpan = heads - row.cells.length;
  }
}

// Where the rows of a list are stacked, each cell says which column it is of; what speaks for itself does not.
const nameCells = () =>
  document.querySelectorAll("table.stacks").forEach(table => {
    const heads = Array.from(table.querySelectorAll("thead th"), th =>
      th.querySelector(".sr") ? "" : th.textContent.trim(),
    );
    table.querySelectorAll("tbody tr").forEach(row =>
      Array.from(row.cells).forEach((cell, i) => {
        const first = row.cells[0].matches(".picks") ? 1 : 0;
        if (i > first && heads[i] && !cell.matches(".clip, .wide") && !cell.querySelector("svg"))
          cell.dataset.head = heads[i];
      }),
    );
  });
document.addEventListener("DOMContentLoaded", () => {
  nameCells();
  reach();
  document.querySelectorAll("[data-totals]").forEach(sumUp);
  document.querySelectorAll("[data-report-sums]").forEach(sumReport);
});
window.addEventListener("resize", reach);

// A field for a region offers those of the country that is chosen in the field of the same part of the form.
document.addEventListener("focusin", event => {
  if (!/region$/.test(event.target.id || "")) return;
  const chosen = [event.target.id.replace(/region$/, "country"), "country"].map(
    id => (document.getElementById(id) || {}).value,
  );
  const code =
    chosen.find(Boolean) || (document.querySelector("[data-home-country]") || { dataset: {} }).dataset.homeCountry;
  if (document.getElementById("regions-" + code)) event.target.setAttribute("list", "regions-" + code);
  else event.target.removeAttribute("list");
});

document.addEventListener("alpine:init", () => {
  Alpine.data("jump", () => ({
    text: "",
    found: finder(),
    said: "",
    get expanded() {
      return this.found.expanded;
    },
    get shown() {
      return this.found.shown;
    },
    address() {
      return "/api/jump?q=" + encodeURIComponent(this.text.trim());
    },
    look() {
      if (this.text.trim()) this.found.look(this.address());
      else this.found.close();
    },
    async key(event) {
      if (this.found.move(event)) return;
      if (event.key !== "Enter") return;
      event.preventDefault();
      const typed = this.text.trim();
      if (!typed) return;
      const { row } = await this.found.enter(this.address(), why => {
        this.said = why;
      });
      if (row && this.text.trim() === typed) window.location = row.address;
      else if (!row) this.said = "Nothing is called “" + typed + "”.";
    },
    go(i) {
      window.location = this.found.rows[i].address;
    },
    close() {
      this.said = "";
      this.found.close();
      document.getElementById("jump").blur();
    },
  }));

  // Picking rows of a list: all at once, and how many are picked.
  Alpine.data("picks", () => ({
    none: true,
    said: "",
    init() {
      this.count();
    },
    boxes() {
      return Array.from(this.$root.querySelectorAll(".pick"));
    },
    all(event) {
      this.boxes().forEach(box => {
        box.checked = event.target.checked;
      });
      this.count();
    },
    count() {
      const n = this.boxes().filter(box => box.checked).length;
      const every = this.$root.querySelector(".every:checked");
      this.none = n === 0 && !every;
      this.said = every ? "all picked" : n === 0 ? "none picked" : n + " picked";
    },
  }));

  // On a narrow screen the areas of work fold behind a button.
  Alpine.data("areas", () => ({
    open: false,
    get expanded() {
      return this.open ? "true" : "false";
    },
    turn() {
      this.open = !this.open;
      document.body.classList.toggle("areas-open", this.open);
    },
  }));

  Alpine.data("keys", () => ({
    open: false,
    first: "",
    init() {
      document.addEventListener("keydown", event => this.press(event));
    },
    show() {
      this.open = true;
      this.$nextTick(() => document.getElementById("keys-close").focus());
    },
    hide() {
      this.open = false;
    },
    // The newest from the shelf, wherever one is.
    async fromShelf() {
      const answer = await jugaad.post("/api/shelf/reopen-newest", {});
      if (answer.ok && answer.data.id) window.location = "/sell/edit?kept=" + answer.data.id;
    },
    press(event) {
      if (event.key === "Escape") {
        this.hide();
        return;
      }
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        event.target.closest("input, textarea, select, [contenteditable]")
      )
        return;
      if (event.key === "F8" && !document.querySelector(".editor")) {
        event.preventDefault();
        this.fromShelf();
        return;
      }
      const go = {
        gd: "/",
        gs: "/sell",
        gr: "/receive",
        gc: "/collect",
        nq: "/sell/edit?kind=quote",
        ni: "/sell/edit?kind=invoice",
        nr: "/receive/new",
      }[this.first + event.key];
      this.first = "";
      if (go) window.location = go;
      else if (event.key === "/") {
        event.preventDefault();
        const box = document.getElementById("jump");
        if (box) box.focus();
      } else if (event.key === "?") this.show();
      else if (event.key === "g" || event.key === "n") this.first = event.key;
    },
  }));

  // A form that is sent by changing it, such as a filter.
  Alpine.data("sendOnChange", () => ({
    send() {
      this.$root.requestSubmit();
    },
  }));

  // A button that acts in place and cannot be pressed twice.
  Alpine.data("once", () => ({
    busy: false,
    press(event) {
      if (this.busy) event.preventDefault();
      this.busy = true;
    },
  }));
});
