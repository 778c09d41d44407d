// Checks of the finished mark: asked for when the hand rests, and shown on the sheet where they are pointed at.

import { make } from "./changes.js";
import { tell } from "./pill.js";
import { html, revision } from "./server.js";

const REST = 1200;
const AGAIN_AFTER = 8000;
const place = document.getElementById("checks");
let timer = 0;
let shownFor = "";

function standing() {
  return `${revision()} ${document.getElementById("main").dataset.needle}`;
}

async function fill() {
  const now = standing();
  try {
    const text = await html("checks/", {});
    if (now !== standing()) return; // a newer change has asked again
    place.innerHTML = text;
    place.classList.remove("stale");
    shownFor = now;
  } catch (error) {
    if (error.status === undefined) throw error;
    place.classList.add("stale"); // without an answer what stood there is not of today
    if (error.status === 429 && now === standing()) timer = setTimeout(fill, AGAIN_AFTER); // others keep it busy
  }
}

function ask() {
  if (shownFor === standing()) return;
  place.classList.toggle("stale", shownFor !== "");
  clearTimeout(timer);
  timer = setTimeout(fill, REST);
}

function mark(row) {
  document.getElementById("marks")?.setAttribute("d", row?.dataset.marks || "");
}

export function watchChecks() {
  for (const kind of ["mouseover", "focusin"]) {
    place.addEventListener(kind, (event) => {
      const row = event.target.closest("[data-marks]");
      mark(row);
      tell(row?.title || "");
    });
  }
  for (const kind of ["mouseleave", "focusout"]) {
    place.addEventListener(kind, () => {
      mark(null);
      tell("");
    });
  }
  place.addEventListener("click", (event) => {
    const mend = event.target.closest("[data-change]");
    if (mend) make(mend.dataset.change, {}, null);
  });
  document.addEventListener("bench:shown", ask);
  ask();
}
