// A secondary click on the sheet opens the line of verbs at the pointer, for what lies there.

import { openStep, stepsAt } from "./choose.js";
import { chosen, lineOf } from "./chosen.js";
import { handleAt } from "./handles.js";
import { lineOfNode } from "./nodes.js";

function closeMenu() {
  document.querySelector(".menu")?.remove();
}

// What is done with a node that lies at the pointer, else with what is drawn there.
async function lineAt(event) {
  const { lead } = document.querySelector(".verbs .with").dataset;
  const handle = handleAt(event);
  if (handle?.dataset.verbs) {
    handle.focus({ preventScroll: true });
    return lineOfNode(handle, lead);
  }
  const steps = [...stepsAt(event.clientX, event.clientY).keys()];
  if (steps.length > 0 && !steps.some((step) => chosen().includes(step))) await openStep(steps[0]);
  const what = chosen();
  return what.length > 0 ? lineOf(what, lead) : [];
}

async function openMenu(event) {
  const line = await lineAt(event);
  if (line.length === 0) return;
  closeMenu();
  const menu = document.createElement("div");
  menu.className = "menu";
  menu.setAttribute("role", "group");
  menu.append(...line);
  menu.setAttribute("aria-label", menu.firstChild.textContent);
  document.getElementById("main").append(menu);
  menu.style.left = `${Math.min(event.clientX, innerWidth - menu.offsetWidth - 8)}px`;
  menu.style.top = `${Math.min(event.clientY, innerHeight - menu.offsetHeight - 8)}px`;
  menu.querySelector("button")?.focus();
}

export function watchMenu(sheet) {
  sheet.addEventListener("contextmenu", (event) => {
    if (!event.target.closest("#drawing")) return;
    event.preventDefault();
    openMenu(event);
  });
  document.addEventListener("pointerdown", (event) => {
    if (!event.target.closest(".menu")) closeMenu();
  });
  document.addEventListener("click", (event) => {
    if (event.target.closest(".menu :is([data-with], [data-node])")) closeMenu();
  });
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !document.querySelector(".menu")) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    closeMenu();
  });
}
