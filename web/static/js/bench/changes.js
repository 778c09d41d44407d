// Makes a change and shows what came of it.

import { announce, clearBanner, refused, showBanner } from "./messages.js";
import { show } from "./page.js";
import { takeAllBack } from "./preview.js";
import * as server from "./server.js";
import { keep, left } from "./unsent.js";

function answered(answer, settled) {
  clearBanner();
  if (answer.kept) {
    server.setRevision(answer.revision);
    showBanner(answer.error);
    return;
  }
  show(answer, settled);
  announce(answer.words);
}

// Whether a change was made; of one that was refused `whenRefused` learns what the server said.
export async function make(kind, given, element, whenRefused) {
  const attempt = { body: { kind, given }, from: server.revision() };
  const key = element?.dataset?.key;
  const typed = key && element.matches("input, textarea, select") ? element.value : undefined;
  try {
    answered(await server.change(kind, given, typed === undefined ? undefined : key, typed), key);
    return true;
  } catch (error) {
    takeAllBack();
    refused(error, key ? document.querySelector(`[data-key="${CSS.escape(key)}"]`) || element : element, attempt);
    whenRefused?.(error.data);
    return false;
  }
}

// Changes that an earlier page of this mark could not send any more are sent now, each once.
export async function makeLeft() {
  const entries = left();
  entries.forEach(keep);
  for (const entry of entries) {
    const attempt = { body: { kind: entry.kind, given: entry.given }, from: entry.base ?? server.revision() };
    try {
      answered(await server.sendKept(entry));
    } catch (error) {
      refused(error, null, attempt);
    }
  }
}

export async function walk(direction) {
  try {
    const answer = await server.post(`${direction}/`, {});
    clearBanner();
    show(answer);
    announce(`${direction}: ${answer.words}`);
  } catch (error) {
    refused(error, null, null);
  }
}

export async function lookAt(changes) {
  server.look(changes);
  try {
    show(await server.state(changes));
  } catch (error) {
    refused(error, null, null);
  }
}
