// Runs beside `recorder.js`, in the same world: what boxes around an element leave of it in sight, and boxes that
// scroll within the page, which are moved on step by step so that all of what they hold is seen.
(() => {
  "use strict";
  if (!globalThis.murvel || murvel.scrollOn) return;
  const {numberOf} = murvel, {everyElement, scrollers} = murvel.inside;
  const SCROLLS = ["auto", "scroll"], LEAST_VIEW = 16, LEAST_REST = 8, OVERLAP = 0.15, MOST_STEPS = 24, ROOM = 6, FAR = 1e7;

  // Where the document of an element begins in the window.
  function offsetOf(element) {
    let left = 0, top = 0;
    for (let view = element.ownerDocument.defaultView; view && view !== window; view = view.parent) {
      const frame = view.frameElement;
      if (!frame) break;
      const box = frame.getBoundingClientRect();
      left += box.left + frame.clientLeft; top += box.top + frame.clientTop;
    }
    return [left, top];
  }

  // The element whose box may cut an element off: null for one that stands in its window (CSS Overflow 3 §3.1).
  function aroundOf(element) {
    const {position} = getComputedStyle(element);
    if (position === "fixed") return null;
    if (position === "absolute" && element.offsetParent !== undefined) return element.offsetParent;
    return element.parentElement ?? element.getRootNode().host ?? null;
  }

  // Whether an element is what its window scrolls: the root, and the body whose overflow the window has taken over.
  function isOfWindow(element) {
    const {body, documentElement} = element.ownerDocument;
    return element === documentElement || (element === body && getComputedStyle(documentElement).overflow === "visible");
  }

  function windowOf(element) {
    const view = element.ownerDocument.defaultView;
    return view && view !== window ? [0, 0, view.innerWidth, view.innerHeight] : null;
  }

  const both = (one, other) => one && other ? [Math.max(one[0], other[0]), Math.max(one[1], other[1]),
    Math.min(one[2], other[2]), Math.min(one[3], other[3])] : one ?? other;
  const sidesOf = (element) => { const {left, top, right, bottom} = element.getBoundingClientRect(); return [left, top, right, bottom]; };

  // What boxes leave of what is in an element: [left, top, right, bottom] in its document's window, null for all.
  function clipOf(element, known) {
    let found = known.get(element);
    if (found !== undefined) return found;
    const style = getComputedStyle(element);
    found = clipAround(element, known);
    if (!isOfWindow(element) && style.overflow !== "visible" && style.display !== "inline") found = both(sidesOf(element), found);
    known.set(element, found);
    return found;
  }

  function clipAround(element, known) {
    const around = aroundOf(element);
    return around ? clipOf(around, known) : windowOf(element);
  }

  // Whether an element is in sight, as far as the boxes around it have room for it.
  function isInSight(element, known) { return fits(sidesOf(element), clipAround(element, known)); }

  function fits(sides, clip) {
    if (!clip) return true;
    const shown = both(sides, clip);
    return [0, 1].every((at) => shown[at + 2] - shown[at] >= Math.max(Math.min(sides[at + 2] - sides[at], clip[at + 2] - clip[at]) - 1, 1));
  }

  // The boxes around an element that scroll, from the innermost on.
  function* scrollersAround(element) {
    for (let each = aroundOf(element) ?? element.ownerDocument.documentElement; each; each = aroundOf(each)) {
      if (isScroller(each)) yield each;
    }
  }

  function isScroller(element) {
    const rest = Math.max(element.scrollWidth - element.clientWidth, element.scrollHeight - element.clientHeight);
    if (rest < LEAST_REST) return false;
    if (scrollers.has(element)) return true;
    if (isOfWindow(element)) return element === element.ownerDocument.scrollingElement && windowOf(element) !== null;
    const style = element === element.ownerDocument.body ? getComputedStyle(element) : null;
    return style !== null && (SCROLLS.includes(style.overflowX) || SCROLLS.includes(style.overflowY));
  }

  const viewOf = (scroller) => isOfWindow(scroller) ? windowOf(scroller) : sidesOf(scroller);

  // Whether an element is out of sight, or at the edge, only until a box around it is scrolled.
  function isScrolledAway(element) {
    const sides = sidesOf(element);
    for (const each of scrollersAround(element)) if (!fits(sides, innerView(each))) return true;
    return false;
  }

  // What a box shows, without the edges at which it can be scrolled on: an indicator may be cut off there.
  function innerView(scroller) {
    const [left, top, right, bottom] = viewOf(scroller), style = getComputedStyle(scroller);
    const room = (position, rest, isBackwards) => {
      const passed = isBackwards ? rest + position : position;
      return [passed > 1 ? ROOM : 0, rest - passed > 1 ? ROOM : 0];
    };
    const [x, beyondX] = room(scroller.scrollLeft, scroller.scrollWidth - scroller.clientWidth, style.direction === "rtl");
    const [y, beyondY] = room(scroller.scrollTop, scroller.scrollHeight - scroller.clientHeight,
      style.display.includes("flex") && style.flexDirection === "column-reverse");
    return [left + x, top + y, right - beyondX, bottom - beyondY];
  }

  // The box that scrolls an element, and how far all that do are scrolled: [its number or 0, left, top].
  function scrolledBy(element) {
    let [within, left, top] = [0, 0, 0];
    for (const each of scrollersAround(element)) {
      within ||= numberOf(each);
      left += each.scrollLeft; top += each.scrollTop;
    }
    return [within, left, top];
  }

  // Moving on

  const begun = new Set();
  const stood = new Map();  // where each stood that was moved, or may have been
  const moving = new Map();  // each with the places that are left

  // Moves boxes that scroll to what they have not shown yet, as many at once as are in sight; returns where the page
  // is scrolled to then, null once all has been in sight.
  function scrollOn() {
    for (const each of [...moving.keys()]) step(each);
    while (!moving.size) {
      const next = boxes().find((each) => !begun.has(each));
      if (!next) return null;
      for (const each of scrollersAround(next)) remember(each);
      next.scrollIntoView({block: "center", inline: "nearest", behavior: "instant"});
      begin(next);
      const known = new Map();
      for (const each of boxes()) {
        const isApart = [...moving.keys()].every((other) => !each.contains(other) && !other.contains(each));
        if (!begun.has(each) && isApart && isInSight(each, known) && isInWindow(each)) begin(each);
      }
    }
    murvel.inside.steps++;
    return [scrollX, scrollY];
  }

  // Takes back all that was moved.
  function scrollBack() {
    for (const [each, place] of stood) each.scrollTo({...place, behavior: "instant"});
    for (const each of [stood, moving, begun]) each.clear();
    murvel.inside.steps++;
  }

  function begin(scroller) {
    begun.add(scroller);
    remember(scroller);
    const {scrollLeft, scrollTop} = scroller, places = [];
    scroller.scrollTo({left: -FAR, top: -FAR, behavior: "instant"});  // where lines run from right to left, it begins below 0
    const {scrollLeft: first, scrollTop: highest} = scroller;
    for (const top of stops(scroller.scrollHeight, scroller.clientHeight)) {
      for (const left of stops(scroller.scrollWidth, scroller.clientWidth)) places.push({left: first + left, top: highest + top});
    }
    const wasSeen = scrollersAround(scroller).next().done;  // with the page, as it stands now
    moving.set(scroller, places.filter(({left, top}) => !wasSeen || left !== scrollLeft || top !== scrollTop).slice(0, MOST_STEPS));
    step(scroller);
  }

  function remember(scroller) {
    if (!stood.has(scroller)) stood.set(scroller, {left: scroller.scrollLeft, top: scroller.scrollTop});
  }

  // Moves a box to the next of its places; after the last one it goes back to where it stood.
  function step(scroller) {
    const next = moving.get(scroller).shift();
    if (!next) moving.delete(scroller);
    scroller.scrollTo({...next ?? stood.get(scroller), behavior: "instant"});
  }

  function stops(whole, part) {
    const found = [0];
    while (found.at(-1) + part < whole - 1) found.push(Math.min(found.at(-1) + part * (1 - OVERLAP), whole - part));
    return found;
  }

  function boxes() {
    return [...everyElement()].filter((each) => isScroller(each) && each.clientWidth >= LEAST_VIEW
      && each.clientHeight >= LEAST_VIEW && each.checkVisibility());
  }

  function isInWindow(scroller) {
    const [left, top] = offsetOf(scroller), view = viewOf(scroller);
    return fits([view[0] + left, view[1] + top, view[2] + left, view[3] + top], [0, 0, innerWidth, innerHeight]);
  }

  Object.assign(murvel, {scrollOn, scrollBack});
  Object.assign(murvel.inside, {clipOf, isInSight, isScrolledAway, offsetOf, scrolledBy, steps: 0});
})();
