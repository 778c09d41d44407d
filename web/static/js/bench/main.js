// The Bench: hands clicks and keys to the module that knows them. It computes nothing of the mark.

import { lookAt, make, makeLeft, walk } from "./changes.js";
import { openChooser, take, watchChooser } from "./chooser.js";
import { watchCross } from "./cross.js";
import { cut, watchCutting } from "./cut.js";
import { watchChecks } from "./checks.js";
import { watchEarly } from "./early.js";
import { watchFields } from "./fields.js";
import { openStep, watchChoosing } from "./choose.js";
import { watchChosen } from "./chosen.js";
import { duplicate, watchClipboard } from "./clipboard.js";
import { fold, watchFolds } from "./folds.js";
import { watchGathering } from "./gather.js";
import { restoreHalf, watchHalf } from "./half.js";
import { watchHandles } from "./handles.js";
import { watchHeldKeys } from "./held_keys.js";
import { watchKeys } from "./keys.js";
import { closeHelp, openHelp, watchHelp } from "./help.js";
import { focusTyping } from "./line.js";
import { watchSilence } from "./messages.js";
import { nameNumber, watchMeasures } from "./measures.js";
import { watchMenu } from "./menu.js";
import { replay, setNeedle, watchNeedle } from "./needle.js";
import { watchOrder } from "./order.js";
import { watchOver } from "./over.js";
import { watchPan } from "./pan.js";
import { looking } from "./server.js";
import { watchScrubbing } from "./scrub.js";
import { watchSheet } from "./sheet.js";
import { watchPulling } from "./pulling.js";
import { leaveOutlines, openOutlines, watchOutlines } from "./outlines.js";
import { doWithSketch, leaveLine, openSketches, showSketch, takeInHand, watchSketch } from "./sketch.js";
import { drawLine, watchPicking } from "./picking.js";
import { watchPlacing } from "./placing.js";
import { closeSlip, watchSlip } from "./slip.js";
import { watchSplitting } from "./split.js";
import { watchStrip } from "./strip.js";
import { watchSweeping } from "./sweep.js";
import { noTasks, watchTasks } from "./tasks.js";
import { layDown, makeRamp, reachTone, takeFromPiece, takeUpTone, watchTones } from "./tones.js";
import { watchTrail } from "./trail.js";
import { openRetyping, watchTyped } from "./typed.js";
import { watchVariants } from "./variants.js";
import { fit, real, watchView } from "./view.js";
import { word } from "./words.js";

const plan = document.getElementById("plan");
const sheet = document.getElementById("sheet");

function activate(step) {
  return openStep(looking().step === step ? "" : step);
}

function openForm(button) {
  const form = plan.querySelector(`[data-form="${button.dataset.opens}"]`);
  form.hidden = false;
  button.hidden = true;
  form.elements.name.focus();
}

// A part begins with a word that stands for its name until it has one.
async function beginPart(button, step) {
  if (!button.matches("button") || !(await make("set-heading", { step, heading: word("part") }, button))) return;
  document.querySelector(`[data-key="${CSS.escape(`part:${step}`)}"]`)?.select();
}

const ACTS = {
  undo: () => walk("undo"),
  redo: () => walk("redo"),
  view: (button) => lookAt({ view: button.dataset.view }),
  activate: (button, step) => activate(step),
  every: (button) => lookAt({ every: button.dataset.every }),
  "name-number": nameNumber,
  needle: (button) => setNeedle(Number(button.dataset.needle)),
  replay,
  "draw-line": drawLine,
  cut,
  fold,
  head: beginPart,
  mute: (button, step) => make("set-muted", { step, muted: button.dataset.muted === "1" }, button),
  guide: (button, step) => make("set-guide", { step, guide: button.dataset.guide === "1" }, null),
  move: (button, step) => make("move-step", { step, position: Number(button.dataset.position) }, null),
  remove: (button, step) => make("remove-step", { step }, null),
  absorb: (button, step) => make("absorb", { step }, null),
  retype: openRetyping,
  say: (button) => make("add-sentence", { text: button.dataset.text }, button),
  reform: (button, step) => make("retype-step", { step, text: button.dataset.text }, button),
  mend: (button) => make("mend", { step: button.dataset.step, field: button.dataset.field, other: button.dataset.other }, null),
  "remove-measure": (button) => make("remove-measure", { name: button.dataset.name }, null),
  "take-up-tone": takeUpTone,
  "lay-down": layDown,
  "reach-tone": reachTone,
  "take-from-piece": takeFromPiece,
  ramp: makeRamp,
  "remove-tone": (button) => make("remove-tone", { name: button.dataset.name }, null),
  "open-form": openForm,
  "close-slip": () => {
    closeSlip();
    focusTyping();
  },
  duplicate,
  fit,
  help: openHelp,
  "close-help": closeHelp,
  "no-tasks": noTasks,
  real,
  choose: openChooser,
  take,
  "outlines-open": openOutlines,
  "outlines-leave": leaveOutlines,
  "sketch-open": openSketches,
  "sketch-show": showSketch,
  "sketch-do": doWithSketch,
  "sketch-hand": takeInHand,
  "sketch-leave": () => {
    leaveLine();
    focusTyping();
  },
};

document.addEventListener("click", (event) => {
  const button = event.target.closest("button[data-act], [role=button][data-act]");
  const act = button && ACTS[button.dataset.act];
  // The page itself names the open step as well; a button that stands in no step is about none.
  if (act) act(button, button.closest("[data-step]:not(main)")?.dataset.step);
});

// What is set as words and works as a button, so that it can wrap with the sentence.
document.addEventListener("keydown", (event) => {
  if (!event.target.matches("span[role=button], .crumb") || !["Enter", " "].includes(event.key)) return;
  event.preventDefault();
  event.target.dispatchEvent(new MouseEvent("click", { bubbles: true }));
});

document.addEventListener("keydown", (event) => {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
  if (event.target.matches("input") && event.target.value !== event.target.defaultValue) return;
  event.preventDefault();
  walk(event.shiftKey ? "redo" : "undo");
});

document.addEventListener("bench:again", (event) => make(event.detail.kind, event.detail.given, null));

watchScrubbing(plan);
watchFields(plan);
watchFields(document.querySelector(".names"));
watchSlip(plan);
watchTyped(plan);
watchChooser(plan);
watchView();
watchCross(sheet);
watchPulling();
watchSketch(sheet, plan);
watchOutlines(plan);
watchEarly(sheet);
watchPan(sheet);
watchPlacing(sheet, plan);
watchTrail(sheet);
watchVariants();
watchSplitting(sheet);
watchPicking(sheet);
watchHandles(sheet);
watchHeldKeys(document.getElementById("held-keys"));
watchOver(sheet);
watchCutting(plan);
watchGathering(sheet);
watchSweeping(sheet);
watchTones();
watchChoosing(sheet, plan);
watchSheet(sheet, plan);
watchStrip();
watchChosen();
watchMenu(sheet);
watchSilence();
watchKeys();
watchNeedle(plan);
watchFolds(plan);
watchOrder(plan);
watchMeasures(plan);
watchChecks();
watchHelp();
watchTasks();
watchClipboard();
watchHalf(plan);
makeLeft();
restoreHalf();
document.getElementById("main").dataset.ready = "yes";
