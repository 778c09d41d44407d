// Keys for the whole page: a letter begins a sentence, signs zoom, pages walk the needle, Delete takes the open step out.

import { make } from "./changes.js";
import { openStep } from "./choose.js";
import { choosing, closeChooser } from "./chooser.js";
import { openHelp } from "./help.js";
import { chosen, leaveNode } from "./chosen.js";
import { focusFinder } from "./folds.js";
import { activeStep } from "./handles.js";
import { focusTyping } from "./line.js";
import { clearBanner } from "./messages.js";
import { setNeedle } from "./needle.js";
import { doWithNode, nodeInHand } from "./nodes.js";
import { looking } from "./server.js";
import { closeSlip, currentSlip, dropOpening, opening } from "./slip.js";
import { fit, zoomBy } from "./view.js";

const FIELDS = "input, textarea, select, [contenteditable]";
// What is given up by itself.
const OWN = "dialog, form:not(.slip, .typed-line)";

function steps() {
  return document.querySelectorAll("#plan .step").length;
}

function walkNeedle(by) {
  const { needle } = looking();
  return setNeedle((needle === "" ? steps() : Number(needle)) + by);
}

const ACTS = {
  "+": () => zoomBy(1),
  "=": () => zoomBy(1),
  "-": () => zoomBy(-1),
  "−": () => zoomBy(-1),
  0: fit,
  "?": openHelp,
  "/": focusFinder,
  PageUp: () => walkNeedle(-1),
  PageDown: () => walkNeedle(1),
  Delete: remove,
  Escape: giveUp,
};

// A node in hand goes before the step that it is of.
function remove() {
  if (nodeInHand()) doWithNode("take-node-out", activeStep());
  else if (chosen().length > 0) make("remove-steps", { steps: chosen() }, null);
}

// What was begun last is given up first: a list, a slip, what was said, a node, the open step; in a field, what was typed there
// comes before all of them (see fields.js and typed.js).
function giveUp() {
  if (choosing()) closeChooser();
  else if (currentSlip()) {
    closeSlip();
    focusTyping();
  } else if (opening()) dropOpening();
  else if (document.querySelector(".banner:not([hidden])")) clearBanner();
  else if (!leaveNode() && activeStep()) openStep("");
}

export function watchKeys() {
  document.addEventListener("keydown", (event) => {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
    if ((event.target.matches(FIELDS) && event.key !== "Escape") || event.target.closest(OWN)) return;
    const act = ACTS[event.key];
    if (act) {
      event.preventDefault();
      act();
    } else if (event.key.length === 1 && /\p{L}/u.test(event.key)) {
      focusTyping();
    }
  });
}
