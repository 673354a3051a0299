"""Conditions as media queries and @supports have them: parts in parentheses, joined by and, or, not.

Media Queries 4 §3, <media-condition>; CSS Conditional 3 §6, <supports-condition>. Both have the same grammar.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

Answer = Callable[[list[Any]], bool | None]
"""Answers what stands in parentheses, or a function alone; None where it cannot be parsed."""


def holds(tokens: Sequence[Any], answer: Answer) -> bool | None:
    """Return whether a condition holds, None where it cannot be parsed.

    Args:
        tokens: its tokens without white space and comments.
        answer: answers its single parts.
    """
    if tokens and word(tokens[0]) == "not":
        inner = holds(tokens[1:], answer) if len(tokens) == 2 else None
        return None if inner is None else not inner
    operands, operators = tokens[::2], {word(token) for token in tokens[1::2]}
    if not operands or len(tokens) % 2 == 0 or not operators <= {"and", "or"} or len(operators) > 1:
        return None
    answers = [_operand(operand, answer) for operand in operands]
    if None in answers:
        return None
    return any(answers) if operators == {"or"} else all(answers)


def _operand(operand: Any, answer: Answer) -> bool | None:
    if operand.type == "function":
        return answer([operand])
    if operand.type != "() block":
        return None
    content = significant(operand.content)
    nested = bool(content) and (content[0].type == "() block" or word(content[0]) == "not")
    return holds(content, answer) if nested else answer(content)


def significant(tokens: Sequence[Any]) -> list[Any]:
    """Return tokens without white space and comments."""
    return [token for token in tokens if token.type not in ("whitespace", "comment")]


def word(token: Any) -> str:
    """Return an identifier in lower case; empty for any other token."""
    return str(token.lower_value) if token.type == "ident" else ""
