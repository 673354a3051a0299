// Runs beside `recorder.js`, in the same world: which elements keep something from scripts. The browser is asked about
// those that may have a closed shadow root, and gives the roots to `adopt`; and about custom elements, which may say by
// their internals what they are.
(() => {
  "use strict";
  if (!globalThis.murvel || murvel.suspects) return;
  const {nodeOf, numberOf} = murvel, {custom, everyElement, focused, shadowOf} = murvel.inside;

  // The elements of HTML that may have a shadow root, beside custom elements (DOM §4.9, attachShadow).
  const HOSTS = new Set(["article", "aside", "blockquote", "body", "div", "footer", "h1", "h2", "h3", "h4", "h5", "h6",
    "header", "main", "nav", "p", "section", "span"]);
  const MOST = 1000, MOST_AGAIN = 200;

  // The elements that were asked about, each with its size then: a root may be attached later.
  const asked = new Map();

  // An element whose own content is not rendered: it has none, or something else is shown in its place.
  function isEmpty(element) {
    const first = element.firstElementChild;
    if (first) return getComputedStyle(first).display === "" && getComputedStyle(element).display !== "";
    if (!element.textContent.trim()) return true;
    if (!element.checkVisibility()) return false;
    const range = document.createRange();
    range.selectNodeContents(element);
    return !range.getClientRects().length;
  }

  // The elements to ask about, null if there are none: the "new" ones; those that "changed" their size since they were
  // asked about, and what has the focus and cannot have it by itself; or some of them all once "again".
  function suspects(which) {
    for (const element of asked.keys()) if (!element.isConnected || shadowOf(element)) asked.delete(element);
    const found = which === "new" ? fresh() : which === "changed" ? changed() : [...asked.keys()].slice(0, MOST_AGAIN);
    for (const element of found) asked.set(element, sizeOf(element));
    return found.length ? found : null;
  }

  function fresh() {
    const found = [];
    for (const element of everyElement()) {
      const isCustom = element.localName.includes("-");
      if ((!isCustom && !HOSTS.has(element.localName)) || shadowOf(element) || asked.has(element)) continue;
      if (isCustom || isEmpty(element)) found.push(element);
      if (found.length === MOST) break;
    }
    return found;
  }

  function changed() {
    const focus = nodeOf(focused()), isHost = focus && (focus.localName.includes("-") || HOSTS.has(focus.localName));
    const isInside = isHost && !shadowOf(focus) && !focus.hasAttribute("tabindex") && !focus.isContentEditable;
    const found = [...asked.keys()].filter((each) => asked.get(each) !== sizeOf(each));
    return isInside ? [...new Set([...found, focus])] : found;
  }

  const sizeOf = (element) => element.offsetWidth * 1e6 + element.offsetHeight;

  // The custom elements, each with the names of its attributes.
  const MOST_CUSTOM = 200;
  function customs() {
    const found = [];
    for (const element of custom) {
      if (!element.isConnected) custom.delete(element);
      if (!element.isConnected || !element.matches(":defined")) continue;
      found.push([numberOf(element), element.getAttributeNames()]);
      if (found.length === MOST_CUSTOM) break;
    }
    return found;
  }

  Object.assign(murvel, {suspects, customs});
})();
