// Files that are put in: pictures and drawings, read and written anew by the program before they are used.
import { element } from "./form.js";

export const takenPictures = ["image/svg+xml", "image/png", "image/jpeg", "image/webp", "application/pdf"];

export const uploads = {
  async bytes(file) {
    const bytes = new Uint8Array(await file.arrayBuffer());
    let binary = "";
    for (let i = 0; i < bytes.length; i += 8192) binary += String.fromCharCode(...bytes.subarray(i, i + 8192));
    return btoa(binary);
  },

  stem(name, otherwise) {
    return (
      name
        .replace(/\.[^.]*$/, "")
        .replace(/[^A-Za-z0-9]+/g, "-")
        .replace(/^[^A-Za-z]+/, "")
        .replace(/-+$/, "")
        .slice(0, 30) || otherwise
    );
  },

  upload(label, done) {
    const file = element("input", {
      type: "file",
      className: "form-control",
      accept: takenPictures.join(),
      on: { change: e => e.target.files[0] && this.takePicture(e.target.files[0], done) },
    });
    file.id = `upload-${label.length}`;
    return element("div", { className: "studio-field wide" }, element("label", { htmlFor: file.id }, label), file);
  },

  async takePicture(file, done) {
    if (!takenPictures.includes(file.type)) {
      this.shown.say(`${file.name} is no SVG, PNG, JPEG, WebP or PDF.`, true);
      return;
    }
    if (file.size > 2_000_000) {
      this.shown.say(`${file.name} is larger than 2 MB. Make it smaller first.`, true);
      return;
    }
    // Read and written anew before it is put anywhere, so that what is seen is what is kept.
    const answer = await jugaad.post("/api/layouts/picture", { data: await this.bytes(file), name: file.name });
    if (!answer.ok) {
      this.shown.say(answer.data.refusals?.map(r => r.message).join(" ") ?? jugaad.noAnswer, true);
      return;
    }
    const stem = this.stem(file.name, "picture");
    let key = ["logo", "signature"].includes(stem) ? `${stem}-own` : stem;
    for (let n = 2; this.work.layout.pictures[key]; n++) key = `${stem}-${n}`;
    this.work.setPage(`took in the picture ${key}`, { pictures: { ...this.work.layout.pictures, [key]: answer.data } });
    done(key);
  },
};
