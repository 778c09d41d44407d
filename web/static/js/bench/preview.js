// Shows what a value would do before it is made, and takes it back: paths, what measures come to, faults, the Mirror.

import { leaveOff, tryOut } from "./live.js";
import { morph } from "./morph.js";

const SVG = "http://www.w3.org/2000/svg";
const sheet = document.getElementById("sheet");
const plan = document.getElementById("plan");
// What was changed for looking, by element and attribute, with what stood there.
let touched = new Map();
let added = [];
let mirror = null;

function set(element, name, value, kept) {
  const was = touched.get(element) || {};
  if (!(name in was)) was[name] = name === "text" ? element.textContent : element.getAttribute(name);
  touched.set(element, was);
  put(element, name, value);
  if (!kept.has(element)) kept.set(element, new Set());
  kept.get(element).add(name);
}

function put(element, name, value) {
  if (name === "text") element.textContent = value;
  else if (value === null) element.removeAttribute(name);
  else if (element.getAttribute(name) !== value) element.setAttribute(name, value);
}

// What an earlier answer changed and this one does not is as the page has it.
function takeBack(kept) {
  for (const [element, was] of touched) {
    for (const [name, value] of Object.entries(was)) {
      if (!kept.get(element)?.has(name)) put(element, name, value);
    }
  }
}

function inkOf({ step, tone }) {
  const own = tone ? `[data-tone="${CSS.escape(tone)}"]` : ":not([data-tone])";
  const found = sheet.querySelector(`.ink > [data-step="${CSS.escape(step)}"]${own}`);
  if (found) return found;
  const path = document.createElementNS(SVG, "path");
  path.dataset.step = step;
  if (tone) path.dataset.tone = tone;
  sheet.querySelector(".ink")?.append(path);
  added.push(path);
  return path;
}

function showFaults(faults, kept) {
  for (const [step, text] of Object.entries(faults)) {
    const line = plan.querySelector(`.step[data-step="${CSS.escape(step)}"]`);
    if (!line) continue;
    set(line, "class", `${line.getAttribute("class").replace(" faulty", "")}${text ? " faulty" : ""}`, kept);
    const known = line.querySelector(".fault");
    if (known) set(known, "text", text, kept);
    else if (text) {
      const fault = document.createElement("p");
      fault.className = "fault tried";
      fault.textContent = text;
      line.querySelector(".sentence").after(fault);
      added.push(fault);
    }
  }
}

function shown(answer) {
  for (const element of added.splice(0)) element.remove();
  const kept = new Map();
  if (answer.error === undefined) {
    for (const [step, d] of Object.entries(answer.lines)) {
      for (const path of sheet.querySelectorAll(`.line[data-step="${CSS.escape(step)}"] path`)) set(path, "d", d, kept);
    }
    for (const ink of answer.ink) {
      const path = inkOf(ink);
      set(path, "d", ink.d, kept);
      if (ink.fill) set(path, "fill", ink.fill, kept);
    }
    for (const [name, d] of Object.entries(answer.regions)) {
      const region = sheet.querySelector(`[data-region="${CSS.escape(name)}"]`);
      if (region) set(region, "d", d, kept);
    }
    for (const [key, text] of Object.entries(answer.texts)) {
      const result = plan.querySelector(`[data-key="${CSS.escape(key)}"] ~ .result`);
      if (result) set(result, "text", text, kept);
    }
    showFaults(answer.faults, kept);
  }
  takeBack(kept);
}

function rested(answer) {
  if (answer.mirror === undefined) return;
  const place = document.getElementById("mirror");
  mirror ??= place.innerHTML;
  morph(place, answer.mirror);
}

export function preview(kind, given) {
  tryOut(kind, given, shown, rested);
}

// The page is as it was: before an answer of the server is put in, and when a value is given up.
export function takeAllBack() {
  leaveOff();
  for (const element of added.splice(0)) element.remove();
  takeBack(new Map());
  touched = new Map();
  if (mirror !== null) document.getElementById("mirror").innerHTML = mirror;
  mirror = null;
}
