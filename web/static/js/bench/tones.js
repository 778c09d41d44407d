// A tone is taken up by its swatch. Then a click on the sheet lays it on the piece there, a line on all that it crosses;
// and the tone itself can be picked, or made a ramp of.

import { make } from "./changes.js";
import { choosing } from "./chooser.js";
import { leftOut } from "./cut.js";
import { along, hold, watchLeavingOff } from "./gesture.js";
import { focusTyping } from "./line.js";
import { pinching } from "./pan.js";
import { tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { html } from "./server.js";
import { placeOf } from "./view.js";

const SVG = "http://www.w3.org/2000/svg";
const FAR = 4;
const MOST = 200;
const bar = document.getElementById("laying");
const sheet = document.getElementById("sheet");
let held = null;
let taking = false;
let picked = null;

export function laying() {
  return bar.hidden ? null : bar.dataset.tone;
}

function every() {
  return Number(bar.querySelector("[aria-pressed=true]")?.dataset.reach ?? 1);
}

function marked() {
  for (const button of document.querySelectorAll("[data-act=take-up-tone]")) {
    button.setAttribute("aria-pressed", String(button.dataset.name === laying()));
  }
}

async function showPicker(name) {
  const place = bar.querySelector(".picked");
  const text = await html("picker/", { tone: name });
  if (name === laying()) place.innerHTML = text;
}

export async function takeUpTone(button) {
  if (laying() === button.dataset.name) return layDown();
  takeUp(button.dataset.name);
}

function takeUp(name) {
  bar.hidden = false;
  bar.dataset.tone = name;
  bar.querySelector(".name").textContent = name;
  bar.querySelector(".picked").replaceChildren();
  sheet.classList.add("laying");
  taking = false;
  marked();
  showPicker(name);
}

export function layDown() {
  bar.hidden = true;
  delete bar.dataset.tone;
  sheet.classList.remove("laying");
  taking = false;
  takeAllBack();
  tell("");
  marked();
}

export function reachTone(button) {
  for (const other of bar.querySelectorAll("[data-reach]")) other.setAttribute("aria-pressed", String(other === button));
}

export function takeFromPiece() {
  taking = !taking;
  tell(taking ? bar.dataset.take : "");
}

export async function makeRamp(button) {
  const { name, lighter, darker } = button.dataset;
  await make("add-ramp", { name, lighter: Number(lighter), darker: Number(darker) }, null);
}

function here(event) {
  return laying() && !choosing() && !pinching() && event.target.closest("#drawing") && !event.target.closest(".dot, .handle");
}

function given(places) {
  return { tone: laying(), places, every: every() };
}

function onDown(event) {
  if (!here(event) || event.button !== 0) return;
  event.stopPropagation();
  held = { pointer: event.pointerId, from: event, last: event, places: [placeOf(event)], way: [], line: null, regions: new Set() };
  const region = event.target.closest(".region");
  if (region) held.regions.add(region);
}

function onMove(event) {
  if (held === null) {
    if (here(event) && event.buttons === 0 && !taking) over(event);
    return;
  }
  if (event.pointerId !== held.pointer) return;
  if (!held.line && Math.hypot(event.clientX - held.from.clientX, event.clientY - held.from.clientY) < FAR) return;
  event.stopPropagation();
  if (!held.line) begin(event);
  const box = sheet.getBoundingClientRect();
  held.way.push(`${event.clientX - box.left} ${event.clientY - box.top}`);
  held.line.firstChild.setAttribute("d", `M${held.way.join("L")}`);
  if (held.places.length < MOST) held.places.push(placeOf(event));
  else held.places[MOST - 1] = placeOf(event);
  if (held.regions.size > 0) gatherOn(event);
  else preview("lay-tone", given(held.places));
}

function begin(event) {
  held.line = document.createElementNS(SVG, "svg");
  held.line.setAttribute("class", "sweep");
  held.line.append(document.createElementNS(SVG, "path"));
  sheet.append(held.line);
  hold(event);
}

// In the view of regions the regions themselves are laid, whatever piece they are of.
function gatherOn(event) {
  for (const [x, y] of along(held.last, event)) {
    const region = document.elementsFromPoint(x, y).find((element) => element.matches(".region"));
    if (region) held.regions.add(region);
  }
  held.last = event;
  for (const region of held.regions) region.classList.add("lit");
}

function onRegions(regions) {
  const names = [...regions].map((region) => JSON.parse(region.dataset.region));
  for (const region of regions) region.classList.remove("lit");
  const step = document.querySelector(".regions").dataset.carve;
  return make("lay-on-regions", { step, regions: names, tone: laying(), every: every(), without: leftOut() }, null);
}

// What a click would do is shown while the pointer rests on a piece.
let shown = "";
function over(event) {
  const piece = event.target.closest(".ink > path");
  const key = piece ? `${piece.dataset.step} ${piece.dataset.tone}` : "";
  if (!piece && shown) takeAllBack();
  if (piece) preview("lay-tone", given([placeOf(event)]));
  shown = key;
}

async function onUp(event) {
  if (held === null || event.pointerId !== held.pointer) return;
  const { line, places, regions } = held;
  line?.remove();
  held = null;
  event.stopPropagation();
  if (taking) {
    const tone = event.target.closest("[data-tone]")?.dataset.tone;
    if (tone) takeUp(tone);
    tell("");
    return;
  }
  if (regions.size > 0) await onRegions(regions);
  else await make("lay-tone", given(places), null);
}

function swallow(event) {
  if (here(event)) event.stopPropagation();
}

function written(field) {
  const [light, chroma, hue] = ["light", "chroma", "hue"].map((name) => field.closest(".picker").querySelector(`[name=${name}]`).value);
  return `oklch(${light}% ${chroma} ${hue})`;
}

function change(name, value) {
  return ["set-tone", { name, value }];
}

function watchPicker() {
  bar.addEventListener("input", (event) => {
    const field = event.target.closest(".picker input");
    if (!field) return;
    const unit = field.dataset.unit ? ` ${field.dataset.unit}` : "";
    field.nextElementSibling.textContent = `${field.value}${unit}`;
    preview(...change(laying(), written(field)));
  });
  bar.addEventListener("change", async (event) => {
    const field = event.target.closest(".picker input");
    if (!field) return;
    picked = field.name;
    await make(...change(laying(), written(field)), null);
  });
  bar.addEventListener("click", (event) => {
    const cell = event.target.closest("[data-picks], [data-hue]");
    if (!cell) return;
    if (cell.dataset.picks) make(...change(laying(), cell.dataset.picks), null);
    else {
      const hue = cell.closest(".picker").querySelector("[name=hue]");
      hue.value = cell.dataset.hue;
      make(...change(laying(), written(hue)), null);
    }
  });
}

export function watchTones() {
  sheet.addEventListener("pointerdown", onDown, { capture: true });
  sheet.addEventListener("pointermove", onMove, { capture: true });
  sheet.addEventListener("pointerup", onUp, { capture: true });
  sheet.addEventListener("click", swallow, { capture: true });
  sheet.addEventListener("pointerleave", () => laying() && held === null && takeAllBack());
  watchLeavingOff(sheet, () => held !== null, () => {
    held.line?.remove();
    held = null;
    takeAllBack();
  });
  // What a hand does elsewhere is left off first.
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !laying() || event.target.closest("form, .chooser, .over")) return;
    event.stopImmediatePropagation();
    event.preventDefault();
    layDown();
    focusTyping();
  });
  document.addEventListener("bench:shown", async () => {
    if (!laying()) return;
    marked();
    await showPicker(laying());
    if (picked && document.activeElement === document.body) bar.querySelector(`[name=${picked}]`)?.focus();
    picked = null;
  });
  watchPicker();
}
