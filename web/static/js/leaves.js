// Pages whose forms come back as the whole page: what a form does is put in the place of what was there, so that focus
// and scroll stay. A form that is sent while another is under way waits for it, and is then sent as it stands.

import { Idiomorph } from "./vendor/idiomorph.js";

const main = document.getElementById("main");
let before = Promise.resolve();
let told = () => {};
const underWay = new Map();
// When fields were typed in last, by a count of what was typed: an answer to what was asked before does not undo it.
let typing = 0;
const typedAt = new Map();

const keyOf = (field) => `${field.form?.getAttribute("action") ?? ""} ${field.name} ${field.dataset.key ?? ""}`;

main.addEventListener("input", (event) => {
  if (event.target.matches("input.value")) typedAt.set(keyOf(event.target), (typing += 1));
});

/** Say what is to be done whenever a page has been put in place. */
export function whenPut(work) {
  told = work;
}

// What the page looks at: another one is read from its top.
function at() {
  return main.querySelector('[aria-current="true"]')?.getAttribute("href");
}

function put(html, address, sent, since) {
  const focused = document.activeElement;
  const key = focused?.dataset?.key;
  // What is being typed in another field by now is not lost.
  const typed = focused?.matches?.("input.value") && focused.form !== sent && focused.value !== focused.defaultValue ? focused.value : null;
  const page = new DOMParser().parseFromString(html, "text/html");
  const fresh = page.getElementById("main");
  if (!fresh) return false;
  const newer = [...main.querySelectorAll("input.value")].filter((field) => (typedAt.get(keyOf(field)) ?? 0) > since);
  const kept = new Map(newer.map((field) => [keyOf(field), field.value]));
  const lookedAt = at();
  const scrolled = [...main.querySelectorAll(".wall, .one")].map((place) => place.scrollTop);
  const open = [...main.querySelectorAll("details")].map((one) => one.open);
  Idiomorph.morph(main, fresh.innerHTML, { morphStyle: "innerHTML" });
  Idiomorph.morph(document.getElementById("progress"), page.getElementById("progress").innerHTML, { morphStyle: "innerHTML" });
  [...main.querySelectorAll(".wall, .one")].forEach((place, k) => (place.scrollTop = scrolled[k]));
  if (at() !== lookedAt) main.querySelector(".one")?.scrollTo(0, 0);
  [...main.querySelectorAll("details")].forEach((one, k) => (one.open = open[k] ?? false));
  for (const field of main.querySelectorAll("input.value")) field.value = kept.get(keyOf(field)) ?? field.defaultValue;
  history.replaceState(null, "", address);
  const again = key && main.querySelector(`[data-key="${CSS.escape(key)}"]`);
  if (again) {
    if (typed !== null) again.value = typed;
    again.focus();
  }
  main.querySelector("[role=alert]")?.scrollIntoView({ block: "nearest" });
  told();
  return true;
}

async function fetched(address, options, sent, since) {
  main.setAttribute("aria-busy", "true");
  try {
    const response = await fetch(address, { credentials: "same-origin", ...options });
    const shown = response.redirected || options.method !== "POST" ? response.url : location.href;
    if (!put(await response.text(), shown, sent, since)) location.assign(shown);
  } finally {
    main.removeAttribute("aria-busy");
  }
}

function inTurn(work) {
  before = before.then(work, work);
  return before;
}

/** Look at another address of the page. */
export function look(address) {
  const since = typing;
  return inTurn(() => fetched(address, {}, undefined, since));
}

/** Send a form, with the button that was pressed. A key that submits a field sends it a second time as it is left: once
 *  is enough. */
export function send(form, submitter) {
  const asked = [...new FormData(form, submitter)].filter(([name]) => name !== "base").join("&");
  if (underWay.get(form) === asked) return before;
  underWay.set(form, asked);
  const since = typing;
  const values = new Map([...form.querySelectorAll("input.value, textarea.value")].map((field) => [field.name, field.value]));
  return inTurn(async () => {
    try {
      if (!form.isConnected) return;
      const body = new FormData(form, submitter?.isConnected ? submitter : null);
      for (const [name, value] of values) body.set(name, value);
      await fetched(form.action, { method: "POST", body }, form, since);
    } finally {
      underWay.delete(form);
    }
  });
}

/** Whether a click is one that the page answers itself. */
export function plainClick(event) {
  return !(event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0);
}

/** Let the page's forms be answered so, too; and the links that a selector finds. */
export function answer(links) {
  document.addEventListener("submit", (event) => {
    const form = event.target;
    if (form.method !== "post" || !form.closest("#main, #progress")) return;
    event.preventDefault();
    send(form, event.submitter);
  });
  document.addEventListener("click", (event) => {
    const link = event.target.closest(links);
    if (!link || !plainClick(event)) return;
    event.preventDefault();
    look(link.href);
  });
}

/** Let arrow keys walk through what a selector finds. */
export function walkThrough(places) {
  document.addEventListener("keydown", (event) => {
    const all = [...document.querySelectorAll(places)];
    const here = all.indexOf(document.activeElement);
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (here < 0 || !step) return;
    event.preventDefault();
    all[(here + step + all.length) % all.length].focus();
  });
}
