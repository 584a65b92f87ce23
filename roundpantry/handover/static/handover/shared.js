/* A booklet on a phone: kept for when there is no network, and answers that wait until there is. */
const script = document.querySelector("script[data-worker]");
const WAITING = `answers-${script.dataset.scope}`;
const state = () => document.getElementById("link-state");

function say(words) {
  state().textContent = words;
  state().hidden = false;
}
const waiting = () => JSON.parse(localStorage.getItem(WAITING) || "[]");
const keep = (list) => localStorage.setItem(WAITING, JSON.stringify(list));

const send = (address, fields) =>
  fetch(address, { method: "POST", body: new URLSearchParams(fields) });

async function sendWhatWaits() {
  const list = waiting();
  while (list.length) {
    const { address, fields } = list[0];
    try {
      const answer = await send(address, fields);
      if (answer.status === 429 || answer.status >= 500) return; // later
      if (!answer.ok) say(`Not taken: ${fields.text || fields.kg || fields.how || ""}`);
    } catch {
      return;
    }
    list.shift();
    keep(list);
  }
}

async function submitted(event) {
  const form = event.target.closest("form.answer");
  if (!form) return;
  event.preventDefault();
  const fields = Object.fromEntries(new FormData(form));
  try {
    const answer = await send(form.action, fields);
    const page = new DOMParser().parseFromString(await answer.text(), "text/html");
    const at = window.scrollY;
    document.getElementById("main").replaceWith(page.getElementById("main"));
    window.scrollTo(0, at);
    showTimes();
  } catch {
    keep([...waiting(), { address: form.action, fields }]);
    turn(form);
    say("No network: kept here, and sent when there is one again.");
  }
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
    const began = Number(localStorage.getItem(startOf(section.dataset.evening)));
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
  if (event.target.closest(".start-now")) localStorage.setItem(key, String(Date.now()));
  else if (event.target.closest(".start-as-planned")) localStorage.removeItem(key);
  else return;
  showTimes();
}

document.addEventListener("submit", submitted);
document.addEventListener("click", cooking);
setInterval(showTimes, MINUTE / 4);
showTimes();
window.addEventListener("online", sendWhatWaits);
sendWhatWaits();
if ("serviceWorker" in navigator) {
  navigator.serviceWorker.register(script.dataset.worker, { scope: script.dataset.scope });
}
