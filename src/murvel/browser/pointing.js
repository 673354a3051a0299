// Runs beside `recorder.js`, in the same world: what elements look like, where they are, whether a pointer reaches them,
// and how the focus is put somewhere. It asks nothing of the page but what it answers here.
(() => {
  "use strict";
  if (!globalThis.murvel || murvel.looks) return;
  const {numberOf, nodeOf} = murvel, {everyElement, focused, frameRoot, quietly, scopes, shadowOf, valuesOf} = murvel.inside;

  const LOOKS = ["clip", "clip-path", "color", "background-color", "background-image", "cursor", "font-size",
    "font-weight", "left", "opacity", "outline-style", "outline-width", "overflow-x", "overflow-y", "pointer-events",
    "position", "right", "scale", "text-indent", "top", "transform"];
  const DECORATIONS = ["border-top-width", "border-right-width", "border-bottom-width", "border-left-width",
    "border-spacing", "border-collapse", "empty-cells"];

  // What it looks like

  function looks() {
    const table = new Map(), list = [], of = [];
    for (const element of everyElement()) {
      const style = getComputedStyle(element);
      const isTable = ["table", "tbody", "td", "th", "tr"].includes(element.localName);
      const values = valuesOf(style, isTable ? [...LOOKS, ...DECORATIONS] : LOOKS), text = JSON.stringify(values);
      if (!table.has(text)) { table.set(text, list.length); list.push(values); }
      of.push(numberOf(element), table.get(text));
    }
    return {names: [...LOOKS, ...DECORATIONS], list, of, byPointer: shownBy([":hover"]), byFocus: shownBy(OF_FOCUS)};
  }

  // The elements that rules show while something is pointed at, or has the focus.
  const OF_FOCUS = [":focus-visible", ":focus-within", ":focus"];
  const REVEALING = ["clip", "clip-path", "left", "opacity", "right", "scale", "text-indent", "top", "transform",
    "display", "height", "max-height", "visibility"];
  const HIDING = {display: "none", visibility: "hidden", opacity: "0"};
  const MOST_RULES = 50000;

  function shownBy(states) {
    const found = new Set();
    let count = 0;
    for (const scope of scopes) {
      const waiting = [];
      for (const sheet of scope.styleSheets ?? []) {
        try { waiting.push(...sheet.cssRules); } catch { /* a sheet of another site keeps its rules to itself */ }
      }
      while (waiting.length && count++ < MOST_RULES) {
        const rule = waiting.pop();
        if (rule.media && !matchMedia(rule.media.mediaText).matches) continue;
        if (rule.cssRules?.length) waiting.push(...rule.cssRules);
        const text = rule.selectorText ?? "";
        if (!states.some((state) => text.includes(state))) continue;
        if (!REVEALING.some((name) => {
          const value = rule.style.getPropertyValue(name);
          return value && value !== HIDING[name];
        })) continue;
        for (const selector of text.split(",")) {
          if (!states.some((state) => selector.includes(state)) || selector.includes("::")) continue;
          const atRest = states.reduce((left, state) => left.replaceAll(state, ""), selector).trim() || "*";
          try { for (const element of scope.querySelectorAll(atRest)) found.add(numberOf(element)); } catch { /* not one */ }
        }
      }
    }
    return [...found];
  }

  // Where the document in a frame begins, in the viewport around the frame.
  function insideOf(frame) {
    const {left, top} = frame.getBoundingClientRect(), {paddingLeft, paddingTop} = getComputedStyle(frame);
    return {left: left + frame.clientLeft + parseFloat(paddingLeft), top: top + frame.clientTop + parseFloat(paddingTop)};
  }

  // The same for a frame whose document this script does not reach, in the viewport of this script's own document.
  function frameAt(number) {
    const frame = nodeOf(number);
    if (!frame?.isConnected) return null;
    const [left, top] = placeOf(frame), own = frame.getBoundingClientRect(), inside = insideOf(frame);
    return [left - scrollX + inside.left - own.left, top - scrollY + inside.top - own.top];
  }

  function placeOf(element) {
    let {left, top, width, height} = element.getBoundingClientRect();
    for (let view = element.ownerDocument.defaultView; view && view !== window; view = view.parent) {
      const frame = insideOf(view.frameElement);
      left += frame.left;
      top += frame.top;
    }
    return [left + scrollX, top + scrollY, width, height].map((side) => Math.round(side * 10) / 10);
  }

  function boxes() {
    const found = [];
    for (const element of everyElement()) found.push(numberOf(element), ...placeOf(element));
    return found;
  }

  // Gives an element the focus if it takes it, and scrolls to it: whether anything moved by that, and where a pointer
  // reaches it then.
  function aim(number, isFocus) {
    const element = nodeOf(number);
    if (!element?.isConnected) return [false, null];
    if (isFocus) element.focus();
    const before = placeInView(element);
    element.scrollIntoView({block: "nearest", inline: "nearest", behavior: "instant"});
    return [placeInView(element) !== before, pointAt(number)];
  }

  function placeInView(element) {
    const {left, top} = element.getBoundingClientRect();
    return left + " " + top;
  }

  // Where a pointer can press an element, in the viewport; null where something else lies over it or it has no box.
  function pointAt(number) {
    const element = nodeOf(number);
    if (!element?.isConnected) return null;
    const [left, top, width, height] = placeOf(element);
    if (!width || !height) return null;
    const x = left - scrollX + width / 2, y = top - scrollY + height / 2;
    let over = document.elementFromPoint(x, y);
    for (let shadow; over !== element && over && (shadow = shadowOf(over));) {
      const inside = shadow.elementFromPoint(x, y);
      if (!inside || inside === over) break;
      over = inside;
    }
    const isHit = over && (element.contains(over) || over === element || frameRoot(over));
    return isHit ? [x, y] : null;
  }

  // Whether an element is seen: it has a box in the viewport, and nothing lies over the whole of it.
  function sight(number) {
    const element = nodeOf(number);
    if (!element?.isConnected) return "gone";
    const {left, top, right, bottom, width, height} = element.getBoundingClientRect();
    if (width < 2 || height < 2) return "nothing";
    if (!element.checkVisibility({opacityProperty: true, visibilityProperty: true})) return "hidden";
    const view = element.ownerDocument.defaultView;
    if (right <= 0 || bottom <= 0 || left >= view.innerWidth || top >= view.innerHeight) return "outside";
    const inside = [[.5, .5], [.1, .2], [.9, .2], [.1, .8], [.9, .8]].map(([x, y]) => [left + x * width, top + y * height]);
    const within = inside.filter(([x, y]) => x >= 0 && y >= 0 && x < view.innerWidth && y < view.innerHeight);
    const scope = element.getRootNode();
    const isCovered = within.length > 0 && within.every(([x, y]) => {
      const over = scope.elementFromPoint?.(x, y);
      return over && !element.contains(over) && !over.contains(element);
    });
    return isCovered ? "covered" : "";
  }

  // Where the focus goes

  function focusOn(number) {
    const element = nodeOf(number);
    element?.focus();
    return focused();
  }

  const focusedNow = () => focused();

  // Whether what has the focus may keep it: a frame has stops of its own, and a dialog may be closed by Escape.
  function mayKeep(number) {
    const element = nodeOf(number);
    if (!element || ["iframe", "embed", "object", "video", "audio"].includes(element.localName)) return true;
    return Boolean(element.closest("[role=dialog], [role=alertdialog], [aria-modal=true], dialog"));
  }

  function click(number) {
    const element = nodeOf(number);
    if (!element?.isConnected) return false;
    element.dispatchEvent(new MouseEvent("mouseover", {bubbles: true}));
    element.click?.();
    return true;
  }

  // Lets the next Tab begin at a place: browsers go on from where an element with the focus was taken away.
  function startAt(number, isAfter) {
    const node = nodeOf(number);
    if (!node?.isConnected) return false;
    const here = document.createElement("murvel-place");
    here.tabIndex = -1;
    quietly(() => {
      if (isAfter) node.after(here); else node.before(here);
      here.focus({preventScroll: true});
      here.remove();
    });
    return true;
  }

  // What is sought

  function matching(selector) {
    try { return [...document.querySelectorAll(selector)].map(numberOf); } catch { return null; }
  }

  function hasText(text) { return Boolean(document.body?.innerText.includes(text)); }

  Object.assign(murvel, {looks, boxes, aim, frameAt, sight, focusedNow, mayKeep, focusOn, click, startAt, matching, hasText});
})();
