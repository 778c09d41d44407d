// The slip: a new step's sentence, completed in the plan at the needle.

import { make } from "./changes.js";
import { focusTyping } from "./line.js";
import { refused } from "./messages.js";
import * as server from "./server.js";

let onItsWay = null;
// How many were asked for: one that comes when another was asked for since, or none any more, is not opened.
let asked = 0;

// A promise of whether the slip that was asked for came; null when none was.
export function opening() {
  return onItsWay;
}

// What was asked for and has not come is not wanted any more.
export function dropOpening() {
  asked += 1;
  onItsWay = null;
}

export function currentSlip() {
  return document.querySelector("form.slip");
}

// `made` says whether its step was; then it may be gone from the page already.
export function closeSlip(made = false, slip = currentSlip()) {
  slip?.remove();
  document.dispatchEvent(new CustomEvent("bench:slip-closed", { detail: { made, read: Boolean(slip?.dataset.read) } }));
}

// `figures` are those to begin with; `fields` what stood in a slip that is opened again, or was `read` in a sentence
// that is still being typed, which keeps the focus.
export async function openSlip(kind, figures, fields, read = false) {
  const mine = open(kind, figures, fields, read);
  onItsWay = mine;
  await mine;
  if (onItsWay === mine) onItsWay = null;
}

// Where a slip is gone on with: its words, or its first value, or what adds it; from each of them Enter adds it, while
// places and figures are given on the sheet. What is typed there takes the place of what it began with.
function goOn(slip) {
  const words = slip.querySelector("textarea[data-field=text]");
  const typed = words || slip.querySelector("input.value:not(.own)") || slip.querySelector("textarea.value");
  const first = typed || slip.querySelector("button[type=submit]");
  first.focus();
  if (first.matches("input, textarea")) first.select();
}

async function open(kind, figures, fields, read) {
  closeSlip();
  const mine = (asked += 1);
  try {
    const wanted = fields ? { fields: JSON.stringify(fields), ...(read && { read: "1" }) } : figures ? { figures } : {};
    const text = await server.html(`slip/${kind}/`, wanted);
    if (mine !== asked) return false;
    const place = document.getElementById("slip-place");
    place.innerHTML = text;
    const slip = currentSlip();
    slip.scrollIntoView({ block: "nearest" });
    for (const [name, value] of Object.entries(fields || {})) {
      const field = slip.querySelector(`[name="${CSS.escape(name)}"]`); // of its elements, “length” is how many there are
      if (!field || typeof value !== "string") continue;
      field.value = value;
      if (field.matches("input")) field.size = Math.max(1, value.length);
    }
    if (!read) goOn(slip);
    const given = figures ? figures.split(" ").length : 0;
    document.dispatchEvent(new CustomEvent("bench:slip-opened", { detail: { kind, given } }));
    return true;
  } catch (error) {
    if (mine === asked) refused(error, null, null);
    return false;
  }
}

// Other figures stand in an open slip, with their signs; what is typed in it stays. `at` is where one was picked, in u.
export async function refill(slip, fields, at) {
  try {
    const holder = document.createElement("div");
    const wanted = { fields: JSON.stringify(fields), ...(at && { at: at.map((way) => way.toFixed(6)).join() }) };
    holder.innerHTML = await server.html(`slip/${slip.dataset.kind}/`, wanted);
    for (const fresh of holder.querySelectorAll(".slot")) {
      slip.querySelector(`.slot[data-field="${CSS.escape(fresh.dataset.field)}"]`)?.replaceWith(fresh);
    }
    document.dispatchEvent(new CustomEvent("bench:slip-filled"));
  } catch (error) {
    refused(error, null, null);
  }
}

export function fieldsOf(slip) {
  const fields = {};
  for (const element of slip.querySelectorAll("input.value, select.value, textarea.value")) fields[element.name] = element.value;
  for (const slot of slip.querySelectorAll(".slot")) {
    const many = slot.dataset.many === "1";
    fields[slot.dataset.field] = many ? slot.dataset.value.split(" ").filter(Boolean) : slot.dataset.value;
  }
  return fields;
}

// The step is added as the slip says it; whether it was.
export async function add(slip) {
  const given = { step_kind: slip.dataset.kind, fields: fieldsOf(slip) };
  const { needle } = server.looking();
  if (needle) given.position = Number(needle);
  slip.dataset.done = "1";
  const made = await make("add-step", given, slip.querySelector("input.value:not(.own)") || slip.querySelector(".slot"));
  if (!made) {
    delete slip.dataset.done;
    return false;
  }
  closeSlip(true, slip);
  focusTyping();
  return true;
}

export function watchSlip(plan) {
  plan.addEventListener("submit", (event) => {
    if (!event.target.matches("form.slip")) return;
    event.preventDefault();
    add(event.target);
  });
  plan.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || event.shiftKey || !event.target.matches("form.slip textarea")) return;
    event.preventDefault(); // words and lists are one line, however they wrap
    add(currentSlip());
  });
  plan.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !event.target.closest("form.slip") || document.querySelector(".chooser")) return;
    event.preventDefault();
    closeSlip();
    focusTyping();
  });
}
