// Steps are copied as their sentences, with the measures and tones that they are made of, and pasted from any text of sentences;
// what is pasted may be a drawing as well.

import { make } from "./changes.js";
import { chosen } from "./chosen.js";
import { drawingOf, isDrawing, readDrawing } from "./outlines.js";
import { looking } from "./server.js";

const FIELDS = "input, textarea, select, [contenteditable]";

// In the order of the plan, whatever was chosen first.
function textOf(steps) {
  const lines = [...document.querySelectorAll("#plan .step")].filter((line) => steps.includes(line.dataset.step));
  const carried = new Set(lines.flatMap((line) => line.dataset.carried.split("\n").filter(Boolean)));
  return [...carried, ...lines.map((line) => line.dataset.sentence)].join("\n");
}

function paste(text) {
  const { needle } = looking();
  return make("add-sentences", needle ? { text, position: Number(needle) } : { text }, null);
}

export function duplicate() {
  paste(textOf(chosen()));
}

function free(event) {
  return !event.target.closest?.(FIELDS) && !document.activeElement?.matches(FIELDS) && getSelection().isCollapsed;
}

export function watchClipboard() {
  for (const kind of ["copy", "cut"]) {
    document.addEventListener(kind, (event) => {
      const steps = chosen();
      if (!free(event) || steps.length === 0) return;
      event.preventDefault();
      event.clipboardData.setData("text/plain", textOf(steps));
      if (kind === "cut") make("remove-steps", { steps }, null);
    });
  }
  document.addEventListener("paste", (event) => {
    const text = event.clipboardData.getData("text/plain");
    const drawing = [...event.clipboardData.files].find(isDrawing) ?? drawingOf(text);
    if (!free(event) || (text.trim() === "" && !drawing)) return;
    event.preventDefault();
    if (drawing) readDrawing(drawing);
    else paste(text);
  });
}
