// Choosing anchors and figures for a slot of a sentence: from a list, or on the sheet.

import { make } from "./changes.js";
import { refused } from "./messages.js";
import { tell } from "./pill.js";
import * as server from "./server.js";
import { fieldsOf, refill } from "./slip.js";

let open = null; // the slot that is being filled, and its list

export function choosing() {
  return open;
}

export function closeChooser() {
  if (!open) return;
  open.slot.setAttribute("aria-expanded", "false");
  open.list.remove();
  document.getElementById("dots")?.replaceChildren();
  document.getElementById("sheet").classList.remove("picking-figures");
  open = null;
}

export async function openChooser(slot) {
  const again = open?.slot === slot;
  closeChooser();
  if (again) return;
  const { what, field, many, value } = slot.dataset;
  const of = slot.closest("[data-step]:not(main)")?.dataset.step || "";
  const kind = slot.closest("form.slip")?.dataset.kind || "";
  try {
    const text = await server.html("choices/", { what, of, kind, field, many: many || "", chosen: value });
    const holder = document.createElement("div");
    holder.innerHTML = text;
    const list = holder.querySelector(".chooser");
    slot.closest(".sentence").after(list);
    slot.setAttribute("aria-expanded", "true");
    open = { slot, list, many: many === "1", what };
    document.getElementById("dots")?.append(...holder.querySelector(".dots-source").children);
    document.getElementById("sheet").classList.toggle("picking-figures", what === "figures");
    (slot.closest("form.slip") || list).scrollIntoView({ block: "nearest" });
    (list.querySelector("[aria-pressed=true]") || list.querySelector(".choice"))?.focus();
  } catch (error) {
    refused(error, null, null);
  }
}

function fill(slot, values, choices) {
  slot.dataset.value = values.join(" ");
  const copies = choices.map((choice) => {
    const named = document.createElement("span");
    named.className = choice.className.replace("choice", "named");
    named.append(...[...choice.childNodes].map((node) => node.cloneNode(true)), " ");
    return named;
  });
  slot.replaceChildren(...copies);
}

function settle(values, choices, at) {
  const { slot, many } = open;
  const step = slot.closest("[data-step]:not(main)")?.dataset.step;
  const field = slot.dataset.field;
  closeChooser();
  slot.focus();
  const slip = slot.closest("form.slip");
  if (slip && at && !many) refill(slip, { ...fieldsOf(slip), [field]: values[0] }, at);
  else if (slip) {
    fill(slot, values, choices);
    document.dispatchEvent(new CustomEvent("bench:slip-filled"));
  } else make("set-field", { step, field, value: many ? values : values[0], ...(at && { at }) }, slot);
}

function chosen() {
  return [...open.list.querySelectorAll("[aria-pressed=true]")];
}

// One value was picked, in the list or on the sheet, there `at` a place in u.
export function picked(value, at) {
  if (!open) return;
  const choice = [...open.list.querySelectorAll(".choice")].find((entry) => entry.dataset.value === value);
  if (!choice) {
    if (open.list.dataset.only) tell(open.list.dataset.only);
    return;
  }
  if (!open.many) {
    settle([value], [choice], at);
    return;
  }
  choice.setAttribute("aria-pressed", choice.getAttribute("aria-pressed") === "true" ? "false" : "true");
}

export function take() {
  const choices = chosen();
  settle(choices.map((choice) => choice.dataset.value), choices);
}

function step(list, from, by) {
  const choices = [...list.querySelectorAll("button")];
  choices[(choices.indexOf(from) + by + choices.length) % choices.length]?.focus();
}

export function watchChooser(plan) {
  plan.addEventListener("click", (event) => {
    const choice = event.target.closest(".choice");
    if (choice) picked(choice.dataset.value);
  });
  plan.addEventListener("keydown", (event) => {
    if (!open || !event.target.closest(".chooser")) return;
    if (event.key === "Escape") {
      const { slot } = open;
      closeChooser();
      slot.focus();
      event.stopPropagation();
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      step(open.list, event.target, event.key === "ArrowDown" ? 1 : -1);
    }
  });
  document.addEventListener("bench:shown", closeChooser);
  document.addEventListener("bench:slip-closed", () => {
    if (open && !open.slot.isConnected) closeChooser();
  });
}
