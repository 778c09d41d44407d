// Choosing on the sheet: a click on a line or a piece opens its step, a second one there what lies beneath, one on
// nothing lets go.

import { lookAt } from "./changes.js";
import { choosing } from "./chooser.js";
import { chooseBeside } from "./chosen.js";
import { activeStep } from "./handles.js";
import { oneMore } from "./held_keys.js";
import { tell } from "./pill.js";
import { looking } from "./server.js";

const FAR = 4;
const INERT = ".handle, .dot, .region, .over";
let pressed = null;

// The figures at a place, the foremost first: lines before pieces, or only those of a kind.
export function stepsAt(x, y, kind) {
  const here = document.elementsFromPoint(x, y);
  const lines = here.map((element) => element.closest(".line"));
  const pieces = here.map((element) => element.closest(".ink > path"));
  const found = new Map();
  for (const element of [...(kind === "ink" ? [] : lines), ...(kind === "lines" ? [] : pieces)]) {
    if (element && !found.has(element.dataset.step)) found.set(element.dataset.step, element.dataset.name);
  }
  return found;
}

// A step is looked at with its handles, or its regions where it keeps some; none at all where `step` is empty.
export async function openStep(step) {
  const carve = step && document.querySelector(`#plan [data-step="${CSS.escape(step)}"] .kept`) !== null;
  const { view } = looking();
  await lookAt({ step, view: carve ? "regions" : view === "regions" ? "both" : view });
}

async function choose(event) {
  const here = stepsAt(event.clientX, event.clientY);
  const steps = [...here.keys()];
  if (oneMore(event) && activeStep()) {
    const more = steps.find((step) => step !== activeStep());
    if (more) chooseBeside(more);
    return;
  }
  const at = steps.indexOf(activeStep());
  const next = steps.length === 0 ? "" : steps[(at + 1) % steps.length];
  if (next === (activeStep() || "")) return;
  await openStep(next);
  if (steps.length > 1) tell(`${steps.indexOf(next) + 1} / ${steps.length}: ${here.get(next)}`);
}

export function watchChoosing(sheet, plan) {
  sheet.addEventListener("pointerdown", (event) => {
    const free = event.button === 0 && !event.target.closest(INERT) && event.target.closest("#drawing") && !choosing();
    pressed = free ? [event.clientX, event.clientY] : null;
  });
  sheet.addEventListener("click", (event) => {
    if (!pressed || Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]) > FAR) return;
    pressed = null;
    choose(event);
  });
  // Any word of a step opens it.
  plan.addEventListener("click", (event) => {
    const step = event.target.closest(".step:not(.active)");
    if (!step || event.target.closest("button, a, input, textarea, select, [role=button], .chooser") || choosing()) return;
    if (oneMore(event) && activeStep()) chooseBeside(step.dataset.step);
    else openStep(step.dataset.step);
  });
}
