// Range: what the form asks for is put in the page's place; its numbers are drawn sideways along a small ruler, and the
// marks follow when the hand lets go.

import { look } from "./leaves.js";
import { EACH, rulerBelow, showStops } from "./ruler.js";

const FAR = 5;
const main = document.getElementById("main");
let held = null;

function show(form) {
  const asked = new URLSearchParams(new FormData(form));
  look(`${form.action}?${asked}`);
}

// What a number would read so many stops on is told by the server; one question is under way, the newest next.
async function goOn() {
  const mine = held;
  mine.asking = true;
  while (held === mine && mine.by !== mine.told) {
    const by = mine.by;
    const query = new URLSearchParams({ ...mine.what, text: mine.before, by, free: mine.free ? "1" : "" });
    const response = await fetch(`${mine.form.dataset.nudge}?${query}`, { credentials: "same-origin" });
    const answer = await response.json();
    mine.told = by;
    if (mine.left) return;
    if (answer.text !== undefined) mine.field.value = answer.text;
    mine.field.setAttribute("aria-invalid", answer.fault ? "true" : "false");
    mine.field.title = answer.fault || "";
  }
  mine.asking = false;
}

function letGo() {
  document.body.classList.remove("scrubbing");
  held.ruler?.remove();
  const was = held;
  held = null;
  return was;
}

main.addEventListener("pointerdown", (event) => {
  const field = event.target.closest(".range-form input.value");
  if (!field || event.button !== 0 || field === document.activeElement) return;
  const { form } = field;
  const what = { of: field.dataset.of || "" };
  held = { field, form, what, pointer: event.pointerId, from: event.clientX, before: field.value, by: null, told: null };
});

document.addEventListener("pointermove", (event) => {
  if (!held || event.pointerId !== held.pointer) return;
  if (event.buttons === 0) {
    leaveOff(); // it was let go of outside the window
    return;
  }
  const way = event.clientX - held.from;
  if (held.by === null && Math.abs(way) < FAR) return;
  if (held.by === null) {
    held.field.blur();
    getSelection().removeAllRanges();
    document.body.classList.add("scrubbing");
    held.ruler = rulerBelow(held.field);
  }
  held.by = Math.max(-1000, Math.min(1000, Math.round(way / EACH)));
  held.free = event.altKey;
  showStops(held.ruler, held.by);
  if (!held.asking) goOn();
});

document.addEventListener("pointerup", async (event) => {
  if (!held || event.pointerId !== held.pointer) return;
  if (held.by === null) {
    held = null;
    return;
  }
  const mine = held;
  while (mine.by !== mine.told) await new Promise((done) => setTimeout(done, 10));
  if (held !== mine) return;
  letGo();
  if (mine.field.value !== mine.before) show(mine.form);
});

function leaveOff() {
  if (!held) return;
  const was = letGo();
  was.left = true;
  was.field.value = was.before;
}

document.addEventListener("pointercancel", leaveOff);
document.addEventListener("keydown", (event) => {
  if (event.key === "Escape" && held) {
    event.preventDefault();
    leaveOff();
  }
});

main.addEventListener("submit", (event) => {
  if (!event.target.matches(".range-form")) return;
  event.preventDefault();
  show(event.target);
});

main.addEventListener("change", (event) => {
  const form = event.target.closest(".range-form");
  if (form && event.target.matches("select")) show(form);
});

main.dataset.ready = "yes";
