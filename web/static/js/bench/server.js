// Talks to the server: what is looked at, and changes one after the other, each naming the revision it started from.

import { forget, keep } from "./unsent.js";
import { word } from "./words.js";

const SILENT_AFTER = 2000;
const GIVE_UP_AFTER = 30000;
const FILE_GIVEN_UP_AFTER = 120000;
const AGAIN_AFTER = [1000, 2000, 4000];

const main = document.getElementById("main");
const token = main.querySelector("[name=csrfmiddlewaretoken]").value;
const base = `/marks/${main.dataset.mark}/`;
let waiting = Promise.resolve();
let busy = 0;

export class Refusal extends Error {
  constructor(status, data) {
    super(data.error || word("odd-answer"));
    this.status = status;
    this.data = data;
  }
}

export function looking() {
  const { step, view, every, needle, without } = main.dataset;
  return { step, view, every, needle, without };
}

export function look(changes) {
  // What is left out of the cutting is left out for one step.
  if ("step" in changes && changes.step !== main.dataset.step && !("without" in changes)) main.dataset.without = "";
  Object.assign(main.dataset, changes);
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(looking())) {
    if (value && !(name === "view" && value === "both") && !(name === "every" && value === "1")) query.set(name, value);
  }
  const text = query.toString();
  history.replaceState(null, "", text ? `?${text}` : location.pathname);
}

export function revision() {
  return Number(main.dataset.revision);
}

// What the page shows now, and what lets it ask for live answers.
export function setShown(answer) {
  Object.assign(main.dataset, { revision: answer.revision, token: answer.token, shown: answer.shown });
}

export function setRevision(number) {
  main.dataset.revision = number;
}

function tellSilence(silent) {
  document.dispatchEvent(new CustomEvent("bench:silence", { detail: silent }));
}

async function read(response) {
  const kind = response.headers.get("Content-Type") || "";
  // A page in place of an answer: that of signing in, or the one for a token of before (403).
  if (response.redirected || ((response.ok || response.status === 403) && !kind.startsWith("application/json"))) {
    throw new Refusal(401, { error: word("signed-out") });
  }
  const data = kind.startsWith("application/json") ? await response.json() : {};
  if (!response.ok) throw new Refusal(response.status, data);
  return data;
}

async function reach(path, options) {
  const quiet = setTimeout(() => tellSilence(true), SILENT_AFTER);
  try {
    const signal = AbortSignal.timeout(GIVE_UP_AFTER);
    const response = await fetch(base + path, { credentials: "same-origin", signal, ...options });
    if ([502, 503, 504].includes(response.status)) throw new Error("no answer behind the proxy");
    tellSilence(false);
    return response;
  } catch {
    throw new Refusal(0, { error: word("no-answer") });
  } finally {
    clearTimeout(quiet);
  }
}

// Requests that change something wait for each other, so that each starts from the revision the last one made.
function inTurn(task) {
  const run = waiting.then(async () => {
    busy += 1;
    main.setAttribute("aria-busy", "true");
    try {
      return await task();
    } finally {
      busy -= 1;
      if (busy === 0) main.removeAttribute("aria-busy");
    }
  });
  waiting = run.catch(() => undefined);
  return run;
}

function send(path, body) {
  const content = JSON.stringify({ state: looking(), shown: main.dataset.shown, ...body });
  const headers = { "Content-Type": "application/json", "X-CSRFToken": token };
  return reach(path, { method: "POST", headers, body: content });
}

// randomUUID is there on secure pages only; one inside a house may not be.
function newId() {
  if (crypto.randomUUID) return crypto.randomUUID();
  const digits = [...crypto.getRandomValues(new Uint8Array(16))].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return digits.replace(/(.{8})(.{4})(.{4})(.{4})(.{12})/, "$1-$2-$3-$4-$5");
}

function pause(milliseconds) {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}

// A change is sent until it is answered, always under one id, so that the server makes it once.
async function untilAnswered(path, body) {
  for (let tries = 0; ; tries += 1) {
    try {
      return await read(await send(path, body));
    } catch (error) {
      if (error.status !== 0) throw error;
      tellSilence(true);
      await pause(AGAIN_AFTER[Math.min(tries, AGAIN_AFTER.length - 1)]);
    }
  }
}

export function post(path, body) {
  const id = newId();
  return inTurn(() => untilAnswered(path, { id, base: revision(), ...body }));
}

// `field` names what was typed in, and `typed` what; both are kept until the change is answered, also over a reload.
export function change(kind, given, field, typed) {
  const entry = { id: newId(), kind, given, field, typed };
  keep(entry);
  return sendKept(entry);
}

export function sendKept(entry) {
  return inTurn(async () => {
    const { id, kind, given } = entry;
    entry.base ??= revision();
    keep(entry);
    try {
      return await untilAnswered("change/", { id, kind, given, base: entry.base });
    } finally {
      forget(id);
    }
  });
}

// What is to be looked at is set when the turn comes: an answer that came before it has set the page to its own.
export function state(changes) {
  return inTurn(async () => {
    look(changes);
    return read(await reach(`state/?${new URLSearchParams({ ...looking(), shown: main.dataset.shown })}`));
  });
}

export async function html(path, query) {
  const response = await reach(`${path}?${new URLSearchParams({ ...looking(), ...query })}`);
  if (!response.ok || response.redirected) return read(response);
  return response.text();
}

// A question that is too long for an address.
export async function ask(path, body) {
  return read(await send(path, { ...looking(), ...body }));
}

// A file, sent once: somebody sees that it did not come, and chooses it again.
export function bring(path, name, file, more = {}) {
  const id = newId();
  return inTurn(async () => {
    const body = new FormData();
    body.append(name, file);
    const told = { id, base: revision(), ...looking(), shown: main.dataset.shown, ...more };
    for (const [key, value] of Object.entries(told)) body.append(key, value);
    const signal = AbortSignal.timeout(FILE_GIVEN_UP_AFTER);
    return read(await reach(path, { method: "POST", headers: { "X-CSRFToken": token }, body, signal }));
  });
}

// What a change would do, without making it.
export async function tryOut({ seq, kind, given, state: seen, revision: from, whole, rested }) {
  return read(await send("try/", { seq, kind, given, state: seen, base: from, whole, rested }));
}

// A change that came too late goes into a new mark; `from` is the revision that it was meant for.
export async function keepApart(body, from) {
  return read(await send("keep/", { ...body, base: from }));
}
