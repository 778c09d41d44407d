// Makes a change and shows what came of it.

import { clearBanner, refused, say } from "./messages.js";
import { show } from "./page.js";
import * as server from "./server.js";

export async function make(kind, given, element) {
  const attempt = { body: { kind, given }, from: server.revision() };
  try {
    const answer = await server.change(kind, given);
    clearBanner();
    show(answer);
    say(answer.words);
    return true;
  } catch (error) {
    refused(error, element, attempt);
    return false;
  }
}

export async function walk(direction) {
  try {
    const answer = await server.post(`${direction}/`, {});
    clearBanner();
    show(answer);
    say(`${direction}: ${answer.words}`);
  } catch (error) {
    refused(error, null, null);
  }
}

export async function lookAt(changes) {
  server.look(changes);
  try {
    show(await server.state());
  } catch (error) {
    refused(error, null, null);
  }
}
