// A line drawn across the sheet. From where nothing is it chooses all that it crosses: the first figure is opened, the
// others stand beside it. From one piece, or one line, to the next it unites them in one step.

import { openStep, stepsAt } from "./choose.js";
import { chooseBeside } from "./chosen.js";
import { choosing } from "./chooser.js";
import { make } from "./changes.js";
import { along, hold, watchLeavingOff } from "./gesture.js";
import { pinching } from "./pan.js";
import { tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { looking } from "./server.js";

const SVG = "http://www.w3.org/2000/svg";
const INERT = ".handle, .dot, .region";
const FAR = 6;
let held = null;

function cross(event) {
  for (const [x, y] of along(held.last, event)) {
    for (const [step, name] of stepsAt(x, y, held.kind)) held.found.set(step, name);
  }
  held.last = event;
}

function draw(event) {
  const box = document.getElementById("sheet").getBoundingClientRect();
  held.way.push(`${event.clientX - box.left} ${event.clientY - box.top}`);
  held.line.firstChild.setAttribute("d", `M${held.way.join("L")}`);
  for (const step of held.found.keys()) document.getElementById(`l-${step}`)?.classList.add("lit");
  if (held.kind && held.found.size > 1) showUnited();
  else tell([...held.found.values()].join(", "));
}

function united() {
  const { needle } = looking();
  return { steps: [...held.found.keys()], ...(needle ? { position: Number(needle) } : {}) };
}

// Only what is newly crossed changes what would be united.
function showUnited() {
  if (held.shown === held.found.size) return;
  held.shown = held.found.size;
  preview("unite-swept", united());
}

function onDown(event) {
  const sheet = event.currentTarget;
  const free = event.button === 0 && event.target.closest("#drawing") && !event.target.closest(INERT);
  if (!free || held || choosing() || pinching() || sheet.matches(".placing, .panning, .may-pan")) return;
  const kind = ["ink", "lines"].find((one) => stepsAt(event.clientX, event.clientY, one).size > 0);
  held = { pointer: event.pointerId, from: event, last: event, found: new Map(), way: [], kind };
  if (kind) cross(event);
}

function onMove(event) {
  if (!held || event.pointerId !== held.pointer) return;
  if (!held.line && Math.hypot(event.clientX - held.from.clientX, event.clientY - held.from.clientY) < FAR) return;
  if (!held.line) {
    held.line = document.createElementNS(SVG, "svg");
    held.line.setAttribute("class", "sweep");
    held.line.append(document.createElementNS(SVG, "path"));
    event.currentTarget.append(held.line);
    hold(event);
  }
  cross(event);
  draw(event);
}

function letGo() {
  held.line?.remove();
  for (const step of held.found.keys()) document.getElementById(`l-${step}`)?.classList.remove("lit");
  const was = { ...held, given: united() };
  held = null;
  return was;
}

async function onUp(event) {
  if (!held || event.pointerId !== held.pointer) return;
  const { line, found, kind, given } = letGo();
  if (!line) return;
  tell("");
  if (kind && found.size > 1) {
    if (!(await make("unite-swept", given, null))) takeAllBack();
    return;
  }
  const [first, ...others] = found.keys();
  if (!first) return;
  await openStep(first);
  others.forEach(chooseBeside);
}

export function watchSweeping(sheet) {
  sheet.addEventListener("pointerdown", onDown);
  sheet.addEventListener("pointermove", onMove);
  sheet.addEventListener("pointerup", onUp);
  watchLeavingOff(sheet, () => Boolean(held), () => {
    letGo();
    takeAllBack();
    tell("");
  });
}
