// What can be reached by Tab, in its order, and where the focus stands among it.
const CAN = "a[href], button, input, select, textarea, summary, [tabindex]";
const shown = (one) =>
  one.isConnected && one.checkVisibility({ visibilityProperty: true });
function stops() {
  const within = document.querySelector("[role=dialog]") ?? document;
  return [...within.querySelectorAll(CAN)].filter(
    (one) =>
      one.tabIndex >= 0 &&
      !one.disabled &&
      one.type !== "hidden" &&
      shown(one) &&
      !one.closest("[inert]") &&
      first(one),
  );
}
function first(one) {
  if (one.type !== "radio") return true;
  const group = [
    ...document.querySelectorAll(`input[type=radio][name="${one.name}"]`),
  ];
  return one === (group.find((other) => other.checked) ?? group[0]);
}
const plain = (text) => (text ?? "").replace(/\s+/g, " ").trim();
function called(one) {
  return plain(one.getAttribute("aria-label") || one.innerText || one.value);
}
function labelled(one) {
  return [...(one.labels ?? [])]
    .map((label) => plain(label.innerText))
    .concat(plain(one.getAttribute("aria-label")));
}
function find(kind, words) {
  const all = stops();
  if (kind === "press")
    return (
      all.find(
        (one) =>
          !one.matches("input, select, textarea") && called(one) === words,
      ) ??
      all.find(
        (one) =>
          !one.matches("input, select, textarea") &&
          called(one).includes(words),
      ) ??
      null
    );
  const fields = all.filter((one) => one.matches("input, select, textarea"));
  return (
    fields.find((one) => labelled(one).includes(words)) ??
    fields.find((one) =>
      labelled(one).some((label) => label.startsWith(words)),
    ) ??
    null
  );
}
function has(one) {
  return document.activeElement === one;
}
function typing() {
  return document.activeElement.matches("input, select, textarea");
}
const within = () => document.querySelector("[role=dialog]") !== null;
// How many Tabs, backwards when that is nearer; the way round the end of the page is not taken.
function far(to) {
  const all = stops();
  const from = document.activeElement;
  let at = all.indexOf(from);
  if (at < 0)
    at = all.findIndex((one) => from.compareDocumentPosition(one) & 4) - 1;
  if (from === document.body) at = -1;
  return all.indexOf(to) - at;
}
function where() {
  return (
    called(document.activeElement).slice(0, 80) +
    " " +
    document.activeElement.tagName
  );
}
function letters(to) {
  return to.dataset.letters ?? null;
}
function hinted(one) {
  return plain(one.querySelector("kbd")?.innerText);
}
