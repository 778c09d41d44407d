// The line in which sentences are typed: where the focus belongs when nothing else is being done.

export function focusTyping() {
  const line = document.querySelector(".typing .sentence-input");
  line?.focus({ preventScroll: true });
  line?.scrollIntoView({ block: "nearest" });
}
