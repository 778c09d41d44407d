// The first tasks show on a mark that was begun empty in this browser, until they are done or not wanted.

const main = document.getElementById("main");
const BEGUN = `kagami:begun:${main.dataset.mark}`;
const ENOUGH = "kagami:no-tasks";

function stored(key) {
  try {
    return localStorage.getItem(key);
  } catch {
    return null; // a browser that keeps nothing shows them on empty marks alone
  }
}

function store(key) {
  try {
    localStorage.setItem(key, "1");
  } catch {
    // as above
  }
}

function show() {
  const tasks = document.getElementById("tasks");
  if (document.querySelectorAll("#plan .step").length === 0) store(BEGUN);
  if (tasks) tasks.hidden = stored(ENOUGH) !== null || stored(BEGUN) === null;
}

export function noTasks() {
  store(ENOUGH);
  show();
}

export function watchTasks() {
  document.addEventListener("bench:shown", show);
  show();
}
