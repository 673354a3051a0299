"""Commands about what is seen: contrast."""

from __future__ import annotations

from murvel.cli.app import Form, app, form_option
from murvel.cli.output import print_json, print_lines
from murvel.cli.parameters import argument


@app.command("contrast")
@argument("foreground", "FOREGROUND", "A colour, as CSS writes it.")
@argument("background", "BACKGROUND", "The colour behind it.")
@form_option
def contrast(foreground: str, background: str, form: Form) -> None:
    """Tell the contrast of two colours, and the nearest ones that pass."""
    from murvel.checks.questions.colour_pair import judged, pair_lines

    pair = judged(foreground, background)
    if form is Form.TEXT:
        print_lines(pair_lines(pair))
        return
    print_json(
        {
            "format": "murvel-contrast",
            "version": 1,
            "foreground": pair.colour.hex,
            "background": pair.behind.hex,
            "ratio": int(pair.ratio * 100) / 100,
            "enough": dict(pair.levels),
            "nearest": [
                {
                    "ratio": each.wanted,
                    "foreground": each.colour.hex if each.colour is not None else None,
                    "background": each.behind.hex if each.behind is not None else None,
                }
                for each in pair.nearest
            ],
        }
    )
