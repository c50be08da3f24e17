"use strict";
// Keeps what is typed: drafts save themselves, what cannot be saved yet is kept aside, and the shelf takes what is half done.

const editorKeep = () => ({
  starter: { name: "", about: "" }, unsaved: null, typingId: 0, keptAs: "", idle: null,

  get unsavedWhen() { return this.unsaved ? this.unsaved.when + (this.unsaved.customer ? ", for " + this.unsaved.customer : "") : ""; },

  startKeeping() { this.idle = setInterval(() => this.keepByItself(), 4000); },
  async keepByItself() {
    const now = this.typed();
    // Only once the hands rest: what changed since the last look is still being typed.
    const rests = now === this.lastLook;
    this.lastLook = now;
    if (!this.dirty || !rests || this.busy || this.conflict) return;
    const whole = this.draft.customerId && this.draft.lines.some(l => l.text.trim() && String(l.unitPrice).trim()) && !this.refusals.length;
    if (whole) await this.save(true);
    else await this.keepTyping();
  },
  aside() {
    return { form: this.filled(), kind: this.draft.kind, documentId: this.draft.id || null, customer: this.customerText, total: this.figures.total ? this.figures.total + " " + this.currency : "", formKey: jugaad.key() };
  },
  async keepTyping() {
    const now = this.typed();
    if (now === this.keptAs) return;
    const answer = await jugaad.post("/api/shelf/keep", this.aside());
    if (!answer.ok) return;
    this.typingId = answer.data.id; this.keptAs = now; this.dirty = false;
    this.status = "Kept aside, not saved as a draft yet.";
  },
  forgetTyping() {
    const id = this.typingId || (this.unsaved && this.unsaved.id) || 0;
    this.typingId = 0; this.keptAs = "";
    if (id) jugaad.post("/api/shelf/forget", { id });
  },

  takeTyping(entry) {
    const typed = entry.typed;
    this.typingId = entry.id;
    this.load({ ...this.defaults.form, ...typed, id: this.draft.id, version: this.draft.id ? typed.version : 0, kind: this.draft.kind, lines: typed.lines || [], charges: typed.charges || [] });
    this.customerText = this.customerName = entry.customer;
    this.draft.lines.forEach(line => { line.taxByHand = true; });
    this.dirty = true;
    this.compute();
    if (this.draft.customerId) this.readCustomer(entry.customer);
  },
  // The typed form knows the customer's id; places and discount come from the server.
  async readCustomer(name) {
    const rows = await jugaad.get("/api/customers?q=" + encodeURIComponent(name));
    const found = rows.find(r => r.id === this.draft.customerId);
    if (found) { this.lastCustomer = found; this.places = found.places || []; this.tradeDiscount = found.discount || ""; this.currency = found.currency; }
  },
  takeUnsaved() { const entry = this.unsaved; this.unsaved = null; this.takeTyping(entry); },
  dropUnsaved() { jugaad.post("/api/shelf/forget", { id: this.unsaved.id }); this.unsaved = null; },

  isEmpty() { return !this.customerText.trim() && !this.draft.lines.some(l => l.text.trim() || String(l.unitPrice).trim()); },
  // One key puts it away as it stands and opens an empty one; on an empty one it brings the newest back.
  async shelve() {
    if (this.busy) return;
    const empty = this.isEmpty();
    const answer = empty ? await jugaad.post("/api/shelf/take-newest", {}) : await jugaad.post("/api/shelf", this.aside());
    if (!answer.ok) { this.take(answer.data.refusals || [], ""); return; }
    if (empty && !answer.data.id) { this.status = "The shelf is empty."; return; }
    this.dirty = false;
    clearInterval(this.idle);
    if (!empty) this.forgetTyping();
    location.href = empty ? "/sell/edit?kept=" + answer.data.id : "/sell/edit?kind=" + this.draft.kind.replace(" ", "-");
  },

  // Without a customer, a number or a date; quantities and special prices stay.
  async keepStarter() {
    const answer = await jugaad.post("/api/starters", { form: this.filled(), name: this.starter.name, about: this.starter.about, formKey: jugaad.key() });
    if (!answer.ok) { this.take((answer.data.refusals || []).map(r => r.field === "name" ? { ...r, field: "st.name" } : r), ""); return; }
    this.refusals = []; this.general = [];
    this.status = "Kept as the starter " + this.starter.name + ".";
    this.starter = { name: "", about: "" };
  },

  // A file belongs to a draft, so the draft is saved first.
  async addFile(event) {
    const file = event.target.files[0];
    if (!file || !(await this.save())) return;
    const body = new FormData();
    body.append("file", file);
    const answer = await fetch("/api/drafts/" + this.draft.id + "/files", { method: "POST", credentials: "same-origin", headers: { "X-Form-Token": jugaad.token() }, body });
    const data = await answer.json().catch(() => ({}));
    if (!answer.ok) { this.take(data.refusals || [{ field: "", message: "The file could not be taken." }], ""); return; }
    this.dirty = false;
    location.href = "/sell/edit/" + this.draft.id + "#files";
    location.reload();
  },
});
