// Puts new HTML in the place of old, touching only what differs. What the server knows to be on the page already comes as
// an empty element with the same id, marked data-same, and stays as it is.

import { Idiomorph } from "../vendor/idiomorph.js";

// Likewise inside an SVG picture, whose parts are read as SVG.
export function morphDrawing(element, svg) {
  const read = document.createElementNS(element.namespaceURI, "g");
  read.innerHTML = svg;
  Idiomorph.morph(element, read.childNodes, { morphStyle: "innerHTML" });
}

export function morph(element, html) {
  Idiomorph.morph(element, html, {
    morphStyle: "innerHTML",
    callbacks: {
      beforeNodeMorphed: (was, now) => !(now.dataset && "same" in now.dataset),
      // How the sheet is looked at is the page's own (see view.js).
      beforeAttributeUpdated: (name, node) => !(["drawing", "paper"].includes(node.id) && (name === "viewBox" || name === "style")),
    },
  });
}
