// A drawing that is brought: an SVG chosen, dropped on the sheet or pasted. It is read first, and added when somebody has
// seen what it comes to and how wide it will be.

import { focusTyping } from "./line.js";
import { clearBanner, clearFault, refused, showFault } from "./messages.js";
import { show } from "./page.js";
import { tell } from "./pill.js";
import { bring } from "./server.js";
import { word } from "./words.js";

const SVG = "image/svg+xml";
let held = null;

const form = () => document.getElementById("outlines-form");

export function isDrawing(file) {
  return file.type === SVG || /\.svgz?$/i.test(file.name);
}

// Text that is pasted, where it is an SVG.
export function drawingOf(text) {
  const begun = text.trimStart().slice(0, 2000);
  const is = begun.startsWith("<svg") || (/^<(\?xml|!DOCTYPE|!--)/i.test(begun) && begun.includes("<svg"));
  return is ? new File([text], `${word("drawing")}.svg`, { type: SVG }) : null;
}

function opened(open) {
  form().hidden = !open;
  form().querySelector(".asking").hidden = Boolean(held);
}

export function openOutlines() {
  if (!form().hidden) return leaveOutlines();
  opened(true);
  form().elements.drawing.focus();
}

export function leaveOutlines() {
  held = null;
  form().reset();
  form().querySelector(".read").replaceChildren();
  clearFault(form().elements.drawing);
  opened(false);
  focusTyping();
}

export async function readDrawing(file, field) {
  tell(word("reading-drawing"));
  try {
    const answer = await bring("outlines/read/", "drawing", file);
    tell("");
    clearBanner();
    held = file;
    form().querySelector(".read").innerHTML = answer.html;
    opened(true);
    form().elements.width.select();
    form().elements.width.focus();
  } catch (error) {
    failed(error, field);
  }
}

function failed(error, field) {
  tell("");
  if (error.status === 413) error.message = word("drawing-too-heavy");
  if ([413, 422].includes(error.status) && field) showFault(field, error.message);
  else refused(error, null, null);
}

async function add() {
  const { width } = form().elements;
  clearFault(width);
  try {
    const answer = await bring("outlines/bring/", "drawing", held, { width: width.value });
    leaveOutlines();
    show(answer);
    focusTyping();
  } catch (error) {
    failed(error, width);
  }
}

export function watchOutlines(plan) {
  plan.addEventListener("change", (event) => {
    const { target } = event;
    if (target.matches("[data-form=outlines] [type=file]") && target.files[0]) readDrawing(target.files[0], target);
  });
  plan.addEventListener("submit", (event) => {
    if (!event.target.matches("[data-form=outlines]")) return;
    event.preventDefault();
    if (held) add();
  });
  plan.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !event.target.closest("[data-form=outlines]")) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    leaveOutlines();
  });
}
