// Colourways: what a form does comes back as the page, and is put in its place, so that focus and scroll stay.

import { Idiomorph } from "./vendor/idiomorph.js";

const main = document.getElementById("main");
let busy = false;

function keyOf(element) {
  return element?.dataset?.key;
}

function put(html, address) {
  const key = keyOf(document.activeElement);
  const page = new DOMParser().parseFromString(html, "text/html");
  const fresh = page.getElementById("main");
  if (!fresh) return false;
  const open = main.querySelector(".many")?.open;
  const scrolled = [...main.querySelectorAll(".wall, .one")].map((part) => part.scrollTop);
  Idiomorph.morph(main, fresh.innerHTML, { morphStyle: "innerHTML" });
  Idiomorph.morph(document.getElementById("progress"), page.getElementById("progress").innerHTML, { morphStyle: "innerHTML" });
  [...main.querySelectorAll(".wall, .one")].forEach((part, k) => (part.scrollTop = scrolled[k]));
  if (open && main.querySelector(".many")) main.querySelector(".many").open = true;
  for (const field of main.querySelectorAll("input.value")) field.value = field.defaultValue;
  history.replaceState(null, "", address);
  if (key) main.querySelector(`[data-key="${CSS.escape(key)}"]`)?.focus();
  main.querySelector("[role=alert]")?.scrollIntoView({ block: "nearest" });
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

document.addEventListener("submit", (event) => {
  const form = event.target;
  if (form.method !== "post" || !form.closest("#main, #progress")) return;
  event.preventDefault();
  const body = new FormData(form, event.submitter);
  send(form.action, { method: "POST", body });
});

// A value that was typed is taken when its field is left, as on the Bench.
document.addEventListener("change", (event) => {
  const form = event.target.closest(".one form");
  if (form && event.target.matches("input.value, input[type=checkbox]") && form.querySelector(".enter")) form.requestSubmit(form.querySelector(".enter"));
});

document.addEventListener("click", (event) => {
  const link = event.target.closest(".plates a");
  if (!link || event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
  event.preventDefault();
  send(link.href, {}).then(() => history.replaceState(null, "", link.href));
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
