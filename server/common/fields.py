"""Field types that every part of the API shares."""

from __future__ import annotations

from typing import Annotated, Any

from ninja import Field
from pydantic import StringConstraints

from stillthread.api import Range

_PRINTABLE = r"^[^\x00-\x08\x0b\x0c\x0e-\x1f\x7f]*$"

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=_PRINTABLE)]
Notes = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000, pattern=_PRINTABLE)]


def within(valid: Range, **more: Any) -> Any:
    """Return a field of which the contract states the core's range."""
    return Field(ge=valid.low, le=valid.high, **more)
