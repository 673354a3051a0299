// Runs beside `recorder.js`, in the same world: where text and controls are seen, and a way to paint text so that
// pictures of the page tell its colours. Nothing of the document is changed; style sheets are added beside those of the
// page, and taken away again.
(() => {
  "use strict";
  if (!globalThis.murvel || murvel.texts) return;
  const {numberOf, nodeOf} = murvel;
  const {clipOf, everyElement, frameRoot, isInSight, isScrolledAway, offsetOf, scopes, scrolledBy, shadowOf} = murvel.inside;
  const MOST_RECTS = 12, LEAST = 2;

  // How text is painted while a picture is taken. A line through the text, as high as the text, shows its colour in
  // full, where letters have soft edges; it goes through the same opacity, blending and filters.
  const PARTS = ["before", "after", "placeholder", "marker", "backdrop", "file-selector-button", "-webkit-slider-thumb",
    "-webkit-slider-runnable-track", "-webkit-search-cancel-button", "-webkit-calendar-picker-indicator", "-webkit-color-swatch",
    "-webkit-inner-spin-button"].map((each) => `, ::${each}`).join("");
  const STILL = `*${PARTS} { transition: none !important; animation-play-state: paused !important;`
    + " caret-color: transparent !important; ";
  const HIDDEN = "-webkit-text-fill-color: transparent !important; -webkit-text-stroke-color: transparent !important;";
  const LINE = "text-decoration: line-through solid 1em !important; text-decoration-skip-ink: none !important;";
  const CHOICE = " select { color: transparent !important }";  // its text is painted by the browser's own widget
  const PAINTS = {
    still: STILL + "}",
    behind: STILL + HIDDEN + " text-decoration-line: none !important }" + CHOICE,
    text: STILL + LINE + " text-decoration-color: rgb(from currentcolor r g b / 1) !important }",
    probe: STILL + HIDDEN + LINE + " text-decoration-color: rgb(255, 0, 255) !important }" + CHOICE,
    other: STILL + HIDDEN + LINE + " text-decoration-color: rgb(0, 255, 0) !important }" + CHOICE,
  };
  const sheets = new Map(), painted = new Map();

  function paint(name) {
    for (const scope of scopes) {
      const document = scope.ownerDocument ?? scope;
      const view = document.defaultView;
      if (!view) continue;
      let sheet = sheets.get(scope);
      if ((painted.get(scope) ?? "") === name && (!sheet || scope.adoptedStyleSheets.includes(sheet))) continue;
      if (!sheet) {
        sheet = new view.CSSStyleSheet();
        sheets.set(scope, sheet);
      }
      sheet.replaceSync(name ? PAINTS[name] : PAINTS.still);
      painted.set(scope, name);
      if (!scope.adoptedStyleSheets.includes(sheet)) scope.adoptedStyleSheets = [...scope.adoptedStyleSheets, sheet];
      if (!name) {
        void view.getComputedStyle(document.documentElement).color;  // what moves on moves without a transition
        scope.adoptedStyleSheets = scope.adoptedStyleSheets.filter((each) => each !== sheet);
        sheets.delete(scope);
        painted.delete(scope);
      }
    }
    return true;
  }

  // The rectangles of an element or range in places of the page, as far as no box around cuts them off.
  function rectsOf(source, [left, top], clip) {
    const found = [];
    for (let {x, y, width, height} of source.getClientRects()) {
      if (clip) {
        const right = Math.min(x + width, clip[2]), bottom = Math.min(y + height, clip[3]);
        x = Math.max(x, clip[0]); y = Math.max(y, clip[1]);
        width = right - x; height = bottom - y;
      }
      if (width >= LEAST && height >= LEAST) found.push([x + left + scrollX, y + top + scrollY, width, height].map(short));
      if (found.length === MOST_RECTS) break;
    }
    return found;
  }

  const short = (value) => Math.round(value * 100) / 100;

  const FIELDS = "input:not([type=checkbox], [type=radio], [type=hidden], [type=range], [type=color], [type=image], "
    + "[type=file]), textarea, select";

  // Every element with text of its own that is shown, in the window or without a place: [number, kind, size, weight, colour, what hinders, is inactive,
  // rects], in places of the page. Kind 0 is text, 1 a value and 2 a placeholder, which no line goes through.
  let knownTexts = null, knownAt = 0, knownHeight = 0, knownSteps = 0;
  function texts() {
    const height = (document.scrollingElement ?? document.documentElement).scrollHeight;
    const isOld = !knownTexts || murvel.calm() < (performance.now() - knownAt) / 1000 || height !== knownHeight
      || murvel.inside.steps !== knownSteps;
    if (isOld) {
      knownTexts = textsOf(everyElement());
      knownAt = performance.now(); knownHeight = height; knownSteps = murvel.inside.steps;
    }
    return knownTexts.filter(([, , , , , , , rects]) => !rects.length
      || rects.some((rect) => rect[1] < scrollY + innerHeight && rect[1] + rect[3] > scrollY));
  }

  // The same of what is in some elements, as it is at this moment.
  function textsIn(numbers) {
    const inside = new Set();
    for (const element of numbers.map(nodeOf)) if (element?.isConnected) for (const each of [element, ...element.querySelectorAll("*")]) inside.add(each);
    return textsOf(inside);
  }

  function textsOf(elements) {
    const found = [], known = new Map(), clips = new Map();
    const note = (element, kind, rects) => {
      if (!element.checkVisibility({visibilityProperty: true})) return;
      const style = getComputedStyle(element, kind === 2 ? "::placeholder" : null), own = getComputedStyle(element);
      const hinders = own.textShadow !== "none" ? "a shadow lies behind the letters"
        : style.getPropertyValue("-webkit-text-fill-color") !== style.color ? "-webkit-text-fill-color paints it"
        : around(element, known)[kind ? 1 : 0];
      found.push([numberOf(element), kind, parseFloat(own.fontSize), parseInt(own.fontWeight) || 400, style.color,
        hinders, isInactive(element) ? 1 : 0, rects]);
    };
    for (const element of elements) {
      if (element.namespaceURI === "http://www.w3.org/2000/svg" || frameRoot(element)) continue;
      const offset = offsetOf(element);
      if (element.matches(FIELDS)) {
        const text = element.value || element.placeholder || "";
        if (text.trim()) note(element, element.value ? 1 : 2, fieldRects(element, offset, clipOf(element.parentElement ?? element, clips)));
        continue;
      }
      const rects = [];
      let range = null;
      for (let node = element.firstChild; node && rects.length < MOST_RECTS; node = node.nextSibling) {
        if (node.nodeType !== 3 || !node.data.trim()) continue;
        range = element.ownerDocument.createRange();
        range.selectNodeContents(node);
        rects.push(...rectsOf(range, offset, clipOf(element, clips)));
      }
      if (range) note(element, 0, rects.slice(0, MOST_RECTS));
    }
    return found;
  }

  // What hinders telling the colour of text in an element, and that of a value: [words, words].
  function around(element, known) {
    if (!element) return ["", ""];
    let found = known.get(element);
    if (!found) {
      const style = getComputedStyle(element);
      const parent = element.parentElement ?? element.getRootNode().host ?? null;
      const [text, value] = around(parent, known);
      const isPicture = style.getPropertyValue("-webkit-background-clip") === "text";
      const isMixed = style.opacity !== "1" || style.mixBlendMode !== "normal" || style.filter !== "none";
      const own = isPicture ? "its letters are cut out of a picture (background-clip: text)" : "";
      found = [own || text, own || (isMixed ? "opacity, blending or a filter lies over it" : "") || value];
      known.set(element, found);
    }
    return found;
  }

  function fieldRects(element, offset, clip) {
    const style = getComputedStyle(element), [box] = rectsOf(element, offset, clip);
    if (!box) return [];
    const [left, top, width, height] = box, side = (name) => parseFloat(style[name]) || 0;
    const size = parseFloat(style.lineHeight) || 1.2 * parseFloat(style.fontSize);
    const inner = [left + side("paddingLeft") + side("borderLeftWidth"), 0,
      width - side("paddingLeft") - side("paddingRight") - side("borderLeftWidth") - side("borderRightWidth"), size];
    inner[1] = element.localName === "textarea" ? top + side("paddingTop") + side("borderTopWidth") : top + (height - size) / 2;
    return inner[2] > LEAST ? [inner.map(short)] : [];
  }

  function isInactive(element) {
    for (let each = element; each; each = each.parentElement) {
      if (each.matches(":disabled, [aria-disabled=true], [inert]")) return true;
      if (each.localName === "label" && each.control?.matches(":disabled")) return true;
    }
    return false;
  }

  // The fields that have an edge to be seen: [number, is inactive, widths of the border, place, is round]. What is
  // ticked counts where the page draws it itself.
  const EDGED = "input:not([type=hidden], [type=range], [type=color], [type=image], [type=file], [type=submit], "
    + "[type=button], [type=reset]), textarea, select, [role=textbox], [role=combobox]";
  const TICKED = "input[type=checkbox], input[type=radio], [role=checkbox], [role=radio], [role=switch]";
  function edges() {
    const found = [], clips = new Map();
    for (const element of everyElement(EDGED + ", " + TICKED)) {
      const drawn = element.matches("input[type=checkbox], input[type=radio]") ? drawnBeside(element, clips) : null;
      if (drawn) {
        found.push([numberOf(element), isInactive(element) ? 1 : 0, ...drawn]);
        continue;
      }
      if (!element.checkVisibility({visibilityProperty: true, opacityProperty: true}) || !isInSight(element, clips)) continue;
      const [place] = rectsOf(element, offsetOf(element)), style = getComputedStyle(element), isTicked = element.matches(TICKED);
      if (!place || place[2] < 12 || place[3] < 12) continue;
      if (isTicked && (element.localName === "input" ? style.appearance !== "none" : element.textContent.trim())) continue;
      found.push([numberOf(element), isInactive(element) ? 1 : 0, ...edgeOf(style, place)]);
    }
    return found;
  }

  function edgeOf(style, place) {
    const widths = ["Top", "Right", "Bottom", "Left"].map((side) => parseFloat(style[`border${side}Width`]) || 0);
    const isRound = parseFloat(style.borderTopLeftRadius) >= 0.4 * (style.borderTopLeftRadius.includes("%") ? 100 : place[3]);
    return [widths, place, isRound ? 1 : 0];
  }

  // The edge of the box that stands for a hidden input: generated by its label or by what follows it, or an empty element
  // that follows it; null where there is none, or the input itself is seen.
  const LEAST_BOX = 12, MOST_BOX = 64;
  function drawnBeside(element, clips) {
    const [own] = rectsOf(element, offsetOf(element));
    const isSeen = element.checkVisibility({visibilityProperty: true, opacityProperty: true});
    if (isSeen && own && own[2] >= LEAST_BOX && own[3] >= LEAST_BOX) return null;
    if (getComputedStyle(element).display === "none") return null;  // nobody reaches it
    const isBox = (width, height) => Math.min(width, height) >= LEAST_BOX && Math.max(width, height) <= MOST_BOX;
    for (const beside of new Set([...element.labels ?? [], element.nextElementSibling])) {
      if (!beside?.checkVisibility({visibilityProperty: true, opacityProperty: true}) || !isInSight(beside, clips)) continue;
      const [place] = rectsOf(beside, offsetOf(beside)), around = getComputedStyle(beside);
      if (place && isBox(place[2], place[3]) && !beside.textContent.trim() && !beside.childElementCount) return edgeOf(around, place);
      for (const pseudo of place && around.position !== "static" ? ["::before", "::after"] : []) {
        const style = getComputedStyle(beside, pseudo), [left, top] = [style.left, style.top].map(parseFloat);
        const outer = (sides) => style.boxSizing === "border-box" ? 0
          : sides.reduce((sum, side) => sum + (parseFloat(style[`padding${side}`]) || 0) + (parseFloat(style[`border${side}Width`]) || 0), 0);
        const width = parseFloat(style.width) + outer(["Left", "Right"]), height = parseFloat(style.height) + outer(["Top", "Bottom"]);
        if (style.content === "none" || style.position !== "absolute" || !isBox(width, height)) continue;
        return edgeOf(style, [place[0] + beside.clientLeft + left, place[1] + beside.clientTop + top, width, height].map(short));
      }
    }
    return null;
  }

  // Where a pointer reaches each of some elements: [number, place, width and height that it reaches, is in running text,
  // has the browser's own size, number of the box that scrolls it or 0]; only of those in the window. Places are those
  // of the box before it is scrolled.
  const NATIVE = {checkbox: 13, radio: 13}, MOST_SIZING = 20000;
  function targets(numbers) {
    const found = [];
    labelsKnown = new Map();
    sizingKnown = null;
    for (const number of numbers) {
      const element = nodeOf(number);
      if (!element?.isConnected || isInactive(element)) continue;
      if (!element.checkVisibility({visibilityProperty: true, opacityProperty: true}) && !labelsOf(element).length) continue;
      const boxes = [element, ...labelsOf(element)].flatMap((each) => rectsOf(each, offsetOf(each)));
      const place = boxes.reduce((best, each) => !best || each[2] * each[3] > best[2] * best[3] ? each : best, null);
      if (!place || place[1] < scrollY || place[1] + place[3] > scrollY + innerHeight || isScrolledAway(element)) continue;
      const [within, left, top] = scrolledBy(element);
      const isSmall = Math.min(place[2], place[3]) < 44;
      found.push([number, [place[0] + left, place[1] + top, place[2], place[3]],
        isSmall ? reached(element, place) : [place[2], place[3]], isInText(element) ? 1 : 0, isSmall && isNative(element) ? 1 : 0, within]);
    }
    return found;
  }

  // The labels of an element that show. `element.labels` goes through the whole page for each element that is asked.
  let labelsKnown = new Map();
  function labelsOf(element) {
    const root = element.getRootNode();
    if (!labelsKnown.has(root)) {
      const byControl = new Map();
      for (const label of root.querySelectorAll("label")) {
        if (label.control) byControl.set(label.control, [...byControl.get(label.control) ?? [], label]);
      }
      labelsKnown.set(root, byControl);
    }
    return (labelsKnown.get(root).get(element) ?? []).filter((each) => each.checkVisibility());
  }

  // How far from its middle a pointer still reaches an element or what is in it: parts that stand out count.
  function reached(element, [left, top, width, height]) {
    const x = left - scrollX + width / 2, y = top - scrollY + height / 2;
    const labels = labelsOf(element);
    const isHit = (px, py) => {
      let over = document.elementFromPoint(px, py);
      for (let shadow; over && !element.contains(over) && (shadow = shadowOf(over));) {
        const inside = shadow.elementFromPoint(px, py);
        if (!inside || inside === over) break;
        over = inside;
      }
      if (over && frameRoot(over)) return true;  // what is in a frame is asked by its box alone
      return Boolean(over) && (element.contains(over) || labels.some((each) => each.contains(over)));
    };
    if (!isHit(x, y)) return [width, height];
    const reach = (dx, dy) => { let at = 0; while (at < 44 && isHit(x + dx * (at + 1), y + dy * (at + 1))) at++; return at; };
    return [width < 44 ? Math.max(width, reach(-1, 0) + reach(1, 0)) : width,
      height < 44 ? Math.max(height, reach(0, -1) + reach(0, 1)) : height].map(short);
  }

  // Whether the size of an element is that of the lines of text it stands in.
  function isInText(element) {
    if (getComputedStyle(element).display !== "inline") return false;
    let block = element.parentElement;
    while (block && getComputedStyle(block).display === "inline") block = block.parentElement;
    if (!block) return false;
    const walker = block.ownerDocument.createTreeWalker(block, NodeFilter.SHOW_TEXT);
    for (let text = walker.nextNode(); text; text = walker.nextNode()) {
      if (/[\p{L}\p{N}]/u.test(text.data) && !text.parentElement.closest("a, button")) return true;
    }
    return false;
  }

  function isNative(element) {
    if (element.localName === "option") return true;  // a line of a list that the browser draws
    const size = NATIVE[element.type], style = getComputedStyle(element);
    if (size) return style.appearance !== "none" && element.offsetWidth === size && element.offsetHeight === size;
    const isControl = ["button", "select", "textarea"].includes(element.localName) || (element.localName === "input" && element.type !== "image");
    return isControl && !element.childElementCount && !SIZED.some((name) => element.style.getPropertyValue(name)) && !isSizedByRule(element);
  }

  // What decides the size of a control; where no rule of the page says any of it, the browser does.
  const SIZED = ["appearance", "border-top-width", "border-left-width", "font-family", "font-size", "height", "line-height",
    "max-height", "max-width", "min-height", "min-width", "padding-top", "padding-left", "width", "zoom", "transform", "scale", "display", "writing-mode"];

  let sizingKnown = null;
  function isSizedByRule(element) {
    sizingKnown ??= new Map();
    const root = element.getRootNode();
    if (!sizingKnown.has(root)) sizingKnown.set(root, sizingIn(root));
    return sizingKnown.get(root).some((selector) => {
      try { return element.matches(selector); } catch { return true; }
    });
  }

  // The selectors of the rules that decide sizes; of a sheet of another site nobody can tell, so it may concern all.
  function sizingIn(root) {
    const found = [], waiting = [];
    for (const sheet of [...root.styleSheets ?? [], ...root.adoptedStyleSheets ?? []]) {
      try { waiting.push(...sheet.cssRules); } catch { found.push("*"); }
    }
    while (waiting.length && found.length < MOST_SIZING) {
      const rule = waiting.pop();
      if (rule.media && !matchMedia(rule.media.mediaText).matches) continue;
      if (rule.cssRules?.length) waiting.push(...rule.cssRules);
      if (rule.selectorText && SIZED.some((name) => rule.style.getPropertyValue(name))) found.push(rule.selectorText);
    }
    return found;
  }

  // The places of some elements: [number, place]; only of those in the window that have one.
  function places(numbers) {
    const found = [];
    for (const number of numbers) {
      const element = nodeOf(number);
      const [place] = element?.isConnected ? rectsOf(element, offsetOf(element)) : [];
      if (place && place[1] >= scrollY && place[1] + place[3] <= scrollY + innerHeight) found.push([number, place]);
    }
    return found;
  }

  // What makes the page wider than the window: [number, how far it reaches beyond], only what does so by itself.
  function wide() {
    const page = document.scrollingElement ?? document.documentElement;
    if (page.scrollWidth <= innerWidth + 1) return [];
    const found = [], clips = new Map();
    for (const element of document.body?.querySelectorAll("*") ?? []) {
      const {right, width} = element.getBoundingClientRect();
      if (right + scrollX <= innerWidth + 1 || !width || !element.checkVisibility() || clipOf(element, clips)) continue;
      if ([...element.children].some((each) => each.getBoundingClientRect().right + scrollX > innerWidth + 1)) continue;
      found.push([numberOf(element), Math.round(right + scrollX - innerWidth)]);
      if (found.length === 20) break;
    }
    return found;
  }

  // The place of one element, wherever it is; null if it has none.
  function boxOf(number) {
    const element = nodeOf(number);
    const box = element?.isConnected ? element.getBoundingClientRect() : null;
    if (!box || !box.width || !box.height) return null;
    const [left, top] = offsetOf(element);
    return [box.x + left + scrollX, box.y + top + scrollY, box.width, box.height].map(short);
  }

  // The texts that a box around them cuts off, in an element that nothing scrolls: [number, what part is lost].
  const MOST_CUT = 50;
  function cut() {
    const found = [];
    for (const element of everyElement()) {
      if (found.length === MOST_CUT) break;
      const {overflowX, overflowY} = getComputedStyle(element);
      const [hidesX, hidesY] = [overflowX, overflowY].map((each) => each === "hidden" || each === "clip");
      if ((!hidesX && !hidesY) || element.clientWidth < 8 || element.clientHeight < 8 || !element.checkVisibility()) continue;
      const beyond = [hidesX ? element.scrollWidth - element.clientWidth : 0, hidesY ? element.scrollHeight - element.clientHeight : 0];
      if (Math.max(...beyond) < 3) continue;
      for (const text of ownTexts(element)) {
        const range = element.ownerDocument.createRange(), box = element.getBoundingClientRect();
        range.selectNodeContents(text);
        const rects = [...range.getClientRects()].filter((each) => each.width && each.height);
        const lost = rects.filter((each) => each.right > box.right + 2 || each.bottom > box.bottom + each.height / 3);
        if (lost.length && lost.length < rects.length + 1 && rects.some((each) => each.left < box.right && each.top < box.bottom)) {
          found.push([numberOf(text.parentElement), lost.some((each) => each.right > box.right + 2) ? "its end" : "its last lines"]);
          break;
        }
      }
    }
    return found;
  }

  function ownTexts(element) {
    const walker = element.ownerDocument.createTreeWalker(element, NodeFilter.SHOW_TEXT), found = [];
    for (let text = walker.nextNode(); text && found.length < 200; text = walker.nextNode()) {
      if (text.data.trim() && text.parentElement.checkVisibility({visibilityProperty: true, opacityProperty: true})) found.push(text);
    }
    return found;
  }

  // Which of some elements are in the window, or near its top, or nowhere in sight: those that may show there. What a box
  // has scrolled away is left out until it is there.
  function near(numbers) {
    return numbers.filter((number) => {
      const element = nodeOf(number), box = element?.isConnected ? element.getBoundingClientRect() : null;
      return box && ((box.bottom > 0 && box.top < innerHeight) || (scrollY === 0 && box.top <= 0)) && element.checkVisibility()
        && !isScrolledAway(element);
    });
  }

  // How much of a window what stays in place may cover, in parts of its height.
  function covering() {
    let height = 0;
    for (const element of everyElement()) {
      const {position} = getComputedStyle(element);
      if (position !== "fixed" && position !== "sticky") continue;
      const box = element.getBoundingClientRect();
      if (box.width > innerWidth / 2 && box.height < innerHeight / 2) height += box.height;
    }
    return height / innerHeight;
  }

  // How far the page and its window reach, and the pixels of a picture for one of CSS.
  function extent() {
    const page = document.scrollingElement ?? document.documentElement;
    return {width: innerWidth, height: innerHeight, pageHeight: page.scrollHeight, scroll: [scrollX, scrollY],
      scale: devicePixelRatio};
  }

  function scrollToPlace(x, y) { window.scrollTo({left: x, top: y, behavior: "instant"}); return [scrollX, scrollY]; }

  Object.assign(murvel, {paint, texts, textsIn, edges, targets, places, boxOf, near, wide, cut, covering, extent, scrollToPlace});
  Object.assign(murvel.inside, {isInactive, isInText, ownTexts, rectsOf});  // for `marks.js`
})();
