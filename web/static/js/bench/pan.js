// Moving the sheet by hand: the middle button, Space held, and two fingers, which zoom as well.

import { hold } from "./gesture.js";
import { panBy, zoomAt } from "./view.js";

const touches = new Map();
let space = false;
let held = null;

function spread() {
  const [a, b] = [...touches.values()];
  return {
    clientX: (a.clientX + b.clientX) / 2,
    clientY: (a.clientY + b.clientY) / 2,
    apart: Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY),
  };
}

function onDown(event) {
  if (event.pointerType === "touch") {
    touches.set(event.pointerId, event);
    if (touches.size === 2) document.dispatchEvent(new CustomEvent("bench:leave-off"));
  }
  if (event.button !== 1 && !(event.button === 0 && space)) return;
  event.preventDefault();
  event.stopPropagation();
  held = event;
  hold(event);
  event.currentTarget.classList.add("panning");
}

function onMove(event) {
  if (held?.pointerId === event.pointerId) {
    panBy(event.clientX - held.clientX, event.clientY - held.clientY);
    held = event;
  } else if (touches.has(event.pointerId) && touches.size === 2) {
    const before = spread();
    touches.set(event.pointerId, event);
    const after = spread();
    zoomAt(before, after.apart / before.apart);
    panBy(after.clientX - before.clientX, after.clientY - before.clientY);
  }
}

function onUp(event) {
  touches.delete(event.pointerId);
  if (held?.pointerId !== event.pointerId) return;
  held = null;
  event.currentTarget.classList.remove("panning");
}

export function pinching() {
  return touches.size > 1;
}

export function watchPan(sheet) {
  sheet.addEventListener("pointerdown", onDown, { capture: true });
  sheet.addEventListener("pointermove", onMove);
  sheet.addEventListener("pointerup", onUp);
  sheet.addEventListener("pointercancel", onUp);
  document.addEventListener("keydown", (event) => {
    if (event.key !== " " || event.target.closest("input, textarea, select, button, [role=button], .regions")) return;
    event.preventDefault();
    space = true;
    sheet.classList.add("may-pan");
  });
  document.addEventListener("keyup", (event) => {
    if (event.key !== " ") return;
    space = false;
    sheet.classList.remove("may-pan");
  });
}
