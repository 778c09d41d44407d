// Puts the server's answer on the page, and keeps the focus and half-typed words where they were.

import { faultOf, showFault } from "./messages.js";
import { morph } from "./morph.js";
import { tell } from "./pill.js";
import { takeAllBack } from "./preview.js";
import { look, setShown } from "./server.js";
import { markUnsent } from "./unsent.js";

const PARTS = ["progress", "plan", "sheet", "mirror"];

// Where the focus is, and all that was typed and not sent, with what was wrong with it: none of it is lost when the page
// is set anew.
function remembered() {
  const element = document.activeElement;
  const fields = document.querySelectorAll("#plan input[data-key], #plan textarea[data-key]");
  const typed = [...fields].filter((field) => field.value !== field.defaultValue);
  return {
    key: element?.dataset?.key,
    start: element?.selectionStart,
    end: element?.selectionEnd,
    typed: typed.map((field) => [field.dataset.key, field.value, faultOf(field)]),
  };
}

function restore(memory, settled) {
  // A field whose value was taken up shows what was stored, also where that is what it was before.
  const taken = settled && document.querySelector(`[data-key="${CSS.escape(settled)}"]`);
  if (taken?.matches("input, textarea")) taken.value = taken.defaultValue;
  for (const [key, value, wrong] of memory.typed) {
    const field = key !== settled && document.querySelector(`[data-key="${CSS.escape(key)}"]`);
    if (!field) continue;
    field.value = value;
    if (field.matches("input")) field.size = Math.max(1, value.length);
    if (wrong) showFault(field, wrong);
  }
  const element = memory.key && document.querySelector(`[data-key="${CSS.escape(memory.key)}"]`);
  if (!element) return;
  element.focus({ preventScroll: true });
  if (element.matches("input, textarea") && memory.start !== null && memory.start !== undefined) {
    element.setSelectionRange(memory.start, memory.end);
  }
}

let replacing = false;

export function isReplacing() {
  return replacing;
}

// `settled` is the key of the field whose value the answer has taken up.
export function show(answer, settled) {
  // What was only tried in a field is not what somebody typed there.
  takeAllBack();
  const memory = remembered();
  replacing = true;
  const before = document.querySelector(".step.active")?.dataset.step;
  const slip = document.querySelector("form.slip");
  const scroll = document.getElementById("plan").scrollTop;
  for (const part of PARTS) {
    if (part in answer.parts) morph(document.getElementById(part), answer.parts[part]);
  }
  document.getElementById("plan").scrollTop = scroll;
  if (slip && !slip.dataset.done) document.getElementById("slip-place").append(slip);
  setShown(answer);
  const name = document.getElementById("mark-name");
  name.value = name.defaultValue = answer.title;
  name.size = Math.max(1, answer.title.length);
  look(answer.state);
  restore(memory, settled);
  markUnsent();
  replacing = false;
  tell("");
  const active = document.querySelector(".step.active");
  if (active && active.dataset.step !== before) active.scrollIntoView({ block: "nearest" });
  document.dispatchEvent(new CustomEvent("bench:shown", { detail: answer }));
}
