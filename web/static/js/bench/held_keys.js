// Keys that a hand without a keyboard holds by buttons beside the sheet; each stays held until it is pressed again.

const keys = { shift: false, alt: false, ctrl: false };

export function oneMore(event) {
  return event.shiftKey || keys.shift;
}

// Without stops; of regions that are swept: dropped.
export function free(event) {
  return event.altKey || keys.alt;
}

export function byMeasure(event) {
  return event.ctrlKey || event.metaKey || keys.ctrl;
}

export function watchHeldKeys(buttons) {
  buttons.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    if (button.dataset.held === "next") document.dispatchEvent(new CustomEvent("bench:next-anchor"));
    else {
      keys[button.dataset.held] = !keys[button.dataset.held];
      button.setAttribute("aria-pressed", String(keys[button.dataset.held]));
    }
  });
}
