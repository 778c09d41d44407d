// Which figures cut the regions of the open carve: one that is clicked in its sentence is left out, and a disc that it
// broke into shards is one region again.

import { lookAt } from "./changes.js";
import { looking } from "./server.js";

export function leftOut() {
  return (looking().without || "").split(" ").filter(Boolean);
}

function toggle(figure) {
  const out = leftOut();
  const without = out.includes(figure) ? out.filter((known) => known !== figure) : [...out, figure];
  return lookAt({ without: without.join(" "), view: "regions" });
}

export function cut(button) {
  toggle(button.dataset.figure);
}

function carving(element) {
  const step = element.closest(".step.active");
  return step?.querySelector(".kept") && looking().view === "regions" && element.closest(".slot.figures");
}

function strike() {
  const out = leftOut();
  for (const named of document.querySelectorAll(".step .slot.figures .named")) {
    named.classList.toggle("uncut", Boolean(carving(named)) && out.includes(named.dataset.lights));
  }
}

export function watchCutting(plan) {
  plan.addEventListener(
    "click",
    (event) => {
      // The glyph leaves it out; its name opens the list of figures.
      const named = event.target.closest(".glyph")?.closest(".slot.figures .named");
      if (!named || !carving(named)) return;
      event.stopPropagation();
      toggle(named.dataset.lights);
    },
    { capture: true },
  );
  document.addEventListener("bench:shown", strike);
  strike();
}
