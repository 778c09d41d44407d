// The sketch under the sheet: brought by its form or dropped on the sheet, laid by its numbers, moved by hand, or laid by a
// line drawn along something whose length is known; and what is drawn on it pulled into the plan. The server knows how it
// lies, and what is drawn.

import { make } from "./changes.js";
import { hold, watchLeavingOff } from "./gesture.js";
import { focusTyping } from "./line.js";
import { clearBanner, clearFault, refused, showFault } from "./messages.js";
import { show } from "./page.js";
import { pinching } from "./pan.js";
import { offer, tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { ask, bring, looking, post } from "./server.js";
import { placeOf, scale } from "./view.js";
import { word } from "./words.js";

const SVG = "http://www.w3.org/2000/svg";
const FAR = 4;
// What a press on the sheet is for: "move", "measure" or "pull", or nothing of the sketch's.
let hand = "";
let held = null;
let drawn = null;
// What was found where the sketch was pressed: sentences, the likeliest first.
let found = [];
let looked = 0;
// How often the sketch was pressed: of answers only that to the last press counts.
let presses = 0;

const card = () => document.getElementById("sketch");

async function change(doing, given, field) {
  try {
    const answer = await post("sketch/change/", { doing, given });
    clearBanner();
    show(answer, field?.dataset.key);
    return true;
  } catch (error) {
    if (error.status === 422 && field) showFault(field, error.message);
    else refused(error, null, null);
    return false;
  }
}

async function take(file, field) {
  if (!file) return;
  tell(word("bringing-sketch"));
  try {
    show(await bring("sketch/bring/", "sketch", file));
    clearBanner();
    focusTyping();
  } catch (error) {
    tell("");
    if (error.status === 413) error.message = word("sketch-too-heavy");
    if ([413, 422].includes(error.status) && field) showFault(field, error.message);
    else refused(error, null, null);
  }
}

export function openSketches() {
  const form = card().querySelector(".sketch-bring");
  form.hidden = !form.hidden;
  if (!form.hidden) form.elements.sketch.focus();
}

export function showSketch(button) {
  change("show", { shown: button.dataset.shown !== "1" });
}

export function doWithSketch(button) {
  const { doing, sketch } = button.dataset;
  change(doing, sketch ? { sketch } : {});
}

// The same word again leaves it.
export function takeInHand(button) {
  setHand(hand === button.dataset.hand ? "" : button.dataset.hand);
}

function setHand(next) {
  hand = next;
  leaveFound();
  document.getElementById("sheet").classList.toggle("laying", Boolean(hand));
  mark();
  tell(hand ? word(`sketch-${hand}`) : "");
}

function mark() {
  for (const button of card().querySelectorAll("[data-hand]")) {
    button.setAttribute("aria-pressed", String(button.dataset.hand === hand));
  }
}

export function leaveLine() {
  drawn = null;
  document.querySelector(".sketch-ruler")?.remove();
  const form = card().querySelector(".sketch-line");
  if (form) form.hidden = true;
}

function onDown(event) {
  if (!hand || event.button !== 0 || !event.target.closest("#drawing") || pinching()) return;
  if (event.currentTarget.matches(".panning, .may-pan")) return;
  event.stopImmediatePropagation();
  event.preventDefault();
  document.getElementById("drawing").focus({ preventScroll: true });
  leaveLine();
  held = { pointer: event.pointerId, from: event, start: placeOf(event), last: event };
  hold(event);
}

function onMove(event) {
  if (held?.pointer !== event.pointerId) return;
  event.stopImmediatePropagation();
  held.last = event;
  if (hand === "move") moveBy(event.clientX - held.from.clientX, event.clientY - held.from.clientY);
  else if (hand === "measure") drawRuler(held.from, event);
}

// While it is moved, the picture alone goes with the hand, as the sheet does when it is panned.
function moveBy(right, down) {
  const picture = document.getElementById("under");
  const each = Number(document.getElementById("drawing").dataset.unit) / scale();
  if (picture) picture.style.translate = `${right * each}px ${down * each}px`;
}

function drawRuler(from, to) {
  const sheet = document.getElementById("sheet");
  const box = sheet.getBoundingClientRect();
  let line = sheet.querySelector(".sketch-ruler");
  if (!line) {
    line = document.createElementNS(SVG, "svg");
    line.setAttribute("class", "sweep sketch-ruler");
    line.append(document.createElementNS(SVG, "path"));
    sheet.append(line);
  }
  const [x0, y0, x1, y1] = [from.clientX - box.left, from.clientY - box.top, to.clientX - box.left, to.clientY - box.top];
  line.firstChild.setAttribute("d", `M${x0} ${y0}L${x1} ${y1}`);
}

function letGo() {
  const was = held;
  held = null;
  return was;
}

async function onUp(event) {
  if (held?.pointer !== event.pointerId) return;
  event.stopImmediatePropagation();
  const { from, start } = letGo();
  const line = [...start, ...placeOf(event)];
  if (hand === "pull") return pull(start);
  if (Math.hypot(event.clientX - from.clientX, event.clientY - from.clientY) < FAR) {
    moveBy(0, 0);
    return leaveLine();
  }
  if (hand === "measure") return askLength(line);
  await change("move", { line });
  moveBy(0, 0);
  return mark();
}

function atNeedle({ text }) {
  const { needle } = looking();
  return { text, ...(needle ? { position: Number(needle) } : {}) };
}

// What is drawn where the sketch was pressed shows on the sheet as it would stand; another of what it may be meant as,
// when that is pointed at.
async function pull(at) {
  leaveFound();
  presses += 1;
  const press = presses;
  tell(word("sketch-looking"));
  try {
    const answer = await ask("sketch/pull/", { at });
    if (hand !== "pull" || press !== presses) return undefined;
    ({ found } = answer);
    looked = 0;
    return preview("add-sentence", atNeedle(found[0]));
  } catch (error) {
    if (press !== presses) return undefined;
    if (error.status === 422) return tell(error.message);
    tell("");
    return refused(error, null, null);
  }
}

function showFound(text) {
  offer(text, found, takeFound);
  [...document.querySelectorAll("#pill button")].forEach((button, k) => {
    for (const kind of ["pointerenter", "focus"]) button.addEventListener(kind, () => lookAtFound(k));
  });
}

function lookAtFound(k) {
  if (k === looked) return;
  looked = k;
  preview("add-sentence", atNeedle(found[k]));
}

async function takeFound(one) {
  found = [];
  await make("add-sentence", atNeedle(one), null);
  if (hand) tell(word(`sketch-${hand}`));
}

function leaveFound() {
  if (found.length === 0) return;
  found = [];
  takeAllBack();
  tell("");
}

async function askLength(line) {
  try {
    const { text, length, way } = await ask("sketch/line/", { line });
    setHand("");
    const form = card().querySelector(".sketch-line");
    if (!form) return leaveLine(); // it was laid aside meanwhile
    drawn = line;
    form.querySelector(".aside").textContent = text;
    form.querySelector(".way").textContent = way;
    form.elements.long.value = length;
    form.hidden = false;
    form.scrollIntoView({ block: "nearest" });
    form.elements.long.select();
  } catch (error) {
    leaveLine();
    refused(error, null, null);
  }
}

async function layByLine(form) {
  const { long, straight, on_middle: onMiddle } = form.elements;
  const given = { line: drawn, length: long.value, straight: straight.checked, on_middle: onMiddle.checked };
  if (await change("measure", given, long)) {
    leaveLine();
    focusTyping();
  }
}

function onDrop(event) {
  const file = event.dataTransfer?.files?.[0];
  if (!file) return;
  event.preventDefault();
  take(file);
}

function onKey(event) {
  const field = event.target.closest?.("[data-sketch]");
  const enters = event.key === "Enter" && found.length > 0 && !event.target.closest("input, textarea, button");
  if (!enters && event.key !== "Escape") return;
  if (enters) takeFound(found[0]);
  else if (held) return;
  else if (found.length > 0) {
    leaveFound();
    tell(word(`sketch-${hand}`));
  } else if (hand) setHand("");
  else if (field) {
    field.value = field.defaultValue;
    clearFault(field);
    focusTyping();
  } else if (event.target.closest(".sketch-line")) {
    leaveLine();
    focusTyping();
  } else if (event.target.closest(".sketch-bring")) {
    openSketches();
    focusTyping();
  } else return;
  event.preventDefault();
  event.stopImmediatePropagation();
}

function watchCard(plan) {
  plan.addEventListener("change", (event) => {
    const { target } = event;
    if (target.matches("[data-form=sketch] [type=file]")) take(target.files[0], target);
    const field = target.dataset.sketch;
    if (field && target.value !== target.defaultValue) change("set", { field, value: target.value }, target);
  });
  plan.addEventListener("submit", (event) => {
    if (!event.target.matches("[data-form=sketch-line], [data-form=sketch]")) return;
    event.preventDefault();
    if (event.target.matches("[data-form=sketch-line]") && drawn) layByLine(event.target);
  });
}

export function watchSketch(sheet, plan) {
  watchCard(plan);
  sheet.addEventListener("pointerdown", onDown, { capture: true });
  sheet.addEventListener("pointermove", onMove, { capture: true });
  sheet.addEventListener("pointerup", onUp, { capture: true });
  sheet.addEventListener("dragover", (event) => {
    if ([...event.dataTransfer.types].includes("Files")) event.preventDefault();
  });
  sheet.addEventListener("drop", onDrop);
  document.addEventListener("keydown", onKey, { capture: true });
  watchLeavingOff(sheet, () => Boolean(held), () => {
    letGo();
    moveBy(0, 0);
    leaveLine();
  });
  // What is typed is looked at in place of what was found.
  document.addEventListener("focusin", (event) => {
    if (event.target.matches("input, textarea")) leaveFound();
  });
  document.addEventListener("bench:tried", (event) => {
    if (found.length > 0) showFound(event.detail.said || "");
  });
  // A line is drawn for the page as it stands: once the sheet is set anew, or looked at otherwise, it is gone.
  document.addEventListener("bench:shown", () => {
    found = []; // it was looked at on the sheet as it was
    // What lies there no more, or is hidden, is in no hand.
    if (hand && !card().querySelector("[data-hand]")) setHand("");
    mark();
    if (!held) leaveLine();
  });
}
