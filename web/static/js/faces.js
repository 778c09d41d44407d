// Faces: what a form does comes back as the page, and is put in its place, so that focus and scroll stay.

import { answer, walkThrough } from "./leaves.js";

answer(".said a");
walkThrough(".card");

document.getElementById("main").dataset.ready = "yes";
