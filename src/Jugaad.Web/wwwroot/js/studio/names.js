// What pieces and their places are called in the margin.
export const KINDS = {
  words: "words",
  field: "field",
  block: "block",
  table: "table",
  picture: "picture",
  rule: "rule",
  frame: "frame",
  code: "code",
  pageCount: "page count",
};

export const ALIGNS = [
  ["left", "left"],
  ["middle", "middle"],
  ["right", "right"],
];
