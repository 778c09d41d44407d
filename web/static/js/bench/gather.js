// A line drawn across regions gathers them into the piece, all round the symmetry; with Alt it takes them away.

import { make } from "./changes.js";
import { leftOut } from "./cut.js";
import { along, hold, watchLeavingOff } from "./gesture.js";
import { free } from "./held_keys.js";
import { tell } from "./pill.js";
import { pinching } from "./pan.js";
import { looking } from "./server.js";
import { word } from "./words.js";

const FAR = 5;
let held = null;
let swept = false;

function cross(event) {
  for (const [x, y] of along(held.last, event)) {
    const region = document.elementsFromPoint(x, y).find((element) => element.matches(".region"));
    if (region) held.regions.add(region);
  }
  held.last = event;
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
  held = { pointer: event.pointerId, group: region.parentNode, regions: new Set([region]), from: event, last: event };
}

function onMove(event) {
  if (!held || event.pointerId !== held.pointer) return;
  if (!held.far && Math.hypot(event.clientX - held.from.clientX, event.clientY - held.from.clientY) < FAR) return;
  if (!held.far) hold(event);
  held.far = true;
  cross(event);
  show(free(event));
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
  await make("gather", { step, regions: names, keep: !free(event), every: Number(looking().every), without: leftOut() }, null);
}

export function watchGathering(sheet) {
  sheet.addEventListener("pointerdown", onDown);
  sheet.addEventListener("pointermove", onMove);
  sheet.addEventListener("pointerup", onUp);
  watchLeavingOff(sheet, () => held !== null, letGo);
  // The click that ends a sweep is none.
  sheet.addEventListener(
    "click",
    (event) => {
      if (swept) event.stopPropagation();
    },
    { capture: true },
  );
}
