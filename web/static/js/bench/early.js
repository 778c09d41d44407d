// What a hand does on the sheet before the page is ready for it waits, and is done then: while a slip is on its way, and
// where the step whose regions or dimensions are pressed on has to be added first.

import { choosing } from "./chooser.js";
import { watchLeavingOff } from "./gesture.js";
import { handleAt } from "./handles.js";
import { pinching } from "./pan.js";
import { add, currentSlip, opening } from "./slip.js";

const KINDS = ["pointerdown", "pointermove", "pointerup", "click"];
const done = new WeakSet();
// What waits; and the pointer that is still down on regions that were not there when it was pressed.
let waiting = null;
let late = null;

// What has to come first, if anything: a promise of whether it came.
function readiness(event) {
  if (opening()) return { first: opening(), regions: false };
  const slip = currentSlip();
  if (!slip || choosing()) return null;
  if (slip.dataset.regions) return { first: add(slip), regions: true };
  return onDimension(event) && !slip.dataset.press ? { first: add(slip), regions: false } : null;
}

// A dimension of the step in the slip; a word only where it can be read, since it may lie on a figure to be picked.
function onDimension(event) {
  const handle = handleAt(event);
  return Boolean(handle?.closest(".drafted")) && (handle.dataset.form !== "choice" || event.target.matches(".word"));
}

function again(event, target) {
  const Kind = event.type === "click" ? MouseEvent : PointerEvent;
  const copy = new Kind(event.type, event);
  done.add(copy);
  target.dispatchEvent(copy);
}

function under(event) {
  const found = document.elementFromPoint(event.clientX, event.clientY);
  return found?.closest("#drawing") ? found : document.getElementById("drawing");
}

async function goOn({ first, regions }, held) {
  const came = await first;
  if (waiting !== held) return; // it was left off
  waiting = null;
  const { events } = held;
  if (!came) return;
  for (const event of events) again(event, under(event));
  if (regions && !events.some((event) => event.type === "pointerup")) late = { pointer: events[0].pointerId };
}

// A click is where a pointer was pressed and let go; what it was pressed on is no longer there.
function click(event) {
  setTimeout(() => {
    late = null;
    again(new MouseEvent("click", { ...place(event), bubbles: true, cancelable: true }), under(event));
  });
}

function place({ clientX, clientY, altKey, shiftKey, ctrlKey, metaKey }) {
  return { clientX, clientY, altKey, shiftKey, ctrlKey, metaKey };
}

function onEvent(event) {
  if (done.has(event)) return;
  if (late) {
    if (event.type === "pointerup" && event.pointerId === late.pointer) click(event);
    else if (event.type === "click") event.stopImmediatePropagation();
    return;
  }
  if (!waiting) {
    const pressed = event.type === "pointerdown" && event.button === 0 && event.target.closest("#drawing");
    if (!pressed || pinching() || event.currentTarget.matches(".panning, .may-pan")) return;
    const ready = readiness(event);
    if (!ready) return;
    waiting = { events: [] };
    goOn(ready, waiting);
  }
  event.stopImmediatePropagation();
  event.preventDefault();
  waiting.events.push(event);
}

export function watchEarly(sheet) {
  for (const kind of KINDS) sheet.addEventListener(kind, onEvent, { capture: true });
  watchLeavingOff(sheet, () => waiting !== null, () => {
    waiting = null;
  });
}
