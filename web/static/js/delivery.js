// Delivery: what a form does comes back as the page, and is put in its place; reports, proposals and the state of
// packages come by themselves.

import { look, plainClick, send, whenPut } from "./leaves.js";
import { Idiomorph } from "./vendor/idiomorph.js";

const main = document.getElementById("main");
const LOOK_EVERY = 700;
let waiting = 0;

async function part(address) {
  const response = await fetch(address, { credentials: "same-origin" });
  return response.text();
}

async function report() {
  const place = document.getElementById("report");
  const told = place?.querySelector(".reported");
  if (!told) return;
  const address = place.dataset.address;
  told.setAttribute("aria-busy", "true");
  const html = await part(address);
  if (document.getElementById("report")?.dataset.address !== address) return;
  told.innerHTML = html;
  told.removeAttribute("aria-busy");
  document.querySelector(".looked-at .places")?.remove();
  const places = told.querySelector(".places");
  if (places) document.querySelector(".looked-at").append(places);
}

async function watch() {
  clearTimeout(waiting);
  const place = document.getElementById("packages");
  if (!place?.querySelector("[data-busy]")) return;
  waiting = setTimeout(async () => {
    const html = await part(place.dataset.address);
    if (!place.contains(document.activeElement) || !html.includes("data-busy")) {
      Idiomorph.morph(place, html, { morphStyle: "innerHTML" });
    } else {
      const fresh = new DOMParser().parseFromString(html, "text/html");
      const bars = [...fresh.querySelectorAll("progress")];
      [...place.querySelectorAll("progress")].forEach((bar, k) => (bar.value = bars[k]?.value ?? bar.value));
    }
    watch();
  }, LOOK_EVERY);
}

async function propose(form) {
  const place = document.getElementById("proposals");
  place.setAttribute("aria-busy", "true");
  form.querySelector("button").disabled = true;
  const address = `${place.dataset.address}?${new URLSearchParams(new FormData(form))}`;
  const html = await part(address);
  place.innerHTML = html;
  place.removeAttribute("aria-busy");
}

function begin() {
  main.dataset.ready = "yes";
  report();
  watch();
}

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (!form.closest("#main, #progress")) return;
  if (form.matches(".ask")) {
    event.preventDefault();
    propose(form);
  } else if (form.matches(".which")) {
    event.preventDefault();
    look(`?${new URLSearchParams(new FormData(form))}`);
  } else if (form.method === "post") {
    event.preventDefault();
    send(form, event.submitter);
  }
});

// How files would be called is told while the pattern is typed.
let naming = 0;
document.addEventListener("input", (event) => {
  const field = event.target;
  if (!field.dataset.naming) return;
  clearTimeout(naming);
  naming = setTimeout(async () => {
    const response = await fetch(`${field.dataset.naming}?${new URLSearchParams({ pattern: field.value })}`);
    const told = await response.json();
    const example = document.getElementById("example");
    field.setAttribute("aria-invalid", told.fault ? "true" : "false");
    if (example) example.textContent = told.fault || told.example;
  }, 150);
});

// A value that was typed or chosen is taken when its field is left, as on the Bench.
document.addEventListener("change", (event) => {
  const field = event.target;
  if (field.dataset.sentences) {
    field.form.querySelector("textarea").value = field.selectedOptions[0].dataset.sentence;
    return;
  }
  const form = field.closest(".one form, .file-names form");
  if (!form || !field.matches("input.value, select.value")) return;
  if (form.matches(".which")) form.requestSubmit();
  else if (form.querySelector(".enter")) form.requestSubmit(form.querySelector(".enter"));
});

document.addEventListener("click", (event) => {
  const refused = event.target.closest("[data-refuse]");
  if (refused) {
    const form = document.querySelector("#proposals .ask");
    const input = document.createElement("input");
    Object.assign(input, { type: "hidden", name: "refused", value: refused.dataset.refuse });
    form.append(input);
    propose(form);
    return;
  }
  const link = event.target.closest(".matrix a");
  if (!link || !plainClick(event)) return;
  event.preventDefault();
  look(link.href);
});

whenPut(begin);
begin();
