// With the split verb taken up, a click divides the piece there along the line that crosses it nearest to the pointer.

import { make } from "./changes.js";
import { choosing } from "./chooser.js";
import { focusTyping } from "./line.js";
import { pinching } from "./pan.js";
import { preview, takeAllBack } from "./preview.js";
import { looking } from "./server.js";
import { closeSlip, currentSlip } from "./slip.js";
import { placeOf } from "./view.js";

const FAR = 4;
let pressed = null;

function splitting(event) {
  const slip = currentSlip();
  const here = event.target.closest("#drawing") && !event.target.closest(".dot");
  return slip?.dataset.kind === "split" && !choosing() && !pinching() && here ? slip : null;
}

function given(event) {
  const { needle } = looking();
  return { place: placeOf(event), ...(needle ? { position: Number(needle) } : {}) };
}

export function watchSplitting(sheet) {
  sheet.addEventListener("pointermove", (event) => splitting(event) && event.buttons === 0 && preview("split-at", given(event)));
  sheet.addEventListener("pointerleave", () => currentSlip()?.dataset.kind === "split" && takeAllBack());
  sheet.addEventListener(
    "pointerdown",
    (event) => {
      pressed = splitting(event) && event.button === 0 ? [event.clientX, event.clientY] : null;
      if (pressed) event.stopPropagation();
    },
    { capture: true },
  );
  sheet.addEventListener(
    "click",
    async (event) => {
      if (!pressed || !splitting(event) || Math.hypot(event.clientX - pressed[0], event.clientY - pressed[1]) > FAR) return;
      event.stopPropagation();
      currentSlip().dataset.done = "1";
      if (await make("split-at", given(event), null)) {
        closeSlip();
        focusTyping();
      } else delete currentSlip()?.dataset.done;
    },
    { capture: true },
  );
}
