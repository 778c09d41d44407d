// The strip of verbs: one chapter is open at a time, a verb opens its slip.

import { chosen } from "./chosen.js";
import { openSlip } from "./slip.js";

function openChapter(chapter) {
  for (const other of document.querySelectorAll(".verbs .chapter")) {
    const on = other === chapter;
    other.classList.toggle("open", on);
    other.querySelector(".chapter-word").setAttribute("aria-expanded", String(on));
  }
}

export function watchStrip() {
  const strip = document.querySelector(".verbs");
  openChapter(strip.querySelector('.chapter[data-chapter="2"]'));
  strip.addEventListener("click", (event) => {
    const word = event.target.closest(".chapter-word");
    if (word) openChapter(word.parentNode);
  });
  document.addEventListener("click", (event) => {
    const verb = event.target.closest("[data-verb]");
    if (!verb) return;
    const { takes } = verb.dataset;
    const steps = chosen();
    // A single figure that happens to be open does not limit what is made from many.
    openSlip(verb.dataset.verb, takes && (takes !== "many" || steps.length > 1) ? steps.join(" ") : "");
  });
  document.addEventListener("bench:slip-opened", (event) => {
    const verb = strip.querySelector(`[data-verb="${event.detail.kind}"]`);
    openChapter(verb.closest(".chapter"));
    verb.classList.add("on");
  });
  document.addEventListener("bench:slip-closed", () => strip.querySelector(".on")?.classList.remove("on"));
}
