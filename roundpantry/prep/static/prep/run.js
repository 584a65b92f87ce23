/* Timers of an evening that is cooked. The server says when each is over; the browser only counts
   down to that moment, so that a phone that slept or a page that was reloaded is right. */
import { byId } from "../counter/dom.js";

const SECOND = 1000;
const told = new Set();
let ahead = 0;

function clockAgreed() {
  // how far this device's clock is ahead of the server's
  const run = byId("run");
  if (run && run.dataset.now && run.dataset.agreed !== "yes") {
    ahead = Date.now() - Number(run.dataset.now);
    run.dataset.agreed = "yes";
  }
}

function words(seconds) {
  if (seconds <= 0) {
    return "time is over";
  }
  const minutes = Math.floor(seconds / 60);
  return `${minutes}:${String(seconds % 60).padStart(2, "0")}`;
}

function sound() {
  const box = byId("timer-sound");
  if (!box || !box.checked) {
    return;
  }
  const audio = new AudioContext();
  const tone = audio.createOscillator();
  tone.frequency.value = 660;
  tone.connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 0.6);
}

function count() {
  clockAgreed();
  for (const timer of document.querySelectorAll("[data-ends]")) {
    const seconds = Math.ceil((Number(timer.dataset.ends) - (Date.now() - ahead)) / SECOND);
    timer.querySelector(".timer-left").textContent = words(seconds);
    timer.classList.toggle("over", seconds <= 0);
    if (seconds <= 0 && !told.has(timer.dataset.ends)) {
      told.add(timer.dataset.ends);
      byId("said").textContent = `Time is over: ${timer.querySelector("strong").textContent}`;
      sound();
    }
  }
}

count();
setInterval(count, SECOND);
document.addEventListener("visibilitychange", count);
document.addEventListener("htmx:afterSwap", count);
