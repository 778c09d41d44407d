// A number in a sentence, or of a measure, drawn sideways along a small ruler: one stop every few pixels.

import { make } from "./changes.js";
import { watchLeavingOff } from "./gesture.js";
import { byMeasure, free } from "./held_keys.js";
import { tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { scale } from "./view.js";
import { EACH, rulerBelow, showStops } from "../ruler.js";

const FAR = 5;
let held = null;

function whatOf(field) {
  const step = field.closest("[data-step]:not(main)")?.dataset.step;
  if (field.dataset.act === "measure") return { name: field.dataset.name };
  return step && field.dataset.field ? { step, field: field.dataset.field } : null;
}

function onDown(event) {
  const field = event.target.closest("input.value, textarea.long");
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
  held.ruler ||= rulerBelow(held.field);
  showStops(held.ruler, stops);
  held.given = { ...held.what, by: [stops, 0], scale: scale(), free: free(event), measure: byMeasure(event) };
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
