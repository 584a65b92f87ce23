/* The week's part in the browser: moving over the grid, dragging, and asking the server for every change. */
(function () {
  "use strict";
  const byId = (id) => document.getElementById(id);
  const week = () => byId("week");
  const drawer = () => byId("drawer");
  let last = "cell-0-0", marked = null, swapping = null, backTo = null;

  const cellOf = (el) => el && el.closest && el.closest("[data-day][data-meal]");
  function here() { const cell = byId(last); return { day: cell.dataset.day, meal: cell.dataset.meal }; }
  function say(text) { byId("said").textContent = text; }
  function send(what, values) {
    backTo = last;
    const path = week().dataset.url + (what === "plan" ? "plan/" : "do/" + what + "/");
    return window.htmx.ajax("POST", path, { target: "#week", swap: "outerHTML", values: { revision: week().dataset.revision, ...values } });
  }
  function focusCell(id) {
    const cell = byId(id);
    if (!cell) return;
    showDay(Number(cell.dataset.day));
    document.querySelectorAll('table.week [tabindex="0"][data-day]').forEach((one) => { one.tabIndex = -1; });
    cell.tabIndex = 0;
    cell.focus();
    last = id;
  }
  function open(cell) {
    last = cell.id;
    window.htmx.ajax("GET", week().dataset.url + "cell/" + cell.dataset.day + "/" + cell.dataset.meal + "/", { target: "#drawer", swap: "innerHTML" });
  }
  function close() { drawer().innerHTML = ""; focusCell(last); }

  /* an action of a cell: by key, by button, by finger */
  function act(what, data) {
    const at = here();
    if (what === "plan") return send("plan", { seed: data.seed || 1 });
    if (what === "cook") return send("cook", { batch: data.batch, day: data.evening, ...(data.frozen !== undefined ? { frozen: data.frozen } : { steps: data.steps }) });
    if (what === "paste") return marked ? send("copy", { day: marked.day, meal: marked.meal, to_day: at.day, to_meal: at.meal }) : say("Nothing copied yet.");
    const values = { ...at };
    for (const name of ["dish", "name", "position", "steps"]) if (data[name] !== undefined) values[name] = data[name];
    return send(what, values);
  }
  function swap(cell) {
    if (swapping === null) { swapping = cell.dataset.day; say("Go to the day to swap with and press s again."); return; }
    const one = swapping;
    swapping = null;
    send("swap", { day: one, to_day: cell.dataset.day });
  }
  function mark() { marked = here(); say("Copied. Go to another meal and paste."); showPaste(); }
  function showPaste() { const paste = document.querySelector('[data-do="paste"]'); if (paste) paste.hidden = !marked; }

  document.addEventListener("click", (event) => {
    if (event.target.closest("[data-close-panel]")) { close(); return; }
    const pressed = event.target.closest("[data-do]");
    if (pressed) { act(pressed.dataset.do, pressed.dataset); return; }
    if (event.target.closest('[data-mark="copy"]')) { mark(); return; }
    const cell = cellOf(event.target);
    if (cell) { focusCell(cell.id); open(cell); }
  });

  const KEYS = JSON.parse(byId("key-map").textContent).meal; /* counter/keys.py: key, action */
  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "Escape" && drawer() && drawer().innerHTML && !event.target.matches("input, select, textarea")) { close(); return; }
    const cell = cellOf(document.activeElement);
    if (!cell) return;
    const [d, m] = [Number(cell.dataset.day), Number(cell.dataset.meal)];
    const moves = { ArrowLeft: [d - 1, m], ArrowRight: [d + 1, m], ArrowUp: [d, m - 1], ArrowDown: [d, m + 1], Home: [0, m], End: [6, m] };
    if (moves[event.key]) { event.preventDefault(); focusCell("cell-" + moves[event.key].join("-")); return; }
    last = cell.id;
    const action = KEYS[event.key];
    if (!action) return;
    if (action === "swap") { swap(cell); return; }
    if (action !== "mark") event.preventDefault();
    if (action === "open") { open(cell); return; }
    if (action === "larger" || action === "smaller") { act("scale", { steps: action === "larger" ? 1 : -1 }); return; }
    event.stopImmediatePropagation();
    if (action === "mark") mark();
    else act(action, {});
  }, true);

  /* what changes the week from the panel leads back to the cell */
  document.addEventListener("htmx:beforeRequest", (event) => {
    const from = event.detail.elt, target = event.detail.target;
    if (drawer() && drawer().contains(from) && target && target.id === "week") backTo = last;
  });

  /* on a phone one day is shown at a time: by its buttons, by a swipe, or by walking there with the arrow keys */
  let shown = null, touchX = null;
  function showDay(day) {
    const table = document.querySelector("table.week");
    if (!table) return;
    if (shown === null) shown = Number(table.dataset.shown);
    if (day !== undefined) shown = Math.min(6, Math.max(0, day));
    table.dataset.shown = shown;
    const name = byId("day-shown"), head = byId("day-" + shown);
    if (name && head) name.textContent = head.textContent.trim();
  }
  document.addEventListener("click", (event) => {
    const turn = event.target.closest("[data-turn-day]");
    if (turn) showDay(shown + Number(turn.dataset.turnDay));
  });
  document.addEventListener("touchstart", (event) => { touchX = event.target.closest("table.week") ? event.changedTouches[0].clientX : null; }, { passive: true });
  document.addEventListener("touchend", (event) => {
    const moved = touchX === null ? 0 : event.changedTouches[0].clientX - touchX;
    touchX = null;
    if (Math.abs(moved) > 60) showDay(shown + (moved < 0 ? 1 : -1));
  });
  document.addEventListener("htmx:afterSwap", () => showDay());
  document.addEventListener("focusin", (event) => { const cell = cellOf(event.target); if (cell) showDay(Number(cell.dataset.day)); });
  showDay();

  /* dragging a meal onto another: exchanged, or copied with Ctrl */
  document.addEventListener("dragstart", (event) => { const cell = cellOf(event.target); if (cell) { event.dataTransfer.setData("text/plain", cell.id); event.dataTransfer.effectAllowed = "copyMove"; } });
  document.addEventListener("dragover", (event) => { if (cellOf(event.target)) event.preventDefault(); });
  document.addEventListener("drop", (event) => {
    const cell = cellOf(event.target), from = byId(event.dataTransfer.getData("text/plain"));
    if (!cell || !cellOf(from)) return;
    event.preventDefault();
    last = cell.id;
    send(event.ctrlKey ? "copy" : "move", { day: from.dataset.day, meal: from.dataset.meal, to_day: cell.dataset.day, to_meal: cell.dataset.meal });
  });

  /* after a change the panel closes, unless it came with the change, and the focus is where it was */
  document.addEventListener("htmx:afterSettle", (event) => {
    if (event.detail.target && event.detail.target.id === "drawer") { showPaste(); return; }
    if (!backTo || !event.detail.elt || event.detail.elt.id !== "week") return;
    if (drawer() && !drawer().hasAttribute("data-keep")) drawer().innerHTML = "";
    if (drawer()) drawer().removeAttribute("data-keep");
    if (!drawer() || !drawer().innerHTML) focusCell(backTo);
    backTo = null;
  });
})();
