"""Commands about what is seen: contrast."""

from __future__ import annotations

from typing import Annotated

import typer

from murvel.cli.app import Form, FormOption, app
from murvel.cli.output import print_json, print_lines


@app.command("contrast")
def contrast(
    foreground: Annotated[str, typer.Argument(metavar="FOREGROUND", help="A colour, as CSS writes it.")],
    background: Annotated[str, typer.Argument(metavar="BACKGROUND", help="The colour behind it.")],
    form: FormOption = Form.TEXT,
) -> None:
    """Tell the contrast of two colours, and the nearest ones that pass."""
    from murvel.checks.colour_pair import judged, pair_lines

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
