/* The week's part in the browser: moving over the grid, dragging, and asking the server for every
   change. */
import { around, byId } from "../counter/dom.js";
import { KEYS } from "../counter/keys.js";

const LAST_DAY = 6;
const SWIPE_PIXELS = 60;
const week = () => byId("week");
const drawer = () => byId("drawer");
const cellOf = (el) => el && el.closest && el.closest("[data-day][data-meal]");
let last = "cell-0-0";
let marked = null;
let swapping = null;
let backTo = null;

function here() {
  const { day, meal } = byId(last).dataset;
  return { day, meal };
}
function say(text) {
  byId("said").textContent = text;
}
function send(what, values) {
  backTo = last;
  const address = week().dataset.url + (what === "plan" ? "plan/" : `do/${what}/`);
  return window.htmx.ajax("POST", address, {
    target: "#week",
    swap: "outerHTML",
    values: { revision: week().dataset.revision, ...values },
  });
}
function focusCell(id) {
  const cell = byId(id);
  if (!cell) return;
  showDay(Number(cell.dataset.day));
  document.querySelectorAll('table.week [tabindex="0"][data-day]').forEach((one) => {
    one.tabIndex = -1;
  });
  cell.tabIndex = 0;
  cell.focus();
  last = id;
}
function open(cell) {
  last = cell.id;
  const address = `${week().dataset.url}cell/${cell.dataset.day}/${cell.dataset.meal}/`;
  window.htmx.ajax("GET", address, { target: "#drawer", swap: "innerHTML" });
}
function close() {
  drawer().innerHTML = "";
  focusCell(last);
}

/* an action of a cell: by key, by button, by finger */
const SENT_FIELDS = ["dish", "name", "position", "steps"];
function act(what, data) {
  const at = here();
  if (what === "plan") return send("plan", { other: data.other || "" });
  if (what === "cook") {
    const much = data.frozen === undefined ? { steps: data.steps } : { frozen: data.frozen };
    return send("cook", { batch: data.batch, day: data.evening, ...much });
  }
  if (what === "paste") {
    if (!marked) return say("Nothing copied yet.");
    return send("copy", { ...marked, to_day: at.day, to_meal: at.meal });
  }
  const given = SENT_FIELDS.filter((name) => data[name] !== undefined);
  return send(what, { ...at, ...Object.fromEntries(given.map((name) => [name, data[name]])) });
}
function swap(cell) {
  if (swapping === null) {
    swapping = cell.dataset.day;
    say("Go to the day to swap with and press s again.");
    return;
  }
  const one = swapping;
  swapping = null;
  send("swap", { day: one, to_day: cell.dataset.day });
}
function mark() {
  marked = here();
  say("Copied. Go to another meal and paste.");
  showPaste();
}
function showPaste() {
  const paste = document.querySelector('[data-do="paste"]');
  if (paste) paste.hidden = !marked;
}

document.addEventListener("click", (event) => {
  if (around(event, "[data-close-panel]")) {
    close();
    return;
  }
  const pressed = around(event, "[data-do]");
  if (pressed) {
    act(pressed.dataset.do, pressed.dataset);
    return;
  }
  if (around(event, '[data-mark="copy"]')) {
    mark();
    return;
  }
  const cell = cellOf(event.target);
  if (cell) {
    focusCell(cell.id);
    open(cell);
  }
});

/* the cell an arrow leads to; nothing for another key */
function neighbour(cell, key) {
  const [d, m] = [Number(cell.dataset.day), Number(cell.dataset.meal)];
  const places = {
    ArrowLeft: [d - 1, m],
    ArrowRight: [d + 1, m],
    ArrowUp: [d, m - 1],
    ArrowDown: [d, m + 1],
    Home: [0, m],
    End: [LAST_DAY, m],
  };
  return places[key];
}
function onCell(cell, event) {
  const place = neighbour(cell, event.key);
  if (place) {
    event.preventDefault();
    focusCell(`cell-${place.join("-")}`);
    return;
  }
  last = cell.id;
  const action = KEYS.meal[event.key];
  if (!action) return;
  if (action === "swap") {
    swap(cell);
    return;
  }
  if (action !== "mark") event.preventDefault();
  if (action === "open") {
    open(cell);
  } else if (action === "larger" || action === "smaller") {
    act("scale", { steps: action === "larger" ? 1 : -1 });
  } else {
    event.stopImmediatePropagation();
    if (action === "mark") mark();
    else act(action, {});
  }
}
document.addEventListener(
  "keydown",
  (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const isField = event.target.matches("input, select, textarea");
    if (event.key === "Escape" && drawer() && drawer().innerHTML && !isField) {
      close();
      return;
    }
    const cell = cellOf(document.activeElement);
    if (cell) onCell(cell, event);
  },
  true,
);

/* what changes the week from the panel leads back to the cell */
document.addEventListener("htmx:beforeRequest", (event) => {
  const { elt, target } = event.detail;
  if (drawer() && drawer().contains(elt) && target && target.id === "week") backTo = last;
});

/* on a phone one day is shown at a time: by its buttons, by a swipe, or by walking there with the
   arrow keys */
let shown = null;
let touchX = null;
function showDay(day) {
  const table = document.querySelector("table.week");
  if (!table) return;
  if (shown === null) shown = Number(table.dataset.shown);
  if (day !== undefined) shown = Math.min(LAST_DAY, Math.max(0, day));
  table.dataset.shown = shown;
  const name = byId("day-shown");
  const head = byId(`day-${shown}`);
  if (name && head) name.textContent = head.textContent.trim().replace(/\s+/g, " ");
}
document.addEventListener("click", (event) => {
  const turn = around(event, "[data-turn-day]");
  if (turn) showDay(shown + Number(turn.dataset.turnDay));
});
document.addEventListener(
  "touchstart",
  (event) => {
    touchX = around(event, "table.week") ? event.changedTouches[0].clientX : null;
  },
  { passive: true },
);
document.addEventListener("touchend", (event) => {
  const moved = touchX === null ? 0 : event.changedTouches[0].clientX - touchX;
  touchX = null;
  if (Math.abs(moved) > SWIPE_PIXELS) showDay(shown + (moved < 0 ? 1 : -1));
});
document.addEventListener("htmx:afterSwap", () => showDay());
document.addEventListener("focusin", (event) => {
  const cell = cellOf(event.target);
  if (cell) showDay(Number(cell.dataset.day));
});
showDay();

/* dragging a meal onto another: exchanged, or copied with Ctrl */
document.addEventListener("dragstart", (event) => {
  const cell = cellOf(event.target);
  if (!cell) return;
  event.dataTransfer.setData("text/plain", cell.id);
  event.dataTransfer.effectAllowed = "copyMove";
});
document.addEventListener("dragover", (event) => {
  if (cellOf(event.target)) event.preventDefault();
});
document.addEventListener("drop", (event) => {
  const cell = cellOf(event.target);
  const from = byId(event.dataTransfer.getData("text/plain"));
  if (!cell || !cellOf(from)) return;
  event.preventDefault();
  last = cell.id;
  const { day, meal } = from.dataset;
  const to = { to_day: cell.dataset.day, to_meal: cell.dataset.meal };
  send(event.ctrlKey ? "copy" : "move", { day, meal, ...to });
});

/* after a change the panel closes, unless it came with the change, and the focus is where it was */
document.addEventListener("htmx:afterSettle", (event) => {
  const { elt, target } = event.detail;
  if (target && target.id === "drawer") {
    showPaste();
    return;
  }
  if (!backTo || !elt || elt.id !== "week") return;
  const panel = drawer();
  if (panel && !panel.hasAttribute("data-keep")) panel.innerHTML = "";
  if (panel) panel.removeAttribute("data-keep");
  if (!panel || !panel.innerHTML) focusCell(backTo);
  backTo = null;
});
