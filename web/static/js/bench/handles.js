// Dimensions as handles: a drag asks the server what the place means and shows it; letting go makes it so.

import { make } from "./changes.js";
import { hold, watchLeavingOff } from "./gesture.js";
import { byMeasure, free } from "./held_keys.js";
import { tryOut } from "./live.js";
import { hush, offer, tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { nodeInHand } from "./nodes.js";
import { pinching } from "./pan.js";
import { looking } from "./server.js";
import { add, currentSlip } from "./slip.js";
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

// Of grips that overlap, the one whose place is nearest is meant. `over` is what the event is about: a press is held by
// the sheet, whose the events after it are, wherever they happen.
export function handleAt(event, over = event.target) {
  const top = over?.closest?.(".handle");
  if (!top || !over.matches(".grip")) return top;
  const grips = document.elementsFromPoint(event.clientX, event.clientY).filter((element) => element.matches(".handle > * .grip"));
  const [x, y] = placeOf(event);
  const away = (handle) => {
    const [tipX, tipY] = JSON.parse(handle.dataset.place);
    return Math.hypot(tipX - x, tipY - y);
  };
  return grips.map((grip) => grip.closest(".handle")).reduce((near, one) => (away(one) < away(near) ? one : near), top);
}

// The dimensions on the sheet are those of a step that is merely tried.
function drafted() {
  return document.querySelector("#handles.drafted") !== null;
}

function named(handle) {
  return { step: activeStep(), field: handle.dataset.field, part: JSON.parse(handle.dataset.part) };
}

function keysOf(event) {
  return { scale: scale(), free: free(event), measure: byMeasure(event) };
}

function said(handle) {
  const { form, said: name, value, moves } = handle.dataset;
  if (form === "choice" || form === "flip") return handle.getAttribute("aria-label");
  return [form === "node" ? name : `${name}: ${value}`, ...(moves ? [moves] : [])].join(" · ");
}

function onDown(event) {
  const handle = handleAt(event);
  if (!handle || event.button !== 0 || held || pinching() || drafted()) return;
  event.preventDefault();
  event.stopPropagation();
  const pressed = presses(handle) && (!turns(handle) || nodeInHand() === handle);
  handle.focus({ preventScroll: true });
  const [x, y] = placeOf(event);
  const [tipX, tipY] = JSON.parse(handle.dataset.place);
  const still = handle.dataset.form === "choice" || handle.dataset.form === "flip";
  held = { pointer: event.pointerId, id: handle.id, nth: 0, still, pressed, what: named(handle) };
  held.grip = [tipX - x, tipY - y];
  held.from = [event.clientX, event.clientY];
  hold(event);
  if (!still) document.getElementById("drawing").classList.add("dragging");
  document.addEventListener(MOVES, onMove);
}

// Whether the hand has gone far enough to mean something.
function moved(event) {
  const way = Math.hypot(event.clientX - held.from[0], event.clientY - held.from[1]);
  if (held.still || (!held.given && way < FAR)) return false;
  const [x, y] = placeOf(event);
  held.given = { ...held.what, place: [x + held.grip[0], y + held.grip[1]], nth: held.nth, ...keysOf(event) };
  return true;
}

function onMove(event) {
  if (held && event.pointerId === held.pointer && moved(event)) preview("drag", held.given);
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
  moved(event);
  const { given, id, pressed } = letGo();
  if (given) {
    if (await make("drag", given, null)) offerTies(given);
  } else if (pressed) press(document.getElementById(id));
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

// Whether a press without a way means something: on a word, a crossing, and a node of an outline that is in hand already.
const presses = (handle) => ["choice", "flip"].includes(handle.dataset.form) || turns(handle);
const turns = (handle) => handle.dataset.form === "node" && handle.dataset.next !== "";

// A word takes its next, a crossing is turned over, a corner becomes smooth and a smooth node a corner.
function press(handle) {
  const { step, field } = named(handle);
  if (turns(handle)) return make("press-node", { step, part: JSON.parse(handle.dataset.part) }, handle);
  if (handle.dataset.form === "choice") return make("set-field", { step, field, value: handle.dataset.next }, handle);
  return make("flip", { step, field, number: JSON.parse(handle.dataset.part)[0], every: Number(looking().every) }, handle);
}

function leaveOff() {
  letGo();
  takeAllBack();
  tell("");
}

// Shift pressed by itself walks through the anchors that lie together where a place is drawn to.
function walkOn() {
  if (!held?.given) return;
  held.nth += 1;
  held.given = { ...held.given, nth: held.nth };
  preview("drag", held.given);
}

async function onKey(event) {
  if (event.key === "Enter" && held?.given && held.ties?.length > 0) {
    event.preventDefault();
    event.stopImmediatePropagation();
    const { ties } = letGo();
    await takeTie(ties[0]);
    return;
  }
  const aimed = event.target.closest?.(".handle");
  if (!aimed || (drafted() && !currentSlip())) return;
  const pressed = presses(aimed) && !(drafted() && turns(aimed)) && ["Enter", " "].includes(event.key);
  const moves = event.key in ARROWS && !["choice", "flip"].includes(aimed.dataset.form);
  const taken = pressed || moves || (drafted() && event.key === "Enter");
  if (!taken) return;
  event.preventDefault();
  const handle = drafted() ? await ofAdded(aimed.id) : aimed;
  if (!handle) return;
  if (pressed) press(handle);
  else if (event.key in ARROWS) {
    const times = event.shiftKey ? MANY : 1;
    const by = ARROWS[event.key].map((way) => way * times);
    await make("nudge", { ...named(handle), by, ...keysOf(event) }, handle);
  }
}

// A handle of the step in the slip is one of the mark's as soon as that step is added.
async function ofAdded(id) {
  if (!(await add(currentSlip()))) return null;
  const handle = document.getElementById(id);
  handle?.focus({ preventScroll: true });
  return handle;
}

export function watchHandles(sheet) {
  sheet.addEventListener("pointerdown", onDown);
  sheet.addEventListener("pointerup", onUp);
  watchLeavingOff(sheet, () => held !== null, leaveOff);
  document.addEventListener("keydown", onKey);
  document.addEventListener("keydown", (event) => event.key === "Shift" && !event.repeat && walkOn());
  document.addEventListener("bench:next-anchor", walkOn);
  document.addEventListener("bench:tried", (event) => {
    if (held) held.ties = event.detail.ties ?? [];
  });
  sheet.addEventListener("pointerover", (event) => {
    const handle = handleAt(event);
    if (handle && !held) tell(said(handle));
  });
  sheet.addEventListener("pointerout", (event) => {
    if (event.target.closest(".handle") && !held) hush();
  });
  sheet.addEventListener("focusin", (event) => {
    if (event.target.closest(".handle") && !held) tell(said(event.target.closest(".handle")));
  });
}
