// How the sheet is looked at: zoom about the pointer, pan, fit, real size, and rulers. The view is kept in u, so that it
// stays where it was put while the frame of the drawing changes underneath.

const SVG = "http://www.w3.org/2000/svg";
const STEP = 1.2;
const LEAST = 0.5;
const MOST = 4000;
const EVERY_PX = 64;
const RULER_PX = 18;
// How wide a digit on them is.
const DIGIT = 6.2;
// The margin that the drawing has by itself, as a share of what it holds.
const MARGIN = 0.06;
// Pixels between the tools over the sheet and what is fitted in: half the height of a value that stands on its edge.
const CLEAR = 11;
const ROUND = [1, 2, 5];

const sheet = document.getElementById("sheet");
// The middle of the window in u and the pixels of a u; null while the whole drawing is fitted in.
let view = null;
let pointer = null;
let passed = null;
// What layout says of the sheet, kept until the view or the window changes: asked amid a drag, it would have all that
// changed since laid out at once.
let laid = null;

function drawing() {
  return document.getElementById("drawing");
}

function frame() {
  const { unit, originX, originY, fit } = drawing().dataset;
  return { unit: Number(unit), x: Number(originX), y: Number(originY), fit };
}

function layout() {
  if (!laid) {
    const onScreen = drawing().getScreenCTM();
    const rulers = [...sheet.parentNode.querySelectorAll(".ruler")];
    const boxes = rulers.map((ruler) => ({ ruler, box: ruler.getBoundingClientRect(), level: ruler.classList.contains("level") }));
    laid = { a: onScreen.a, back: onScreen.inverse(), boxes };
  }
  return laid;
}

function forgetLayout() {
  laid = null;
}

// Pixels a u, as things stand on the screen.
export function scale() {
  return layout().a * frame().unit;
}

// Where a pointer is, in u.
export function placeOf(event) {
  const { unit, x, y } = frame();
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(layout().back);
  return [(at.x - x) / unit, (y - at.y) / unit];
}

function fitted() {
  const box = drawing().getBoundingClientRect();
  const [x, y] = placeOf({ clientX: box.left + box.width / 2, clientY: box.top + box.height / 2 });
  return { x, y, scale: scale() };
}

// The paper lies under the drawing and is looked at alike.
function show(viewBox) {
  for (const svg of [drawing(), document.getElementById("paper")]) svg.setAttribute("viewBox", viewBox);
}

// What is fitted in lies below what stands over the top of the sheet, however high large text makes that.
function belowTools(box) {
  const { top, width, height } = drawing().getBoundingClientRect();
  const tools = [...sheet.querySelectorAll(".views, .scale")].map((element) => element.getBoundingClientRect().bottom - top);
  const high = Math.min(Math.max(...tools) + CLEAR, height / 2);
  const [left, up, wide, tall] = box.split(" ").map(Number);
  const margin = (MARGIN * Math.max(wide, tall)) / (1 + 2 * MARGIN);
  const each = Math.min(width / wide, height / tall);
  if (height === 0 || margin * each + (height - tall * each) / 2 >= high) return box;
  const room = Math.max(0, (high * tall - height * margin) / (height - high));
  return `${left} ${up - room} ${wide} ${tall + room}`;
}

function apply() {
  const svg = drawing();
  const { unit, x, y, fit } = frame();
  if (view) {
    const box = svg.getBoundingClientRect();
    const [width, height] = [(box.width / view.scale) * unit, (box.height / view.scale) * unit];
    const [left, top] = [x + view.x * unit - width / 2, y - view.y * unit - height / 2];
    show(`${left} ${top} ${width} ${height}`);
  } else {
    show(belowTools(fit));
  }
  forgetLayout();
  svg.style.setProperty("--px", String(1 / layout().a));
  document.querySelector(".zoom").textContent = `1u = ${Math.round(scale() * 10) / 10} px`;
  drawRulers();
  tellPlace();
}

function bounded(wanted) {
  return Math.min(MOST, Math.max(LEAST, wanted));
}

export function zoomAt(event, factor) {
  const before = placeOf(event);
  const now = view || fitted();
  view = { ...now, scale: bounded(now.scale * factor) };
  apply();
  const after = placeOf(event);
  panTo(view.x + before[0] - after[0], view.y + before[1] - after[1]);
}

function panTo(x, y) {
  view = { ...(view || fitted()), x, y };
  apply();
}

// By pixels of the screen: what is drawn follows the hand.
export function panBy(dx, dy) {
  const now = view || fitted();
  panTo(now.x - dx / now.scale, now.y + dy / now.scale);
}

function middle() {
  const box = drawing().getBoundingClientRect();
  return { clientX: box.left + box.width / 2, clientY: box.top + box.height / 2 };
}

export function fit() {
  view = null;
  apply();
}

export function real() {
  view = { ...(view || fitted()), scale: bounded(Number(drawing().dataset.real)) };
  apply();
}

export function zoomBy(times) {
  zoomAt(middle(), STEP ** times);
}

// Numbers along a ruler: every 1, 2 or 5 times a power of ten, so that they lie far enough apart.
function spacing(pixelsEach, size) {
  for (let power = -4; power < 6; power += 1) {
    for (const round of ROUND) {
      const step = round * 10 ** power;
      if (step * pixelsEach >= EVERY_PX * size) return { step, parts: round === 2 ? 4 : 5, power };
    }
  }
  return { step: 1e6, parts: 5, power: 6 };
}

function unitOfRuler() {
  const real = sheet.dataset.ruler === "mm";
  return { each: real ? 1 / Number(drawing().dataset.millimetres) : 1, name: real ? "mm" : "u" };
}

function drawRuler(ruler, level) {
  const box = ruler.getBoundingClientRect();
  const [length, wide] = level ? [box.width, box.height] : [box.height, box.width];
  const size = wide / RULER_PX; // rulers grow with the reader's text
  const { each, name } = unitOfRuler();
  const pixels = scale() * each;
  const { step, parts, power } = spacing(pixels, size);
  const start = placeOf({ clientX: box.left, clientY: level ? box.bottom : box.top })[level ? 0 : 1] / each;
  const by = level ? 1 : -1;
  const nodes = [];
  const first = Math.floor((start * by) / step) - 1;
  for (let k = first * parts; ; k += 1) {
    const value = (k * step) / parts;
    const at = (value - start * by) * pixels;
    if (at > length) break;
    const whole = k % parts === 0;
    const tick = document.createElementNS(SVG, "path");
    tick.setAttribute("d", level ? `M${at} ${wide}v${size * (whole ? -9 : -4)}` : `M${wide} ${at}h${size * (whole ? -9 : -4)}`);
    nodes.push(tick);
    if (!whole) continue;
    const text = document.createElementNS(SVG, "text");
    text.textContent = (value * by).toFixed(Math.max(0, -power)).replace("-", "−");
    const from = at + by * 3 * size;
    const far = from + by * text.textContent.length * DIGIT * size;
    if (Math.min(from, far) < 0 || Math.max(from, far) > length) continue; // cut off, it would say another number
    text.setAttribute("transform", level ? `translate(${from} ${wide / 2})` : `translate(${wide / 2} ${from}) rotate(-90)`);
    nodes.push(text);
  }
  const mark = document.createElementNS(SVG, "path");
  mark.setAttribute("class", "pointer");
  nodes.push(mark);
  ruler.replaceChildren(...nodes);
  ruler.dataset.unit = name;
}

function drawRulers() {
  for (const ruler of sheet.parentNode.querySelectorAll(".ruler")) drawRuler(ruler, ruler.classList.contains("level"));
}

function tellPlace() {
  const told = sheet.parentNode.querySelector(".place");
  const { each, name } = unitOfRuler();
  const number = (value) => (Math.round((value / each) * 100) / 100).toFixed(2).replace("-", "−");
  told.textContent = pointer ? `${number(pointer[0])} ${number(pointer[1])} ${name}` : name;
}

function markPointer(event) {
  pointer = event ? placeOf(event) : null;
  for (const { ruler, box, level } of layout().boxes) {
    const d = !event ? "" : level ? `M${event.clientX - box.left} 0v${box.height}` : `M0 ${event.clientY - box.top}h${box.width}`;
    ruler.querySelector(".pointer")?.setAttribute("d", d);
  }
  tellPlace();
}

// While a hand drags, the marks on the rulers go with the drawing, so that both are painted at once.
// Before, the sheet may have been moved by what stands above it.
function onPointer(event) {
  if (drawing().classList.contains("dragging")) {
    passed = event;
    return;
  }
  forgetLayout();
  markPointer(event);
}

function catchUp() {
  if (passed) markPointer(passed);
  passed = null;
}

// A wheel of a mouse turns in steps; a pinch arrives with the control key, two fingers on a pad by small ways.
function onWheel(event) {
  event.preventDefault();
  if (event.ctrlKey || event.metaKey) return zoomAt(event, Math.exp(-event.deltaY / 100));
  const turned = event.deltaMode !== 0 || (event.deltaX === 0 && Math.abs(event.deltaY) >= 50);
  if (turned && !event.shiftKey) return zoomAt(event, STEP ** -Math.sign(event.deltaY));
  return event.shiftKey && event.deltaX === 0 ? panBy(-event.deltaY, 0) : panBy(-event.deltaX, -event.deltaY);
}

export function watchView() {
  sheet.addEventListener("wheel", onWheel, { passive: false });
  // Before whatever takes the pointer for itself.
  sheet.addEventListener("pointermove", onPointer, { capture: true });
  sheet.addEventListener("pointerleave", () => markPointer(null));
  document.addEventListener("bench:tried", catchUp);
  sheet.parentNode.querySelector(".place").addEventListener("click", () => {
    sheet.dataset.ruler = sheet.dataset.ruler === "mm" ? "u" : "mm";
    apply();
  });
  document.addEventListener("bench:shown", apply);
  new ResizeObserver(apply).observe(sheet);
  window.addEventListener("resize", forgetLayout);
  document.addEventListener("pointerdown", forgetLayout, { capture: true });
  window.addEventListener("scroll", forgetLayout, { capture: true, passive: true });
  apply();
}
