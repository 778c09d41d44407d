// A line drawn across regions gathers them into the piece, all round the symmetry; with Alt it takes them away.

import { make } from "./changes.js";
import { tell } from "./pill.js";
import { pinching } from "./pan.js";
import { looking } from "./server.js";
import { word } from "./words.js";

const FAR = 5;
const EACH = 3;
let held = null;
let swept = false;

// The regions along the way from the last place to this one, so that none is jumped over.
function cross(event) {
  const steps = Math.max(1, Math.ceil(Math.hypot(event.clientX - held.x, event.clientY - held.y) / EACH));
  for (let k = 1; k <= steps; k += 1) {
    const x = held.x + ((event.clientX - held.x) * k) / steps;
    const y = held.y + ((event.clientY - held.y) * k) / steps;
    const region = document.elementsFromPoint(x, y).find((element) => element.matches(".region"));
    if (region) held.regions.add(region);
  }
  [held.x, held.y] = [event.clientX, event.clientY];
}

function show(drops) {
  const group = held.group;
  const orbits = new Set([...held.regions].map((region) => region.dataset.orbit));
  const alone = looking().every === "0";
  for (const region of group.children) {
    const reached = alone ? held.regions.has(region) : orbits.has(region.dataset.orbit);
    region.classList.toggle("lit", reached);
    region.classList.toggle("gathered", reached && !drops);
  }
  tell(`${word(drops ? "takes" : "gathers")} ${held.regions.size}`);
}

function onDown(event) {
  const region = event.target.closest(".region");
  if (!region || event.button !== 0 || held || pinching()) return;
  held = { pointer: event.pointerId, group: region.parentNode, regions: new Set([region]), x: event.clientX, y: event.clientY };
  held.from = [event.clientX, event.clientY];
}

function onMove(event) {
  if (!held || event.pointerId !== held.pointer) return;
  if (!held.far && Math.hypot(event.clientX - held.from[0], event.clientY - held.from[1]) < FAR) return;
  if (!held.far) document.getElementById("drawing").setPointerCapture(event.pointerId);
  held.far = true;
  cross(event);
  show(event.altKey);
}

function letGo() {
  for (const region of held.group.children) region.classList.remove("lit", "gathered");
  const was = held;
  held = null;
  tell("");
  return was;
}

async function onUp(event) {
  if (!held || event.pointerId !== held.pointer) return;
  const { far, regions, group } = letGo();
  if (!far) return;
  swept = true;
  setTimeout(() => {
    swept = false;
  });
  const step = group.dataset.carve;
  const names = [...regions].map((region) => JSON.parse(region.dataset.region));
  await make("gather", { step, regions: names, keep: !event.altKey, every: Number(looking().every) }, null);
}

export function watchGathering(sheet) {
  sheet.addEventListener("pointerdown", onDown);
  sheet.addEventListener("pointermove", onMove);
  sheet.addEventListener("pointerup", onUp);
  sheet.addEventListener("pointercancel", () => held && letGo());
  document.addEventListener("bench:leave-off", () => held && letGo());
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !held?.far) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    letGo();
  });
  // The click that ends a sweep is none.
  sheet.addEventListener(
    "click",
    (event) => {
      if (swept) event.stopPropagation();
    },
    { capture: true },
  );
}
