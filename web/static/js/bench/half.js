// What is half done, an open slip or a half-typed sentence, is kept by this browser over a reload and a visit elsewhere.

import { currentSlip, fieldsOf, openSlip } from "./slip.js";

const place = `kagami:half:${document.getElementById("main").dataset.mark}`;
let restoring = false;

function line() {
  return document.querySelector(".typing .sentence-input");
}

function keep() {
  if (restoring) return;
  const slip = currentSlip();
  const sentence = line()?.value || "";
  const half = {};
  if (sentence) half.sentence = sentence;
  if (slip && !slip.dataset.done) half.slip = { kind: slip.dataset.kind, fields: fieldsOf(slip), read: Boolean(slip.dataset.read) };
  try {
    if (Object.keys(half).length > 0) localStorage.setItem(place, JSON.stringify(half));
    else localStorage.removeItem(place);
  } catch {
    // A browser that keeps nothing loses it with the page.
  }
}

function kept() {
  try {
    return JSON.parse(localStorage.getItem(place)) || {};
  } catch {
    return {};
  }
}

export async function restoreHalf() {
  const { sentence, slip } = kept();
  if (sentence && line()) line().value = sentence;
  if (!slip) return;
  restoring = true;
  await openSlip(slip.kind, "", slip.fields, slip.read);
  restoring = false;
}

export function watchHalf(plan) {
  plan.addEventListener("input", keep);
  for (const kind of ["bench:slip-opened", "bench:slip-filled", "bench:slip-closed", "bench:sentence-taken"]) {
    document.addEventListener(kind, keep);
  }
}
