// A step is begun on the sheet while its slip is open: a press gives its first place, drawing on its next values. Others
// are told by a way over the sheet how far they go; what is pressed there without drawing on is picked (see picking.js).

import { make } from "./changes.js";
import { choosing } from "./chooser.js";
import { hold, watchLeavingOff } from "./gesture.js";
import { free } from "./held_keys.js";
import { tryOut } from "./live.js";
import { pinching } from "./pan.js";
import { tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { looking } from "./server.js";
import { closeSlip, currentSlip, fieldsOf } from "./slip.js";
import { placeOf, scale } from "./view.js";

const FAR = 4;
let held = null;
let nth = 0;
// Where the pointer was last, and whether Shift was pressed since by itself.
let last = null;
let tapped = false;

function placing() {
  const slip = currentSlip();
  return (slip?.dataset.press || slip?.dataset.over) && !choosing() ? slip : null;
}

function position() {
  const { needle } = looking();
  return needle ? { position: Number(needle) } : {};
}

function ring(aim) {
  const place = document.getElementById("aim");
  if (!place) return;
  place.setAttribute("transform", aim ? `translate(${aim.x} ${aim.y})` : "");
  place.classList.toggle("here", Boolean(aim));
  place.classList.toggle("hung", Boolean(aim?.hung));
}

function aimAt(event) {
  const given = { step_kind: placing().dataset.kind, place: placeOf(event), scale: scale(), free: free(event), nth, ...position() };
  tryOut("aim", given, (answer) => {
    if (!placing() || held) return;
    ring(answer.aim);
    tell(answer.said || answer.error);
  });
}

function onDown(event) {
  const slip = placing();
  if (!slip || slip.dataset.presses || slip.dataset.way || event.button !== 0 || held || pinching() || !event.target.closest("#drawing")) return;
  event.preventDefault();
  event.stopPropagation();
  if (slip.dataset.press) takeAllBack();
  ring(null);
  const given = { step_kind: slip.dataset.kind, fields: fieldsOf(slip), start: placeOf(event), nth, ...position() };
  held = { pointer: event.pointerId, given, pressed: [event.clientX, event.clientY], slip };
  hold(event);
  if (slip.dataset.press && !slip.dataset.release) preview("draw-step", { ...given, end: null, scale: scale(), free: free(event) });
}

function onMove(event) {
  if (!held) {
    last = event;
    if (placing()?.dataset.press && event.buttons === 0) aimAt(event);
    return;
  }
  if (event.pointerId !== held.pointer) return;
  const far = Math.hypot(event.clientX - held.pressed[0], event.clientY - held.pressed[1]) >= FAR;
  if (!far && !held.drawn) return;
  held.drawn = { ...held.given, end: placeOf(event), scale: scale(), free: free(event) };
  preview("draw-step", held.drawn);
}

async function onUp(event) {
  if (!held || event.pointerId !== held.pointer) return;
  const { drawn, given, slip } = held;
  held = null;
  if (!drawn && slip.dataset.over) return;
  if (!drawn && slip.dataset.release) {
    tell(slip.dataset.press);
    return;
  }
  slip.dataset.done = "1";
  if (await make("draw-step", drawn || { ...given, end: null, scale: scale() }, null)) closeSlip(true, slip);
  else delete slip.dataset.done;
}

function leaveOff() {
  held = null;
  takeAllBack();
  if (currentSlip()?.dataset.over) showSlip();
}

function walkOn(by) {
  nth += by;
  if (!held) return last && placing().dataset.press && aimAt(last);
  held.given = { ...held.given, nth };
  if (held.drawn) held.drawn = { ...held.drawn, nth };
  else if (held.slip.dataset.over) return null;
  return preview("draw-step", held.drawn || { ...held.given, end: null, scale: scale() });
}

// What is filled in stands on the sheet before it is added.
function showSlip() {
  const slip = currentSlip();
  if (slip) preview("add-step", { step_kind: slip.dataset.kind, fields: fieldsOf(slip), ...position() });
}

// The place that a press gives is marked in the sentence.
function markPlace() {
  const slip = currentSlip();
  if (slip?.dataset.place) slip.querySelector(`.slot[data-field="${CSS.escape(slip.dataset.place)}"]`)?.classList.add("asked");
}

export function watchPlacing(sheet, plan) {
  sheet.addEventListener("pointerdown", onDown, { capture: true });
  sheet.addEventListener("pointermove", onMove);
  sheet.addEventListener("pointerup", onUp);
  sheet.addEventListener("pointerleave", () => ring(null));
  watchLeavingOff(sheet, () => held !== null, leaveOff);
  // A wheel turned with Shift, or Shift pressed by itself, walks through the anchors that lie together.
  document.addEventListener("keydown", (event) => {
    tapped = event.key === "Shift" && !event.repeat;
  });
  document.addEventListener("keyup", (event) => {
    if (event.key === "Shift" && tapped && placing() && last && !held) walkOn(1);
  });
  document.addEventListener("bench:next-anchor", () => placing() && walkOn(1));
  sheet.addEventListener(
    "wheel",
    (event) => {
      if (!placing() || !event.shiftKey) return;
      event.preventDefault();
      event.stopPropagation();
      tapped = false;
      last = event;
      walkOn(Math.sign(event.deltaY || event.deltaX));
    },
    { capture: true, passive: false },
  );
  plan.addEventListener("input", (event) => {
    if (event.target.closest("form.slip")) showSlip();
  });
  document.addEventListener("bench:slip-filled", () => {
    markPlace();
    showSlip();
  });
  document.addEventListener("bench:slip-opened", () => {
    markPlace();
    nth = 0;
    sheet.classList.toggle("placing", Boolean(placing()));
    tell(currentSlip().dataset.press);
    showSlip();
  });
  document.addEventListener("bench:slip-closed", () => {
    sheet.classList.remove("placing");
    ring(null);
    tell("");
    takeAllBack();
  });
}
