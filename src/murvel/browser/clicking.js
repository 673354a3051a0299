// Runs beside `recorder.js`, in the same world: what may be clicked without a handler of its own, and what a click changes.
(() => {
  "use strict";
  if (!globalThis.murvel || murvel.pressable) return;
  const {numberOf, nodeOf} = murvel, {everyElement, focused, scopes} = murvel.inside;
  const CONTROLS = "a[href], area[href], button, input, select, textarea, summary, label, option, iframe, audio[controls], video[controls]";
  const TOLD = /^(?:class|style|hidden|open|disabled|checked|selected|src|srcset|href|alt|title|value|role|inert|readonly|aria-.*)$/;
  const LONGEST = 80, MOST_INSIDE = 12, MOST = 20000, MOST_EFFECTS = 20;

  const isShown = (element) => element.checkVisibility({visibilityProperty: true, opacityProperty: true});
  const isPointer = (element) => Boolean(element) && getComputedStyle(element).cursor === "pointer";
  const textOf = (node) => (node.textContent ?? "").trim().replace(/\s+/g, " ").slice(0, LONGEST);
  const pathOf = (element) => murvel.pathsOf([numberOf(element)])[0] ?? "";

  function isOneThing(element) {
    if (["html", "body", "main"].includes(element.localName) || element.getElementsByTagName("*").length > MOST_INSIDE) return false;
    return textOf(element).length < LONGEST && isShown(element) && !element.closest(CONTROLS) && !element.querySelector(CONTROLS);
  }

  // The elements of which nobody knows whether a click does something: those that say so, those over which the pointer
  // becomes a hand, those that a script listens on: [path, text], the first of each kind before the second of any.
  function pressable(acting, heard, mostAlike, most) {
    const says = new RegExp("^(?:" + acting + ")$"), found = [], alike = new Map(), own = new Set(heard.map(nodeOf));
    for (const element of everyElement()) {
      const names = element.getAttributeNames().filter((name) => says.test(name));
      const hasPointer = isPointer(element), hasHandler = own.has(element);
      if (element.hasAttribute("onclick") || (hasHandler && hasPointer)) continue;  // it is certain without a click
      if (!hasHandler && !names.length && !(hasPointer && !isPointer(element.parentElement))) continue;
      if (!isOneThing(element)) continue;
      const around = element.parentElement;
      const shape = [element.localName, element.className, names, around?.localName, around?.className].join("|");
      const rank = (alike.get(shape) ?? 0) + 1;
      alike.set(shape, rank);
      if (rank <= mostAlike) found.push([rank, element]);
    }
    const first = found.sort(([one], [other]) => one - other).map(([, element]) => [pathOf(element), textOf(element)]);
    return first.filter(([path]) => path).slice(0, most);
  }

  // The number of the element at a path, 0 if another one is there.
  function numberAt(path, text) {
    const element = document.evaluate(path, document, null, XPathResult.FIRST_ORDERED_NODE_TYPE).singleNodeValue;
    return element && textOf(element) === text ? numberOf(element) : 0;
  }

  // A text or heading of the page that is nothing to be clicked: where a click changes nothing, if clicks mean anything.
  function plainText() {
    for (const element of everyElement("h1, h2, h3, p, legend, th, td, li, dt, dd")) {
      if (textOf(element) && isShown(element) && !isPointer(element) && !element.closest(CONTROLS) && !element.querySelector(CONTROLS)) return numberOf(element);
    }
    return 0;
  }

  let records = [], before = null;
  const observer = new MutationObserver((more) => records.push(...more));

  const fieldsNow = () => [...everyElement("input, textarea, select")].slice(0, MOST).map((each) => [each, each.value + each.checked]);
  const shownNow = () => new Set([...everyElement()].slice(0, MOST).filter(isShown));

  function watchClick() {
    records = [];
    before = {shown: shownNow(), fields: fieldsNow(), focus: focused(), x: scrollX, y: scrollY};
    for (const scope of scopes) observer.observe(scope, {subtree: true, childList: true, characterData: true, attributes: true, attributeOldValue: true});
    return true;
  }

  // What has changed since: [kind, path of where, words].
  function clickedNow(number) {
    records.push(...observer.takeRecords());
    observer.disconnect();
    const found = new Map(), pressed = nodeOf(number);
    const note = (kind, element, words) => {
      const path = element?.isConnected ? pathOf(element) : "";
      if (found.size < MOST_EFFECTS && !found.has(kind + path)) found.set(kind + path, [kind, path, words]);
    };
    const shown = shownNow(), isNew = (each) => shown.has(each) && !before.shown.has(each);
    for (const each of shown) if (isNew(each) && !isNew(each.parentElement) && textOf(each)) note("appears", each, textOf(each));
    for (const each of before.shown) {
      if (!shown.has(each) && textOf(each) && !(each.parentElement && before.shown.has(each.parentElement) && !shown.has(each.parentElement))) note("goes", each, textOf(each));
    }
    const first = new Map();
    for (const {type, target, attributeName, oldValue} of records) {
      if (type === "attributes") {
        const names = first.get(target) ?? new Map();
        first.set(target, names);
        if (TOLD.test(attributeName) && !names.has(attributeName)) names.set(attributeName, oldValue);
      } else if (type === "characterData" && target.data !== oldValue) note("text", target.parentElement, textOf(target));
      else if (type === "childList" && (target !== pressed && !pressed?.contains(target) || [...target.childNodes].some((each) => textOf(each)))) note("text", target, textOf(target));
    }
    for (const [element, names] of first) {
      for (const [name, value] of names) if (element.getAttribute(name) !== value) note("attribute", element, name);
    }
    for (const [field, value] of before.fields) if (field.value + field.checked !== value) note("value", field, String(field.value).slice(0, LONGEST));
    const focus = focused();
    if (focus && focus !== before.focus && focus !== number) note("focus", nodeOf(focus), "");
    if (scrollX !== before.x || scrollY !== before.y) note("scroll", document.documentElement, "");
    return [...found.values()];
  }

  Object.assign(murvel, {pressable, numberAt, plainText, watchClick, clickedNow});
})();
