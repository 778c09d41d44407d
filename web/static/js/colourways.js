// Colourways: what a form does comes back as the page, and is put in its place, so that focus and scroll stay.

import { answer, walkThrough } from "./leaves.js";

answer(".plates a");
walkThrough(".plates a");

// A value that was typed is taken when its field is left, as on the Bench.
document.addEventListener("change", (event) => {
  const form = event.target.closest(".one form");
  if (form && event.target.matches("input.value, input[type=checkbox]") && form.querySelector(".enter")) form.requestSubmit(form.querySelector(".enter"));
});

document.getElementById("main").dataset.ready = "yes";
