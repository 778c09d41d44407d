// A node of an outline in hand: what can be done with it stands in the strip and at the pointer. Which acts it has, the
// server says.

import { make } from "./changes.js";
import { word } from "./words.js";

let id = "";

export function nodeInHand() {
  const handle = id ? document.getElementById(id) : null;
  return handle?.dataset.verbs ? handle : null;
}

// Takes another handle into the hand, or none; whether that is new.
export function takeNode(handle) {
  const before = id;
  id = handle?.dataset.verbs ? handle.id : "";
  return id !== before;
}

export function lineOfNode(handle, lead) {
  const name = document.createElement("i");
  name.textContent = `${lead} ${handle.dataset.title}:`;
  const buttons = handle.dataset.verbs.split(" ").map((verb) => {
    const button = document.createElement("button");
    button.type = "button";
    button.className = "verb";
    button.dataset.node = verb;
    button.textContent = word(verb);
    return button;
  });
  return [name, ...buttons];
}

// Its numbers change with what is done: the node behind takes the place of one that is taken out.
export function doWithNode(verb, step) {
  const handle = nodeInHand();
  if (!handle?.dataset.verbs.split(" ").includes(verb)) return false;
  const [kind] = verb.split(":");
  make(kind, { step, part: JSON.parse(handle.dataset.part) }, null).then((made) => {
    if (made) document.getElementById(id)?.focus({ preventScroll: true });
  });
  return true;
}
