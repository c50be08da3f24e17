"use strict";
// What every page shares: calls to the server, the jump box, and the keys.

const jugaad = {
  token() { return document.querySelector("meta[name=form-token]").content; },

  // Posts JSON. A page that was open too long gets a new token and tries once more, so nothing typed is lost.
  async post(address, body, again = true) {
    const answer = await fetch(address, {
      method: "POST", credentials: "same-origin",
      headers: { "Content-Type": "application/json", "X-Form-Token": jugaad.token() },
      body: JSON.stringify(body),
    });
    const text = await answer.text();
    let data = {};
    try { data = text ? JSON.parse(text) : {}; } catch { data = {}; }
    if (answer.status === 400 && data.stale && again) {
      const fresh = await fetch("/api/token", { credentials: "same-origin" });
      if (fresh.ok) {
        document.querySelector("meta[name=form-token]").content = (await fresh.json()).token;
        return jugaad.post(address, body, false);
      }
    }
    if (answer.status === 401) data.refusals = [{ field: "", message: "You have been signed out. Sign in again in another tab, then press the button once more; what you typed stays here." }];
    else if (!answer.ok && !data.refusals && !data.conflict) data.refusals = [{ field: "", message: "The server could not take this. What you typed is still here; try again in a moment." }];
    return { ok: answer.ok, status: answer.status, data };
  },

  async get(address) {
    const answer = await fetch(address, { credentials: "same-origin" });
    return answer.ok ? answer.json() : [];
  },

  // One object of several parts, with what they compute kept as it is.
  together(...parts) { return parts.reduce((whole, part) => Object.defineProperties(whole, Object.getOwnPropertyDescriptors(part)), {}); },

  key() { return Array.from(crypto.getRandomValues(new Uint8Array(16)), b => b.toString(16).padStart(2, "0")).join(""); },
};

document.addEventListener("alpine:init", () => {
  Alpine.data("jump", () => ({
    text: "", rows: [], active: 0, turn: 0,
    get expanded() { return this.rows.length > 0 ? "true" : "false"; },
    async look() {
      const turn = ++this.turn;
      const rows = this.text.trim() ? await jugaad.get("/api/jump?q=" + encodeURIComponent(this.text)) : [];
      if (turn === this.turn) { this.rows = rows; this.active = 0; }
    },
    isActive(i) { return i === this.active ? "true" : "false"; },
    rowClass(i) { return i === this.active ? "is-active" : ""; },
    async key(event) {
      if (event.key === "ArrowDown") { this.active = Math.min(this.active + 1, this.rows.length - 1); event.preventDefault(); }
      else if (event.key === "ArrowUp") { this.active = Math.max(this.active - 1, 0); event.preventDefault(); }
      else if (event.key === "Enter") { event.preventDefault(); if (!this.rows.length) await this.look(); this.go(this.active); }
    },
    go(i) { if (this.rows[i]) window.location = this.rows[i].address; },
    close() { this.rows = []; document.getElementById("jump").blur(); },
  }));

  Alpine.data("keys", () => ({
    open: false, first: "",
    init() { document.addEventListener("keydown", event => this.press(event)); },
    show() { this.open = true; this.$nextTick(() => document.getElementById("keys-close").focus()); },
    hide() { this.open = false; },
    // The newest from the shelf, wherever one is.
    async fromShelf() {
      const answer = await jugaad.post("/api/shelf/take-newest", {});
      if (answer.ok && answer.data.id) window.location = "/sell/edit?kept=" + answer.data.id;
    },
    press(event) {
      if (event.key === "Escape") { this.hide(); return; }
      if (event.ctrlKey || event.metaKey || event.altKey || event.target.closest("input, textarea, select, [contenteditable]")) return;
      if (event.key === "F8" && !document.querySelector(".editor")) { event.preventDefault(); this.fromShelf(); return; }
      const go = { gd: "/", gs: "/sell", gr: "/receive", gc: "/collect", nq: "/sell/edit?kind=quote", ni: "/sell/edit?kind=invoice", nr: "/receive/new" }[this.first + event.key];
      this.first = "";
      if (go) window.location = go;
      else if (event.key === "/") { event.preventDefault(); const box = document.getElementById("jump"); if (box) box.focus(); }
      else if (event.key === "?") this.show();
      else if (event.key === "g" || event.key === "n") this.first = event.key;
    },
  }));

  // A form that is sent by changing it, such as a filter.
  Alpine.data("sendOnChange", () => ({ send() { this.$root.requestSubmit(); } }));

  // A button that acts in place and cannot be pressed twice.
  Alpine.data("once", () => ({ busy: false, press(event) { if (this.busy) event.preventDefault(); this.busy = true; } }));
});
