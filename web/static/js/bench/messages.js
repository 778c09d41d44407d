// Says what happened: quietly in the status line, at a field that is wrong, or in the banner.

import { keepApart } from "./server.js";
import { word } from "./words.js";

const banner = document.getElementById("banner");
const silence = document.getElementById("silence");

export function announce(text) {
  document.getElementById("said").textContent = text;
}

function button(text, action) {
  const element = document.createElement("button");
  element.type = "button";
  element.className = "ink-button small";
  element.textContent = text;
  element.addEventListener("click", action);
  return element;
}

export function clearBanner() {
  banner.hidden = true;
  banner.replaceChildren();
}

// That the server is silent is said apart from all else, and taken back when it answers.
export function watchSilence() {
  document.addEventListener("bench:silence", (event) => {
    silence.hidden = !event.detail;
    silence.textContent = event.detail ? word("silent") : "";
  });
}

export function showBanner(text, ...buttons) {
  const words = document.createElement("p");
  words.textContent = text;
  banner.replaceChildren(words, ...buttons);
  banner.hidden = false;
}

function showConflict(refusal, attempt) {
  const newest = button(word("newest"), () => location.reload());
  const apart = button(word("apart"), async () => {
    try {
      const answer = await keepApart(attempt.body, attempt.from);
      location.assign(answer.address);
    } catch (error) {
      showBanner(error.message, newest);
    }
  });
  showBanner(refusal.message, newest, ...(attempt?.body?.kind ? [apart] : []));
}

export function clearFault(element) {
  element.removeAttribute("aria-invalid");
  const id = element.getAttribute("aria-describedby");
  if (id) document.getElementById(id)?.remove();
  element.removeAttribute("aria-describedby");
}

// How many faults were told, so that each has an id of its own.
let told = 0;

// What is said to be wrong with what was typed in a field; empty where nothing is.
export function faultOf(element) {
  const id = element.getAttribute("aria-describedby");
  return (id && document.getElementById(id)?.textContent) || "";
}

export function showFault(element, text) {
  clearFault(element);
  const fault = document.createElement("p");
  fault.className = "fault";
  fault.id = `fault-${++told}`;
  fault.setAttribute("role", "alert");
  fault.textContent = text;
  element.setAttribute("aria-invalid", "true");
  element.setAttribute("aria-describedby", fault.id);
  const sentence = element.closest(".sentence") || element.closest(".step:has(> .number:focus)")?.querySelector(".sentence");
  if (sentence) sentence.after(fault);
  else (element.closest(".measures, .typed-line, .sketch-line") || element.parentElement).append(fault);
}

// A refusal that is about a field stands at the field; all others stand in the banner.
export function refused(error, element, attempt) {
  if (!(error instanceof Error) || error.status === undefined) throw error;
  if (error.status === 409) return showConflict(error, attempt);
  if (error.status === 422 && element?.closest("#plan")) {
    showFault(element, error.message);
    const at = error.data.position;
    if (error.data.mended) {
      element.value = error.data.mended; // the next Enter takes it
      return element.focus();
    }
    if (typeof at === "number" && element.setSelectionRange) {
      element.focus();
      element.setSelectionRange(at, Math.max(at + 1, element.value.length));
    }
    return undefined;
  }
  if (error.data.code === "needed-by-values") {
    const { kind, given } = attempt.body;
    const again = { detail: { kind, given: { ...given, freeze: true } } };
    const freeze = button(word("freeze"), () => document.dispatchEvent(new CustomEvent("bench:again", again)));
    return showBanner(error.message, freeze, button(word("close"), clearBanner));
  }
  return showBanner(error.message, button(word("close"), clearBanner));
}
