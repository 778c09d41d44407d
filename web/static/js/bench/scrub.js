// A number in a sentence, or of a measure, drawn sideways along a small ruler: one stop every few pixels.

import { make } from "./changes.js";
import { watchLeavingOff } from "./gesture.js";
import { tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { scale } from "./view.js";

const SVG = "http://www.w3.org/2000/svg";
const EACH = 8;
const FAR = 5;
const HALF = 12;
let held = null;

function whatOf(field) {
  const step = field.closest("[data-step]:not(main)")?.dataset.step;
  if (field.dataset.act === "measure") return { name: field.dataset.name };
  return step && field.dataset.field ? { step, field: field.dataset.field } : null;
}

function path(d, name) {
  const element = document.createElementNS(SVG, "path");
  element.setAttribute("d", d);
  if (name) element.setAttribute("class", name);
  return element;
}

function showRuler(field, stops) {
  const width = 2 * HALF * EACH;
  if (!held.ruler) {
    held.ruler = document.createElementNS(SVG, "svg");
    held.ruler.setAttribute("class", "number-ruler");
    held.ruler.setAttribute("viewBox", `${-width / 2} 0 ${width} 16`);
    held.ruler.setAttribute("width", width);
    document.body.append(held.ruler);
    const box = field.getBoundingClientRect();
    held.ruler.style.left = `${Math.max(4, box.left + box.width / 2 - width / 2)}px`;
    held.ruler.style.top = `${box.bottom + 3}px`;
  }
  const ticks = [path(`M${-width / 2} 12H${width / 2}`)];
  for (let k = -HALF; k <= HALF; k += 1) ticks.push(path(`M${k * EACH} 12v${(k - stops) % 4 === 0 ? -7 : -4}`));
  held.ruler.replaceChildren(...ticks, path("M0 1v14", "before"), path(`M${stops * EACH} 0v16`, "now"));
}

function onDown(event) {
  const field = event.target.closest("input.value");
  if (!field || event.button !== 0 || field === document.activeElement || field.closest("form")) return;
  const what = whatOf(field);
  if (what) held = { field, what, pointer: event.pointerId, from: event.clientX, by: null };
}

function onMove(event) {
  if (!held || event.pointerId !== held.pointer) return;
  const way = event.clientX - held.from;
  if (held.by === null && Math.abs(way) < FAR) return;
  if (held.by === null) {
    held.field.blur();
    getSelection().removeAllRanges();
    document.body.classList.add("scrubbing");
  }
  const stops = Math.max(-1000, Math.min(1000, Math.round(way / EACH)));
  if (stops === held.by) return;
  held.by = stops;
  showRuler(held.field, Math.max(-HALF, Math.min(HALF, stops)));
  held.given = { ...held.what, by: [stops, 0], scale: scale(), free: event.altKey, measure: event.ctrlKey || event.metaKey };
  if (stops === 0) takeAllBack();
  else preview("nudge", held.given);
}

function letGo() {
  document.body.classList.remove("scrubbing");
  held.ruler?.remove();
  const was = held;
  held = null;
  return was;
}

async function onUp(event) {
  if (!held || event.pointerId !== held.pointer) return;
  const { by, given } = letGo();
  if (by) await make("nudge", given, null);
}

function leaveOff() {
  if (letGo().by === null) return; // nothing was shown yet
  takeAllBack();
  tell("");
}

export function watchScrubbing(plan) {
  plan.addEventListener("pointerdown", onDown);
  document.addEventListener("pointermove", onMove);
  document.addEventListener("pointerup", onUp);
  watchLeavingOff(plan, () => held !== null, leaveOff);
}
