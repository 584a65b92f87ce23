/* The browser's part: keys, handles, focus and the drawer. Every figure is computed on the server. */
(function () {
  "use strict";
  const typing = (el) => el && el.matches("input, textarea, select, [contenteditable]");
  const byId = (id) => document.getElementById(id);
  /* counter/keys.py: the action of a key, by place; a page for the printer has none */
  const map = byId("key-map");
  const KEYS = map ? JSON.parse(map.textContent) : { page: {}, part: {}, meal: {} };
  let awaitingGo = false;

  /* the drawer remembers what it held before Why? */
  let drawerBefore = null;
  document.addEventListener("htmx:beforeSwap", (event) => {
    const drawer = byId("drawer");
    if (event.detail.target === drawer && !drawer.querySelector("[data-close-why]")) {
      drawerBefore = { html: drawer.innerHTML, from: document.activeElement && document.activeElement.id };
    }
  });
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.detail.target && event.detail.target.id === "drawer") {
      const title = byId("drawer-title");
      if (title) title.focus();
    }
    const spoken = document.querySelector("[data-spoken]");
    if (spoken && event.detail.target && event.detail.target.id !== "drawer") byId("said").textContent = spoken.dataset.spoken;
    failed("");
  });
  function closeWhy() {
    const drawer = byId("drawer");
    if (!drawer || !drawerBefore) return;
    drawer.innerHTML = drawerBefore.html;
    window.htmx.process(drawer);
    const back = drawerBefore.from && byId(drawerBefore.from);
    if (back) back.focus();
    drawerBefore = null;
  }

  /* a failed save is said at once, and what was typed stays where it is */
  function failed(text) {
    const box = byId("failed");
    if (box) { box.textContent = text; box.hidden = !text; }
  }
  document.addEventListener("htmx:sendError", () => failed("Not saved. Can't reach the server. What you typed is still here; try again."));
  document.addEventListener("htmx:responseError", (event) => failed("Not saved. The server reported error "  + event.detail.xhr.status + ". What you typed is still here; reload to see what is saved."));

  /* keys */
  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const el = document.activeElement;
    if (event.key === "Escape" && typing(el)) { el.blur(); return; }
    if (el && el.matches("[data-amount]") && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      event.preventDefault();
      step(el.dataset.part, event.key === "ArrowUp" ? 1 : -1, el.id);
      return;
    }
    if (el && el.matches("[data-handle]") && event.key.startsWith("Arrow")) {
      event.preventDefault();
      step(el.dataset.part, event.key === "ArrowUp" || event.key === "ArrowRight" ? 1 : -1, el.id);
      return;
    }
    if (el && el.dataset && el.dataset.part && !typing(el) && partKey(el.dataset.part, event.key)) { event.preventDefault(); return; }
    if (el && el.matches("[data-rung]") && event.key.startsWith("Arrow")) {
      event.preventDefault();
      along(el, event.key);
      return;
    }
    if (typing(el)) return;
    if (awaitingGo) {
      awaitingGo = false;
      const link = document.querySelector('[data-go="' + CSS.escape(event.key) + '"]');
      if (link) { event.preventDefault(); link.click(); }
      return;
    }
    const action = PAGE_ACTIONS[KEYS.page[event.key]];
    if (action) action(event);
  });
  /* what the keys of a page do, by the names of the key map */
  const PAGE_ACTIONS = {
    search(event) {
      event.preventDefault();
      const box = document.querySelector("[data-search]");
      if (box) { box.focus(); box.select(); } else { click("go-shelf"); }
    },
    keys(event) { event.preventDefault(); byId("keys").showModal(); },
    go() { awaitingGo = true; setTimeout(() => { awaitingGo = false; }, 1500); },
    new(event) {
      const made = document.querySelector("[data-new]");
      if (!made) return;
      event.preventDefault();
      made.focus();
      if (made.tagName === "A" || made.tagName === "BUTTON") made.click();
    },
    undo() { click("undo"); },
    balance() { click("balance"); },
    take(event) {
      const way = document.querySelector('[data-way="' + event.key + '"]');
      if (way) { event.preventDefault(); way.click(); }
    },
    client() { const link = document.querySelector('[data-go="w"]'); if (link) link.click(); },
  };
  /* keys on a part, wherever in its line or on the dish the focus stands */
  function partKey(part, key) {
    const action = KEYS.part[key];
    if (action === "remove" || action === "lock") { click(action + "-" + part); return true; }
    if (action === "panel" && document.activeElement.matches("[data-handle]")) { click("panel-" + part); return true; }
    const send = { double: ["double/", {}], up: ["move/", { places: "-1" }], down: ["move/", { places: "1" }] }[action];
    if (!send) return false;
    const from = document.activeElement.id;
    const url = document.querySelector("[data-bench]").dataset.bench + "parts/" + part + "/" + send[0];
    window.htmx.ajax("POST", url, { target: "#bench", swap: "outerHTML", values: send[1] }).finally(() => { const again = byId(from); if (again) again.focus(); });
    return true;
  }
  function click(id) { const el = byId(id); if (el) el.click(); }
  /* arrows on the ladder: to the nearest food in that direction */
  function along(from, key) {
    const at = (el) => { const c = el.querySelector("circle"); return [Number(c.getAttribute("cx")), Number(c.getAttribute("cy"))]; };
    const [x, y] = at(from);
    let best = null, least = Infinity;
    document.querySelectorAll("[data-rung]").forEach((other) => {
      if (other === from) return;
      const [ox, oy] = at(other);
      const ahead = { ArrowRight: ox - x, ArrowLeft: x - ox, ArrowDown: oy - y, ArrowUp: y - oy }[key];
      const aside = key === "ArrowRight" || key === "ArrowLeft" ? Math.abs(oy - y) : Math.abs(ox - x);
      if (ahead <= 0) return;
      const far = ahead + 2 * aside;
      if (far < least) { least = far; best = other; }
    });
    if (best) best.focus();
  }
  let queued = null;
  let busy = false;
  function step(part, steps, focusId) {
    if (busy) { queued = queued && queued.part === part ? { part, steps: queued.steps + steps, focusId } : { part, steps, focusId }; return; }
    const url = document.querySelector("[data-bench]").dataset.bench + "parts/" + part + "/step/";
    busy = true;
    window.htmx.ajax("POST", url, { target: "#bench", swap: "outerHTML", values: { steps } }).finally(() => {
      busy = false;
      const again = byId(focusId);
      if (again) again.focus();
      if (queued) { const next = queued; queued = null; if (next.steps) step(next.part, next.steps, next.focusId); }
    });
  }

  /* handles: pulled outward is larger, inward smaller; the server is asked on release */
  let pull = null;
  document.addEventListener("pointerdown", (event) => {
    const handle = event.target.closest && event.target.closest("[data-handle]");
    if (!handle) {
      const slice = event.target.closest && event.target.closest("[data-slice]");
      if (slice) { const grip = byId("handle-" + slice.dataset.slice); if (grip) grip.focus(); }
      return;
    }
    const svg = handle.ownerSVGElement;
    pull = { handle, svg, x: event.clientX, y: event.clientY, steps: 0, scale: 480 / svg.getBoundingClientRect().width };
    handle.focus();
    handle.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  document.addEventListener("pointermove", (event) => {
    if (!pull) return;
    const dx = Number(pull.handle.dataset.dx), dy = Number(pull.handle.dataset.dy);
    const along = ((event.clientX - pull.x) * dx + (event.clientY - pull.y) * dy) * pull.scale;
    pull.steps = Math.round(along / 14);
    pull.handle.setAttribute("transform", "translate(" + (dx * along).toFixed(1) + " " + (dy * along).toFixed(1) + ")");
    byId("pull-text").textContent = pull.steps ? (pull.steps > 0 ? "+" : "−") + Math.abs(pull.steps) + " × " + pull.handle.dataset.step : "";
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

  /* the scale is asked twice a second while its page is looked at; the server decides what has settled */
  let asking = false;
  async function readScale() {
    const pan = byId("weigh");
    if (!pan || document.hidden || asking) return;
    asking = true;
    try {
      const answer = await fetch(pan.dataset.scale, { headers: { Accept: "application/json" } });
      if (!answer.ok) throw new Error(answer.status);
      const { grams, settled } = await answer.json();
      const target = Number(pan.dataset.target) || 100;
      const turn = Math.max(-60, Math.min(60, (grams / target - 1) * 60));
      byId("needle").setAttribute("transform", "rotate(" + turn.toFixed(1) + " 120 132)");
      byId("scale-grams").textContent = grams;
      byId("scale-state").textContent = settled ? "settled" : "moving";
    } catch {
      const state = byId("scale-state");
      if (state) state.textContent = "the scale does not respond; type the weight";
    } finally { asking = false; }
  }
  if (byId("weigh")) { readScale(); window.setInterval(readScale, 500); }

  /* small things without a place of their own */
  document.addEventListener("click", (event) => {
    if (!event.target.closest) return;
    if (event.target.closest("[data-close-why]")) closeWhy();
    if (event.target.closest("#show-keys")) byId("keys").showModal();
    if (event.target.closest("[data-print]")) window.print();
  });
  document.addEventListener("focusin", (event) => {
    const part = event.target.dataset && event.target.dataset.part;
    if (!part) return;
    document.querySelectorAll(".bench .chosen").forEach((el) => el.classList.remove("chosen"));
    document.querySelectorAll('[data-slice="' + part + '"], tr[data-row="' + part + '"]').forEach((el) => el.classList.add("chosen"));
  });
  document.addEventListener("submit", (event) => {
    const question = event.target.dataset && event.target.dataset.confirm;
    if (question && !window.confirm(question)) event.preventDefault();
  });
  document.addEventListener("change", (event) => {
    if (event.target.matches && event.target.matches("[data-amount]")) window.htmx.trigger(event.target.form, "typed");
  });
})();
