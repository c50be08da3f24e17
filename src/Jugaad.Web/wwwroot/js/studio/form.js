// Fields of the margin: each tells its new value, and keeps the place of the cursor when the margin is drawn anew.

export const element = (name, attributes = {}, ...children) => {
  const made = document.createElement(name);
  for (const [key, value] of Object.entries(attributes)) {
    if (value === false || value === null || value === undefined) continue;
    if (key === "on") for (const [event, work] of Object.entries(value)) made.addEventListener(event, work);
    else if (key in made && key !== "list") made[key] = value;
    else made.setAttribute(key, value === true ? "" : value);
  }
  made.append(...children.filter(c => c !== null && c !== undefined));
  return made;
};

let count = 0;
const labelled = (label, control, wide = false) => {
  control.id ||= `prop-${label.toLowerCase().replace(/[^a-z0-9]+/g, "-")}-${++count}`;
  return element(
    "div",
    { className: `studio-field${wide ? " wide" : ""}` },
    element("label", { htmlFor: control.id }, label),
    control,
  );
};

// Mixed values of several pieces show as nothing; what is typed goes to all of them.
export const number = (label, value, set, { step = 0.1, min = 0 } = {}) =>
  labelled(
    label,
    element("input", {
      type: "number",
      className: "form-control",
      step,
      min,
      value: value ?? "",
      "data-prop": label,
      on: {
        input: e => e.target.value !== "" && Number.isFinite(e.target.valueAsNumber) && set(e.target.valueAsNumber),
      },
    }),
  );

export const text = (label, value, set, { rows = 0, wide = false, hint = "" } = {}) =>
  labelled(
    label,
    element(rows ? "textarea" : "input", {
      className: "form-control",
      rows: rows || undefined,
      value: value ?? "",
      placeholder: hint,
      "data-prop": label,
      on: { input: e => set(e.target.value) },
    }),
    wide || rows > 0,
  );

export const choice = (label, value, options, set, { wide = false } = {}) => {
  const select = element("select", {
    className: "form-select",
    "data-prop": label,
    on: { change: e => set(e.target.value) },
  });
  const list = value === null ? [[null, "several"], ...options] : options;
  for (const [key, words, group] of list) {
    const option = element("option", { value: key ?? "", selected: key === value }, words);
    if (!group) {
      select.append(option);
      continue;
    }
    let part = [...select.children].find(c => c.label === group);
    if (!part) select.append((part = element("optgroup", { label: group })));
    part.append(option);
  }
  return labelled(label, select, wide);
};

export const tick = (label, value, set) => {
  const box = element("input", {
    type: "checkbox",
    checked: value === true,
    indeterminate: value === null,
    "data-prop": label,
    on: { change: e => set(e.target.checked) },
  });
  return element("label", { className: "studio-tick" }, box, ` ${label}`);
};

// Where nothing is said, it is as "usual" tells.
export const colour = (label, value, inks, set, usual = "dark") => {
  const named = inks[value || usual] ?? value ?? "";
  const well = element("input", {
    type: "color",
    value: /^#[0-9A-Fa-f]{6}$/.test(named) ? named : "#FFFFFF",
    "aria-label": `${label}, from all`,
    on: {
      input: e => {
        typed.value = e.target.value.toUpperCase();
        set(typed.value);
      },
    },
  });
  const typed = element("input", {
    className: "form-control",
    value: value ?? "",
    placeholder: usual,
    list: "studio-inks",
    "data-prop": label,
    on: {
      input: e => {
        const v = e.target.value.trim();
        if (v === "" || inks[v] || /^#[0-9A-Fa-f]{6}$/.test(v)) set(v);
      },
    },
  });
  typed.setAttribute("list", "studio-inks");
  const field = labelled(label, typed);
  field.append(well);
  field.classList.add("studio-colour");
  return field;
};

export const act = (label, work, name = label) =>
  element(
    "button",
    { type: "button", className: "act small", "aria-label": name === label ? null : name, on: { click: work } },
    label,
  );

// Draws a margin anew and puts the cursor back where it was.
export function redrawn(host, children) {
  const at = host.contains(document.activeElement) ? document.activeElement : null;
  const key = at?.dataset.prop,
    nth = at ? [...host.querySelectorAll(`[data-prop="${key}"]`)].indexOf(at) : -1;
  const range = at && "selectionStart" in at && at.type !== "number" ? [at.selectionStart, at.selectionEnd] : null;
  host.replaceChildren(...children);
  if (!key) return;
  const again = host.querySelectorAll(`[data-prop="${key}"]`)[nth];
  again?.focus({ preventScroll: true });
  if (again && range && again.type !== "number" && again.type !== "color")
    try {
      again.setSelectionRange(...range);
    } catch {
      /* a field without a cursor */
    }
}
