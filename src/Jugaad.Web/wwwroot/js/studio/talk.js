// What goes to the server and comes back: the drawing, and the work as it is kept.

const wait = (work, ms) => {
  let timer = 0;
  return () => {
    clearTimeout(timer);
    timer = setTimeout(work, ms);
  };
};

export class Talk {
  constructor(work, shown) {
    this.work = work;
    this.shown = shown;
    this.version = work.data.version;
    this.kept = work.layout;
    this.keeping = null;
    this.turn = 0;
    this.draw = wait(() => this.drawNow(), 60);
    this.keep = wait(() => this.keepNow(), 500);
    work.addEventListener("changed", () => {
      this.shown.say("keeping …");
      this.draw();
      this.keep();
    });
    // What was done last goes along when the page is left. A browser lets little go then; only where there is more, as
    // with a picture just put in, it asks whether one wants to wait.
    addEventListener("beforeunload", event => {
      if (this.kept !== this.work.layout && (this.keeping || !this.keepLeaving())) event.preventDefault();
    });
  }

  keepLeaving() {
    const body = JSON.stringify({
      layout: JSON.stringify(this.work.layout),
      version: this.version,
      formKey: jugaad.key(),
    });
    if (body.length > 60_000) return false;
    fetch(`/api/layouts/${this.work.data.id}/keep`, {
      method: "POST",
      keepalive: true,
      credentials: "same-origin",
      headers: { "Content-Type": "application/json", "X-Form-Token": jugaad.token() },
      body,
    });
    return true;
  }

  async drawNow() {
    const turn = ++this.turn,
      layout = this.work.layout;
    const answer = await jugaad.post("/api/layouts/draw", {
      layout: JSON.stringify(this.work.layout),
      sample: this.shown.sample(),
      version: 0,
    });
    if (turn !== this.turn) return;
    if (answer.ok) this.shown.drawn(answer.data, layout);
    else this.shown.say(answer.data.refusals?.map(r => r.message).join(" ") ?? jugaad.noAnswer, true);
  }

  // How keeping goes is said behind what was refused, which stays to be read until the next change.
  tells(words) {
    if (!this.shown.refuses()) this.shown.say(words);
  }

  // There was nothing to keep: that ends "keeping …", and overwrites nothing else that was said meanwhile.
  nothingToKeep() {
    if (this.shown.said() === "keeping …") this.tells("kept");
    return true;
  }

  // One at a time, so that no older work is kept over newer.
  async keepNow() {
    if (this.keeping) {
      await this.keeping;
      if (this.kept === this.work.layout) return this.nothingToKeep();
    }
    const layout = this.work.layout;
    if (this.kept === layout) return this.nothingToKeep();
    this.tells("keeping …");
    this.keeping = jugaad.post(`/api/layouts/${this.work.data.id}/keep`, {
      layout: JSON.stringify(layout),
      version: this.version,
      formKey: jugaad.key(),
    });
    const answer = await this.keeping;
    this.keeping = null;
    if (answer.ok) {
      this.version = answer.data.version;
      this.kept = layout;
      this.tells("kept");
      return this.kept === this.work.layout ? true : this.keepNow();
    }
    this.shown.say(answer.data.refusals?.map(r => r.message).join(" ") ?? jugaad.noAnswer, true);
    if (answer.lost) this.keep();
    return false;
  }

  // The name is no part of what was drawn: it is changed at once, and not undone with the rest.
  async rename(name) {
    if (!(await this.keepNow())) return null;
    const answer = await jugaad.post(`/api/layouts/${this.work.data.id}/name`, { name, formKey: jugaad.key() });
    if (!answer.ok) {
      this.shown.say(answer.data.refusals?.map(r => r.message).join(" ") ?? jugaad.noAnswer, true);
      return null;
    }
    this.version = answer.data.version;
    this.shown.say(`it is called ${answer.data.name}`);
    return answer.data.name;
  }

  async use() {
    if (!(await this.keepNow())) return;
    const answer = await jugaad.post(`/api/layouts/${this.work.data.id}/use`, {
      version: this.version,
      formKey: jugaad.key(),
    });
    if (answer.ok) this.shown.used(answer.data);
    else this.shown.refused(answer.data.refusals ?? [{ field: "", message: jugaad.noAnswer }]);
  }
}
