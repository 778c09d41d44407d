// While a slip asks for figures and nothing else is given it on the sheet, a click on a figure there fills it: one after
// the other where it takes single ones; where it takes many, what it began with gives way, and one that is taken already
// is let go again.

import { choosing } from "./chooser.js";
import { stepsAt } from "./choose.js";
import { make } from "./changes.js";
import { pinching } from "./pan.js";
import { stored } from "./preview.js";
import { looking } from "./server.js";
import { currentSlip, fieldsOf, refill } from "./slip.js";
import { placeOf } from "./view.js";

const FAR = 4;
const hitTest = document.createElement("canvas").getContext("2d");
// The slot that is asked for, and whether what stands in it was picked by hand.
let asked = 0;
let own = false;
let pressed = null;
let turn = Promise.resolve();

function slots() {
  return [...(currentSlip()?.querySelectorAll(".slot.figures") || [])];
}

function asking(event) {
  const slip = currentSlip();
  const here = event.target.closest("#drawing") && !event.target.closest(".dot");
  return slip?.dataset.picks && !choosing() && !pinching() && here;
}

function mark() {
  if (!currentSlip()?.dataset.picks) return;
  slots().forEach((slot, k) => slot.classList.toggle("asked", k === asked));
}

const valuesOf = (slot) => slot.dataset.value.split(" ").filter(Boolean);

// The figures at a place, the foremost first: lines that are pointed at, then the pieces that lie there, as the page has
// them; where there are neither, those within whose lines it is.
function figuresAt(event, areas) {
  const at = new DOMPoint(event.clientX, event.clientY);
  const pointed = [...stepsAt(event.clientX, event.clientY, "lines").keys()];
  const lines = [...document.querySelectorAll("#drawing .line:not(.tried)")].reverse();
  const pieces = [...document.querySelectorAll("#drawing .ink > path[id]")].reverse().filter((piece) => holds(piece, at));
  const within = lines.filter((line) => {
    const hair = line.querySelector(".hair");
    return hair?.isPointInFill(at.matrixTransform(hair.getScreenCTM().inverse()));
  });
  const bare = new Set(areas ? lines.filter((line) => line.dataset.bare).map((line) => line.dataset.step) : []);
  const seen = [...pointed, ...stepsOf(pieces)].filter((step) => !bare.has(step));
  return [...new Set(seen.length > 0 ? seen : stepsOf(within).filter((step) => !bare.has(step)))];
}

const stepsOf = (elements) => elements.map((element) => element.dataset.step);

// Whether a piece lies at a place of the window. While a slip is tried, its path may be empty.
function holds(piece, at) {
  const { x, y } = at.matrixTransform(piece.parentNode.getScreenCTM().inverse());
  return hitTest.isPointInPath(new Path2D(stored(piece, "d")), x, y);
}

async function pick(event) {
  const slip = currentSlip();
  const slot = slots()[asked];
  const { field, many } = slot.dataset;
  const before = own ? valuesOf(slot) : [];
  const was = slot.dataset.value;
  const others = slots().filter((other) => other !== slot);
  const picked = others.filter((other) => slots().indexOf(other) < asked);
  const found = figuresAt(event, slip.dataset.areas);
  const free = found.filter((one) => !before.includes(one) && !picked.some((other) => valuesOf(other).includes(one)));
  const step = free[0] ?? found.find((one) => before.includes(one));
  if (!step) return;
  const values = before.includes(step) ? before.filter((one) => one !== step) : [...before, step];
  own = Boolean(many);
  if (!many) asked = Math.min(asked + 1, slots().length - 1);
  const fields = { ...fieldsOf(slip), [field]: many ? values : step };
  // What stood elsewhere by itself changes places with what is taken.
  for (const other of many ? [] : others) {
    const name = other.dataset.field;
    const there = valuesOf(other).map((one) => (one === step ? was : one));
    fields[name] = other.dataset.many ? there : there[0] || "";
  }
  await refill(slip, fields, placeOf(event));
  mark();
  slip.querySelector("button[type=submit]").focus({ preventScroll: true });
}

// A line is drawn for what is to be done along it, and stands in the slip; a slip takes up what else it began with.
export async function drawLine(button) {
  const { field, text } = button.dataset;
  const { needle } = looking();
  const given = needle ? { text, position: Number(needle) } : { text };
  if (!(await make("add-sentence", given, null))) return;
  const slip = currentSlip();
  if (!slip) return;
  await refill(slip, { ...fieldsOf(slip), [field]: looking().step });
  slip.querySelector("[data-act=draw-line]")?.closest("p").remove();
  mark();
  slip.querySelector("button[type=submit]").focus({ preventScroll: true });
}

export function watchPicking(sheet) {
  sheet.addEventListener(
    "pointerdown",
    (event) => {
      pressed = event.button === 0 && asking(event) ? [event.clientX, event.clientY] : null;
      if (pressed) event.stopPropagation();
    },
    { capture: true },
  );
  // What went away, even if it came back, was no click.
  sheet.addEventListener("pointermove", (event) => {
    if (pressed && Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]) > FAR) pressed = null;
  });
  sheet.addEventListener(
    "click",
    (event) => {
      if (!pressed || !asking(event)) return;
      event.stopPropagation();
      // Clicks that come fast are taken in turn: each looks at what the one before it left.
      turn = turn.then(() => currentSlip()?.dataset.picks && pick(event));
    },
    { capture: true },
  );
  document.addEventListener("bench:slip-opened", (event) => {
    // With figures that were chosen before, what is asked for is what they do not fill.
    asked = Math.min(event.detail.given, Math.max(0, slots().length - 1));
    own = event.detail.given > asked;
    mark();
  });
}
