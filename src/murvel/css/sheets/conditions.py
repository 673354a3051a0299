"""Conditions as media queries and @supports have them: parts in parentheses, joined by and, or, not.

Media Queries 4 §3, <media-condition>; CSS Conditional 3 §6, <supports-condition>. Both have the same grammar.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

Answer = Callable[[list[Any]], bool | None]
"""Answers what stands in parentheses, or a function alone; None if it is not known."""


class ConditionError(Exception):
    """A condition cannot be parsed."""


def holds(tokens: Sequence[Any], answer: Answer) -> bool | None:
    """Return whether a condition holds; None if that rests on something unknown (§3.1, Kleene's logic).

    Args:
        tokens: its tokens without white space and comments.
        answer: answers its single parts.

    Raises:
        ConditionError: it cannot be parsed.
    """
    if tokens and word(tokens[0]) == "not":
        if len(tokens) != 2:
            raise ConditionError
        inner = _operand(tokens[1], answer)
        return None if inner is None else not inner
    operands, operators = tokens[::2], {word(token) for token in tokens[1::2]}
    if not operands or len(tokens) % 2 == 0 or not operators <= {"and", "or"} or len(operators) > 1:
        raise ConditionError
    answers = [_operand(operand, answer) for operand in operands]
    decides = operators == {"or"}
    if decides in answers:
        return decides
    return None if None in answers else not decides


def _operand(operand: Any, answer: Answer) -> bool | None:
    if operand.type == "function":
        return answer([operand])
    if operand.type != "() block":
        raise ConditionError
    content = significant(operand.content)
    nested = bool(content) and (content[0].type == "() block" or word(content[0]) == "not")
    return holds(content, answer) if nested else answer(content)


def significant(tokens: Sequence[Any]) -> list[Any]:
    """Return tokens without white space and comments."""
    return [token for token in tokens if token.type not in ("whitespace", "comment")]


def word(token: Any) -> str:
    """Return an identifier in lower case; empty for any other token."""
    return str(token.lower_value) if token.type == "ident" else ""


def split(tokens: Sequence[Any], separator: str) -> list[list[Any]]:
    """Return the parts of a list that stand between literals such as commas."""
    parts: list[list[Any]] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == separator:
            parts.append([])
        else:
            parts[-1].append(token)
    return parts
