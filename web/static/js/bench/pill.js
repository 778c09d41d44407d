// The pill: one line over the sheet that names what is under the pointer, or says what a hand is doing.

const pill = document.getElementById("pill");

export function tell(text) {
  pill.textContent = text || "";
  pill.hidden = !text;
}
