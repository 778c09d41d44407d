// Long plans: parts fold under their headings, and steps are found by their words. What is folded is kept by this browser.

import { lookAt } from "./changes.js";
import { activeStep } from "./handles.js";

const kept = `kagami-folds-${document.getElementById("main").dataset.mark}`;
let folded = new Set(stored());

function stored() {
  try {
    return JSON.parse(localStorage.getItem(kept)) || [];
  } catch {
    return []; // a browser that keeps nothing folds until it is reloaded
  }
}

function keep() {
  try {
    localStorage.setItem(kept, JSON.stringify([...folded]));
  } catch {
    // As above.
  }
}

function finder() {
  return document.getElementById("find");
}

function matches(line, wanted) {
  return line.dataset.sentence.toLowerCase().includes(wanted);
}

// Every line of the plan is shown or not: found where something is sought, and else unless its part is folded. The open
// step and what holds an error are never out of sight.
function arrange() {
  const wanted = finder()?.value.trim().toLowerCase() || "";
  let heading = null;
  let count = 0;
  let found = 0;
  const close = () => {
    const fold = heading?.querySelector(".fold");
    if (!fold) return;
    const shut = folded.has(heading.dataset.step);
    fold.setAttribute("aria-expanded", String(!shut || wanted !== ""));
    heading.querySelector("h2").dataset.count = shut && count ? count : "";
    heading.hidden = wanted !== "";
  };
  for (const line of document.querySelectorAll("#plan .steps > .heading, #plan .steps > .step")) {
    if (line.matches(".heading")) {
      close();
      [heading, count] = [line, 0];
      continue;
    }
    const shut = heading && folded.has(heading.dataset.step) && !line.matches(".active, .faulty");
    const hit = matches(line, wanted);
    line.hidden = wanted ? !hit : shut;
    count += line.hidden ? 1 : 0;
    found += hit ? 1 : 0;
  }
  close();
  const said = document.querySelector(".found");
  if (said) said.textContent = wanted ? String(found) : "";
}

export function fold(button) {
  const { step } = button.closest(".heading").dataset;
  if (!folded.delete(step)) folded.add(step);
  keep();
  arrange();
}

export function focusFinder() {
  finder()?.focus();
  finder()?.scrollIntoView({ block: "nearest" });
}

// A step that is opened from elsewhere comes into sight: its part unfolds.
function unfoldActive() {
  const line = activeStep() && document.getElementById(`s-${activeStep()}`);
  let at = line;
  while (at && !at.matches(".heading")) at = at.previousElementSibling;
  if (at && folded.delete(at.dataset.step)) keep();
}

export function watchFolds(plan) {
  let active = activeStep();
  document.addEventListener("bench:shown", () => {
    if (activeStep() !== active) unfoldActive();
    active = activeStep();
    arrange();
  });
  plan.addEventListener("input", (event) => event.target.id === "find" && arrange());
  plan.addEventListener("keydown", (event) => {
    if (event.target.id !== "find" || !["Enter", "Escape"].includes(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    const first = event.key === "Enter" && finder().value.trim() && document.querySelector("#plan .step:not([hidden])");
    finder().value = "";
    arrange();
    if (first) lookAt({ step: first.dataset.step });
    else finder().blur();
  });
  arrange();
}
