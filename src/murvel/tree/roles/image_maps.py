"""Image maps: which image shows an area (HTML §4.8.13, Image maps; §2.3.6, hash-name references)."""

from __future__ import annotations

from collections.abc import Iterable

from murvel.dom.document import Document, Element


def shown_areas(document: Document, areas: Iterable[Element], images: Iterable[Element]) -> dict[Element, Element]:
    """Return the image that each area is shown in; areas of maps that no image uses are left out.

    Args:
        document: the document.
        areas: its area elements.
        images: its img elements with usemap, in document order.

    Several images may use one map; its areas can be reached in the first of them only, as browsers have it
    (docs/standards.md).
    """
    by_map: dict[Element, list[Element]] = {}
    for area in areas:
        for above in area.ancestors():
            if above.tag == "map":
                by_map.setdefault(above, []).append(area)
                break
    by_name: dict[tuple[int, str], Element] = {}
    for each in by_map:
        scope = id(document.ids_around(each))
        for attribute in ("id", "name"):
            by_name.setdefault((scope, each.attributes.get(attribute, "")), each)
    shown: dict[Element, Element] = {}
    for image in images:
        _, hash_sign, name = image.attributes["usemap"].partition("#")
        used = by_name.get((id(document.ids_around(image)), name)) if hash_sign and name else None
        if used is not None and used in by_map:
            shown.update(dict.fromkeys(by_map.pop(used), image))
    return shown
