// Shows what a value would do before it is made, and takes it back: paths, what measures come to, faults, the Mirror.

import { leaveOff, tryOut } from "./live.js";
import { morph, morphDrawing } from "./morph.js";
import { tell } from "./pill.js";
import { word } from "./words.js";

const SVG = "http://www.w3.org/2000/svg";
// What a hand does on the sheet: of these a refusal is said at once, while what is typed may be on its way to something.
const TOLD = ["drag", "nudge", "draw-step", "unite-swept", "split-at"];
const sheet = document.getElementById("sheet");
const plan = document.getElementById("plan");
// What was changed for looking, by element and attribute, with what stood there.
let touched = new Map();
let added = [];
let mirror = null;
let handles = null;
let ghost = null;

function set(element, name, value, kept) {
  const was = touched.get(element) || {};
  if (!(name in was)) was[name] = name === "text" ? element.textContent : name === "value" ? element.value : element.getAttribute(name);
  touched.set(element, was);
  put(element, name, value);
  if (!kept.has(element)) kept.set(element, new Set());
  kept.get(element).add(name);
}

function put(element, name, value) {
  if (name === "text") element.textContent = value;
  else if (name === "value") element.value = value;
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

// An attribute as the page has it, whatever is shown in its place for looking.
export function stored(element, name) {
  return touched.get(element)?.[name] ?? element.getAttribute(name);
}

function inkOf({ step, tone, nth }) {
  const which = nth ? `[data-nth="${nth}"]` : ":not([data-nth])";
  const own = `${tone ? `[data-tone="${CSS.escape(tone)}"]` : ":not([data-tone])"}${which}`;
  const found = sheet.querySelector(`.ink > [data-step="${CSS.escape(step)}"]${own}`);
  if (found) return found;
  const path = document.createElementNS(SVG, "path");
  path.dataset.step = step;
  if (tone) path.dataset.tone = tone;
  if (nth) path.dataset.nth = nth;
  sheet.querySelector(".ink")?.append(path);
  added.push(path);
  return path;
}

// The lines of a step that is not there yet.
function addLine(step, d) {
  const known = added.find((element) => element.matches(".line"));
  if (known) {
    known.querySelector(".hair").setAttribute("d", d);
    return;
  }
  const line = document.createElementNS(SVG, "g");
  line.setAttribute("class", "line tried lit");
  const path = document.createElementNS(SVG, "path");
  path.setAttribute("class", "hair");
  path.setAttribute("d", d);
  line.append(path);
  sheet.querySelector(".lines")?.append(line);
  added.push(line);
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

// Gradients that the page has already stand in it once.
function showPaints(paints) {
  const tried = document.getElementById("tried-paints");
  tried.innerHTML = paints;
  for (const paint of [...tried.children]) {
    if (document.getElementById("paints").children.namedItem(paint.id)) paint.remove();
  }
}

// An answer that is not complete takes nothing back: what it does not speak of stays as the one before it had it.
function shown(answer) {
  if (!answer.more) for (const element of added.splice(0)) element.remove();
  const kept = new Map();
  if (answer.error === undefined) {
    for (const [step, d] of Object.entries(answer.lines)) {
      if (step === answer.new) addLine(step, d);
      for (const path of sheet.querySelectorAll(`.line[data-step="${CSS.escape(step)}"] path:not(.ghost, .reach)`)) set(path, "d", d, kept);
      keepGhost(step);
    }
    showPaints(answer.paints);
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
    // What is typed stands in its field already; only what a hand does on the sheet is written there.
    if (TOLD.includes(answer.kind)) {
      for (const [key, text] of Object.entries(answer.fields)) showField(key, text, kept);
    }
    followInMirror();
    showFaults(answer.faults, kept);
    showHandles(answer.handles, Boolean(answer.new));
    if (answer.said) tell(answer.ties?.length > 0 ? `${answer.said} · ${word("tie")} ${answer.ties.map((tie) => tie.said).join(", ")}` : answer.said);
  } else {
    tell(TOLD.includes(answer.kind) ? answer.error : "");
  }
  if (!answer.more) takeBack(kept);
}

// Where the active step's lines were stays as a dashed hairline until the hand lets go.
function keepGhost(step) {
  const line = sheet.querySelector(`.line[data-step="${CSS.escape(step)}"]`);
  if (ghost || !line || !plan.querySelector(`.step.active[data-step="${CSS.escape(step)}"]`)) return;
  ghost = document.createElementNS(SVG, "path");
  ghost.setAttribute("class", "ghost");
  ghost.setAttribute("d", touched.get(line.querySelector(".hair"))?.d || "");
  line.prepend(ghost);
}

// A value stands in its field as if it had been typed; a field that is being typed in is left alone.
function showField(key, text, kept) {
  const field = plan.querySelector(`[data-key="${CSS.escape(key)}"]`);
  if (!field || field === document.activeElement) return;
  if (field.matches("input, textarea, select")) {
    set(field, "value", text, kept);
    if (field.matches("input")) set(field, "size", String(Math.max(1, text.length)), kept);
  }
  const words = field.matches(".slot:not(.figures)") && field.querySelector("i");
  if (words) set(words, "text", text, kept);
  set(field, "class", `${field.getAttribute("class").replace(" tried", "")} tried`, kept);
}

// The large picture of the Mirror shows the ink of the sheet at once, laid into its place; the small ones, and what it
// measures, follow when the hand rests.
function followInMirror() {
  const place = document.getElementById("mirror");
  const large = place.querySelector(".large");
  const from = large?.dataset.fromSheet;
  const paths = [...sheet.querySelectorAll(".ink > path")];
  if (!from || paths.length === 0 || sheet.querySelector(".view-lines, .view-regions")) return;
  mirror ??= place.innerHTML;
  let live = large.querySelector(".live");
  if (live?.childElementCount === paths.length) {
    paths.forEach((path, k) => follow(live.children[k], path));
    return;
  }
  if (!live) {
    live = document.createElementNS(SVG, "g");
    live.setAttribute("class", "live");
    live.setAttribute("transform", from);
    large.querySelector("use").setAttribute("visibility", "hidden");
    large.append(live);
  }
  live.replaceChildren(
    ...paths.map((path) => {
      const copy = path.cloneNode();
      copy.removeAttribute("id");
      return copy;
    }),
  );
}

// A copy takes over what is new: what stays is not read again.
function follow(copy, path) {
  for (const name of ["d", "fill", "data-tone"]) put(copy, name, path.getAttribute(name));
}

// Those of a step that is merely tried are the active step's no longer (see handles.js).
function showHandles(svg, drafted) {
  const place = document.getElementById("handles");
  handles ??= place.innerHTML;
  morphDrawing(place, svg);
  place.classList.toggle("drafted", drafted);
  // Of a sentence that is still typed they are to be looked at alone.
  if (drafted && !document.querySelector("form.slip")) {
    for (const handle of place.querySelectorAll(".handle")) handle.removeAttribute("tabindex");
  }
}

// Whoever asked learns what came of it, a refusal too.
function heard(answer) {
  shown(answer);
  document.dispatchEvent(new CustomEvent("bench:tried", { detail: answer }));
}

function rested(answer) {
  if (answer.mirror === undefined) return;
  const place = document.getElementById("mirror");
  mirror ??= place.innerHTML;
  morph(place, answer.mirror);
}

export function preview(kind, given) {
  tryOut(kind, given, (answer) => heard({ ...answer, kind }), rested);
}

// The page is as it was: before an answer of the server is put in, and when a value is given up.
export function takeAllBack() {
  leaveOff();
  for (const element of added.splice(0)) element.remove();
  takeBack(new Map());
  touched = new Map();
  if (mirror !== null) document.getElementById("mirror").innerHTML = mirror;
  mirror = null;
  if (handles !== null) morphDrawing(document.getElementById("handles"), handles);
  document.getElementById("handles")?.classList.remove("drafted");
  handles = null;
  ghost?.remove();
  ghost = null;
}
