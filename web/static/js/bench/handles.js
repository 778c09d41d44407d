// Dimensions as handles: a drag asks the server what the place means and shows it; letting go makes it so.

import { make } from "./changes.js";
import { watchLeavingOff } from "./gesture.js";
import { tryOut } from "./live.js";
import { hush, offer, tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { pinching } from "./pan.js";
import { looking } from "./server.js";
import { placeOf, scale } from "./view.js";

const ARROWS = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
const MOVES = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";
const FAR = 4;
const MANY = 4;
// The handle in hand: what it is, where it was pressed, and what was last asked about it.
let held = null;

export function activeStep() {
  return document.querySelector(".step.active")?.dataset.step;
}

function named(handle) {
  return { step: activeStep(), field: handle.dataset.field, part: JSON.parse(handle.dataset.part) };
}

function keysOf(event) {
  return { scale: scale(), free: event.altKey, measure: event.ctrlKey || event.metaKey };
}

function said(handle) {
  return handle.dataset.form === "choice" || handle.dataset.form === "flip"
    ? handle.getAttribute("aria-label")
    : `${handle.dataset.said}: ${handle.dataset.value}`;
}

function onDown(event) {
  const handle = event.target.closest(".handle");
  if (!handle || event.button !== 0 || held || pinching()) return;
  event.preventDefault();
  event.stopPropagation();
  handle.focus({ preventScroll: true });
  const [x, y] = placeOf(event);
  const [tipX, tipY] = JSON.parse(handle.dataset.place);
  const still = handle.dataset.form === "choice" || handle.dataset.form === "flip";
  held = { pointer: event.pointerId, key: handle.dataset.key, id: handle.id, still, what: named(handle) };
  held.grip = [tipX - x, tipY - y];
  held.pressed = [event.clientX, event.clientY];
  const drawing = document.getElementById("drawing");
  drawing.setPointerCapture(event.pointerId);
  if (!still) drawing.classList.add("dragging");
  document.addEventListener(MOVES, onMove);
}

function onMove(event) {
  if (!held || event.pointerId !== held.pointer || held.still) return;
  const way = Math.hypot(event.clientX - held.pressed[0], event.clientY - held.pressed[1]);
  if (!held.given && way < FAR) return;
  const [x, y] = placeOf(event);
  held.given = { ...held.what, place: [x + held.grip[0], y + held.grip[1]], ...keysOf(event) };
  preview("drag", held.given);
}

function letGo() {
  document.removeEventListener(MOVES, onMove);
  document.getElementById("drawing").classList.remove("dragging");
  const was = held;
  held = null;
  return was;
}

async function onUp(event) {
  if (!held || event.pointerId !== held.pointer) return;
  const { given, id, still } = letGo();
  if (given) {
    if (await make("drag", given, null)) offerTies(given);
  } else if (still) press(document.getElementById(id));
}

// The relation stands in place of the number.
function takeTie(tie) {
  return make(tie.kind, tie.given, null);
}

// What the value equals where it was let go of: asked once more, since the last answer may be of a place before.
function offerTies(given) {
  tryOut("drag", given, (answer) => {
    if (answer.ties?.length > 0) offer("", answer.ties, takeTie);
  });
}

// A word takes its next, a crossing is turned over.
function press(handle) {
  const { step, field } = named(handle);
  if (handle.dataset.form === "choice") return make("set-field", { step, field, value: handle.dataset.next }, handle);
  return make("flip", { step, field, number: JSON.parse(handle.dataset.part)[0], every: Number(looking().every) }, handle);
}

function leaveOff() {
  letGo();
  takeAllBack();
  tell("");
}

async function onKey(event) {
  if (event.key === "Enter" && held?.given && held.ties?.length > 0) {
    event.preventDefault();
    event.stopImmediatePropagation();
    const { ties } = letGo();
    await takeTie(ties[0]);
    return;
  }
  const handle = event.target.closest?.(".handle");
  if (!handle) return;
  const pressed = handle.dataset.form === "choice" || handle.dataset.form === "flip";
  if (pressed && (event.key === "Enter" || event.key === " ")) {
    event.preventDefault();
    press(handle);
  } else if (!pressed && event.key in ARROWS) {
    event.preventDefault();
    const times = event.shiftKey ? MANY : 1;
    const by = ARROWS[event.key].map((way) => way * times);
    await make("nudge", { ...named(handle), by, ...keysOf(event) }, handle);
  }
}

export function watchHandles(sheet) {
  sheet.addEventListener("pointerdown", onDown);
  sheet.addEventListener("pointerup", onUp);
  watchLeavingOff(sheet, () => held !== null, leaveOff);
  document.addEventListener("keydown", onKey);
  document.addEventListener("bench:tried", (event) => {
    if (held) held.ties = event.detail.ties ?? [];
  });
  sheet.addEventListener("pointerover", (event) => {
    const handle = event.target.closest(".handle");
    if (handle && !held) tell(said(handle));
  });
  sheet.addEventListener("pointerout", (event) => {
    if (event.target.closest(".handle") && !held) hush();
  });
  sheet.addEventListener("focusin", (event) => {
    if (event.target.closest(".handle") && !held) tell(said(event.target.closest(".handle")));
  });
}
