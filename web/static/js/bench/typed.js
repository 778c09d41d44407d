// The typed line: a whole step as one sentence, with what may come next offered by the server.

import { make } from "./changes.js";
import { clearFault } from "./messages.js";
import { preview, takeAllBack } from "./preview.js";
import * as server from "./server.js";
import { closeSlip, currentSlip, openSlip, opening } from "./slip.js";

let asked = 0;
// Which sentence was sent last; Escape means that no answer to it is waited for any more.
let sent = 0;
// The line in which Escape was pressed last: once closes what is offered, or would be; twice leaves the line.
let escaped = null;

function parts(input) {
  const form = input.closest("form");
  return { form, list: form.querySelector(".words-next") };
}

function close(input) {
  const { list } = parts(input);
  list.hidden = true;
  list.replaceChildren();
  input.removeAttribute("aria-activedescendant");
}

function offer(input, answer) {
  const { list } = parts(input);
  const items = answer.words.map((word, index) => {
    const item = document.createElement("li");
    item.id = `word-${index}`;
    item.setAttribute("role", "option");
    item.dataset.at = answer.at;
    item.textContent = word;
    return item;
  });
  list.replaceChildren(...items);
  list.hidden = items.length === 0;
  if (items.length > 0) list.scrollIntoView({ block: "nearest" });
}

async function ask(input) {
  asked += 1;
  const mine = asked;
  const of = input.closest(".step")?.dataset.step || "";
  let answer = { at: 0, words: [] };
  try {
    answer = await server.ask("complete/", { text: input.value, of });
  } catch (error) {
    if (!(error instanceof server.Refusal)) throw error; // without an answer nothing is offered; typing goes on
  }
  if (mine === asked && document.activeElement === input) offer(input, answer);
}

// What a sentence would make stands on the sheet as soon as it can be read; an unfinished one shows nothing.
function trySentence(input) {
  const text = input.value;
  const step = input.closest(".step")?.dataset.step;
  const { needle } = server.looking();
  if (text.trim() === "") takeAllBack();
  else if (step) preview("retype-step", { step, text });
  else preview("add-sentence", needle ? { text, position: Number(needle) } : { text });
}

function chosen(input) {
  return parts(input).list.querySelector("[aria-selected=true]");
}

function move(input, by) {
  const items = [...parts(input).list.children];
  if (items.length === 0) return;
  const from = items.indexOf(chosen(input));
  items[from]?.removeAttribute("aria-selected");
  const item = items[(from + by + items.length + (from < 0 && by < 0 ? 1 : 0)) % items.length];
  item.setAttribute("aria-selected", "true");
  item.scrollIntoView({ block: "nearest" });
  input.setAttribute("aria-activedescendant", item.id);
}

function take(input, item) {
  const head = input.value.slice(0, Number(item.dataset.at));
  const joint = head === "" || head.endsWith(" ") || item.textContent.startsWith(",") ? "" : " ";
  input.value = `${head}${joint}${item.textContent} `;
  input.focus();
  close(input);
  ask(input);
}

// What could be read of a sentence that was refused stands in a slip below it, unless another one is open.
function openNearest({ nearest } = {}) {
  const slip = currentSlip();
  if (nearest && !opening() && (!slip || slip.dataset.read)) openSlip(nearest.kind, "", nearest.fields, true);
}

function empty(input) {
  clearFault(input);
  input.value = "";
  document.dispatchEvent(new CustomEvent("bench:sentence-taken"));
}

async function send(form) {
  const input = form.elements.text;
  close(input);
  const step = form.closest(".step")?.dataset.step;
  const { needle } = server.looking();
  const given = { text: input.value };
  if (step) given.step = step;
  else if (needle) given.position = Number(needle);
  form.dataset.sending = "1";
  const mine = (sent += 1);
  const whenRefused = (data) => !step && mine === sent && openNearest(data);
  const made = await make(step ? "retype-step" : "add-sentence", given, input, whenRefused);
  delete form.dataset.sending;
  if (made && !step) {
    const fresh = document.querySelector(".typing .sentence-input");
    if (currentSlip()?.dataset.read) closeSlip();
    if (fresh) {
      fresh.focus();
      fresh.scrollIntoView({ block: "nearest" });
      empty(fresh);
    }
  }
}

// A step's own sentence is opened for typing in its place.
export function openRetyping(button) {
  const body = button.closest(".step").querySelector(".body");
  const form = document.querySelector(".typing .typed-line").cloneNode(true);
  const input = form.elements.text;
  const list = form.querySelector(".words-next");
  list.id = "words-next-again";
  input.setAttribute("aria-controls", list.id);
  input.dataset.key = `saying:${button.closest(".step").dataset.step}`;
  input.value = button.dataset.text;
  body.querySelector(".sentence").after(form);
  button.disabled = true;
  input.focus();
}

function inStep(input) {
  return input.closest(".step") !== null;
}

// Out of the line: what was typed in it stays; a step that was to be said anew is as it was.
function leave(input) {
  takeAllBack();
  if (inStep(input)) {
    const button = input.closest(".step").querySelector("[data-act=retype]");
    clearFault(input);
    input.closest("form").remove();
    button.disabled = false;
    button.focus();
  } else document.getElementById("drawing").focus({ preventScroll: true });
}

export function watchTyped(plan) {
  document.addEventListener("keydown", (event) => event.key === "Escape" && (sent += 1), { capture: true });
  plan.addEventListener("input", (event) => {
    if (!event.target.matches(".sentence-input")) return;
    clearFault(event.target);
    ask(event.target);
    trySentence(event.target);
  });
  plan.addEventListener("submit", (event) => {
    if (event.target.dataset.form !== "sentence") return;
    event.preventDefault();
    send(event.target);
  });
  document.addEventListener("bench:slip-closed", ({ detail }) => {
    const line = document.querySelector(".typing .sentence-input");
    if (detail.made && detail.read && line) empty(line);
  });
  plan.addEventListener("mousedown", (event) => {
    const item = event.target.closest(".words-next li");
    if (!item) return;
    event.preventDefault();
    take(item.closest("form").elements.text, item);
  });
  plan.addEventListener("focusout", (event) => {
    if (event.target.matches(".sentence-input")) close(event.target);
  });
  plan.addEventListener("keydown", (event) => {
    const input = event.target;
    if (!input.matches(".sentence-input")) return;
    const item = chosen(input);
    const again = escaped === input;
    escaped = event.key === "Escape" ? input : null;
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      move(input, event.key === "ArrowDown" ? 1 : -1);
    } else if (event.key === "Enter" && !item) {
      event.preventDefault();
      send(input.closest("form"));
    } else if ((event.key === "Enter" && item) || (event.key === "Tab" && !parts(input).list.hidden && !event.shiftKey)) {
      event.preventDefault();
      take(input, item || parts(input).list.firstElementChild);
    } else if (event.key === "Escape" && again && parts(input).list.hidden && (input.value.trim() || inStep(input))) {
      event.preventDefault();
      escaped = null;
      leave(input);
    } else if (event.key === "Escape" && (input.value.trim() || inStep(input) || !parts(input).list.hidden)) {
      event.preventDefault();
      asked += 1; // what is still on its way is not offered any more
      close(input);
    }
  });
}
