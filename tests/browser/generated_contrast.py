"""Pages made of blocks whose contrast is known by arithmetic, or cannot be told."""

from __future__ import annotations

import base64
import io
from collections.abc import Callable
from dataclasses import dataclass
from random import Random

from PIL import Image

from murvel.css.values.colours import Colour, Paint, ratio

WHITE = Colour(255, 255, 255)

WORDS = "nine beds of beans"


@dataclass(frozen=True)
class Block:
    """A block of markup, whose element with the id is text.

    Attributes:
        kind: which way it is made.
        markup: it; `ID` stands for the id of the text's element.
        ratios: the least and the typical contrast, None if they cannot be told.
        within: how far off they may be, as a part of them; gradients are not exact.
        has_typical: whether the typical one is known.
    """

    kind: str
    markup: str
    ratios: tuple[float, float] | None
    within: float = 0.0
    has_typical: bool = True


def _colour(random: Random) -> Colour:
    return Colour(*(random.randrange(256) for _ in range(3)))


def _rgba(colour: Colour, alpha: float = 1.0) -> str:
    return f"rgba({colour.red}, {colour.green}, {colour.blue}, {alpha})"


def _even(foreground: Colour, behind: Colour) -> tuple[float, float]:
    found = ratio(foreground, behind)
    return found, found


def _nested(grounds: list[Paint], text: str, style: str = "") -> str:
    opening = "".join(f"<div style='background:{_rgba(*each)}; {style}'>" for each in grounds)
    return opening + text + "</div>" * len(grounds)


def _text(paint: Paint, style: str = "") -> str:
    return f"<span id=ID style='color:{_rgba(*paint)}; {style}'>{WORDS}</span>"


def layers(random: Random) -> Block:
    """Text with alpha over grounds with alpha."""
    grounds = [Paint(_colour(random), random.choice((0.2, 0.5, 0.8, 1.0))) for _ in range(random.randrange(1, 4))]
    behind = WHITE
    for each in grounds:
        behind = each.over(behind)
    text = Paint(_colour(random), random.choice((0.5, 0.7, 1.0)))
    return Block("layers", _nested(grounds, _text(text)), _even(text.over(behind), behind))


def opacity(random: Random) -> Block:
    """A group that lets through what is behind it: its ground and its text alike."""
    ground, text, alpha = _colour(random), _colour(random), random.choice((0.3, 0.5, 0.75))
    behind, above = Paint(ground, alpha).over(WHITE), Paint(text, alpha).over(WHITE)
    markup = f"<div style='opacity:{alpha}'>{_nested([Paint(ground, 1)], _text(Paint(text, 1)))}</div>"
    return Block("opacity", markup, _even(above, behind))


def transparent_parents(random: Random) -> Block:
    """Nothing between the text and a ground far outside."""
    ground, text = _colour(random), _colour(random)
    markup = _nested([Paint(ground, 1), *[Paint(_colour(random), 0)] * 3], _text(Paint(text, 1)))
    return Block("transparent parents", markup, _even(text, ground))


_BLENDS: dict[str, Callable[[float, float], float]] = {
    "multiply": lambda behind, above: behind * above,
    "screen": lambda behind, above: behind + above - behind * above,
    "difference": lambda behind, above: abs(behind - above),
    "darken": min,
}


def blending(random: Random) -> Block:
    """Text that is mixed with what is behind it (CSS Compositing 1 §9.1)."""
    ground, text, name = _colour(random), _colour(random), random.choice(list(_BLENDS))
    mixed = Colour(*(round(255 * _BLENDS[name](a / 255, b / 255)) for a, b in zip(ground, text, strict=True)))
    inside = f"<div style='mix-blend-mode:{name}'>{_text(Paint(text, 1))}</div>"
    return Block("blending", _nested([Paint(ground, 1)], inside, "isolation:isolate"), _even(mixed, ground))


def gradient(random: Random) -> Block:
    """A ground that goes from one colour to another along the text."""
    first, last, text = _colour(random), _colour(random), _colour(random)
    steps = [
        Colour(*(round(a + (b - a) * (at + 0.5) / 96) for a, b in zip(first, last, strict=True))) for at in range(96)
    ]
    ratios = sorted(ratio(text, each) for each in steps)
    style = f"display:inline-block; background:linear-gradient(90deg, {first.hex}, {last.hex})"
    return Block("gradient", f"<div>{_text(Paint(text, 1), style)}</div>", (ratios[2], ratios[48]), 0.08)


def picture(random: Random) -> Block:
    """A picture of three colours behind the text, side by side."""
    colours = [_colour(random) for _ in range(3)]
    text, image = _colour(random), Image.new("RGB", (3, 1))
    for at, each in enumerate(colours):
        image.putpixel((at, 0), tuple(each))
    file = io.BytesIO()
    image.save(file, "PNG")
    address = f"data:image/png;base64,{base64.b64encode(file.getvalue()).decode()}"
    style = f"display:inline-block; background:url({address}) 0 0 / 100% 100%; image-rendering:pixelated"
    ratios = sorted(ratio(text, each) for each in colours)
    return Block("picture", f"<div>{_text(Paint(text, 1), style)}</div>", (ratios[0], ratios[1]))


def over_border(random: Random) -> Block:
    """Text that stands on a border with its first half."""
    ground, border, text = _colour(random), _colour(random), _colour(random)
    outer = f"display:inline-block; background:{ground.hex}; border-left:120px solid {border.hex}; width:120px"
    markup = f"<div style='{outer}'><span id=ID style='color:{text.hex}; display:inline-block; width:240px; margin-left:-120px; white-space:nowrap; text-align:justify; text-align-last:justify'>{WORDS}</span></div>"
    ratios = sorted((ratio(text, ground), ratio(text, border)))
    return Block("over a border", markup, (ratios[0], ratios[0]), has_typical=False)


def dark(random: Random) -> Block:
    """Other colours where a person prefers it dark."""
    text, ground = _colour(random), _colour(random)
    markup = f"<div style='background:light-dark(white, {ground.hex}); color-scheme:light dark'>{_text(Paint(text, 1))}</div>"
    return Block("dark", markup, _even(text, ground))


_UNTOLD = {
    "clipped to letters": "<span id=ID style='background:linear-gradient(red, blue); -webkit-background-clip:text; color:transparent'>W</span>",
    "shadow": "<span id=ID style='color:gray; text-shadow:0 0 3px black'>W</span>",
    "painted otherwise": "<span id=ID style='color:red; -webkit-text-fill-color:gray'>W</span>",
    "covered": "<div style='position:relative'><span id=ID>W</span><div style='position:absolute; inset:0; background:teal'></div></div>",
    "moving": "<div style='position:relative'><canvas class=moving width=400 height=24 style='position:absolute; left:0; top:0'></canvas><span id=ID style='position:relative'>W</span></div>",
    "under other text": "<div style='position:relative'><span id=ID>W</span><span style='position:absolute; left:0; top:0; color:green'>WW</span></div>",
    "scrolled away": "<div style='height:20px; overflow:hidden'><div style='height:40px'></div><span id=ID>W</span></div>",
}


def untold(random: Random) -> Block:
    """Text whose contrast cannot be told."""
    kind = random.choice(list(_UNTOLD))
    return Block(kind, _UNTOLD[kind].replace("WW<", f"{WORDS}{WORDS}<").replace("W<", f"{WORDS}<"), None)


KINDS = (layers, opacity, transparent_parents, blending, gradient, picture, over_border, dark, untold)

_HEAD = """<!DOCTYPE html><html lang=en><title>Blocks</title><style>
body { background: white; margin: 8px; font: 20px/24px monospace } body > section { height: 30px }</style>"""
_MOVES = """<script>setInterval(() => document.querySelectorAll('.moving').forEach((each) => {
  const context = each.getContext('2d'); context.fillStyle = `hsl(${Math.random() * 360} 90% ${20 + Math.random() * 60}%)`;
  context.fillRect(0, 0, 400, 24) }), 15)</script>"""


def generated(seed: int, count: int) -> tuple[str, list[Block]]:
    """Return a page of so many blocks, and the blocks."""
    random = Random(seed)
    blocks = [KINDS[at % len(KINDS)](random) for at in range(count)]
    sections = [f"<section>{block.markup.replace('ID', f'b{at}')}</section>" for at, block in enumerate(blocks)]
    return _HEAD + "\n".join(sections) + _MOVES, blocks
