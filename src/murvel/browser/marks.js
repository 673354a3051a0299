// Runs beside `measuring.js`, in the same world: what is told by something drawn and by colour: icons, charts, links, states.
(() => {
  "use strict";
  if (!globalThis.murvel || murvel.icons) return;
  const {numberOf, nodeOf} = murvel;
  const {clipOf, everyElement, isInactive, isInSight, isInText, offsetOf, ownTexts, rectsOf, scopes, valuesOf} = murvel.inside;
  const MOST_ICON = 64, LEAST_CHART = 80;

  // The links in running text that nothing but their colour sets apart: [number, number of what they stand in].
  function plainLinks() {
    const found = [];
    for (const link of everyElement("a[href]")) {
      const around = link.parentElement;
      if (!around || !link.textContent.trim() || !isInText(link) || !link.checkVisibility()) continue;
      const own = getComputedStyle(link), outer = getComputedStyle(around);
      const isMarked = own.textDecorationLine !== "none" || parseFloat(own.borderBottomWidth) > 0 || own.boxShadow !== "none"
        || own.fontWeight !== outer.fontWeight || own.fontStyle !== outer.fontStyle || own.backgroundImage !== "none"
        || (own.backgroundColor !== outer.backgroundColor && own.backgroundColor !== "rgba(0, 0, 0, 0)")
        || link.querySelector("img, svg") || getComputedStyle(link, "::before").content !== "none"
        || getComputedStyle(link, "::after").content !== "none";
      if (!isMarked) found.push([numberOf(link), numberOf(around)]);
    }
    return found;
  }

  // The controls that only something drawn tells of: [number, is inactive, place of the drawing].
  const CONTROLS = "a[href], button, summary, [role=button], [role=link], [role=checkbox], [role=radio], [role=switch], "
    + "[role=menuitem], [role=tab], input[type=checkbox], input[type=radio]";
  function icons() {
    const found = [], clips = new Map();
    for (const element of everyElement(CONTROLS)) {
      if (!element.checkVisibility({visibilityProperty: true, opacityProperty: true}) || !isNear(element) || !isInSight(element, clips)) continue;
      if (element.localName === "input" && (getComputedStyle(element).appearance !== "none" || !element.checked)) continue;
      if (hasSeenText(element, clips)) continue;
      const place = drawn(element);
      if (place) found.push([numberOf(element), isInactive(element) ? 1 : 0, place]);
    }
    return found;
  }

  // Where on the page the highest control or drawing begins that the window's lower edge cuts, null without one.
  const KEPT_WHOLE = `${CONTROLS}, input, textarea, select, [tabindex], svg, canvas`;
  function cutBelow() {
    let highest = null;
    for (const element of everyElement(KEPT_WHOLE)) {
      const box = element.getBoundingClientRect(), top = box.top + offsetOf(element)[1];
      if (top <= 0 || top >= innerHeight || top + box.height <= innerHeight || !element.checkVisibility()) continue;
      if (box.height < innerHeight && (highest === null || top + scrollY < highest)) highest = top + scrollY;
    }
    return highest;
  }

  function isNear(element) {
    const {top, bottom} = element.getBoundingClientRect();
    return bottom > 0 && top < innerHeight;
  }

  const SPOKEN = /[\p{L}\p{N}]/u;
  function hasSeenText(element, clips) {
    return ownTexts(element).some((text) => {
      if (!SPOKEN.test(text.data)) return false;
      const range = element.ownerDocument.createRange();
      range.selectNodeContents(text);
      return rectsOf(range, [0, 0], clipOf(text.parentElement, clips)).some((rect) => rect[2] > 3 && rect[3] > 3);
    });
  }

  // Where the drawing of a control stands: that of its pictures, or else all of it within its border.
  function drawn(element) {
    const offset = offsetOf(element), style = getComputedStyle(element);
    const pictures = [...element.querySelectorAll("svg, img, canvas")].filter((each) => each.checkVisibility({opacityProperty: true}));
    if (pictures.length) {
      const [place] = rectsOf(pictures[0], offset);
      return pictures.length === 1 && place && Math.max(place[2], place[3]) <= MOST_ICON ? place : null;
    }
    const isDrawn = [element, ...element.querySelectorAll("*")].some((each) => {
      const own = getComputedStyle(each);
      return own.backgroundImage.includes("url") || own.maskImage.includes("url") || [":before", ":after"].some((pseudo) => {
        const content = getComputedStyle(each, pseudo).content;
        return content !== "none" && content !== "normal";
      });
    });
    const [box] = isDrawn ? rectsOf(element, offset) : [];
    if (!box || Math.max(box[2], box[3]) > MOST_ICON) return null;
    const border = (side) => parseFloat(style[`border${side}Width`]) || 0;
    const round = parseFloat(style.borderTopLeftRadius) || 0;
    const radius = Math.min(style.borderTopLeftRadius.includes("%") ? round / 100 * box[2] : round, box[2] / 2, box[3] / 2);
    const inset = 1 + radius * (1 - Math.SQRT1_2);  // beyond a round corner stands what is around
    const inner = [box[0] + border("Left") + inset, box[1] + border("Top") + inset, box[2] - border("Left") - border("Right") - 2 * inset,
      box[3] - border("Top") - border("Bottom") - 2 * inset];
    return inner[2] > 4 && inner[3] > 4 ? inner : null;
  }

  // The drawings that may tell something by areas of colour: [number, place].
  function charts() {
    const found = [], clips = new Map();
    for (const element of everyElement("svg, canvas")) {
      if (!element.checkVisibility({visibilityProperty: true, opacityProperty: true}) || !isInSight(element, clips)) continue;
      if (element.closest("[aria-hidden=true], [role=presentation], [role=none]")) continue;
      const [place] = rectsOf(element, offsetOf(element));
      const hasAreas = element.localName === "canvas" || element.querySelectorAll("path, rect, circle, polygon, ellipse").length > 2;
      if (place && hasAreas && Math.min(place[2], place[3]) >= LEAST_CHART) found.push([numberOf(element), place]);
    }
    return found;
  }

  // How controls with a state look, and one beside each that is without it: [number, state, looks, looks of the other].
  const STATES = ["aria-selected", "aria-pressed", "aria-checked", "aria-current", "aria-expanded"];
  const MOST_STATES = 100;
  function stateLooks() {
    const found = [];
    for (const name of STATES) {
      for (const element of everyElement(`[${name}]`)) {
        const value = element.getAttribute(name);
        if (value === "false" || value === "" || !element.checkVisibility()) continue;
        const other = likeIt(element, name, value);
        if (other) found.push([numberOf(element), name, lookOf(element), lookOf(other)]);
        if (found.length === MOST_STATES) return found;
      }
    }
    return found;
  }

  function likeIt(element, name, value) {
    const among = element.closest("ul, ol, nav, tr, [role=tablist], [role=listbox], [role=toolbar], [role=radiogroup], [role=menu]")
      ?? element.parentElement;
    return [...among?.querySelectorAll(element.localName) ?? []].find((each) => each !== element && each.checkVisibility()
      && each.getAttribute("role") === element.getAttribute("role") && (each.getAttribute(name) ?? "false") !== value);
  }

  const LOOKS = ["color", "background-color", "background-image", "border-top", "border-right", "border-bottom", "border-left",
    "outline", "text-decoration-line", "font-weight", "font-style", "box-shadow", "opacity", "transform", "display", "fill",
    "stroke", "content"];
  function lookOf(element) {
    const looks = [];
    for (const each of [element.parentElement, element, ...[...element.querySelectorAll("*")].slice(0, 12)]) {
      for (const pseudo of [null, "::before", "::after"]) {
        const style = getComputedStyle(each, pseudo);
        looks.push(LOOKS.map((name) => style.getPropertyValue(name)).join("|"));
      }
    }
    return looks.join("\n");
  }

  // The colours in some elements and what is in them, in words that differ where anything about them does.
  const COLOURS = ["color", "background-color", "background-image", "opacity", "filter", "-webkit-text-fill-color"];
  function coloursIn(numbers) {
    return numbers.map((number) => {
      const element = nodeOf(number);
      const all = element?.isConnected ? [element, ...[...element.querySelectorAll("*")].slice(0, 12)] : [];
      return all.map((each) => valuesOf(getComputedStyle(each), COLOURS).join("|")).join("\n");
    });
  }

  // What is shown beside or in some elements, other than in others of them: [number, number of what is shown].
  const MOST_SHOWN = 60;
  function shownBeside(numbers) {
    const holder = (each) => { while (each && !elements.has(each)) each = each.parentElement; return each; };
    const owners = new Map(), elements = new Set(numbers.map(nodeOf).filter((each) => each?.isConnected));
    for (const element of elements) {
      const around = element.parentElement;
      if (!around || around === around.ownerDocument.body) continue;
      for (const text of ownTexts(around).slice(0, MOST_SHOWN)) {
        const shown = text.parentElement;
        const held = holder(shown);
        const isAfter = element.compareDocumentPosition(shown) & Node.DOCUMENT_POSITION_FOLLOWING;
        if (held === element || (isAfter && (!held || held.contains(element)))) owners.set(shown, element);
      }
    }
    return [...owners].map(([shown, element]) => [numberOf(element), numberOf(shown)]);
  }

  // Which of some elements, or what they stand in, a rule of the page may show otherwise while a pointer is on them.
  function answering(numbers) {
    const selectors = hoverSelectors();
    if (!selectors) return numbers;
    const known = new Map();
    const answers = (element) => {
      if (!element) return false;
      if (!known.has(element)) known.set(element, selectors.some((each) => element.matches(each)));
      return known.get(element);
    };
    return numbers.filter((number) => answers(nodeOf(number)) || answers(nodeOf(number)?.parentElement));
  }

  // What is pointed at in the rules of all sheets, as selectors that match that and maybe more; null for anything.
  function hoverSelectors() {
    const found = new Set(), rules = [];
    try {
      for (const scope of scopes) {
        for (const sheet of [...scope.styleSheets ?? [], ...scope.adoptedStyleSheets ?? []]) rules.push(...sheet.cssRules);
      }
      while (rules.length) {
        const rule = rules.pop(), text = rule.selectorText ?? "";
        rules.push(...rule.cssRules ?? [], ...rule.styleSheet?.cssRules ?? []);
        for (const [, before] of text.matchAll(/([^\s>+~,()]*):hover/g)) {
          const [selector] = before.split(":");  // other states come and go
          if (selector) document.body.matches(selector);  // throws where it is no selector
          found.add(selector || "*");
        }
      }
    } catch {
      return null;  // a sheet of another site, or a selector that is not understood here
    }
    return [...found];
  }

  // What some elements stand in, the page's body left out.
  function around(numbers) {
    const parents = new Set(numbers.map((each) => nodeOf(each)?.parentElement).filter((each) => each && each.localName !== "body"));
    return [...parents].map(numberOf);
  }

  // Which of some elements have no outline now; an outline is always painted in forced colours.
  function withoutOutline(numbers) {
    return numbers.filter((number) => {
      const element = nodeOf(number), style = element?.isConnected ? getComputedStyle(element) : null;
      return style && (style.outlineStyle === "none" || !parseFloat(style.outlineWidth));
    });
  }

  Object.assign(murvel, {answering, around, charts, coloursIn, cutBelow, icons, plainLinks, shownBeside, stateLooks, withoutOutline});
})();
