// The layout studio: a paper on the workbench, drawn by the very engine that makes the PDF.
import { arrangements } from "./arrange.js";
import { act, element } from "./form.js";
import { listen } from "./keys.js";
import { Page } from "./page.js";
import { Side } from "./side.js";
import { takenPictures } from "./uploads.js";
import { Talk } from "./talk.js";
import { Work, round } from "./work.js";

const at = id => document.getElementById(id);
const work = new Work(JSON.parse(at("studio-data").textContent));
const desk = at("desk");
const page = new Page(work, desk);

let faces = "[]";
const shown = {
  sample: () => at("sample").value,
  said: () => at("studio-said").textContent,
  refuses: () => at("studio-said").classList.contains("wrong"),
  say(words, wrong = false) {
    at("studio-said").textContent = words;
    at("studio-said").classList.toggle("wrong", wrong);
  },
  drawn(answer, layout) {
    // A typeface of one's own is known to the pages once a paper was set in it.
    const own = JSON.stringify(Object.keys(layout.typefaces ?? {}).map(k => [k, Object.keys(layout.typefaces[k])]));
    if (own !== faces) {
      faces = own;
      document.head.append(element("link", { rel: "stylesheet", href: `/fonts/own.css?${Date.now()}` }));
    }
    page.shownOf = layout;
    page.show(answer);
    side.examples = answer.examples;
    side.pieces();
    shown.found(answer.found);
    desk.dataset.drawn = String(Number(desk.dataset.drawn ?? 0) + 1);
  },
  found(list) {
    at("found").replaceChildren(
      ...list.slice(0, 6).map(f =>
        element(
          "div",
          { className: f.refused ? "refused" : "warned" },
          f.piece
            ? act(
                f.piece,
                () => {
                  work.pick([f.piece]);
                  page.reveal();
                },
                `pick ${f.piece}`,
              )
            : "",
          ` ${f.words}`,
        ),
      ),
    );
  },
  used(answer) {
    shown.say(`used from now on, in its state ${answer.state}`);
    shown.found(answer.warned.map(words => ({ refused: false, piece: "", words })));
  },
  refused(list) {
    shown.say("not put to use; see beside it why", true);
    shown.found(list.map(r => ({ refused: true, piece: work.find(r.field) ? r.field : "", words: r.message })));
  },
};
shown.rename = name => talk.rename(name);
const talk = new Talk(work, shown);
const side = new Side(work, page, shown);

page.snaps = () => at("snaps").checked;
page.grid = () => Number(at("grid").value);
page.told = words => {
  at("where").textContent = words;
};

// New pieces stand in the middle of what is seen of the first page.
const middle = kind => {
  const band = page.drawn?.bands.find(b => b.band === kind && b.page === 0);
  return Math.max(0, Math.min((band?.height ?? 20) / 2, 60));
};
const puts = {
  words: () =>
    work.put(
      "firstHead",
      { id: "words", kind: "words", text: "Words", x: 80, y: middle("firstHead"), width: 60, height: 4.5 },
      "put in words",
    ),
  "a field": () =>
    work.put(
      "firstHead",
      { id: "field", kind: "field", field: "Number", x: 80, y: middle("firstHead"), width: 60, height: 4.5 },
      "put in a field",
    ),
  "a block of lines": () =>
    work.put(
      "firstHead",
      {
        id: "block",
        kind: "block",
        lines: ["{{ Customer }}", "{{ CustomerAddress }}"],
        x: 80,
        y: middle("firstHead"),
        width: 70,
        height: 18,
      },
      "put in a block",
    ),
  "a table": () =>
    work.put(
      "lines",
      {
        id: "table",
        kind: "table",
        x: work.layout.left,
        y: 20,
        width: work.layout.width - work.layout.left - work.layout.right,
        height: 20,
        table: {
          ...structuredClone(work.data.table.table),
          of: "lines",
          heads: true,
          ruled: true,
          rowGap: 2,
          columns: side.usualColumns("lines"),
        },
      },
      "put in a table",
    ),
  "the logo": () =>
    work.put(
      "firstHead",
      { id: "logo", kind: "picture", picture: "logo", x: work.layout.left, y: 16, width: 46, height: 20 },
      "put in the logo",
    ),
  "a picture …": () => at("put-picture").click(),
  "a rule": () =>
    work.put(
      "firstHead",
      {
        id: "rule",
        kind: "rule",
        x: work.layout.left,
        y: middle("firstHead"),
        width: work.layout.width - work.layout.left - work.layout.right,
        height: 0,
        stroke: 0.2,
      },
      "put in a rule",
    ),
  "a frame": () =>
    work.put(
      "firstHead",
      { id: "frame", kind: "frame", x: work.layout.left, y: middle("firstHead"), width: 80, height: 20, stroke: 0.2 },
      "put in a frame",
    ),
  "the code to pay": () =>
    work.put(
      "closing",
      {
        id: "code",
        kind: "code",
        field: "TransferCode",
        x: work.layout.width - work.layout.right - 27,
        y: 0,
        width: 27,
        height: 27,
      },
      "put in a code",
    ),
  "the number as stripes": () =>
    work.put(
      "firstHead",
      {
        id: "stripes",
        kind: "code",
        field: "Number",
        stripes: true,
        x: 120,
        y: middle("firstHead"),
        width: 60,
        height: 10,
      },
      "put in stripes",
    ),
  "the page count": () =>
    work.put(
      "foot",
      {
        id: "pages",
        kind: "pageCount",
        x: work.layout.width - work.layout.right - 35,
        y: 2,
        width: 35,
        height: 4,
        align: "right",
      },
      "put in the page count",
    ),
};
const close = menu => {
  menu.open = false;
  menu.querySelector("summary").focus();
};
const chooser = (menu, list, run, does = words => words) => {
  list.replaceChildren(
    ...Object.keys(run).map(words =>
      element(
        "button",
        {
          type: "button",
          className: "plain",
          "aria-label": does(words),
          on: {
            click: () => {
              close(menu);
              run[words]();
              desk.focus({ preventScroll: true });
            },
          },
        },
        words,
      ),
    ),
  );
  menu.addEventListener("keydown", event => {
    if (event.key === "Escape") {
      close(menu);
      event.stopPropagation();
    }
  });
};
addEventListener("pointerdown", event =>
  document.querySelectorAll(".studio-menu[open]").forEach(m => {
    if (!m.contains(event.target)) m.open = false;
  }),
);

const picture = element("input", {
  type: "file",
  id: "put-picture",
  accept: takenPictures.join(),
  hidden: true,
  on: { change: e => e.target.files[0] && side.takePicture(e.target.files[0], putPicture(20, middle("firstHead"))) },
});
const putPicture =
  (x, y, band = "firstHead") =>
  key =>
    work.put(
      band,
      { id: key, kind: "picture", picture: key, x: round(x), y: round(y), width: 40, height: 20 },
      `put in ${key}`,
    );
at("studio").append(picture);
chooser(at("put-in"), at("put-in-list"), puts, words => `put in ${words}`);

// Several are set straight by where they stand on the page.
const arranged = key => () => {
  const those = work
    .loose()
    .map(p => ({ id: p.piece.id, box: page.boxOf(p.piece.id) }))
    .filter(t => t.box);
  if (those.length < 2) {
    shown.say("pick two pieces or more first", true);
    return;
  }
  const moves = arrangements[key][1](those.map(t => t.box)),
    by = new Map(those.map((t, i) => [t.id, moves[i]]));
  work.change(
    `${arrangements[key][0].toLowerCase()}`,
    work.mapped([...by.keys()], p => {
      const m = by.get(p.id);
      return {
        ...p,
        x: round(Math.max(0, p.x + (m.dx ?? 0))),
        y: round(Math.max(0, p.y + (m.dy ?? 0))),
        width: round(Math.max(2, p.width + (m.dw ?? 0))),
        height: round(Math.max(0, p.height + (m.dh ?? 0))),
      };
    }),
  );
};
const turned = name => () => {
  const those = work.those();
  if (those.length)
    work.set(`${name === "hidden" ? "hiding" : "locking"} of ${work.name()}`, {
      [name]: !those.every(p => p.piece[name]),
    });
};
const acts = {
  hide: turned("hidden"),
  lock: turned("locked"),
  properties: () => side.focus(),
  pdf: async () => {
    if (await talk.keepNow()) open(pdfAddress(), "_blank");
  },
  larger: () => page.zoomTo(page.scale() * 1.25),
  smaller: () => page.zoomTo(page.scale() / 1.25),
  fit: () => page.zoomTo(0),
};
chooser(at("arrange"), at("arrange-list"), {
  ...Object.fromEntries(Object.entries(arrangements).map(([key, [words]]) => [words, arranged(key)])),
  "Before the others": () => work.order(true),
  "Behind the others": () => work.order(false),
  "One group": () => work.group(true),
  "No group": () => work.group(false),
  "Hide or show": acts.hide,
  "Lock or let loose": acts.lock,
  "Double those picked": () => work.double(),
  "Copy those picked": () => work.copy(),
  "Put in what was copied": () => work.paste(),
  "Take those picked away": () => work.takeAway(),
});

const pdfAddress = () => `/setup/layouts/${work.data.id}/paper.pdf?sample=${shown.sample()}&at=${talk.version}`;
at("see-pdf").addEventListener("click", async event => {
  event.preventDefault();
  await acts.pdf();
});
at("undo").addEventListener("click", () => work.undo());
at("redo").addEventListener("click", () => work.redo());
at("larger").addEventListener("click", acts.larger);
at("smaller").addEventListener("click", acts.smaller);
at("fit").addEventListener("click", acts.fit);
at("use").addEventListener("click", () => talk.use());
at("sample").addEventListener("change", () => talk.drawNow());
listen(work, page, desk, acts);
at("props").addEventListener("keydown", event => {
  if (event.key === "Escape") {
    event.stopPropagation();
    desk.focus({ preventScroll: true });
  }
});

// A picture that is dropped on the page stands where it was dropped.
desk.addEventListener("dragover", event => event.preventDefault());
desk.addEventListener("drop", event => {
  event.preventDefault();
  const file = event.dataTransfer?.files[0],
    sheet = event.target.closest?.(".studio-page");
  if (!file || !sheet) return;
  const place = page.at(event, sheet.querySelector(".studio-over"));
  const band = page.drawn.bands.find(
    b => b.page === Number(sheet.dataset.page) && place.y >= b.y && place.y < b.y + b.height,
  );
  side.takePicture(file, putPicture(place.x, place.y - (band?.y ?? 0), band?.band ?? "firstHead"));
});

talk.drawNow();
window.studio = { work, page, talk };
