// All that the mouse does on the page, by keys.

const STEPS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

export function listen(work, page, desk, acts) {
  const next = back => {
    const ids = work.pieces().map(p => p.piece.id);
    if (!ids.length) return;
    const at = ids.indexOf(work.picked[0]);
    work.pick([ids[(at + (back ? -1 : 1) + ids.length) % ids.length]]);
    page.reveal();
  };
  const plain = {
    n: () => next(false),
    N: () => next(true),
    Delete: () => work.takeAway(),
    Backspace: () => work.takeAway(),
    Escape: () => work.pick([]),
    Enter: () => acts.properties(),
    g: () => work.group(true),
    G: () => work.group(false),
    h: () => acts.hide(),
    l: () => acts.lock(),
    "[": () => work.order(false),
    "]": () => work.order(true),
    v: () => acts.pdf(),
    "+": () => acts.larger(),
    "=": () => acts.larger(),
    "-": () => acts.smaller(),
    0: () => acts.fit(),
  };
  const held = {
    z: () => work.undo(),
    Z: () => work.redo(),
    y: () => work.redo(),
    c: () => work.copy(),
    v: () => work.paste(),
    d: () => work.double(),
    x: () => {
      if (work.copy()) work.takeAway();
    },
    a: () =>
      work.pick(
        work
          .pieces()
          .filter(p => !p.piece.locked)
          .map(p => p.piece.id),
      ),
  };
  desk.addEventListener("keydown", event => {
    const step = STEPS[event.key];
    if (step && !event.altKey) {
      if (!work.picked.length) return;
      const by = event.ctrlKey || event.metaKey ? 0.1 : 1;
      if (event.shiftKey) work.size(step[0] * by, step[1] * by, "keys-size");
      else work.move(step[0] * by, step[1] * by, "keys-move");
    } else if ((event.ctrlKey || event.metaKey) && held[event.key]) held[event.key]();
    else if (!event.ctrlKey && !event.metaKey && !event.altKey && plain[event.key]) plain[event.key]();
    else return;
    event.preventDefault();
    event.stopPropagation();
  });
}
