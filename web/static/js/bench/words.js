// What the scripts say by themselves, in the language of the page.

const words = JSON.parse(document.getElementById("words").textContent);

export function word(key) {
  return words[key];
}
