// Runs beside `recorder.js`, in the same world: what moves by itself.
(() => {
  "use strict";
  if (!globalThis.murvel || murvel.moving) return;
  const {numberOf} = murvel, {everyElement, frameRoot, scopes} = murvel.inside;
  const LEAST = 8;

  // Whether something may have moved while pictures were taken: what plays, and what scripts changed just now.
  function mayMove() {
    if (murvel.calm() < 2) return true;
    for (const element of everyElement("video, canvas, marquee, img")) {
      const isMoving = element.localName !== "img" || /\.(gif|webp|apng|svg)\b|^data:image\/(gif|webp|apng|svg)/i.test(element.currentSrc);
      if (isMoving && element.checkVisibility()) return true;
    }
    for (const scope of scopes) {
      if ((scope.getAnimations?.() ?? []).length) return true;
      for (const element of scope.querySelectorAll?.("iframe") ?? []) if (!frameRoot(element)) return true;
    }
    return false;
  }

  const isSeen = (element) => {
    const {width, height} = element.getBoundingClientRect();
    return width >= LEAST && height >= LEAST && element.checkVisibility({visibilityProperty: true, opacityProperty: true});
  };

  // What moves without being asked: [number, what it is, seconds or null for no end].
  function moving() {
    const found = new Map();
    const note = (element, kind, seconds) => {
      if (!found.has(element)) found.set(element, [numberOf(element), kind, Number.isFinite(seconds) ? seconds : null]);
    };
    for (const scope of scopes) {
      for (const animation of scope.getAnimations?.() ?? []) {
        const element = animation.effect?.target;
        if (animation.playState !== "running" || !element?.isConnected || !isSeen(element) || !changes(animation.effect)) continue;
        note(element, "animation", animation.effect.getComputedTiming().activeDuration / 1000);
      }
    }
    for (const element of everyElement("marquee")) if (isSeen(element)) note(element, "marquee", Infinity);
    for (const element of everyElement("video")) {
      if (!element.paused && isSeen(element)) note(element, "video", element.loop ? Infinity : element.duration);
    }
    return [...found.values()];
  }

  function changes(effect) {
    const frames = effect.getKeyframes(), [first] = frames;
    const skipped = ["offset", "computedOffset", "easing", "composite"];
    return frames.some((frame) => Object.keys(frame).some((name) => !skipped.includes(name) && frame[name] !== first[name]));
  }

  // The pictures that may have several frames: [number, address].
  function framed() {
    return [...everyElement("img")].filter((each) => isSeen(each) && /^https?:|^data:/.test(each.currentSrc))
      .filter((each) => /\.(gif|webp|a?png)([?#]|$)|^data:image\/(gif|webp|a?png)/i.test(each.currentSrc))
      .map((each) => [numberOf(each), each.currentSrc]);
  }

  // What scripts change since the watch began: [number, "text" or "style", how often, seconds from first to last, text].
  // Where they change one after the other, as slides, it is what these stand in.
  const WATCHED = ["style", "class", "transform", "d", "x", "y", "cx", "cy"], MOST = 200, OFTEN = 3;
  let watched = null, around = null, observer = null;
  function watch() {
    watched = new Map();
    around = new Map();
    observer ??= new MutationObserver((records) => {
      for (const {type, target} of records) {
        const element = type === "characterData" ? target.parentElement : target;
        if (!element || !watched || (watched.size >= MOST && !watched.has(element))) continue;
        const one = watched.get(element) ?? [0, performance.now(), 0, "style"];
        watched.set(element, [one[0] + 1, one[1], performance.now(), type === "attributes" ? one[3] : "text"]);
        const parent = element.parentElement, all = around.get(parent) ?? [0, performance.now(), 0];
        around.set(parent, [all[0] + 1, all[1], performance.now()]);
      }
    });
    for (const scope of scopes) observer.observe(scope, {subtree: true, childList: true, characterData: true, attributes: true, attributeFilter: WATCHED});
    return true;
  }

  function watchedNow() {
    const found = [];
    for (const [element, [times, first, last, kind]] of watched ?? []) {
      if (element.isConnected && isSeen(element)) found.push([numberOf(element), kind, times, (last - first) / 1000, element.textContent.trim().slice(0, 80)]);
    }
    for (const [element, [times, first, last]] of around ?? []) {
      const isOne = element && [...element.children].every((each) => (watched?.get(each)?.[0] ?? 0) < OFTEN);
      if (isOne && times >= OFTEN && !watched?.has(element) && element.isConnected && isSeen(element)) {
        found.push([numberOf(element), "style", times, (last - first) / 1000, element.textContent.trim().slice(0, 80)]);
      }
    }
    observer?.disconnect();
    watched = around = null;
    return found;
  }

  // The dialogs and alerts that are shown: [number, text].
  function notices() {
    return [...everyElement("dialog[open], [role=dialog], [role=alertdialog], [role=alert]")]
      .map((each) => [each, each.textContent.trim().replace(/\s+/g, " ").slice(0, 80)])
      .filter(([each, text]) => text && isSeen(each)).map(([each, text]) => [numberOf(each), text]);
  }

  // The absolute XPaths of some elements; null for those in a frame or a shadow tree.
  function pathsOf(numbers) {
    return numbers.map((number) => {
      let path = "", element = murvel.nodeOf(number);
      for (; element?.parentElement; element = element.parentElement) {
        const like = [...element.parentElement.children].filter((each) => each.localName === element.localName);
        path = `/${element.localName}[${like.indexOf(element) + 1}]${path}`;
      }
      return element && element === document.documentElement ? `/html[1]${path}` : null;
    });
  }

  Object.assign(murvel, {framed, mayMove, moving, notices, pathsOf, watch, watchedNow});
})();
