"use strict";
// Fields for a day. What is typed is read by the server, by the business's rules, when one leaves the field; what it says is
// then in the field, and only then does anybody hear of a change. Arrows step, Alt and arrow down open the calendar.

const days = {
  is(target) {
    return target instanceof HTMLInputElement && "day" in target.dataset;
  },
  settled: new WeakMap(),
  stepping: new WeakMap(),
  sundayFirst: () => document.documentElement.dataset.week === "sunday",

  isSettled(input) {
    return (days.settled.has(input) ? days.settled.get(input) : input.defaultValue) === input.value;
  },

  // The field's answer, or why there is none.
  async ask(input, typed, step = 0) {
    const from = input.dataset.day && document.getElementById(input.dataset.day);
    const address =
      "/api/day?typed=" +
      encodeURIComponent(typed) +
      (step ? "&step=" + step : "") +
      (from ? "&from=" + encodeURIComponent(from.value) : "");
    try {
      const answer = await fetch(address, { credentials: "same-origin" });
      return answer.ok ? await answer.json() : {};
    } catch {
      return {}; // Whoever takes the form reads it then.
    }
  },

  say(input, why) {
    const field = input.closest(".field, form, .filters") || input.parentElement;
    let said = field.querySelector(":scope .day-said");
    if (why && !said) {
      said = document.createElement("div");
      said.className = "refusal day-said";
      said.id = (input.id || "day") + "-day-said";
      said.setAttribute("role", "status");
      input.closest(".day-field").insertAdjacentElement("afterend", said);
    }
    if (said) {
      said.textContent = why;
      said.hidden = !why;
    }
    input.classList.toggle("is-refused", Boolean(why));
    if (why) input.setAttribute("aria-invalid", "true");
    else input.removeAttribute("aria-invalid");
  },

  put(input, value) {
    days.settled.set(input, value);
    if (input.value === value) return;
    input.value = value;
    input.dispatchEvent(new Event("input", { bubbles: true }));
  },
  tell(input) {
    input.dispatchEvent(new Event("change", { bubbles: true }));
  },

  async settle(input) {
    const typed = input.value;
    if (!typed.trim()) {
      days.say(input, "");
      days.put(input, "");
      days.tell(input);
      return;
    }
    const answer = await days.ask(input, typed);
    if (input.value !== typed) return; // Typed on meanwhile; that is settled in its turn.
    days.say(input, answer.why || "");
    days.put(input, answer.shown || typed);
    days.tell(input);
  },

  // Steps that come faster than the answers are added up.
  async step(input, by) {
    if (days.stepping.has(input)) {
      days.stepping.set(input, days.stepping.get(input) + by);
      return;
    }
    for (let count = by; count;) {
      days.stepping.set(input, 0);
      const answer = await days.ask(input, input.value, count);
      days.say(input, answer.why || "");
      if (answer.shown) {
        days.put(input, answer.shown);
        input.dataset.stepped = "";
      }
      count = answer.shown ? days.stepping.get(input) : 0;
    }
    days.stepping.delete(input);
    // Somebody who has gone on meanwhile hears of it as well.
    if (document.activeElement !== input) days.left(input);
  },
  left(input) {
    if (!("stepped" in input.dataset) || days.stepping.has(input)) return;
    delete input.dataset.stepped;
    days.tell(input);
  },

  calendar: null,
  asking: null,
  async open(input) {
    if (!days.calendar) {
      await import("/lib/cally/cally.js");
      const box = document.createElement("div");
      box.id = "day-calendar";
      box.popover = "auto";
      box.innerHTML =
        '<calendar-date show-outside-days locale="en-GB"><span slot="previous" aria-hidden="true">‹</span><span slot="next" aria-hidden="true">›</span><calendar-month></calendar-month></calendar-date>';
      document.body.append(box);
      days.calendar = box.firstElementChild;
      days.calendar.firstDayOfWeek = days.sundayFirst() ? 0 : 1;
      days.calendar.addEventListener("change", () => days.choose(days.calendar.value));
    }
    const [answer, today] = await Promise.all([days.ask(input, input.value), days.ask(input, "today")]);
    days.asking = input;
    days.calendar.today = today.iso || "";
    days.calendar.value = input.value.trim() && answer.iso ? answer.iso : "";
    days.calendar.focusedDate = answer.iso || today.iso || "";
    const box = days.calendar.parentElement,
      place = input.getBoundingClientRect();
    box.showPopover();
    await new Promise(drawn => requestAnimationFrame(() => requestAnimationFrame(drawn)));
    const below = place.bottom + box.offsetHeight < window.innerHeight;
    box.style.left = Math.max(4, Math.min(place.left, window.innerWidth - box.offsetWidth - 4)) + "px";
    box.style.top = (below ? place.bottom + 2 : Math.max(4, place.top - box.offsetHeight - 2)) + "px";
    days.calendar.focus();
  },
  async choose(iso) {
    const input = days.asking;
    if (!iso || !input) return;
    days.calendar.parentElement.hidePopover();
    input.focus();
    input.value = iso;
    await days.settle(input);
  },
};

// Ahead of everybody else: what is not settled yet is no change for them.
document.addEventListener(
  "change",
  event => {
    if (!days.is(event.target) || days.isSettled(event.target)) return;
    event.stopImmediatePropagation();
    days.settle(event.target);
  },
  true,
);

document.addEventListener(
  "keydown",
  event => {
    const input = event.target;
    if (!days.is(input)) return;
    const arrow = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    if (event.altKey && arrow) {
      event.preventDefault();
      event.stopPropagation();
      days.open(input);
    } else if (arrow && !event.ctrlKey && !event.metaKey && !event.shiftKey) {
      event.preventDefault();
      event.stopPropagation();
      days.step(input, arrow);
    } else if ((event.ctrlKey || /^F\d+$/.test(event.key)) && !days.isSettled(input)) {
      // A key that acts at once takes what was typed as it stands; the server reads it alike.
      days.settled.set(input, input.value);
      days.tell(input);
    }
  },
  true,
);

document.addEventListener("focusout", event => {
  if (days.is(event.target)) days.left(event.target);
});

document.addEventListener("click", event => {
  const button = event.target.closest && event.target.closest(".day-open");
  if (button) days.open(button.closest(".day-field").querySelector("input"));
});
