// What was typed and is not answered yet: kept in the browser until it is, so that no outage and no reload loses it.

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

export function unsent() {
  return entries;
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
}

export function forget(id) {
  const entry = entries.find((known) => known.id === id);
  entries = entries.filter((known) => known.id !== id);
  store(entries);
  if (entry && !entries.some((known) => known.field === entry.field)) mark(entry, false);
}

// After the page was set anew: what waits still stands in its fields.
export function markUnsent() {
  for (const entry of entries) mark(entry, true);
}

// What an earlier page of this mark left unsent.
export function left() {
  return stored();
}
