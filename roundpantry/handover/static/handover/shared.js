/* A booklet on a phone: kept for when there is no network; answers that wait until they are taken.
   What was typed stays in its field until the practice has it, whatever is answered on the way. */
const script = document.querySelector("script[data-worker]");
const WAITING = `answers-${script.dataset.scope}`;
const FIRST_WAIT_MS = 5_000;
const LONGEST_WAIT_MS = 300_000;
const state = () => document.getElementById("link-state");

function say(words) {
  state().textContent = words;
  state().hidden = !words;
}

/* What is kept on the phone; until the page is closed where the phone lets nothing be stored. */
const inMemory = new Map();
function stored(key) {
  try {
    return localStorage.getItem(key);
  } catch {
    return inMemory.get(key) ?? null;
  }
}
function store(key, text) {
  inMemory.set(key, text);
  try {
    if (text === null) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
  } catch {
    // in memory, then
  }
}

/* The answers that wait, oldest first. */
const waiting = () => JSON.parse(stored(WAITING) || "[]");
const keep = (list) => store(WAITING, JSON.stringify(list));
const placeOf = (fields) => `${fields.kind} ${fields.place || ""} ${fields.kind === "remark" ? fields.text : ""}`;
function wait(address, fields) {
  keep([...waiting().filter((one) => placeOf(one.fields) !== placeOf(fields)), { address, fields }]);
}

/* What was answered: the booklet's own page, or words of it that say why not; anything else (a page
   of a proxy, of a hotel's network) is no answer at all. */
const TAKEN = "taken", REFUSED = "refused", GONE = "gone", LATER = "later";
async function send(address, fields) {
  let answer, text;
  try {
    answer = await fetch(address, { method: "POST", body: new URLSearchParams(fields) });
    text = await answer.text();
  } catch {
    return { outcome: LATER, why: "No network" };
  }
  const ours = answer.headers.get("X-Booklet");
  const page = new DOMParser().parseFromString(text, "text/html");
  if (answer.ok && ours && ours !== "none") return { outcome: TAKEN, page };
  if (answer.status === 422 && ours)
    return { outcome: REFUSED, why: page.querySelector(".problem")?.textContent.trim() || "Not taken" };
  if (answer.status === 404 && ours) return { outcome: GONE };
  if (answer.status === 413) return { outcome: REFUSED, why: "Too long to be sent. Shorten it and send it again" };
  if (answer.status === 429) return { outcome: LATER, why: "Too many answers at once" };
  return { outcome: LATER, why: `The practice could not be reached (${answer.ok ? "another page came" : answer.status})` };
}

const GONE_WORDS =
  "This link opens nothing any more, so nothing was sent. What you wrote is still in its field: copy it, and ask your practitioner for a new link.";
let nextTry = null;
let waitMs = FIRST_WAIT_MS;
function tryAgainLater() {
  clearTimeout(nextTry);
  nextTry = setTimeout(sendWhatWaits, waitMs);
  waitMs = Math.min(2 * waitMs, LONGEST_WAIT_MS);
}

async function sendWhatWaits() {
  clearTimeout(nextTry);
  let taken = null;
  while (waiting().length) {
    const { address, fields } = waiting()[0];
    const { outcome, page, why } = await send(address, fields);
    if (outcome === LATER) {
      tryAgainLater();
      break;
    }
    if (outcome === GONE) return say(GONE_WORDS);
    keep(waiting().filter((one) => placeOf(one.fields) !== placeOf(fields)));
    if (outcome === REFUSED) say(`${why}. You wrote: ${fields.text || fields.kg || fields.how || ""}`);
    if (outcome === TAKEN) taken = { page, fields };
  }
  if (taken) {
    waitMs = FIRST_WAIT_MS;
    show(taken.page, taken.fields);
    say("Sent.");
  }
}

async function submitted(event) {
  const form = event.target.closest("form.answer");
  if (!form) return;
  event.preventDefault();
  const fields = Object.fromEntries(new FormData(form));
  const { outcome, page, why } = await send(form.action, fields);
  if (outcome === TAKEN) {
    show(page, fields);
    say("");
    if (waiting().length) sendWhatWaits();
  } else if (outcome === REFUSED) {
    say("");
    refused(form, why);
  } else if (outcome === GONE) {
    say(GONE_WORDS);
  } else {
    wait(form.action, fields);
    turn(form);
    say(`${why}: your answer is kept here, and sent by itself when it can be.`);
    tryAgainLater();
  }
}

/* Say beside the form why it was not taken; its words stay in it. */
function refused(form, why) {
  document.querySelectorAll("p.problem").forEach((one) => one.remove());
  const words = document.createElement("p");
  words.className = "problem";
  words.setAttribute("role", "alert");
  words.textContent = why;
  form.prepend(words);
}

/* Show the booklet as it came back; what is being typed in other forms stays. */
function show(page, fields) {
  const typed = [...document.querySelectorAll("form.answer")].flatMap((form) =>
    placeOf(Object.fromEntries(new FormData(form))) === placeOf(fields)
      ? []
      : [...form.elements].filter((one) => one.id && isTyped(one)).map((one) => [one.id, one.value]),
  );
  const open = [...document.querySelectorAll("details")].map((one) => one.open);
  const at = window.scrollY;
  document.getElementById("main").replaceWith(page.getElementById("main"));
  for (const [id, value] of typed) {
    const field = document.getElementById(id);
    if (field) field.value = value;
  }
  document.querySelectorAll("details").forEach((one, n) => (one.open = open[n] ?? one.open));
  showPlace();
  window.scrollTo(0, at);
  showTimes();
}
function isTyped(field) {
  if (field.tagName === "SELECT") return [...field.options].some((one) => one.selected !== one.defaultSelected && one.selected);
  return field.type !== "hidden" && "defaultValue" in field && field.value !== field.defaultValue;
}

function turn(form) {
  // a tick that waits for a network is seen at once
  const button = form.querySelector("button.tick");
  if (!button) return;
  const ticked = form.elements.how.value === "yes";
  button.textContent = ticked ? "✓" : "";
  button.setAttribute("aria-pressed", String(ticked));
  button.closest("li").classList.toggle("in-basket", ticked);
  form.elements.how.value = ticked ? "no" : "yes";
}

/* Cooking: the clock of an evening may begin now; the phone keeps when, also without a network. */
const MINUTE = 60_000;
const startOf = (evening) => `cooking-${script.dataset.scope}-${evening}`;
const clockOf = (moment) =>
  `${String(moment.getHours()).padStart(2, "0")}:${String(moment.getMinutes()).padStart(2, "0")}`;

function showTimes() {
  for (const section of document.querySelectorAll("section.cooking")) {
    const began = Number(stored(startOf(section.dataset.evening)));
    const rows = [...section.querySelectorAll("[data-minute]")];
    section.querySelector(".start-cooking").hidden = rows.length === 0;
    section.querySelector(".start-as-planned").hidden = !began;
    let now = null;
    for (const row of rows) {
      const at = row.querySelector(".at");
      const moment = began + Number(row.dataset.minute) * MINUTE;
      at.textContent = began ? clockOf(new Date(moment)) : at.dataset.planned;
      row.classList.remove("cook-now");
      if (began && moment <= Date.now() && !row.classList.contains("in-basket")) now = row;
    }
    if (now) now.classList.add("cook-now");
  }
}

function cooking(event) {
  const section = event.target.closest("section.cooking");
  if (!section) return;
  const key = startOf(section.dataset.evening);
  if (event.target.closest(".start-now")) store(key, String(Date.now()));
  else if (event.target.closest(".start-as-planned")) store(key, null);
  else return;
  showTimes();
}

/* One of five places is shown: the one that holds what the address names. */
function showPlace() {
  const id = decodeURIComponent(location.hash.slice(1));
  const named = id ? document.getElementById(id) : null;
  const place = named?.closest(".place")?.id || document.body.dataset.place || "today";
  document.body.dataset.place = place;
  for (const link of document.querySelectorAll(".places a")) {
    if (link.hash === `#${place}`) link.setAttribute("aria-current", "true");
    else link.removeAttribute("aria-current");
  }
}
function wentTo() {
  if (/^#(today|week|shop|cook|ask)$/.test(location.hash)) window.scrollTo(0, 0);
  showPlace();
}

/* The page was kept on another day and is read without a network: the phone knows which day it is. */
function openToday() {
  if (navigator.onLine) return;
  const now = new Date();
  const two = (number) => String(number).padStart(2, "0");
  const today = `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
  const days = [...document.querySelectorAll("details[data-day]")];
  const dayOfNow = days.find((one) => one.dataset.day === today);
  const shown = document.getElementById("day-now");
  if (!dayOfNow || shown.contains(dayOfNow)) return;
  const others = document.getElementById("other-days");
  const before = shown.firstElementChild;
  others.append(before);
  shown.append(dayOfNow);
  const byDay = (one, other) => one.dataset.day.localeCompare(other.dataset.day);
  [...others.children].sort(byDay).forEach((one) => others.append(one));
  days.forEach((one) => (one.open = one === dayOfNow));
}

document.addEventListener("submit", submitted);
document.addEventListener("click", cooking);
setInterval(showTimes, MINUTE / 4);
window.addEventListener("hashchange", wentTo);
showTimes();
openToday();
showPlace();
window.addEventListener("online", sendWhatWaits);
sendWhatWaits();
if ("serviceWorker" in navigator) {
  navigator.serviceWorker.register(script.dataset.worker, { scope: script.dataset.scope });
}
