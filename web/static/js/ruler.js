// The small ruler below a number that is drawn sideways: a tick a stop.

const SVG = "http://www.w3.org/2000/svg";
const HALF = 12;
/** Pixels a stop. */
export const EACH = 8;

function path(d, name) {
  const element = document.createElementNS(SVG, "path");
  element.setAttribute("d", d);
  if (name) element.setAttribute("class", name);
  return element;
}

/** Shows it below a field. */
export function rulerBelow(field) {
  const width = 2 * HALF * EACH;
  const ruler = document.createElementNS(SVG, "svg");
  ruler.setAttribute("class", "number-ruler");
  ruler.setAttribute("viewBox", `${-width / 2} 0 ${width} 16`);
  ruler.setAttribute("width", width);
  document.body.append(ruler);
  const box = field.getBoundingClientRect();
  ruler.style.left = `${Math.max(4, box.left + box.width / 2 - width / 2)}px`;
  ruler.style.top = `${box.bottom + 3}px`;
  return ruler;
}

/** Where the number was, and where it is by now: so many stops on. */
export function showStops(ruler, stops) {
  const width = 2 * HALF * EACH;
  const at = Math.max(-HALF, Math.min(HALF, stops));
  const ticks = [path(`M${-width / 2} 12H${width / 2}`)];
  for (let k = -HALF; k <= HALF; k += 1) ticks.push(path(`M${k * EACH} 12v${(k - at) % 4 === 0 ? -7 : -4}`));
  ruler.replaceChildren(...ticks, path("M0 1v14", "before"), path(`M${at * EACH} 0v16`, "now"));
}
