// A hand by keys: a cross on the sheet that the arrow keys move. Space presses where it stands, and lets go where it was moved
// to. What is pressed, drawn and let go by it is told to the page as by any other pointer, so that it can do what a hand can.

import { announce } from "./messages.js";
import { tell } from "./pill.js";
import { word } from "./words.js";

// The browser calls none of its own pointers so.
const POINTER = 1_000_001;
// Short enough for each stop of a value, on a sheet that is seen whole.
const STEP = 4;
const MANY = 8;
const ARM = 11;
const REST = 400;
const FIELDS = "input, textarea, select, [contenteditable]";
const WAYS = { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
const drawing = () => document.getElementById("drawing");
const table = () => document.getElementById("sheet").parentNode;

// Where it stands, from the corner of the sheet, in pixels; it comes back to where it was.
let at = null;
let over = null;
// What was pressed, and whether it was moved since.
let down = null;
let resting = 0;
// While it tells of itself: what is pressed may take the focus.
let telling = false;

const cross = () => document.querySelector(".cross");

function point() {
  const box = drawing().getBoundingClientRect();
  return [box.left + at[0], box.top + at[1]];
}

function within([x, y]) {
  const box = drawing().getBoundingClientRect();
  return [Math.min(Math.max(x, 0), box.width), Math.min(Math.max(y, 0), box.height)];
}

function draw() {
  let shown = cross();
  if (!shown) {
    shown = document.createElement("div");
    shown.className = "cross";
    shown.setAttribute("aria-hidden", "true");
    table().append(shown);
  }
  const [x, y] = point();
  const box = table().getBoundingClientRect();
  shown.style.translate = `${x - box.left - ARM}px ${y - box.top - ARM}px`;
  shown.classList.toggle("pressed", down !== null);
}

function told(kind, from, more) {
  const [clientX, clientY] = point();
  return {
    bubbles: true,
    cancelable: true,
    composed: true,
    clientX,
    clientY,
    button: kind.endsWith("move") || kind.endsWith("update") ? -1 : 0,
    buttons: down ? 1 : 0,
    shiftKey: from?.shiftKey ?? false,
    ...more,
  };
}

function send(kind, target, from) {
  const pointer = { pointerId: POINTER, pointerType: "mouse", isPrimary: true };
  telling = true;
  target.dispatchEvent(new PointerEvent(kind, told(kind, from, pointer)));
  telling = false;
  // Where what was pressed took the focus off the sheet, keys are for that.
  if (cross() && !drawing().contains(document.activeElement)) takeAway();
}

function beneath() {
  const found = document.elementFromPoint(...point());
  return found?.closest("#drawing") ? found : drawing();
}

// What lies beneath it hears that a hand comes and goes.
function hover() {
  const next = beneath();
  if (next === over) return;
  for (const [target, kind] of [[over, "out"], [next, "over"]]) {
    if (!target?.isConnected) continue;
    send(`pointer${kind}`, target);
    target.dispatchEvent(new MouseEvent(`mouse${kind}`, told(kind)));
  }
  over = next;
}

function move(event) {
  const times = event.shiftKey ? MANY : 1;
  at = within(at.map((where, k) => where + WAYS[event.key][k] * STEP * times));
  draw();
  if (down) down.moved = true;
  else hover();
  // A step with Shift held is a long one; it asks for nothing that Shift asks for.
  const target = down ? drawing() : over;
  if ("onpointerrawupdate" in window) send("pointerrawupdate", target);
  send("pointermove", target);
  say();
}

function press(event) {
  hover();
  down = { target: over, moved: false };
  send("pointerdown", over, event);
  if (cross()) draw();
  say();
}

function letGo(event) {
  const { target, moved } = down;
  down = null;
  send("pointerup", drawing(), event);
  const clicked = target.isConnected ? target : drawing();
  if (!moved) clicked.dispatchEvent(new MouseEvent("click", told("click", event, { detail: 1 })));
  if (cross()) draw();
  say();
}

// What the pill says, once it rests.
function say() {
  clearTimeout(resting);
  resting = setTimeout(() => {
    const pill = document.getElementById("pill");
    announce(pill.hidden ? table().querySelector(".place").textContent : pill.textContent);
  }, REST);
}

export function bringCross() {
  const box = drawing().getBoundingClientRect();
  at = within(at ?? [box.width / 2, box.height / 2]);
  drawing().focus({ preventScroll: true });
  draw();
  hover();
  send("pointermove", over);
  const pill = document.getElementById("pill");
  if (!pill.querySelector("button")) tell(`${pill.textContent} ${word("cross")}`.trim());
  say();
}

function takeAway() {
  if (down) {
    down = null;
    send("pointercancel", drawing());
  }
  clearTimeout(resting);
  over = null;
  cross()?.remove();
}

// A full stop brings it where none can be typed, with Ctrl from anywhere.
function brings({ target, key, ctrlKey, metaKey }) {
  if (key !== "." || target.closest("dialog")) return false;
  const empty = target.matches(".typing .sentence-input") && target.value === "";
  return ctrlKey || metaKey || empty || !target.closest(FIELDS);
}

function onKey(event) {
  const { target, key } = event;
  if (event.altKey) return;
  if (brings(event)) bringCross();
  else if (event.ctrlKey || event.metaKey) return;
  else if (target !== drawing() && !(cross() && drawing().contains(target))) return;
  else if (key in WAYS) {
    if (cross()) move(event);
    else bringCross();
  } else if (!cross()) return;
  else if (key === " ") {
    if (event.repeat) return;
    if (down) letGo(event);
    else press(event);
  } else if (key === "Escape" && down) {
    down = null;
    draw();
    send("pointercancel", drawing());
  } else return;
  event.preventDefault();
  event.stopImmediatePropagation();
}

export function watchCross(sheet) {
  document.addEventListener("keydown", onKey, { capture: true });
  sheet.addEventListener("focusout", () => cross() && !telling && takeAway());
  for (const kind of ["pointermove", "pointerdown"]) {
    sheet.addEventListener(kind, (event) => event.isTrusted && cross() && takeAway(), { capture: true });
  }
  document.addEventListener("bench:shown", () => cross() && draw());
  window.addEventListener("resize", () => cross() && draw());
}
