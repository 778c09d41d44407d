// What is drawn on the sketch, pulled into the plan: where the sketch was pressed, or along the way that was drawn over it.
// The server knows what is drawn; it shows on the sheet as it would stand, and another of what it may be meant as when that
// is pointed at.

import { make } from "./changes.js";
import { refused } from "./messages.js";
import { offer, tell } from "./pill.js";
import { preview, takeAllBack } from "./preview.js";
import { ask, looking } from "./server.js";
import { word } from "./words.js";

const MOST = 90;
// What was found: sentences, the likeliest first.
let found = [];
let looked = 0;
// How often it was pulled, or left: of answers only that to the last one counts.
let pulls = 0;

function atNeedle({ text }) {
  const { needle } = looking();
  return { text, ...(needle ? { position: Number(needle) } : {}) };
}

export const anyFound = () => found.length > 0;

export async function pull(given) {
  leaveFound();
  pulls += 1;
  const mine = pulls;
  tell(word("sketch-looking"));
  try {
    const answer = await ask("sketch/pull/", given);
    if (mine !== pulls) return undefined;
    ({ found } = answer);
    looked = 0;
    return preview("add-sentence", atNeedle(found[0]));
  } catch (error) {
    if (mine !== pulls) return undefined;
    if (error.status === 422) return tell(error.message);
    tell("");
    return refused(error, null, null);
  }
}

// The sentence of a free line goes on for long; its beginning tells what it is.
function showFound(text) {
  offer(text.length > MOST ? `${text.slice(0, MOST)} …` : text, found, takeFound);
  [...document.querySelectorAll("#pill button")].forEach((button, k) => {
    for (const kind of ["pointerenter", "focus"]) button.addEventListener(kind, () => lookAtFound(k));
  });
}

function lookAtFound(k) {
  if (k === looked) return;
  looked = k;
  preview("add-sentence", atNeedle(found[k]));
}

export async function takeFound(one = found[0]) {
  found = [];
  await make("add-sentence", atNeedle(one), null);
  document.dispatchEvent(new CustomEvent("bench:pulled"));
}

// An answer that is on its way is of no use any more.
export function leaveFound() {
  pulls += 1;
  if (found.length === 0) return;
  found = [];
  takeAllBack();
  tell("");
}

export function watchPulling() {
  // What is typed is looked at in place of what was found.
  document.addEventListener("focusin", (event) => {
    if (event.target.matches("input, textarea")) leaveFound();
  });
  document.addEventListener("bench:tried", (event) => {
    if (found.length > 0) showFound(event.detail.said || "");
  });
  document.addEventListener("bench:shown", () => {
    found = []; // it was looked at on the sheet as it was
  });
}
