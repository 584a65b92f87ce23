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
  } catch {
    keep([...waiting(), { address: form.action, fields }]);
    say("No network: kept here, and sent when there is one again.");
  }
}

document.addEventListener("submit", submitted);
window.addEventListener("online", sendWhatWaits);
sendWhatWaits();
if ("serviceWorker" in navigator) {
  navigator.serviceWorker.register(script.dataset.worker, { scope: script.dataset.scope });
}
