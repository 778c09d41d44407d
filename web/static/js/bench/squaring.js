// Four corners of something rectangular, pressed on a photograph that was taken askew: it is made anew as if it had been
// seen from straight above. They stand on the sheet, so that one can zoom to each.

import { focusTyping } from "./line.js";
import { clearBanner, refused, showFault } from "./messages.js";
import { show } from "./page.js";
import { tell } from "./pill.js";
import { ask, post } from "./server.js";
import { word } from "./words.js";

const SVG = "http://www.w3.org/2000/svg";
const ALL = 4;
let corners = [];
// While it is squared up, a second click is of no use.
let busy = false;

export const cornersIn = () => corners.length;

const form = () => document.querySelector(".sketch-line.square");

// The last ones, or all.
export function leaveCorners(last = ALL) {
  corners.splice(-last);
  draw();
}

function draw() {
  document.querySelector(".corners")?.remove();
  if (corners.length === 0) return;
  const drawing = document.getElementById("drawing");
  const { unit, originX, originY } = drawing.dataset;
  const places = corners.map(([x, y]) => `${Number(originX) + x * unit} ${Number(originY) - y * unit}`);
  const marks = document.createElementNS(SVG, "g");
  marks.setAttribute("class", "corners");
  // Each as a dot: a line of no length with round ends.
  for (const d of [`M${places.join("L")}${corners.length === ALL ? "Z" : ""}`, places.map((place) => `M${place}h0`).join("")]) {
    const line = document.createElementNS(SVG, "path");
    line.setAttribute("d", d);
    marks.append(line);
  }
  drawing.append(marks);
}

// Whether all are pressed, and may be the corners of a rectangle.
export async function pressCorner(place) {
  if (corners.length === ALL) return false; // what they are is asked
  corners.push(place);
  draw();
  if (corners.length < ALL) return false;
  try {
    const { text, wide, high } = await ask("sketch/corners/", { corners });
    const fields = form();
    if (!fields || corners.length < ALL) return false; // it was laid aside, or they were left, meanwhile
    fields.querySelector(".aside").textContent = text;
    fields.elements.wide.value = wide;
    fields.elements.high.value = high;
    fields.hidden = false;
    fields.scrollIntoView({ block: "nearest" });
    fields.elements.wide.select();
    return true;
  } catch (error) {
    leaveCorners();
    refused(error, null, null);
    return false;
  }
}

export async function squareUp(fields) {
  if (busy || corners.length < ALL) return;
  busy = true;
  const { wide, high, cut, on_middle: onMiddle } = fields.elements;
  const given = { corners, wide: wide.value, high: high.value, cut: cut.checked, on_middle: onMiddle.checked };
  tell(word("squaring"));
  try {
    const answer = await post("sketch/square/", given);
    clearBanner();
    leaveCorners();
    show(answer);
    focusTyping();
  } catch (error) {
    tell("");
    if (error.status === 422) showFault(wide, error.message);
    else refused(error, null, null);
  } finally {
    busy = false;
  }
}
