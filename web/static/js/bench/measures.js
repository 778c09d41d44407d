// Measures: one that is pointed at lights every value that names it; a number is made a measure by giving it a name.

import { make } from "./changes.js";
import { activeStep } from "./handles.js";
import { word } from "./words.js";

function light(name, on) {
  for (const value of document.querySelectorAll(`[data-uses~="${CSS.escape(name)}"]`)) value.classList.toggle("lit", on);
}

// The button becomes a field for the name; Enter takes it, Escape leaves it.
export function nameNumber(button) {
  const { field } = button.dataset;
  const step = activeStep();
  const input = document.createElement("input");
  input.className = "naming";
  input.size = 8;
  input.placeholder = word("name");
  input.setAttribute("aria-label", button.textContent);
  input.autocomplete = "off";
  input.spellcheck = false;
  const leave = () => {
    if (input.isConnected) input.replaceWith(button);
  };
  input.addEventListener("keydown", async (event) => {
    event.stopPropagation();
    if (event.key === "Escape") {
      leave();
      button.focus();
    } else if (event.key === "Enter" && input.value.trim() !== "") {
      event.preventDefault();
      if (await make("name-number", { step, field, name: input.value.trim() }, input)) leave();
    }
  });
  button.replaceWith(input);
  input.focus();
}

export function watchMeasures(plan) {
  for (const [kind, on] of [["mouseover", true], ["mouseout", false], ["focusin", true], ["focusout", false]]) {
    plan.addEventListener(kind, (event) => {
      const name = event.target.closest(".measure")?.querySelector(".mname")?.dataset.name;
      if (name) light(name, on);
    });
  }
}
