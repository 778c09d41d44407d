// What was typed and is not answered yet: kept in the browser until it is, so that no outage and no reload loses it.

import { word } from "./words.js";

const main = document.getElementById("main");
const place = `kagami:unsent:${main.dataset.mark}`;

function stored() {
  try {
    const found = JSON.parse(localStorage.getItem(place) || "[]");
    return Array.isArray(found) ? found : [];
  } catch {
    return [];
  }
}

function store(entries) {
  try {
    if (entries.length > 0) localStorage.setItem(place, JSON.stringify(entries));
    else localStorage.removeItem(place);
  } catch {
    // A browser that keeps nothing still sends it; only a reload would lose it.
  }
}

let entries = [];
// A change is answered at once, as a rule; only when it is not does the page speak of it.
let waitsLong = false;

export function unsent() {
  return entries;
}

// Beside the title stands what is saved; while something waits, it says that instead.
function tell() {
  const saved = document.querySelector(".saved");
  if (!saved) return;
  saved.dataset.usual ??= saved.textContent;
  saved.classList.toggle("waiting", entries.length > 0 && waitsLong);
  saved.textContent = entries.length > 0 && waitsLong ? word("unsaved") : saved.dataset.usual;
}

function mark(entry, on) {
  if (!entry.field) return;
  const field = document.querySelector(`[data-key="${CSS.escape(entry.field)}"]`);
  if (!field) return;
  field.classList.toggle("unsaved", on);
  if (on && entry.typed !== undefined) field.value = entry.typed;
}

export function keep(entry) {
  entries = [...entries.filter((known) => known.id !== entry.id), entry];
  store(entries);
  mark(entry, true);
  if (waitsLong) tell();
}

export function forget(id) {
  const entry = entries.find((known) => known.id === id);
  entries = entries.filter((known) => known.id !== id);
  store(entries);
  tell();
  if (entry && !entries.some((known) => known.field === entry.field)) mark(entry, false);
}

// After the page was set anew: what waits still stands in its fields.
export function markUnsent() {
  for (const entry of entries) mark(entry, true);
  if (waitsLong) tell();
}

document.addEventListener("bench:silence", (event) => {
  waitsLong = event.detail;
  tell();
});

// What an earlier page of this mark left unsent.
export function left() {
  return stored();
}
