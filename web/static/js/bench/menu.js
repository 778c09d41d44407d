// A secondary click on the sheet opens the line of verbs at the pointer, for what lies there.

import { openStep, stepsAt } from "./choose.js";
import { chosen, lineOf } from "./chosen.js";

function closeMenu() {
  document.querySelector(".menu")?.remove();
}

async function openMenu(event) {
  const steps = [...stepsAt(event.clientX, event.clientY).keys()];
  if (steps.length > 0 && !steps.some((step) => chosen().includes(step))) await openStep(steps[0]);
  const what = chosen();
  if (what.length === 0) return;
  closeMenu();
  const menu = document.createElement("div");
  menu.className = "menu";
  menu.setAttribute("role", "group");
  menu.append(...lineOf(what, document.querySelector(".verbs .with").dataset.lead));
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
    if (event.target.closest(".menu [data-with]")) closeMenu();
  });
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || !document.querySelector(".menu")) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    closeMenu();
  });
}
