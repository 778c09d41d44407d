// Steps that take many places: a path gets one a press, a stroke the whole way of the hand.

import { make } from "./changes.js";
import { choosing } from "./chooser.js";
import { hold, watchLeavingOff } from "./gesture.js";
import { free } from "./held_keys.js";
import { focusTyping } from "./line.js";
import { pinching } from "./pan.js";
import { tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { looking } from "./server.js";
import { closeSlip, currentSlip, fieldsOf } from "./slip.js";
import { placeOf, scale } from "./view.js";

const NEAR = 9;
const APART = 4;
let places = [];
let spots = [];
let stroke = null;

function taking(kind) {
  const slip = currentSlip();
  return slip?.dataset[kind] && !choosing() ? slip : null;
}

function given(slip, more) {
  const { needle } = looking();
  const position = needle ? { position: Number(needle) } : {};
  return { step_kind: slip.dataset.kind, fields: fieldsOf(slip), scale: scale(), ...position, ...more };
}

function forget() {
  places = [];
  spots = [];
  stroke = null;
}

async function finish(slip, more) {
  slip.dataset.done = "1";
  const made = await make("draw-step", given(slip, more), null);
  if (!made) {
    delete slip.dataset.done;
    return;
  }
  forget();
  closeSlip();
  focusTyping();
}

function press(event, slip) {
  const [first] = spots;
  const closes = places.length > 2 && Math.hypot(event.clientX - first[0], event.clientY - first[1]) < NEAR;
  places.push(closes ? places[0] : placeOf(event));
  spots.push([event.clientX, event.clientY]);
  if (closes) finish(slip, { places });
  else if (places.length > 1) preview("draw-step", given(slip, { places, free: free(event) }));
}

function onDown(event) {
  if (event.button !== 0 || pinching() || !event.target.closest("#drawing")) return;
  const slip = taking("presses") || taking("way");
  if (!slip) return;
  event.preventDefault();
  event.stopPropagation();
  takeAllBack();
  if (slip.dataset.presses) {
    press(event, slip);
    return;
  }
  stroke = { pointer: event.pointerId, way: [placeOf(event)], last: event };
  hold(event);
}

function onMove(event) {
  const slip = taking("presses");
  if (slip && places.length > 0 && event.buttons === 0) {
    preview("draw-step", given(slip, { places: [...places, placeOf(event)], free: free(event) }));
  }
  if (!stroke || event.pointerId !== stroke.pointer) return;
  const far = Math.hypot(event.clientX - stroke.last.clientX, event.clientY - stroke.last.clientY);
  if (far < APART) return;
  stroke.way.push(placeOf(event));
  stroke.last = event;
  if (stroke.way.length > 2) preview("draw-step", given(taking("way"), { way: stroke.way }));
}

function onUp(event) {
  const slip = taking("way");
  if (!stroke || !slip || event.pointerId !== stroke.pointer) return;
  const { way } = stroke;
  stroke = null;
  if (way.length > 2) finish(slip, { way });
  else tell(slip.dataset.press);
}

// Enter ends a path where it stands, Escape takes the last place back.
function onKey(event) {
  const slip = taking("presses");
  if (!slip || places.length === 0 || event.target.closest("form")) return;
  if (event.key === "Enter" && places.length > 1) {
    event.preventDefault();
    event.stopPropagation();
    finish(slip, { places });
  } else if (event.key === "Escape" || event.key === "Backspace") {
    event.preventDefault();
    event.stopPropagation();
    places.pop();
    spots.pop();
    if (places.length > 1) preview("draw-step", given(slip, { places }));
    else takeAllBack();
  }
}

export function watchTrail(sheet) {
  sheet.addEventListener("pointerdown", onDown, { capture: true });
  sheet.addEventListener("pointermove", onMove);
  sheet.addEventListener("pointerup", onUp);
  document.addEventListener("keydown", onKey, { capture: true });
  watchLeavingOff(sheet, () => stroke !== null, () => {
    stroke = null;
    takeAllBack();
  });
  document.addEventListener("bench:slip-opened", () => {
    forget();
    // What is drawn on the sheet is ended by keys there.
    if (taking("presses") || taking("way")) document.getElementById("drawing").focus({ preventScroll: true });
  });
  document.addEventListener("bench:slip-closed", forget);
}
