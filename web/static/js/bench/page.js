// Puts the server's answer on the page, and keeps the focus and half-typed words where they were.

import { look, setRevision } from "./server.js";

const PARTS = ["progress", "plan", "sheet", "mirror"];

function remembered() {
  const element = document.activeElement;
  const key = element?.dataset?.key;
  if (!key) return null;
  const typed = element.matches("input, textarea") && element.value !== element.defaultValue ? element.value : null;
  return { key, typed, start: element.selectionStart, end: element.selectionEnd };
}

function restore(memory) {
  if (!memory) return;
  const element = document.querySelector(`[data-key="${CSS.escape(memory.key)}"]`);
  if (!element) return;
  element.focus({ preventScroll: true });
  if (memory.typed !== null && element.matches("input, textarea")) element.value = memory.typed;
  if (element.matches("input, textarea") && memory.start !== null && memory.start !== undefined) {
    element.setSelectionRange(memory.start, memory.end);
  }
}

let replacing = false;

export function isReplacing() {
  return replacing;
}

export function show(answer) {
  const memory = remembered();
  replacing = true;
  const before = document.querySelector(".step.active")?.dataset.step;
  const slip = document.querySelector("form.slip");
  const scroll = document.getElementById("plan").scrollTop;
  for (const part of PARTS) {
    document.getElementById(part).innerHTML = answer.parts[part];
  }
  document.getElementById("plan").scrollTop = scroll;
  if (slip && !slip.dataset.done) document.getElementById("slip-place").append(slip);
  setRevision(answer.revision);
  const name = document.getElementById("mark-name");
  name.value = name.defaultValue = answer.title;
  name.size = Math.max(1, answer.title.length);
  look(answer.state);
  restore(memory);
  replacing = false;
  const active = document.querySelector(".step.active");
  if (active && active.dataset.step !== before) active.scrollIntoView({ block: "nearest" });
  document.dispatchEvent(new CustomEvent("bench:shown", { detail: answer }));
}
