// What is chosen: the open step and those chosen beside it. One line of the strip offers what can be done with them.

import { activeStep } from "./handles.js";
import { doWithNode, lineOfNode, nodeInHand, takeNode } from "./nodes.js";
import { currentSlip, openSlip } from "./slip.js";
import { word } from "./words.js";

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

// What is chosen is one of the sorts for which the strip has verbs.
function sortOf(steps) {
  const shown = steps.map((step) => document.getElementById(`s-${step}`));
  const many = steps.length > 1;
  const lines = shown.filter((step) => step?.dataset.line).length;
  if (shown[0]?.dataset.words) return many ? "amid" : "words";
  if (lines === steps.length) return many ? "lines" : "line";
  if (many) return lines ? "mixed" : "areas";
  return document.querySelector(`.ink > [data-step="${CSS.escape(steps[0])}"][data-tone]`) ? "toned" : "area";
}

function verbs(steps) {
  const kinds = document.querySelector(".verbs .with").dataset[sortOf(steps)].split(" ");
  const found = kinds.map((kind) => document.querySelector(`.verbs .chapter [data-verb="${kind}"]`)).filter(Boolean);
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
