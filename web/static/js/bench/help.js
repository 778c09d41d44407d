// The sheet of all verbs and keys, with search.

import { openSlip } from "./slip.js";

const help = document.getElementById("help");
const search = document.getElementById("help-search");

function filter() {
  const wanted = search.value.trim().toLowerCase();
  for (const entry of help.querySelectorAll("[data-find]")) {
    entry.hidden = !entry.textContent.toLowerCase().includes(wanted);
  }
  for (const section of help.querySelectorAll("section")) {
    section.hidden = section.querySelector("[data-find]:not([hidden])") === null;
  }
}

export function openHelp() {
  search.value = "";
  filter();
  help.showModal();
  search.focus();
}

export function closeHelp() {
  help.close();
}

function take(kind) {
  closeHelp();
  openSlip(kind, "");
}

export function watchHelp() {
  search.addEventListener("input", filter);
  search.addEventListener("keydown", (event) => {
    const first = help.querySelector("li[data-find]:not([hidden]) [data-help-verb]");
    if (event.key === "Enter" && first) take(first.dataset.helpVerb);
  });
  help.addEventListener("click", (event) => {
    const verb = event.target.closest("[data-help-verb]");
    if (verb) take(verb.dataset.helpVerb);
  });
}
