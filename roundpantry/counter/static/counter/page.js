/* What every page does: the drawer gives back what it held, a failed save is said at once. */
import { around, byId, focus } from "./dom.js";

/* the drawer remembers what it held before Why? */
let drawerBefore = null;
document.addEventListener("htmx:beforeSwap", (event) => {
  const drawer = byId("drawer");
  if (event.detail.target !== drawer || drawer.querySelector("[data-close-why]")) return;
  const active = document.activeElement;
  drawerBefore = { html: drawer.innerHTML, from: active && active.id };
});
document.addEventListener("htmx:afterSwap", (event) => {
  const target = event.detail.target;
  if (target && target.id === "drawer") focus("drawer-title");
  const spoken = document.querySelector("[data-spoken]");
  if (spoken && target && target.id !== "drawer") byId("said").textContent = spoken.dataset.spoken;
});
function closeWhy() {
  const drawer = byId("drawer");
  if (!drawer || !drawerBefore) return;
  drawer.innerHTML = drawerBefore.html;
  window.htmx.process(drawer);
  focus(drawerBefore.from);
  drawerBefore = null;
}

/* what was typed stays where it is when a save fails; the message goes when a save succeeds, not
   when something was looked up meanwhile */
document.addEventListener("htmx:afterRequest", (event) => {
  const { successful, requestConfig } = event.detail;
  if (successful && requestConfig && requestConfig.verb !== "get") sayFailed("");
});
function sayFailed(text) {
  const box = byId("failed");
  if (!box) return;
  box.textContent = text;
  box.hidden = !text;
}
document.addEventListener("htmx:sendError", () =>
  sayFailed("Not saved. Can't reach the server. What you typed is still here; try again."),
);
document.addEventListener("htmx:responseError", (event) => {
  const status = event.detail.xhr.status;
  if (status === 503) {
    sayFailed("Busy with other plans. Nothing was changed; try again in a few seconds.");
    return;
  }
  sayFailed(
    `Not saved. The server reported error ${status}. What you typed is still here; ` +
      "reload to see what is saved.",
  );
});

document.addEventListener("click", (event) => {
  if (around(event, "[data-close-why]")) closeWhy();
  if (around(event, "#show-keys")) byId("keys").showModal();
  if (around(event, "[data-print]")) window.print();
});
/* an open menu closes with Esc, which gives the focus back, and with a press beside it */
document.addEventListener("keydown", (event) => {
  const menu = event.key === "Escape" && document.querySelector("details.menu[open]");
  if (!menu) return;
  menu.open = false;
  menu.querySelector("summary").focus();
});
document.addEventListener("click", (event) => {
  for (const menu of document.querySelectorAll("details.menu[open]")) {
    if (!menu.contains(event.target)) menu.open = false;
  }
});

/* on a phone the menu is wider than the screen: the place one is at is in view */
const here = document.querySelector(".rail [aria-current]");
if (here) {
  const rail = here.closest(".rail");
  rail.scrollLeft = here.offsetLeft - rail.offsetLeft - (rail.clientWidth - here.offsetWidth) / 2;
}

document.addEventListener("submit", (event) => {
  const question = event.target.dataset && event.target.dataset.confirm;
  if (question && !window.confirm(question)) event.preventDefault();
});
