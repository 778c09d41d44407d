// Talks to the server: what is looked at, and changes one after the other, each naming the revision it started from.

import { word } from "./words.js";

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
  const { step, view, every, needle } = main.dataset;
  return { step, view, every, needle };
}

export function look(changes) {
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

export function setRevision(number) {
  main.dataset.revision = number;
}

async function read(response) {
  const kind = response.headers.get("Content-Type") || "";
  if (response.redirected || (response.ok && !kind.startsWith("application/json"))) {
    throw new Refusal(401, { error: word("signed-out") });
  }
  const data = kind.startsWith("application/json") ? await response.json() : {};
  if (!response.ok) throw new Refusal(response.status, data);
  return data;
}

async function reach(path, options) {
  try {
    return await fetch(base + path, { credentials: "same-origin", ...options });
  } catch {
    throw new Refusal(0, { error: word("no-answer") });
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

export function post(path, body) {
  return inTurn(async () => {
    const content = JSON.stringify({ base: revision(), state: looking(), ...body });
    const headers = { "Content-Type": "application/json", "X-CSRFToken": token };
    return read(await reach(path, { method: "POST", headers, body: content }));
  });
}

export function change(kind, given) {
  return post("change/", { kind, given });
}

export function state() {
  return inTurn(async () => read(await reach(`state/?${new URLSearchParams(looking())}`)));
}

export async function html(path, query) {
  const response = await reach(`${path}?${new URLSearchParams({ ...looking(), ...query })}`);
  if (!response.ok || response.redirected) throw new Refusal(response.status, {});
  return response.text();
}

export async function json(path, query) {
  return read(await reach(`${path}?${new URLSearchParams({ ...looking(), ...query })}`));
}

// A change that came too late goes into a new mark; `from` is the revision that it was meant for.
export async function keepApart(body, from) {
  const headers = { "Content-Type": "application/json", "X-CSRFToken": token };
  return read(await reach("keep/", { method: "POST", headers, body: JSON.stringify({ ...body, base: from }) }));
}
