// Steps put in another order: a number is drawn along the plan, as far as what the step stands on lets it.

import { make } from "./changes.js";
import { watchLeavingOff } from "./gesture.js";
import { clearFault } from "./messages.js";

const FAR = 4;
let held = null;
let moved = false;

function others() {
  return [...document.querySelectorAll("#plan .step:not([hidden])")].filter((line) => line !== held.line);
}

// Where it would come to stand: behind how many of the others, in the whole plan.
function placeAt(y) {
  const before = others().filter((line) => {
    const box = line.getBoundingClientRect();
    return box.top + box.height / 2 < y;
  });
  const last = before[before.length - 1];
  if (!last) return 0;
  const all = [...document.querySelectorAll("#plan .step")].filter((line) => line !== held.line);
  return all.indexOf(last) + 1;
}

function onDown(event) {
  const number = event.target.closest(".step .number");
  if (!number || event.button !== 0) return;
  held = { pointer: event.pointerId, line: number.closest(".step"), from: event.clientY, number };
}

function onMove(event) {
  if (!held || event.pointerId !== held.pointer) return;
  if (!held.mark && Math.abs(event.clientY - held.from) < FAR) return;
  if (!held.mark) {
    held.number.setPointerCapture(held.pointer);
    held.line.classList.add("lifted");
    held.mark = document.createElement("li");
    held.mark.className = "drop-mark";
    held.mark.setAttribute("aria-hidden", "true");
  }
  held.place = placeAt(event.clientY);
  const { first, last } = held.line.dataset;
  held.mark.classList.toggle("refused", held.place < Number(first) || held.place > Number(last));
  const all = [...document.querySelectorAll("#plan .step")].filter((line) => line !== held.line);
  if (held.place === 0) all[0]?.before(held.mark);
  else all[held.place - 1].after(held.mark);
}

function letGo() {
  held.mark?.remove();
  held.line.classList.remove("lifted");
  const was = held;
  held = null;
  return was;
}

function onUp(event) {
  if (!held || event.pointerId !== held.pointer) return;
  const { mark, line, place, number } = letGo();
  if (!mark) return;
  moved = true;
  setTimeout(() => {
    moved = false;
  });
  const now = [...document.querySelectorAll("#plan .step")].indexOf(line);
  clearFault(number);
  number.focus({ preventScroll: true });
  if (place !== now) make("move-step", { step: line.dataset.step, position: place }, number);
}

export function watchOrder(plan) {
  plan.addEventListener("pointerdown", onDown);
  plan.addEventListener("pointermove", onMove);
  plan.addEventListener("pointerup", onUp);
  // What was said of a move that is not possible is gone with the next change.
  document.addEventListener("bench:shown", () => plan.querySelectorAll(".number[aria-describedby]").forEach(clearFault));
  watchLeavingOff(plan, () => held !== null, letGo);
  // The click that ends a move is none.
  plan.addEventListener("click", (event) => moved && event.stopPropagation(), { capture: true });
}
