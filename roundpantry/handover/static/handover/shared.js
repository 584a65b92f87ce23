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

async function send(address, fields) {
  const answer = await fetch(address, { method: "POST", body: new URLSearchParams(fields) });
  return answer;
}

async function sendWhatWaits() {
  const list = waiting();
  while (list.length) {
    try {
      await send(list[0].address, list[0].fields);
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
