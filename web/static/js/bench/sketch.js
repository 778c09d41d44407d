// The sketch under the sheet: brought by its form or dropped on the sheet, laid by its numbers, moved by hand, or laid by a
// line drawn along something whose length is known; and what a hand does on it while a figure is pulled from it. The server
// knows how it lies.

import { bringCross } from "./cross.js";
import { hold, watchLeavingOff } from "./gesture.js";
import { focusTyping } from "./line.js";
import { clearBanner, clearFault, refused, showFault } from "./messages.js";
import { isDrawing, readDrawing } from "./outlines.js";
import { show } from "./page.js";
import { pinching } from "./pan.js";
import { tell } from "./pill.js";
import { anyFound, leaveFound, pull, takeFound } from "./pulling.js";
import { ask, bring, post } from "./server.js";
import { cornersIn, leaveCorners, pressCorner, squareUp } from "./squaring.js";
import { placeOf, scale } from "./view.js";
import { word } from "./words.js";

const SVG = "http://www.w3.org/2000/svg";
const FAR = 4;
const MOST = 1000;
// What a press on the sheet is for: "move", "measure", "square" or "pull", or nothing of the sketch's.
let hand = "";
let held = null;
let drawn = null;

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
  const form = card().querySelector("[data-form=sketch]");
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

// The same word again leaves it. Who takes it by keys has a hand on the sheet by keys.
export function takeInHand(button) {
  setHand(hand === button.dataset.hand ? "" : button.dataset.hand);
  if (hand && button.matches(":focus-visible")) bringCross();
}

function setHand(next, keepCorners = false) {
  hand = next;
  leaveFound();
  if (!keepCorners) leaveCorners();
  document.getElementById("sheet").classList.toggle("laying", Boolean(hand));
  mark();
  tell(hand ? asks() : "");
}

// What is to be done on the sheet next.
function asks() {
  return word(`sketch-${hand}`).replace("{count}", cornersIn() + 1);
}

function mark() {
  for (const button of card().querySelectorAll("[data-hand]")) {
    button.setAttribute("aria-pressed", String(button.dataset.hand === hand));
  }
}

export function leaveLine() {
  drawn = null;
  document.querySelector(".sketch-ruler")?.remove();
  for (const form of card().querySelectorAll(".sketch-line")) form.hidden = true;
  leaveCorners();
}

function onDown(event) {
  if (!hand || event.button !== 0 || !event.target.closest("#drawing") || pinching()) return;
  if (event.currentTarget.matches(".panning, .may-pan")) return;
  event.stopImmediatePropagation();
  event.preventDefault();
  document.getElementById("drawing").focus({ preventScroll: true });
  if (hand !== "square") leaveLine();
  held = { pointer: event.pointerId, from: event, last: event, way: [placeOf(event)], spots: [event] };
  hold(event);
}

function onMove(event) {
  if (held?.pointer !== event.pointerId) return;
  event.stopImmediatePropagation();
  const step = Math.hypot(event.clientX - held.last.clientX, event.clientY - held.last.clientY);
  if (hand === "pull" && step >= FAR) drawAlong(event);
  else if (hand === "move") moveBy(event.clientX - held.from.clientX, event.clientY - held.from.clientY);
  else if (hand === "measure") drawRuler([held.from, event]);
}

// The way of a hand along a stroke of the sketch; of a long one every other place is left out.
function drawAlong(event) {
  held.last = event;
  held.way.push(placeOf(event).map((length) => Number(length.toFixed(4))));
  held.spots.push(event);
  if (held.way.length > MOST) {
    for (const list of ["way", "spots"]) held[list] = held[list].filter((_place, k) => k % 2 === 0);
  }
  drawRuler(held.spots);
}

// While it is moved, the picture alone goes with the hand, as the sheet does when it is panned.
function moveBy(right, down) {
  const picture = document.getElementById("under");
  const each = Number(document.getElementById("drawing").dataset.unit) / scale();
  if (picture) picture.style.translate = `${right * each}px ${down * each}px`;
}

function drawRuler(spots) {
  const sheet = document.getElementById("sheet");
  const box = sheet.getBoundingClientRect();
  let line = sheet.querySelector(".sketch-ruler");
  if (!line) {
    line = document.createElementNS(SVG, "svg");
    line.setAttribute("class", "sweep sketch-ruler");
    line.append(document.createElementNS(SVG, "path"));
    sheet.append(line);
  }
  const places = spots.map((spot) => `${spot.clientX - box.left} ${spot.clientY - box.top}`);
  line.firstChild.setAttribute("d", `M${places.join("L")}`);
}

function letGo() {
  const was = held;
  held = null;
  return was;
}

async function onUp(event) {
  if (held?.pointer !== event.pointerId) return;
  event.stopImmediatePropagation();
  const { from, way } = letGo();
  const line = [...way[0], ...placeOf(event)];
  if (hand === "square") {
    const whole = await pressCorner(placeOf(event));
    if (hand !== "square") return undefined; // it was left meanwhile
    return whole ? setHand("", true) : tell(asks());
  }
  if (hand === "pull") {
    leaveLine();
    return pull(way.length > 2 ? { way } : { at: way[0] });
  }
  if (Math.hypot(event.clientX - from.clientX, event.clientY - from.clientY) < FAR) {
    moveBy(0, 0);
    return leaveLine();
  }
  if (hand === "measure") return askLength(line);
  await change("move", { line });
  moveBy(0, 0);
  return mark();
}

async function askLength(line) {
  try {
    const { text, length, way } = await ask("sketch/line/", { line });
    setHand("");
    const form = card().querySelector(".sketch-line.measured");
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

// A second click while it is laid does not lay it again.
async function layByLine(form) {
  const { long, straight, on_middle: onMiddle } = form.elements;
  const line = drawn;
  drawn = null;
  if (await change("measure", { line, length: long.value, straight: straight.checked, on_middle: onMiddle.checked }, long)) {
    leaveLine();
    focusTyping();
  } else drawn = line;
}

function onDrop(event) {
  const file = event.dataTransfer?.files?.[0];
  if (!file) return;
  event.preventDefault();
  if (isDrawing(file)) readDrawing(file);
  else take(file);
}

function onKey(event) {
  const field = event.target.closest?.("[data-sketch]");
  const enters = event.key === "Enter" && anyFound() && !event.target.closest("input, textarea, button");
  if (!enters && event.key !== "Escape") return;
  if (enters) takeFound();
  else if (held) return;
  else if (anyFound()) {
    leaveFound();
    tell(asks());
  } else if (hand && cornersIn() > 0) {
    leaveCorners(1);
    tell(asks());
  } else if (hand) setHand("");
  else if (field) {
    field.value = field.defaultValue;
    clearFault(field);
    focusTyping();
  } else if (cornersIn() > 0 || event.target.closest(".sketch-line")) {
    leaveLine();
    focusTyping();
  } else if (event.target.closest("[data-form=sketch]")) {
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
    if (!event.target.matches("[data-form=sketch-line], [data-form=sketch-square], [data-form=sketch]")) return;
    event.preventDefault();
    if (event.target.matches("[data-form=sketch-line]") && drawn) layByLine(event.target);
    if (event.target.matches("[data-form=sketch-square]")) squareUp(event.target);
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
  document.addEventListener("bench:pulled", () => hand && tell(asks()));
  // A line is drawn for the page as it stands: once the sheet is set anew, or looked at otherwise, it is gone.
  document.addEventListener("bench:shown", () => {
    // What lies there no more, or is hidden, is in no hand.
    if (hand && !card().querySelector("[data-hand]")) setHand("");
    mark();
    if (!held) leaveLine();
  });
}
