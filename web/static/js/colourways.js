// Colourways: what a form does comes back as the page, and is put in its place, so that focus and scroll stay.

import { look, plainClick, send } from "./leaves.js";

const main = document.getElementById("main");

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (form.method !== "post" || !form.closest("#main, #progress")) return;
  event.preventDefault();
  send(form, event.submitter);
});

// A value that was typed is taken when its field is left, as on the Bench.
document.addEventListener("change", (event) => {
  const form = event.target.closest(".one form");
  if (form && event.target.matches("input.value, input[type=checkbox]") && form.querySelector(".enter")) form.requestSubmit(form.querySelector(".enter"));
});

document.addEventListener("click", (event) => {
  const link = event.target.closest(".plates a");
  if (!link || !plainClick(event)) return;
  event.preventDefault();
  look(link.href);
});

// Arrow keys walk through the plates.
document.addEventListener("keydown", (event) => {
  const links = [...document.querySelectorAll(".plates a")];
  const here = links.indexOf(document.activeElement);
  const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (here < 0 || !step) return;
  event.preventDefault();
  links[(here + step + links.length) % links.length].focus();
});

main.dataset.ready = "yes";
