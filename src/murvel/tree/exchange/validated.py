"""Data from outside, checked where it comes in: a message names the place of what is wrong, and text comes in clean."""

from __future__ import annotations

from typing import Annotated, Any, TypeVar

from pydantic import AfterValidator, BaseModel, Field, ValidationError

from murvel.loading.errors import PageError
from murvel.patterns import pattern
from murvel.text import visible

_Model = TypeVar("_Model", bound=BaseModel)
_SURROGATES = pattern("[\ud800-\udfff]")

Clean = Annotated[str, AfterValidator(lambda text: _SURROGATES.sub("\ufffd", text))]
"""Text without lone surrogates, which no encoding has."""

Whole = Annotated[int, Field(ge=-(2**31), lt=2**31)]
"""A whole number of 32 bits: more is no count, level or line of anything."""


def checked_at(model: type[_Model], data: Any, path: str) -> _Model:
    """Return data as its model.

    Args:
        model: what it has to be.
        data: what was read.
        path: where it stands, for the message.

    Raises:
        PageError: it is something else; the message names the place and what is wrong there.
    """
    try:
        return model.model_validate(data)
    except ValidationError as error:
        first = error.errors(include_input=False, include_url=False)[0]
        where = ".".join([path, *(str(step) for step in first["loc"])])
        said = "it should be an object" if first["type"] == "model_type" else first["msg"]
        raise PageError(f"{visible(where)}: {visible(said)}", "mend that and open it again.") from error
