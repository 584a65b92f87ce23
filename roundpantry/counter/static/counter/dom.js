/* Short ways to elements, for every script. */
export const byId = (id) => document.getElementById(id);

export const isTyping = (el) =>
  Boolean(el && el.matches("input, textarea, select, [contenteditable]"));

/* the closest element of a kind around what an event happened on; an event may come from text */
export const around = (event, selector) =>
  event.target.closest ? event.target.closest(selector) : null;

export function click(id) {
  const el = byId(id);
  if (el) el.click();
}

export function focus(id) {
  const el = id && byId(id);
  if (el) el.focus();
}
