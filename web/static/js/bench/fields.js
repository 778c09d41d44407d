// Values edited in place: what is typed goes to the server when the field is left or Enter is pressed.

import { make } from "./changes.js";
import { focusTyping } from "./line.js";
import { clearFault } from "./messages.js";
import { isReplacing } from "./page.js";
import { preview, takeAllBack } from "./preview.js";
import { currentSlip } from "./slip.js";

const KINDS = {
  module: (field) => ["set-module", { value: field.value }],
  measure: (field) => ["set-measure", { name: field.dataset.name, value: field.value }],
  tone: (field) => ["set-tone", { name: field.dataset.name, value: field.value }],
  "rename-tone": (field) => ["rename-tone", { name: field.dataset.name, new: field.value }],
  "rename-measure": (field) => ["rename-measure", { name: field.dataset.name, new: field.value }],
  "rename-mark": (field) => ["rename-mark", { title: field.value }],
  head: (field, step) => ["set-heading", { step, heading: field.value }],
  rename: (field, step) => ["rename-step", { step, name: field.value }],
};

function isField(element) {
  return element.matches(".value") && !element.closest("form, .sketch");
}

// Whose values can be looked at while they are typed.
const TRIED = ["measure", "tone", undefined];

function changeOf(field) {
  const step = field.closest("[data-step]:not(main)")?.dataset.step;
  if (field.dataset.act) return KINDS[field.dataset.act](field, step);
  return ["set-field", { step, field: field.dataset.field, value: field.value }];
}

function commit(field) {
  return make(...changeOf(field), field);
}

function tryField(field) {
  if (!isField(field) || !TRIED.includes(field.dataset.act)) return;
  if (field.value === field.defaultValue) takeAllBack();
  else preview(...changeOf(field));
}

// Sends what was typed once; a field that the page itself takes away while it is typed in is left alone.
function commitTyped(field) {
  if (isReplacing() || field.value === field.defaultValue || field.value === field.dataset.sent) return;
  field.dataset.sent = field.value;
  commit(field);
}

export function watchFields(plan) {
  plan.addEventListener("change", (event) => {
    if (!isField(event.target)) return;
    if (event.target.matches("select")) commit(event.target);
    else commitTyped(event.target);
  });
  plan.addEventListener("focusout", (event) => {
    if (event.target.matches("input, textarea") && isField(event.target)) commitTyped(event.target);
  });
  plan.addEventListener("input", (event) => {
    if (!event.target.matches("input.value, textarea.value")) return;
    if (event.target.matches("input")) event.target.size = Math.max(1, event.target.value.length);
    delete event.target.dataset.sent;
    clearFault(event.target);
    tryField(event.target);
  });
  plan.addEventListener("keydown", (event) => {
    if (event.key === "Enter" && !event.shiftKey && event.target.matches("textarea") && isField(event.target)) {
      event.preventDefault(); // a list is one line, however it wraps
      commitTyped(event.target);
      return;
    }
    if (event.key !== "Escape" || !isField(event.target) || !event.target.matches("input, textarea")) return;
    const untouched = event.target.value === event.target.defaultValue;
    if (untouched && currentSlip()) return;
    event.preventDefault();
    if (untouched) focusTyping();
    event.target.value = event.target.defaultValue;
    clearFault(event.target);
    takeAllBack();
  });
  plan.addEventListener("keydown", (event) => {
    const form = event.key === "Escape" && event.target.closest(".measure-form");
    if (!form) return;
    clearFault(form.elements.name);
    form.reset();
    form.hidden = true;
    plan.querySelector(`[data-opens="${form.dataset.form}"]`).hidden = false;
    focusTyping();
  });
  plan.addEventListener("submit", async (event) => {
    const adds = { measure: "add-measure", tone: "add-tone" }[event.target.dataset.form];
    if (!adds) return;
    event.preventDefault();
    const form = event.target;
    const given = { name: form.elements.name.value, value: form.elements.value.value };
    if (await make(adds, given, form.elements.name)) focusTyping();
  });
}
