// Runs in a world of its own beside a page, from before the page's first script: it gives every node a number, tells
// what is on the page, and notes each change as it happens. The page's scripts see nothing of it and can change nothing
// in it. What it returns is plain JSON; `murvel.page.captured` reads it.
// A frame of the page's own origin is told by the page's recorder. A frame of another origin has a recorder of its own.
(() => {
  "use strict";
  if (window.frameElement || globalThis.murvel) return;

  const TREE_STYLES = ["display", "visibility", "white-space", "text-transform", "content-visibility", "position",
    "float", "list-style-type", "counter-reset", "counter-increment", "counter-set", "quotes"];
  const NO_STYLE = ["block", "visible", "normal", "none", "visible", "static", "none", "disc", "none", "none", "none",
    "auto"];
  const PSEUDO_STYLES = ["content", "display", "visibility", "position", "float", "text-transform", "counter-reset",
    "counter-increment", "counter-set"];
  const NAMESPACES = {"http://www.w3.org/1999/xhtml": 0, "http://www.w3.org/2000/svg": 1,
    "http://www.w3.org/1998/Math/MathML": 2};
  const MOST_BATCHES = 400, MOST_RESTYLED = 500, MOST_NODES = 800000;
  const ELEMENT = 1, TEXT = 3, CDATA = 4;

  let last = 0;
  const numbers = new WeakMap(), nodes = new Map();
  const styleNumbers = new Map(), styleOf = new WeakMap(), stateOf = new WeakMap();
  const custom = new Set();  // the custom elements that were told of
  const known = new Set();  // the numbers of the nodes that were told of
  const observed = new WeakSet(), scopes = new Set(), liveStyles = new WeakMap(), glances = new WeakMap();
  const styles = [];
  let newStyles = [], batches = [], isDirty = true, isOverrun = false, root = null;

  function numberOf(node) {
    let number = numbers.get(node);
    if (number === undefined) {
      number = ++last;
      numbers.set(node, number);
      nodes.set(number, node);
    }
    return number;
  }

  // What is on the page

  function intern(values) {
    const text = JSON.stringify(values);
    let number = styleNumbers.get(text);
    if (number === undefined) {
      number = styles.length;
      styleNumbers.set(text, number);
      styles.push(values);
      newStyles.push(values);
    }
    return number;
  }

  function valuesOf(style, names) {
    return names.map((name) => style.getPropertyValue(name));
  }

  function generated(element, pseudo) {
    const style = getComputedStyle(element, pseudo);
    const content = style.content;
    return content === "none" || content === "normal" || content === "" ? 0 : valuesOf(style, PSEUDO_STYLES);
  }

  function styleNumber(element) {
    const style = getComputedStyle(element), values = valuesOf(style, TREE_STYLES);
    const isHtml = NAMESPACES[element.namespaceURI] === 0;
    const before = isHtml ? generated(element, "::before") : 0;
    const after = isHtml ? generated(element, "::after") : 0;
    let marker = values[0] === "list-item" ? getComputedStyle(element, "::marker").content : "";
    if (marker === "normal") marker = "";
    const replaced = isHtml && style.content !== "normal" && style.content !== "none" ? style.content : "";
    if (before || after || marker || replaced) values.push(before, after, marker);
    if (replaced) values.push(replaced);
    return intern(values);
  }

  // Chromium lets Tab stop at boxes that scroll and have no stop in them.
  const scrollers = new Set(), UNSCROLLED = ["html", "body", "textarea", "select", "input", "iframe"];
  const STOPS = "a[href], area[href], button, input, select, textarea, summary, iframe, audio[controls], "
    + "video[controls], [tabindex], [contenteditable]";

  function noteScroller(element) {
    if (UNSCROLLED.includes(element.localName)) return;
    const style = getComputedStyle(element);
    const isOne = ["overflow-x", "overflow-y"].some((name) => SCROLLS.includes(style.getPropertyValue(name)));
    if (isOne) scrollers.add(element); else scrollers.delete(element);
  }
  const SCROLLS = ["auto", "scroll"];

  function isScrollStop(element) {
    const {overflowX, overflowY} = getComputedStyle(element);
    return ((SCROLLS.includes(overflowY) && element.scrollHeight > element.clientHeight)
      || (SCROLLS.includes(overflowX) && element.scrollWidth > element.clientWidth)) && !hasStop(element);
  }

  function hasStop(around) {
    for (const each of around.querySelectorAll(STOPS)) {
      if (each.tabIndex >= 0 && !each.matches(":disabled") && each.checkVisibility()) return true;
    }
    for (const each of scrollers) if (each !== around && around.contains(each) && isScrollStop(each)) return true;
    for (const each of around.querySelectorAll("*")) {
      const shadow = shadowOf(each);
      if (shadow && hasStop(shadow)) return true;
    }
    return false;
  }

  // [checked, value, selected, popover is showing, dialog is modal, indeterminate, is a stop since it scrolls, list is
  // open, shows its content in place of what it names, has an error that a script set], or 0 where there is none of it
  function stateNow(element) {
    let state = 0;
    const note = (at, value) => { state = state || [null, null, null, 0, 0, 0, 0, 0, 0, 0]; state[at] = value; };
    if (scrollers.has(element) && isScrollStop(element)) note(6, 1);
    switch (element.localName) {
      case "input":
        if (element.type === "checkbox" || element.type === "radio") {
          note(0, element.checked ? 1 : 0);
          if (element.indeterminate) note(5, 1);
        } else if (element.type === "file") {
          note(1, [...element.files].map((file) => file.name).join(", "));
        } else note(1, element.value);
        break;
      case "textarea": note(1, element.value); break;
      case "option": note(2, isChosen(element) ? 1 : 0); break;
      case "object": if (isFallback(element)) note(8, 1); break;
      case "select": if (isOpen(element)) note(7, 1); break;
      case "dialog": if (element.matches(":modal")) note(4, 1); break;
    }
    if (element.validity?.customError) note(9, 1);
    if (element.popover && element.matches(":popover-open")) note(3, 1);
    return state;
  }

  // The browser shows the options of an open list in a window of its own. It tells which one an arrow went to (`mark`);
  // the option is chosen once the list is closed.
  const marked = new WeakMap();
  const isOpen = (select) => select.matches(":open") && !select.multiple && select.size < 2;

  function isChosen(option) {
    const select = option.closest("select"), mark = select && marked.get(select);
    return mark && isOpen(select) ? mark === option : option.selected;
  }

  function openList() {
    const element = nodes.get(focused());
    return element?.localName === "select" && isOpen(element) ? numberOf(element) : 0;
  }

  function mark(number, value) {
    const select = nodes.get(number), chosen = select?.options[select.selectedIndex];
    const named = [...select?.options ?? []].filter((each) => !each.disabled && each.label.trim() === value.trim());
    if (named.length) marked.set(select, named.includes(chosen) ? chosen : named[0]);
    isDirty = true;
  }

  // Whether an object shows its content: what it names did not come, or is of no type that is shown.
  function isFallback(object) {
    if (object.firstElementChild) return object.firstElementChild.checkVisibility();
    const range = document.createRange();
    range.selectNodeContents(object);
    return range.getClientRects().length > 0;
  }

  const keyOfState = (state) => state ? JSON.stringify(state) : "";

  function attributesOf(element) {
    const found = [];
    for (const each of element.attributes) found.push(each.name, valueOf(element, each.name));
    return found;
  }

  // The value of an attribute; where a script refers to elements directly, their numbers (WAI-ARIA 1.3 §10).
  const REFERENCES = {"aria-labelledby": "ariaLabelledByElements", "aria-describedby": "ariaDescribedByElements",
    "aria-details": "ariaDetailsElements", "aria-errormessage": "ariaErrorMessageElements",
    "aria-controls": "ariaControlsElements", "aria-owns": "ariaOwnsElements", "aria-flowto": "ariaFlowToElements",
    "aria-activedescendant": "ariaActiveDescendantElement"};

  function valueOf(element, name) {
    const value = element.getAttribute(name), refers = value === "" && element[REFERENCES[name]];
    return refers ? [refers].flat().map(numberOf) : value;
  }

  function frameRoot(element) {
    if (element.localName !== "iframe" && element.localName !== "frame") return null;
    try { return element.contentDocument?.documentElement ?? null; } catch { return null; }
  }

  // Closed shadow roots come from the browser (`adopt`): no script reaches them by their host.
  const closed = new WeakMap();
  const shadowOf = (element) => element.shadowRoot ?? closed.get(element) ?? null;

  function childrenOf(node) {
    const inside = node.nodeType === ELEMENT ? frameRoot(node) : null;
    const found = inside ? [inside] : [];
    const shadow = node.nodeType === ELEMENT ? shadowOf(node) : null;
    if (shadow) found.push(shadow);
    if (!inside) {
      for (let each = node.firstChild; each; each = each.nextSibling) {
        if (each.nodeType === ELEMENT || each.nodeType === TEXT || each.nodeType === CDATA) found.push(each);
      }
    }
    return found;
  }

  // Text: [number, parent, data]. Element: [number, parent, tag, namespace, attributes, style, state].
  // Shadow root: [number, host, mode, -1].
  function describe(node, parent, found) {
    const stack = [[node, parent]], scrolling = [];
    while (stack.length) {
      const [each, around] = stack.pop();
      const number = numberOf(each);
      known.add(number);
      if (known.size > MOST_NODES) { isOverrun = true; return; }
      if (each.nodeType === TEXT || each.nodeType === CDATA) {
        found.push([number, around, each.data]);
        continue;
      }
      if (each.nodeType !== ELEMENT) {
        found.push([number, around, each.mode, -1]);
        observe(each);
      } else {
        noteScroller(each);
        if (each.localName.includes("-")) custom.add(each);
        const style = styleNumber(each), state = stateNow(each);
        styleOf.set(each, style);
        stateOf.set(each, keyOfState(state));
        glance(each);
        const entry = [number, around, each.localName, NAMESPACES[each.namespaceURI] ?? 0, attributesOf(each), style, state];
        found.push(entry);
        if (scrollers.has(each)) scrolling.push([each, entry]);
        if (each.localName === "iframe" || each.localName === "frame") observeFrame(each);
      }
      const children = childrenOf(each);
      for (let at = children.length - 1; at >= 0; at--) stack.push([children[at], number]);
    }
    for (const [element, entry] of scrolling) {  // what scrolls inside is known only now
      entry[6] = stateNow(element);
      stateOf.set(element, keyOfState(entry[6]));
    }
  }

  function* everyElement(selector = "*") {
    for (const scope of scopes) {
      const isThere = scope.nodeType === 9 ? scope.defaultView !== null : scope.isConnected;
      if (isThere) yield* scope.querySelectorAll(selector);
      else scopes.delete(scope);
    }
  }

  // What changes

  function note(batch) {
    if (batches.length >= MOST_BATCHES) { isOverrun = true; batches = []; }
    if (!isOverrun) batches.push(batch);
    tell();
  }

  let isTelling = false, stirred = performance.now();
  function tell() {
    isDirty = true;
    stirred = performance.now();
    if (!isTelling && typeof murvelNews === "function") { isTelling = true; murvelNews("changed"); }
  }

  function emptyBatch() {
    return {at: performance.now() / 1000, attributes: [], texts: [], children: [], added: [], styles: [], states: []};
  }

  function changed(records) {
    stirred = performance.now();
    if (!known.size && !root) return;  // nothing was told yet
    if (document.documentElement !== root) { isOverrun = true; tell(); return; }
    const batch = emptyBatch();
    const attributes = new Map(), texts = new Set(), parents = new Set();
    for (const record of records) {
      const target = record.target;
      if (record.type === "attributes") {
        if (!attributes.has(target)) attributes.set(target, new Set());
        attributes.get(target).add(record.attributeName);
      } else if (record.type === "characterData") texts.add(target);
      else parents.add(target);
    }
    fill(batch, attributes, texts, parents);
  }

  function isTold(node) {
    const number = numbers.get(node);
    return number !== undefined && known.has(number) && node.isConnected;
  }

  function fill(batch, attributes, texts, parents) {
    for (const parent of parents) {
      if (!isTold(parent)) continue;
      const number = numberOf(parent), children = childrenOf(parent);
      for (const child of children) if (!isTold(child) || !known.has(numberOf(child))) describe(child, number, batch.added);
      batch.children.push([number, children.map(numberOf)]);
    }
    for (const text of texts) if (isTold(text)) batch.texts.push([numberOf(text), text.data]);
    for (const [element, names] of attributes) {
      if (!isTold(element)) continue;
      for (const name of names) batch.attributes.push([numberOf(element), name, valueOf(element, name)]);
      restyle(element, batch, MOST_RESTYLED);
    }
    note(batch);
  }

  // Rules for one element often concern what is in it or follows it.
  function restyle(element, batch, most) {
    const stack = [element];
    for (let each = element.nextElementSibling; each && stack.length < 50; each = each.nextElementSibling) stack.unshift(each);
    for (let count = 0; stack.length && count < most; count++) {
      const each = stack.pop();
      if (each.nodeType === ELEMENT && isTold(each)) noteStyle(each, batch);
      for (const child of childrenOf(each)) if (child.nodeType !== TEXT) stack.push(child);
    }
  }

  function noteStyle(element, batch) {
    const style = styleNumber(element);
    if (style !== styleOf.get(element)) {
      styleOf.set(element, style);
      batch.styles.push([numberOf(element), style]);
    }
    noteScroller(element);
    noteState(element, batch);
  }

  function noteState(element, batch) {
    const state = stateNow(element), key = keyOfState(state);
    if (key !== stateOf.get(element)) {
      stateOf.set(element, key);
      batch.states.push([numberOf(element), state]);
    }
  }

  // What most changes of style show in; it costs a tenth of all that is kept of an element's style.
  function glance(element) {
    let style = liveStyles.get(element);
    if (!style) liveStyles.set(element, style = getComputedStyle(element));
    const now = style.display + " " + style.visibility, isNew = glances.get(element) !== now;
    if (isNew) glances.set(element, now);
    return isNew;
  }

  // Looks at every element once more: rules may concern any of them, whatever was changed.
  function scan() {
    isDirty = false;
    const batch = {...emptyBatch(), isScan: true}, hosts = new Set();
    for (const element of everyElement()) {
      if (glance(element) && known.has(numbers.get(element))) noteStyle(element, batch);
      const shadow = shadowOf(element);
      if (shadow && !observed.has(shadow)) hosts.add(element);
    }
    for (const element of everyElement(CONTROLS)) {
      if (known.has(numbers.get(element))) noteState(element, batch);
    }
    for (const element of scrollers) {
      if (!element.isConnected) scrollers.delete(element);
      else if (known.has(numbers.get(element))) noteState(element, batch);
    }
    if (hosts.size) fill(batch, new Map(), new Set(), hosts);
    else if (batch.styles.length || batch.states.length) note(batch);
    isDirty = false;
  }

  // Scripts set values and checks without a trace in the document.
  const CONTROLS = "input, textarea, select, option, object, dialog, [popover]";
  setInterval(() => {
    if (!root || isTelling) return;
    for (const element of everyElement(CONTROLS)) {
      if (known.has(numbers.get(element)) && keyOfState(stateNow(element)) !== stateOf.get(element)) return tell();
    }
  }, 500);

  const observer = new MutationObserver(changed);
  const WATCHED = {attributes: true, characterData: true, childList: true, subtree: true};
  observer.observe(document, WATCHED);

  function observe(target) {
    if (observed.has(target)) return;
    observed.add(target);
    scopes.add(target);
    observer.observe(target, WATCHED);
    for (const name of ["input", "change", "transitionend", "animationend", "toggle", "reset", "click", "keyup"]) {
      target.addEventListener(name, tell, {capture: true, passive: true});
    }
    target.addEventListener("focusin", moved, {capture: true, passive: true});
    target.addEventListener("focusout", moved, {capture: true, passive: true});
  }

  function observeFrame(frame) {
    const inside = frameRoot(frame);
    if (inside) observe(inside.ownerDocument);
    if (!observed.has(frame)) {
      observed.add(frame);
      frame.addEventListener("load", () => { observeFrame(frame); fill(emptyBatch(), new Map(), new Set(), new Set([frame])); });
    }
  }

  function focused() {
    let element = document.activeElement;
    while (element) {
      const inside = shadowOf(element)?.activeElement ?? frameRoot(element)?.ownerDocument.activeElement;
      if (!inside || (inside === inside.ownerDocument.body && !inside.isContentEditable)) break;
      element = inside;
    }
    return element && element !== document.body && element !== document.documentElement ? numberOf(element) : 0;
  }

  let focusMoves = [];
  function moved(event) {
    if (placing) return;
    focusMoves.push([performance.now() / 1000, event.type === "focusin" ? numberOf(event.composedPath()[0] ?? event.target) : 0]);
    tell();
  }

  function forget() {  // what left the page is not kept alive
    for (const number of known) {
      const node = nodes.get(number);
      if (!node || !node.isConnected) { known.delete(number); nodes.delete(number); if (node) numbers.delete(node); }
    }
  }

  function facts() {
    return {focus: focused(), isOverrun, title: document.title, address: document.URL};
  }

  function taken() {
    const news = {...facts(), openList: openList(), batches, styles: newStyles, focusMoves, now: performance.now() / 1000};
    batches = []; newStyles = []; focusMoves = []; isTelling = false;
    return news;
  }

  // What is asked from outside

  // All that is on the page. With `isAnew` what was noted before is forgotten; without, whoever follows goes on.
  function snapshot(isAnew) {
    if (isAnew) {
      observer.takeRecords();
      known.clear();
      batches = []; isOverrun = false;
      root = document.documentElement;
      observe(document);
      known.add(numberOf(document));
    } else look();
    const found = [];
    if (root) describe(root, 0, found);
    else found.push([numberOf(document), 0, "html", 0, [], intern(NO_STYLE), 0]);  // scripts have emptied the page
    const page = {unheard: unheardFrames(), nodes: found, width: innerWidth, height: innerHeight, scroll: [scrollX, scrollY], styles: [...styles]};
    return isAnew ? {...taken(), ...page} : {...facts(), ...page, batches: []};
  }

  // The shown frames whose documents this script cannot reach, each with its address.
  function unheardFrames() {
    const frames = [...everyElement("iframe, frame")].filter((each) => !frameRoot(each) && each.checkVisibility());
    return frames.map((each) => [numberOf(each), each.src]);
  }

  // Takes the content of a host's closed shadow root.
  function adopt(shadow) {
    closed.set(shadow.host, shadow);
    isDirty = true;
    if (isTold(shadow.host)) fill(emptyBatch(), new Map(), new Set(), new Set([shadow.host]));
  }

  // Notes all that has changed.
  function look() {
    const records = observer.takeRecords();
    if (records.length) changed(records);
    if (isDirty && !isOverrun) scan();
  }

  function collect(isAll) {
    if (isAll) isDirty = true;
    look();
    const news = taken();
    if (known.size > 2 * 1000 && Math.random() < 0.02) forget();
    return news;
  }

  // For how many seconds nothing has changed.
  function calm() { return (performance.now() - stirred) / 1000; }

  // Does something to the document that nobody is told of.
  let placing = false;
  function quietly(act) {
    const records = observer.takeRecords();
    if (records.length) changed(records);
    placing = true;
    act();
    placing = false;
    observer.takeRecords();
  }
  const swallow = (event) => { if (placing && event.target.localName === "murvel-place") event.stopImmediatePropagation(); };
  for (const name of ["focus", "focusin"]) window.addEventListener(name, swallow, {capture: true});

  globalThis.murvel = {
    snapshot, collect, calm, adopt, mark, numberOf, nodeOf: (number) => nodes.get(number) ?? null, scopes: () => [...scopes],
    // For `pointing.js` alone:
    inside: {custom, everyElement, focused, frameRoot, quietly, scopes, scrollers, shadowOf, valuesOf},
  };
})();
