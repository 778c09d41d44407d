// The pill: one line over the sheet that names what is under the pointer, or says what a hand is doing.

const pill = document.getElementById("pill");

export function tell(text) {
  pill.textContent = text || "";
  pill.hidden = !text;
}

// The pointer left what it named; what is offered to be taken stays until something else is done.
export function hush() {
  if (!pill.querySelector("button")) tell("");
}

// What could be taken by a click stands behind what is said.
export function offer(text, choices, take) {
  tell(text);
  pill.hidden = !text && choices.length === 0;
  for (const choice of choices) {
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = choice.said;
    button.addEventListener("click", () => take(choice));
    pill.append(" ", button);
  }
}
