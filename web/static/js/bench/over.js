// The value of a dimension typed over where it stands on the sheet.

import { make } from "./changes.js";
import { activeStep, handleAt } from "./handles.js";
import { preview, takeAllBack } from "./preview.js";

const TYPED = ["length", "angle", "count"];

function given(handle, value) {
  return { step: activeStep(), field: handle.dataset.field, value };
}

// The field is let go of first: taking it away takes its focus, which would close it again.
function closeOver() {
  const input = document.querySelector(".over");
  if (!input) return;
  input.classList.remove("over");
  input.remove();
}

export function typeOver(handle) {
  if (!TYPED.includes(handle.dataset.form) || JSON.parse(handle.dataset.part).length > 0) return;
  closeOver();
  const text = handle.querySelector(".amount, .figure").getBoundingClientRect();
  // Beside the sheet, not in it: what the server sends anew takes nothing away from a hand that types.
  const table = document.getElementById("sheet").parentNode;
  const sheet = table.getBoundingClientRect();
  const input = document.createElement("input");
  input.className = "over value";
  input.value = handle.dataset.value;
  input.size = Math.max(4, input.value.length + 1);
  input.setAttribute("aria-label", handle.dataset.said);
  input.autocomplete = "off";
  input.spellcheck = false;
  table.append(input);
  input.style.left = `${text.left + text.width / 2 - sheet.left - input.offsetWidth / 2}px`;
  input.style.top = `${text.top + text.height / 2 - sheet.top - input.offsetHeight / 2}px`;
  const { id } = handle;
  input.addEventListener("input", () => {
    input.size = Math.max(4, input.value.length + 1);
    preview("set-field", given(handle, input.value));
  });
  input.addEventListener("keydown", async (event) => {
    if (event.key === "Escape") {
      event.stopPropagation();
      takeAllBack();
      closeOver();
      document.getElementById(id)?.focus({ preventScroll: true });
    } else if (event.key === "Enter") {
      event.preventDefault();
      const { value } = input;
      if (await make("set-field", given(handle, value), input)) closeOver();
      document.getElementById(id)?.focus({ preventScroll: true });
    }
  });
  input.addEventListener("blur", () => {
    if (!input.classList.contains("over")) return;
    takeAllBack();
    closeOver();
  });
  input.focus();
  input.select();
}

export function watchOver(sheet) {
  sheet.addEventListener("dblclick", (event) => {
    const handle = handleAt(event, document.elementFromPoint(event.clientX, event.clientY));
    if (handle) typeOver(handle);
  });
  sheet.addEventListener("keydown", (event) => {
    const handle = event.key === "Enter" && event.target.closest(".handle");
    if (!handle || !TYPED.includes(handle.dataset.form)) return;
    event.preventDefault();
    typeOver(handle);
  });
}
