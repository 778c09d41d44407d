// Puts new HTML in the place of old, touching only what differs. What the server knows to be on the page already comes as
// an empty element with the same id, marked data-same, and stays as it is.

import { Idiomorph } from "../vendor/idiomorph.js";

export function morph(element, html) {
  Idiomorph.morph(element, html, {
    morphStyle: "innerHTML",
    callbacks: {
      beforeNodeMorphed: (was, now) => !(now.dataset && "same" in now.dataset),
    },
  });
}
