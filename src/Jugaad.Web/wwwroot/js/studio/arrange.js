// Where pieces line up: what they snap to while they are moved, and how several are set straight. Boxes are in
// millimetres from the corner of the page: { x, y, width, height }.

const edgesAcross = box => [box.x, box.x + box.width / 2, box.x + box.width];
const edgesDown = box => [box.y, box.y + box.height / 2, box.y + box.height];

export function around(boxes) {
  const x = Math.min(...boxes.map(b => b.x)),
    y = Math.min(...boxes.map(b => b.y));
  return {
    x,
    y,
    width: Math.max(...boxes.map(b => b.x + b.width)) - x,
    height: Math.max(...boxes.map(b => b.y + b.height)) - y,
  };
}

// How much further a box moves so that an edge or its middle meets a line, and which line that is.
function nearest(edges, lines, reach) {
  let best = null;
  for (const edge of edges)
    for (const line of lines)
      if (Math.abs(line - edge) <= reach && (!best || Math.abs(line - edge) < Math.abs(best.by)))
        best = { by: line - edge, line };
  return best;
}

export function linesOf(layout, others, grid) {
  const across = [
    layout.left,
    layout.width - layout.right,
    layout.width / 2,
    ...layout.guidesAcross,
    ...others.flatMap(edgesAcross),
  ];
  const down = [layout.top, ...layout.guidesDown, ...others.flatMap(edgesDown)];
  return { across, down, grid };
}

export function snapped(box, lines, reach, edges = { across: edgesAcross(box), down: edgesDown(box) }) {
  const grid = (edge, own) =>
    lines.grid > 0 && !own ? nearest([edge], [Math.round(edge / lines.grid) * lines.grid], reach) : own;
  const x = edges.across.length ? grid(edges.across[0], nearest(edges.across, lines.across, reach)) : null;
  const y = edges.down.length ? grid(edges.down[0], nearest(edges.down, lines.down, reach)) : null;
  return { dx: x?.by ?? 0, dy: y?.by ?? 0, across: x ? [x.line] : [], down: y ? [y.line] : [] };
}

// What each of several boxes is moved or sized by: a list as long as theirs.
export const arrangements = {
  left: ["Left edges in line", boxes => boxes.map(b => ({ dx: around(boxes).x - b.x }))],
  middle: [
    "Middles in line, across",
    boxes => {
      const a = around(boxes);
      return boxes.map(b => ({ dx: a.x + a.width / 2 - b.x - b.width / 2 }));
    },
  ],
  right: [
    "Right edges in line",
    boxes => {
      const a = around(boxes);
      return boxes.map(b => ({ dx: a.x + a.width - b.x - b.width }));
    },
  ],
  top: ["Upper edges in line", boxes => boxes.map(b => ({ dy: around(boxes).y - b.y }))],
  centre: [
    "Middles in line, down",
    boxes => {
      const a = around(boxes);
      return boxes.map(b => ({ dy: a.y + a.height / 2 - b.y - b.height / 2 }));
    },
  ],
  bottom: [
    "Lower edges in line",
    boxes => {
      const a = around(boxes);
      return boxes.map(b => ({ dy: a.y + a.height - b.y - b.height }));
    },
  ],
  "spread-across": ["Spread evenly across", boxes => spread(boxes, "x", "width", "dx")],
  "spread-down": ["Spread evenly down", boxes => spread(boxes, "y", "height", "dy")],
  "same-width": ["As wide as the first", boxes => boxes.map(b => ({ dw: boxes[0].width - b.width }))],
  "same-height": ["As high as the first", boxes => boxes.map(b => ({ dh: boxes[0].height - b.height }))],
};

// The gaps between them become equal; the outermost stay.
function spread(boxes, at, size, by) {
  const order = boxes.map((_, i) => i).sort((a, b) => boxes[a][at] - boxes[b][at]);
  const all = around(boxes),
    room = all[size] - boxes.reduce((sum, b) => sum + b[size], 0),
    gap = room / Math.max(1, boxes.length - 1);
  const moves = boxes.map(() => ({}));
  let place = all[at];
  for (const i of order) {
    moves[i] = { [by]: place - boxes[i][at] };
    place += boxes[i][size] + gap;
  }
  return moves;
}
