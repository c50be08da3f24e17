"use strict";
// Keeps what is typed: drafts save themselves, what cannot be saved yet is kept aside, and the shelf takes what is half done.

const editorKeep = () => ({
  // What was sent and not answered: it may have been kept or not, so it goes again, just as it was, before anything else.
  unanswered: null,
  trouble: "",
  saving: Promise.resolve(true),

  starter: { name: "", about: "" },
  unsaved: null,
  typingId: 0,
  keptAs: "",
  setAside: null,
  idle: null,

  get unsavedWhen() {
    return this.unsaved ? this.unsaved.when + (this.unsaved.customer ? ", for " + this.unsaved.customer : "") : "";
  },

  startKeeping() {
    this.idle = setInterval(() => this.keepByItself(), 4000);
  },
  async keepByItself() {
    const now = this.typed();
    // Only once the hands rest: what changed since the last look is still being typed.
    const rests = now === this.lastLook;
    this.lastLook = now;
    if (this.unanswered && !this.busy) {
      await this.save(true);
      return;
    }
    if (this.trouble && this.stale) this.compute();
    if (!this.dirty || !rests || this.busy || this.conflict) return;
    const whole =
      !this.defaults.isChange &&
      this.draft.customerId &&
      this.draft.lines.some(l => l.text.trim() && String(l.unitPrice).trim()) &&
      !this.refusals.length;
    if (whole) await this.save(true);
    else await this.keepTyping();
  },
  // Saves what is typed. One at a time: whoever presses while another is under way has theirs done after it.
  save(quiet) {
    const now = () => this.saveNow(quiet === true);
    this.saving = this.saving.then(now, now);
    return this.saving;
  },
  async saveNow(quiet) {
    await this.settled();
    const sent = this.unanswered || { body: this.filled(), typed: this.typed() };
    this.busy = true;
    const answer = await jugaad.post("/api/drafts", sent.body);
    this.busy = false;
    if (answer.lost) {
      this.unanswered = sent;
      this.trouble = answer.data.refusals[0].message;
      return false;
    }
    this.unanswered = null;
    this.trouble = "";
    if (answer.ok) {
      this.saved(answer.data, sent.typed, quiet);
      // What went again is older than what stands here now.
      return this.typed() === sent.typed || quiet ? true : this.saveNow(quiet);
    }
    if (answer.data.conflict) {
      this.conflict = true;
      this.changes = answer.data.changes;
      this.draft.theirs = answer.data.version;
      return false;
    }
    if (quiet) {
      this.keepTyping();
      return false;
    }
    this.take(answer.data.refusals || [], "", this.sentKeys(sent.body));
    this.$nextTick(() => {
      const first = document.querySelector(".editor .is-refused");
      if (first) first.focus();
    });
    return false;
  },
  saved(kept, typed, quiet) {
    this.draft.id = kept.id;
    this.draft.version = kept.version;
    this.formKey = jugaad.key();
    this.refusals = [];
    this.general = [];
    this.conflict = false;
    this.savedAs = typed;
    this.dirty = this.typed() !== typed;
    this.status = quiet ? "Saved by itself." : "Saved.";
    this.forgetTyping();
    if (!location.pathname.endsWith("/" + kept.id)) history.replaceState(null, "", "/sell/edit/" + kept.id);
  },

  aside() {
    return {
      form: this.filled(),
      kind: this.draft.kind,
      documentId: this.draft.id || null,
      customer: this.customerText,
      total: this.figures.total ? this.figures.total + " " + this.currency : "",
      formKey: jugaad.key(),
    };
  },
  async keepTyping() {
    const now = this.typed();
    if (now === this.keptAs) return;
    this.setAside = jugaad.post("/api/shelf/keep", this.aside());
    const answer = await this.setAside;
    if (!answer.ok) return;
    this.typingId = answer.data.id;
    this.keptAs = now;
    this.dirty = false;
    this.status = "Kept aside, not saved as a draft yet.";
  },
  forgetTyping() {
    const id = this.typingId || (this.unsaved && this.unsaved.id) || 0;
    this.typingId = 0;
    this.keptAs = "";
    if (id) jugaad.post("/api/shelf/forget", { id });
  },

  takeTyping(entry) {
    const typed = entry.typed;
    this.typingId = entry.id;
    this.load({
      ...this.defaults.form,
      ...typed,
      id: this.draft.id,
      version: this.draft.id ? typed.version : 0,
      kind: this.draft.kind,
      lines: typed.lines || [],
      charges: typed.charges || [],
    });
    this.customerText = this.customerName = entry.customer;
    this.draft.lines.forEach(line => {
      line.taxByHand = true;
    });
    this.dirty = true;
    this.compute();
    if (this.draft.customerId) this.readCustomer(entry.customer);
  },
  // The typed form knows the customer's id; places and discount come from the server.
  async readCustomer(name) {
    const rows = await jugaad.get("/api/customers?q=" + encodeURIComponent(name));
    const found = rows.find(r => r.id === this.draft.customerId);
    if (found) {
      this.lastCustomer = found;
      this.places = found.places || [];
      this.tradeDiscount = found.discount || "";
      this.currency = found.currencies.includes(this.draft.currency) ? this.draft.currency : found.currency;
    }
  },
  takeUnsaved() {
    const entry = this.unsaved;
    this.unsaved = null;
    this.takeTyping(entry);
  },
  dropUnsaved() {
    jugaad.post("/api/shelf/forget", { id: this.unsaved.id });
    this.unsaved = null;
  },

  isEmpty() {
    return !this.customerText.trim() && !this.draft.lines.some(l => l.text.trim() || String(l.unitPrice).trim());
  },
  // One key puts it away as it stands and opens an empty one; on an empty one it brings the newest back.
  async shelve() {
    if (this.busy) return;
    // What is being kept aside this moment is known by its number only once that is answered.
    await this.setAside;
    await this.settled();
    const empty = this.isEmpty();
    const answer = empty
      ? await jugaad.post("/api/shelf/reopen-newest", {})
      : await jugaad.post("/api/shelf", this.aside());
    if (!answer.ok) {
      this.take(answer.data.refusals || [], "");
      return;
    }
    if (empty && !answer.data.id) {
      this.status = "The shelf is empty.";
      return;
    }
    this.dirty = false;
    clearInterval(this.idle);
    if (!empty) this.forgetTyping();
    location.href = empty
      ? "/sell/edit?kept=" + answer.data.id
      : "/sell/edit?kind=" + this.draft.kind.replace(" ", "-");
  },

  // Without a customer, a number or a date; quantities and special prices stay.
  async keepStarter() {
    const answer = await jugaad.post("/api/starters", {
      form: this.filled(),
      name: this.starter.name,
      about: this.starter.about,
      formKey: jugaad.key(),
    });
    if (!answer.ok) {
      this.take(
        (answer.data.refusals || []).map(r => (r.field === "name" ? { ...r, field: "st.name" } : r)),
        "",
      );
      return;
    }
    this.refusals = [];
    this.general = [];
    this.status = "Kept as the starter " + this.starter.name + ".";
    this.starter = { name: "", about: "" };
  },

  // A file belongs to a draft, so the draft is saved first.
  async addFile(event) {
    const file = event.target.files[0];
    if (!file || !(await this.save())) return;
    const body = new FormData();
    body.append("file", file);
    const answer = await fetch("/api/drafts/" + this.draft.id + "/files", {
      method: "POST",
      credentials: "same-origin",
      headers: { "X-Form-Token": jugaad.token() },
      body,
    });
    const data = await answer.json().catch(() => ({}));
    if (!answer.ok) {
      this.take(data.refusals || [{ field: "", message: "The file could not be taken." }], "");
      return;
    }
    this.dirty = false;
    location.href = "/sell/edit/" + this.draft.id + "#files";
    location.reload();
  },
});
