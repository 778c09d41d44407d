// The needle drawn along the plan: the sheet shows the construction as far as it stands; replay walks it by itself.

import { lookAt } from "./changes.js";
import { looking } from "./server.js";

const EACH = 450;
let held = false;
let busy = false;
let wanted = null;
let playing = 0;

function lines() {
  return [...document.querySelectorAll("#plan .step")];
}

export async function setNeedle(at) {
  const count = lines().length;
  await lookAt({ needle: at >= count ? "" : String(Math.max(0, at)) });
}

// One look is under way at a time, and the newest is next.
async function follow(at) {
  wanted = at;
  if (busy) return;
  busy = true;
  while (wanted !== null) {
    const next = wanted;
    wanted = null;
    if (String(next) !== looking().needle) await setNeedle(next);
  }
  busy = false;
}

function onMove(event) {
  if (!held) return;
  const above = lines().filter((line) => {
    const box = line.getBoundingClientRect();
    return box.top + box.height / 2 < event.clientY;
  });
  follow(above.length);
}

export async function replay() {
  playing += 1;
  const mine = playing;
  const count = lines().length;
  for (let at = 1; at <= count && mine === playing; at += 1) {
    await setNeedle(at);
    await new Promise((resolve) => setTimeout(resolve, EACH));
  }
}

export function watchNeedle(plan) {
  plan.addEventListener("pointerdown", (event) => {
    playing += 1; // whatever is touched ends a replay
    if (!event.target.closest(".needle-grip") || event.button !== 0) return;
    event.preventDefault();
    held = true;
    document.body.classList.add("on-needle");
  });
  document.addEventListener("pointermove", onMove);
  for (const kind of ["pointerup", "pointercancel"]) {
    document.addEventListener(kind, () => {
      held = false;
      document.body.classList.remove("on-needle");
    });
  }
}
