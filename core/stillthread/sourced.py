"""A constant of the trade or of physics, with the source it was taken from."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Sourced:
    """A number, its unit, where it comes from and why it is what it is.

    `source` is a key of docs/sources.md, `"common-practice"` for facts of the trade without a
    published source, or `"ours"` for our own choice, and then `why` gives the reason.
    """

    value: float
    unit: str
    source: str
    why: str = ""

    def __float__(self) -> float:
        return self.value
