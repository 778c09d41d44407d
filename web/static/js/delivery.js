// Delivery: what a form does comes back as the page, and is put in its place; reports, proposals and the state of
// packages come by themselves.

import { Idiomorph } from "./vendor/idiomorph.js";

const main = document.getElementById("main");
const LOOK_EVERY = 700;
let busy = false;
let waiting = 0;

async function part(address) {
  const response = await fetch(address, { credentials: "same-origin" });
  return response.text();
}

function put(html, address) {
  const key = document.activeElement?.dataset?.key;
  const page = new DOMParser().parseFromString(html, "text/html");
  const fresh = page.getElementById("main");
  if (!fresh) return false;
  const scrolled = [...main.querySelectorAll(".wall, .one")].map((place) => place.scrollTop);
  const open = [...main.querySelectorAll("details")].map((one) => one.open);
  Idiomorph.morph(main, fresh.innerHTML, { morphStyle: "innerHTML" });
  Idiomorph.morph(document.getElementById("progress"), page.getElementById("progress").innerHTML, { morphStyle: "innerHTML" });
  [...main.querySelectorAll(".wall, .one")].forEach((place, k) => (place.scrollTop = scrolled[k]));
  [...main.querySelectorAll("details")].forEach((one, k) => (one.open = open[k] ?? false));
  for (const field of main.querySelectorAll("input.value")) field.value = field.defaultValue;
  history.replaceState(null, "", address);
  if (key) main.querySelector(`[data-key="${CSS.escape(key)}"]`)?.focus();
  main.querySelector("[role=alert]")?.scrollIntoView({ block: "nearest" });
  begin();
  return true;
}

async function send(address, options) {
  if (busy) return;
  busy = true;
  main.setAttribute("aria-busy", "true");
  try {
    const response = await fetch(address, { credentials: "same-origin", ...options });
    const shown = response.redirected ? response.url : location.href;
    if (!put(await response.text(), shown)) location.assign(shown);
  } finally {
    busy = false;
    main.removeAttribute("aria-busy");
  }
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
  document.querySelector(".shown .places")?.remove();
  const places = told.querySelector(".places");
  if (places) document.querySelector(".shown").append(places);
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
    send(`?${new URLSearchParams(new FormData(form))}`, {}).then(() => history.replaceState(null, "", `?${new URLSearchParams(new FormData(form))}`));
  } else if (form.method === "post") {
    event.preventDefault();
    const body = new FormData(form, event.submitter);
    send(form.action, { method: "POST", body });
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
  const form = field.closest(".one form, .named form");
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
  if (!link || event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
  event.preventDefault();
  send(link.href, {}).then(() => history.replaceState(null, "", link.href));
});

begin();
