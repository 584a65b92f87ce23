/* The bench in the browser: steps of a portion, handles of the dish, the ladder's arrows. Every
   figure is computed on the server. */
import { around, byId, click, focus } from "./dom.js";

const BENCH = { target: "#bench", swap: "outerHTML" };
const partAddress = (part) =>
  `${document.querySelector("[data-bench]").dataset.bench}parts/${part}/`;

/* one request at a time; steps pressed meanwhile are sent together, part by part */
const queued = new Map();
let busy = false;
export function step(part, steps, focusId) {
  if (busy) {
    const before = queued.has(part) ? queued.get(part).steps : 0;
    queued.set(part, { steps: before + steps, focusId });
    return;
  }
  busy = true;
  const address = `${partAddress(part)}step/`;
  window.htmx.ajax("POST", address, { ...BENCH, values: { steps } }).finally(() => {
    busy = false;
    focus(focusId);
    for (const [next, wanted] of [...queued]) {
      queued.delete(next);
      if (wanted.steps) step(next, wanted.steps, wanted.focusId);
    }
  });
}
document.addEventListener("click", (event) => {
  const button = around(event, "[data-steps]");
  if (button && button.closest("[data-bench]")) {
    step(button.dataset.part, Number(button.dataset.steps), button.id);
  }
});

/* what was added by Enter leaves the search ready for the next food */
document.addEventListener("htmx:afterRequest", (event) => {
  const { elt, successful } = event.detail;
  const box = successful && elt.matches("form[role=search]") && elt.querySelector("#bench-q");
  if (!box) return;
  box.value = "";
  box.dispatchEvent(new Event("input", { bubbles: true }));
});

/* an action of the key map on a part; true when there is such an action */
const SENT = {
  double: ["double/", {}],
  up: ["move/", { places: "-1" }],
  down: ["move/", { places: "1" }],
};
export function actOnPart(part, action) {
  if (action === "remove" || action === "lock") {
    click(`${action}-${part}`);
    return true;
  }
  if (action === "panel" && document.activeElement.matches("[data-handle]")) {
    click(`panel-${part}`);
    return true;
  }
  if (!SENT[action]) return false;
  const [where, values] = SENT[action];
  const from = document.activeElement.id;
  window.htmx
    .ajax("POST", partAddress(part) + where, { ...BENCH, values })
    .finally(() => focus(from));
  return true;
}

/* arrows on the ladder: to the nearest food in that direction */
export function along(from, key) {
  const at = (el) => {
    const circle = el.querySelector("circle");
    return [Number(circle.getAttribute("cx")), Number(circle.getAttribute("cy"))];
  };
  const [x, y] = at(from);
  let best = null;
  let least = Infinity;
  document.querySelectorAll("[data-rung]").forEach((other) => {
    if (other === from) return;
    const [ox, oy] = at(other);
    const ahead = {
      ArrowRight: ox - x,
      ArrowLeft: x - ox,
      ArrowDown: oy - y,
      ArrowUp: y - oy,
    }[key];
    const sideways = key === "ArrowRight" || key === "ArrowLeft";
    const far = ahead + 2 * (sideways ? Math.abs(oy - y) : Math.abs(ox - x));
    if (ahead > 0 && far < least) {
      least = far;
      best = other;
    }
  });
  if (best) best.focus();
}

/* handles: pulled outward is larger, inward smaller; the server is asked on release */
const DRAWN_WIDTH = 480;
const PIXELS_A_STEP = 14;
let pull = null;
document.addEventListener("pointerdown", (event) => {
  const handle = around(event, "[data-handle]");
  if (!handle) {
    const slice = around(event, "[data-slice]");
    if (slice) focus(`handle-${slice.dataset.slice}`);
    return;
  }
  const width = handle.ownerSVGElement.getBoundingClientRect().width;
  const start = { x: event.clientX, y: event.clientY };
  pull = { handle, ...start, steps: 0, scale: DRAWN_WIDTH / width };
  handle.focus();
  handle.setPointerCapture(event.pointerId);
  event.preventDefault();
});
document.addEventListener("pointermove", (event) => {
  if (!pull) return;
  const dx = Number(pull.handle.dataset.dx);
  const dy = Number(pull.handle.dataset.dy);
  const way = ((event.clientX - pull.x) * dx + (event.clientY - pull.y) * dy) * pull.scale;
  pull.steps = Math.round(way / PIXELS_A_STEP);
  const moved = `translate(${(dx * way).toFixed(1)} ${(dy * way).toFixed(1)})`;
  pull.handle.setAttribute("transform", moved);
  const sign = pull.steps > 0 ? "+" : "−";
  const words = `${sign}${Math.abs(pull.steps)} × ${pull.handle.dataset.step}`;
  byId("pull-text").textContent = pull.steps ? words : "";
});
const letGo = () => {
  if (!pull) return;
  const { handle, steps } = pull;
  pull = null;
  handle.removeAttribute("transform");
  byId("pull-text").textContent = "";
  if (steps) step(handle.dataset.part, steps, handle.id);
};
document.addEventListener("pointerup", letGo);
document.addEventListener("pointercancel", letGo);

/* a part is marked in the table and on the dish while either has the focus */
document.addEventListener("focusin", (event) => {
  const part = event.target.dataset && event.target.dataset.part;
  if (!part) return;
  document.querySelectorAll(".bench .chosen").forEach((el) => el.classList.remove("chosen"));
  document
    .querySelectorAll(`[data-slice="${part}"], tr[data-row="${part}"]`)
    .forEach((el) => el.classList.add("chosen"));
});
document.addEventListener("change", (event) => {
  if (event.target.matches && event.target.matches("[data-amount]")) {
    window.htmx.trigger(event.target.form, "typed");
  }
});
