/* The scale is asked twice a second while its page is looked at; the server decides what has
   settled. */
import { byId } from "./dom.js";

const READ_EVERY_MS = 500;
const WIDEST_DEGREES = 60;
let asking = false;

async function readScale() {
  const pan = byId("weigh");
  if (!pan || document.hidden || asking) return;
  asking = true;
  try {
    const answer = await fetch(pan.dataset.scale, { headers: { Accept: "application/json" } });
    if (!answer.ok) throw new Error(answer.status);
    const { grams, settled } = await answer.json();
    const off = (grams / (Number(pan.dataset.target) || 100) - 1) * WIDEST_DEGREES;
    const turn = Math.max(-WIDEST_DEGREES, Math.min(WIDEST_DEGREES, off));
    byId("needle").setAttribute("transform", `rotate(${turn.toFixed(1)} 120 132)`);
    byId("scale-grams").textContent = grams;
    byId("scale-state").textContent = settled ? "settled" : "moving";
  } catch {
    const state = byId("scale-state");
    if (state) state.textContent = "the scale does not respond; type the weight";
  } finally {
    asking = false;
  }
}

if (byId("weigh")) {
  readScale();
  window.setInterval(readScale, READ_EVERY_MS);
}
