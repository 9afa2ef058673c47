"""A constant of the trade or of physics, with the source it was taken from."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Sourced:
    """A number, its unit, where it comes from and why it is what it is.

    `source` is a key of docs/sources.md, `"common-practice"` for facts of the trade without a
    published source, or `"ours"` for our own choice, and then `why` gives the reason. `valid` is what the source, or
    practice, has it lie between, where it says so.
    """

    value: float
    unit: str
    source: str
    why: str = ""
    valid: tuple[float, float] | None = None

    def __post_init__(self) -> None:
        if self.valid is not None and not self.valid[0] <= self.value <= self.valid[1]:
            raise ValueError(
                f"{self.value:g} {self.unit} is not within {self.valid[0]:g} to {self.valid[1]:g}, as {self.source} has it."
            )

    def __float__(self) -> float:
        return self.value
