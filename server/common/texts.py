"""Characters that no store can hold are refused at every door, in a sentence: a NUL, and half of a pair."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Any
from urllib.parse import unquote_to_bytes

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse, UnreadablePostError

from common.problems import problem

# What an escape of such a character looks like in JSON; a text may hold the same signs and mean them.
_MAY = re.compile(rb"\\u(?:0000|[dD][89a-fA-F])|\x00")
SAID = "The text holds a character that can't be stored (NUL, or half of a pair). Take it out."


def unstorable(value: Any) -> str | None:
    """Return where in what was read from JSON such a character stands, as a path of names, or None where there is none."""
    open_: list[tuple[str, Any]] = [("", value)]
    while open_:
        path, one = open_.pop()
        if isinstance(one, str):
            if not storable(one):
                return path
        elif isinstance(one, dict):
            if not all(storable(name) for name in one):
                return path
            open_ += [(f"{path}.{name}" if path else name, inner) for name, inner in one.items()]
        elif isinstance(one, list):
            open_ += [(path, inner) for inner in one]
    return None


def storable(text: str) -> bool:
    return "\x00" not in text and not any("\ud800" <= sign <= "\udfff" for sign in text)


def may_hold(data: bytes) -> bool:
    """Return whether JSON may hold such a character: cheap, and true of some that do not."""
    return _MAY.search(data) is not None


class WholeTexts:
    """Refuses a request of which a text can't be stored."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.path.startswith("/api/"):
            asked = f"{request.META.get('QUERY_STRING', '')} {request.path}"
            if b"\x00" in unquote_to_bytes(asked):
                return problem(422, "unstorable_text", SAID)
            if request.content_type == "application/json":
                try:
                    field = unstorable(json.loads(request.body)) if may_hold(request.body) else None
                except (ValueError, RecursionError, RequestDataTooBig, UnreadablePostError):
                    field = None  # no JSON, or too much of it: whoever reads it says so
                if field is not None:
                    return problem(422, "unstorable_text", SAID, {field: SAID} if field else {})
        return self._answer(request)
