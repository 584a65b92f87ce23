/* The keys of every page. Which key does what stands in counter/keys.py and comes with the page;
   what an action does stands here. */
import { actOnPart, along, step } from "./bench.js";
import { byId, click, isTyping } from "./dom.js";

const GO_WITHIN_MS = 1500;
const map = byId("key-map"); /* a page for the printer has none */
export const KEYS = map ? JSON.parse(map.textContent) : { page: {}, part: {}, meal: {} };
let awaitingGo = false;

const PAGE_ACTIONS = {
  search(event) {
    event.preventDefault();
    const box = document.querySelector("[data-search]");
    if (!box) {
      click("go-shelf");
      return;
    }
    box.focus();
    box.select();
  },
  keys(event) {
    event.preventDefault();
    byId("keys").showModal();
  },
  go() {
    awaitingGo = true;
    setTimeout(() => {
      awaitingGo = false;
    }, GO_WITHIN_MS);
  },
  new(event) {
    const made = document.querySelector("[data-new]");
    if (!made) return;
    event.preventDefault();
    made.focus();
    if (made.tagName === "A" || made.tagName === "BUTTON") made.click();
  },
  undo() {
    click("undo");
  },
  balance() {
    click("balance");
  },
  take(event) {
    const offered = document.querySelector(`[data-way="${event.key}"]`);
    if (!offered) return;
    event.preventDefault();
    offered.click();
  },
  client(event) {
    follow(event, "w");
  },
};

function follow(event, letter) {
  const link = document.querySelector(`[data-go="${CSS.escape(letter)}"]`);
  if (!link) return;
  event.preventDefault();
  link.click();
}

/* arrows where they turn something: a portion field, a handle of the dish, a food of the ladder */
function turnedByArrow(el, event) {
  if (!el || !event.key.startsWith("Arrow")) return false;
  const upward = event.key === "ArrowUp";
  if (el.matches("[data-amount]") && (upward || event.key === "ArrowDown")) {
    step(el.dataset.part, upward ? 1 : -1, el.id);
  } else if (el.matches("[data-handle]")) {
    step(el.dataset.part, upward || event.key === "ArrowRight" ? 1 : -1, el.id);
  } else if (el.matches("[data-rung]")) {
    along(el, event.key);
  } else {
    return false;
  }
  event.preventDefault();
  return true;
}

/* a key on an ingredient, wherever in its line or on the dish the focus stands */
function turnedOnPart(el, event) {
  const part = el && el.dataset && el.dataset.part;
  if (!part || !actOnPart(part, KEYS.part[event.key])) return false;
  event.preventDefault();
  return true;
}

function onPage(event) {
  if (awaitingGo) {
    awaitingGo = false;
    follow(event, event.key);
    return;
  }
  const action = PAGE_ACTIONS[KEYS.page[event.key]];
  if (action) action(event);
}

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const el = document.activeElement;
  if (event.key === "Escape" && isTyping(el)) {
    el.blur();
    return;
  }
  if (turnedByArrow(el, event) || isTyping(el) || turnedOnPart(el, event)) return;
  onPage(event);
});
