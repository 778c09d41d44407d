// What is chosen: the open step and those chosen beside it. One line of the strip offers what can be done with them.

import { activeStep } from "./handles.js";
import { doWithNode, lineOfNode, nodeInHand, takeNode } from "./nodes.js";
import { currentSlip, openSlip } from "./slip.js";
import { word } from "./words.js";

// First what is done most often; the rest stands in its chapter.
const ONE = ["turn", "reflect", "march", "echo", "offset", "band", "round", "move", "carve", "union", "fill"];
const TONED = ["fill", "light", "half", "rim", "shadow", "overlap", "gradient", "flat", "turn"];
const MANY = ["carve", "union", "difference", "intersection", "exclusion", "divide", "group", "gap", "weave"];
const LINE = ["band", "turn", "reflect", "march", "echo", "parallel", "half", "split", "move"];
const LINES = ["circle-touching-two", "circle-touching", "weave", "divide", "group"];
const LINE_AND_AREA = ["split", "half", "reflect", "carve", "divide", "group"];
const WORDS = ["match-stems", "hold", "kern", "set-like-along", "one-by-one", "as-outlines", "fill"];
const WORDS_AND_MORE = ["hold", "difference", "union", "group", "carve", "gap"];
let beside = [];
let last;

function nameOf(step) {
  return document.querySelector(`[data-key="${CSS.escape(step)}:name"]`)?.value || step;
}

export function chosen() {
  const active = activeStep();
  const there = beside.filter((step) => step !== active && document.getElementById(`s-${step}`));
  return active ? [active, ...there] : there;
}

export function chooseBeside(step) {
  if (step === activeStep()) return;
  beside = beside.includes(step) ? beside.filter((known) => known !== step) : [...beside, step];
  show();
}

function orderFor(steps) {
  const [first] = steps;
  const many = steps.length > 1;
  const lines = steps.filter((step) => document.getElementById(`s-${step}`)?.dataset.line);
  if (document.getElementById(`s-${first}`)?.dataset.words) return many ? WORDS_AND_MORE : WORDS;
  if (lines.length === steps.length) return many ? LINES : LINE;
  if (many) return lines.length ? LINE_AND_AREA : MANY;
  return document.querySelector(`.ink > [data-step="${CSS.escape(first)}"][data-tone]`) ? TONED : ONE;
}

function verbs(steps) {
  const order = orderFor(steps);
  const found = order.map((kind) => document.querySelector(`.verbs .chapter [data-verb="${kind}"]`)).filter(Boolean);
  return steps.length > 1 ? found.filter((verb) => verb.dataset.takes !== "one") : found;
}

function buttonOf(verb) {
  const button = document.createElement("button");
  button.type = "button";
  button.className = "verb";
  button.dataset.with = verb.dataset.verb;
  button.textContent = verb.dataset.title;
  return button;
}

// The same line, in the strip and at the pointer.
export function lineOf(steps, lead) {
  const names = document.createElement("i");
  names.textContent = `${lead} ${steps.map(nameOf).join(", ")}:`;
  const again = document.createElement("button");
  again.type = "button";
  again.className = "verb";
  again.dataset.act = "duplicate";
  again.textContent = word("duplicate");
  return [names, ...verbs(steps).map(buttonOf), again];
}

// What a press on the sheet gives the step that is begun.
function inHand() {
  const slip = currentSlip();
  if (!slip?.dataset.says) return null;
  const title = document.createElement("i");
  title.textContent = `${slip.dataset.title}:`;
  return [title, " ", slip.dataset.says];
}

function show() {
  // Another step was opened: what was chosen beside the one before is let go.
  if (activeStep() !== last) beside = [];
  last = activeStep();
  const line = document.querySelector(".verbs .with");
  const steps = chosen();
  const { lead, empty } = line.dataset;
  const node = nodeInHand();
  const whole = () => (steps.length > 0 ? lineOf(steps, lead) : [empty]);
  line.replaceChildren(...(inHand() || (node ? lineOfNode(node, lead) : whole())));
  for (const element of document.querySelectorAll(".line.chosen, .step.chosen")) element.classList.remove("chosen");
  for (const step of steps) {
    document.getElementById(`l-${step}`)?.classList.add("chosen");
    document.getElementById(`s-${step}`)?.classList.add("chosen");
  }
}

// A node stays in hand while the hand goes to its line.
function onFocus(event) {
  if (event.target.closest(".verbs, .menu")) return;
  if (takeNode(event.target.closest(".handle"))) show();
}

// Whether there was a node in hand to let go of.
export function leaveNode() {
  if (!nodeInHand()) return false;
  document.getElementById("drawing").focus({ preventScroll: true });
  return true;
}

export function watchChosen() {
  document.addEventListener("click", (event) => {
    const verb = event.target.closest("[data-with]");
    if (verb) openSlip(verb.dataset.with, chosen().join(" "));
    const act = event.target.closest("[data-node]");
    if (act) doWithNode(act.dataset.node, activeStep());
  });
  document.addEventListener("focusin", onFocus);
  for (const kind of ["bench:shown", "bench:slip-opened", "bench:slip-closed"]) document.addEventListener(kind, show);
  show();
}
