// Variants in the Mirror: drawn when they are asked for, and anew when the hand rests while they are open.

import { html, revision } from "./server.js";

const REST = 900;
const place = document.getElementById("variants");
let timer = 0;
let shownFor = "";

async function fill() {
  const now = revision();
  if (!place.open || shownFor === now) return;
  try {
    place.querySelector(".tiles").innerHTML = await html("delivery/tiles/", {});
    shownFor = now;
  } catch (error) {
    if (error.status === undefined) throw error; // the next change asks again
  }
}

export function watchVariants() {
  place.addEventListener("toggle", fill);
  document.addEventListener("bench:shown", () => {
    clearTimeout(timer);
    timer = setTimeout(fill, REST);
  });
}
