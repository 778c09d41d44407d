// The sheet: lights up what belongs together, and hands picks of regions, anchors and figures on.

import { make } from "./changes.js";
import { choosing, picked } from "./chooser.js";
import { leftOut } from "./cut.js";
import { hush, tell } from "./pill.js";
import * as server from "./server.js";
import { currentSlip } from "./slip.js";
import { placeOf } from "./view.js";

function lightStep(step, on) {
  if (!step) return;
  const name = CSS.escape(step);
  for (const element of document.querySelectorAll(`[data-step="${name}"], [data-lights="${name}"]`)) {
    element.classList.toggle("lit", on);
  }
}

function stepOf(element) {
  return element.closest?.("[data-lights]")?.dataset.lights || element.closest?.("[data-step]:not(main)")?.dataset.step;
}

function lightOrbit(region) {
  for (const element of document.querySelectorAll(".region.lit")) element.classList.remove("lit", "under");
  for (const element of document.querySelectorAll(".line.covering")) element.classList.remove("covering");
  if (!region) return hush();
  region.classList.add("under");
  for (const owner of JSON.parse(region.dataset.region).cover) {
    document.getElementById(`l-${owner.split("#")[0]}`)?.classList.add("covering");
  }
  for (const element of region.parentNode.querySelectorAll(`[data-orbit="${region.dataset.orbit}"]`)) {
    element.classList.add("lit");
  }
  return tell(region.dataset.hint);
}

function pick(region) {
  const step = region.closest("[data-carve]").dataset.carve;
  const every = Number(server.looking().every);
  make("pick", { step, region: JSON.parse(region.dataset.region), every, without: leftOut() }, null);
}

// Arrow keys walk from orbit to orbit.
function walkRegions(group, by) {
  const firsts = [];
  const seen = new Set();
  for (const region of group.children) {
    if (!seen.has(region.dataset.orbit)) firsts.push(region);
    seen.add(region.dataset.orbit);
  }
  const at = firsts.findIndex((region) => region.classList.contains("lit"));
  const next = at < 0 ? (by > 0 ? 0 : firsts.length - 1) : (at + by + firsts.length) % firsts.length;
  lightOrbit(firsts[next]);
}

function onKey(event) {
  const group = event.target.closest(".regions");
  if (!group) return;
  if (["ArrowRight", "ArrowDown"].includes(event.key)) walkRegions(group, 1);
  else if (["ArrowLeft", "ArrowUp"].includes(event.key)) walkRegions(group, -1);
  else if (event.key === "Enter" || event.key === " ") {
    const lit = group.querySelector(".region.lit");
    if (lit) pick(lit);
  } else return;
  event.preventDefault();
}

function onClick(event) {
  const dot = event.target.closest(".dot");
  if (dot) return picked(dot.dataset.value);
  const line = event.target.closest(".line");
  if (line && choosing()?.what === "figures") return picked(line.dataset.step, placeOf(event));
  const region = event.target.closest(".region");
  // While a step is begun on the sheet, a press is for that.
  if (region && !currentSlip()) return pick(region);
  return undefined;
}

function onOver(event) {
  lightStep(stepOf(event.target), true);
  const region = event.target.closest(".region");
  if (region) lightOrbit(region);
  const crumb = event.target.closest(".crumb");
  if (crumb) tell(crumb.dataset.said);
  const named = event.target.closest(".dot") || (choosing()?.what === "figures" && event.target.closest(".line"));
  if (named) tell(named.dataset.text || named.dataset.name);
}

function onOut(event) {
  lightStep(stepOf(event.target), false);
  if (event.target.closest(".region, .dot, .line, .crumb")) lightOrbit(null);
}

export function watchSheet(sheet, plan) {
  sheet.addEventListener("click", onClick);
  sheet.addEventListener("keydown", onKey);
  for (const place of [sheet, plan]) {
    place.addEventListener("mouseover", onOver);
    place.addEventListener("mouseout", onOut);
  }
  document.addEventListener("bench:shown", () => {
    if (!document.querySelector(".region.lit")) lightOrbit(null); // that which was pointed at is gone
    tell("");
    if (document.activeElement === document.body && server.looking().view === "regions") {
      sheet.querySelector(".regions")?.focus({ preventScroll: true });
    }
  });
}
