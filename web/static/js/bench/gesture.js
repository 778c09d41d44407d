// What gestures on the sheet have in common: how they are left off, and what lies along their way.

const EACH = 3;

// Places along the way between two of a pointer, so that nothing is jumped over, however fast the hand goes.
export function* along(from, to) {
  const [dx, dy] = [to.clientX - from.clientX, to.clientY - from.clientY];
  const steps = Math.max(1, Math.ceil(Math.hypot(dx, dy) / EACH));
  for (let k = 1; k <= steps; k += 1) yield [from.clientX + (dx * k) / steps, from.clientY + (dy * k) / steps];
}

// The sheet hears of a pointer until it is let go, wherever it goes; a finger may be gone by the time it is asked.
export function hold(event) {
  try {
    document.getElementById("drawing").setPointerCapture(event.pointerId);
  } catch (error) {
    if (error.name !== "NotFoundError") throw error;
  }
}

// Escape, a second finger and whatever takes the pointer away leave a gesture off; `under` says whether one is under way.
export function watchLeavingOff(sheet, under, leaveOff) {
  const leave = () => under() && leaveOff();
  sheet.addEventListener("pointercancel", leave);
  document.addEventListener("bench:leave-off", leave);
  // Wherever the focus is, what is under way goes before what is open.
  const escape = (event) => {
    if (event.key !== "Escape" || !under()) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    leaveOff();
  };
  document.addEventListener("keydown", escape, { capture: true });
}
