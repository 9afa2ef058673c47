"""What is carried, and what of it the angler has decided on."""

from __future__ import annotations

from dataclasses import dataclass

from stillthread.tackle.build import Spool
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line


@dataclass(kw_only=True, frozen=True, slots=True)
class Box:
    """What is carried. `lines` 1 to 30, `flies` 1 to 400, `rod_m` [m] the rod's length, `boat` whether one fishes from one.

    `rod_number` is the line the rod is built for, None if any; leaders are cut from `spools`, or from anything if empty.
    """

    lines: tuple[Line, ...]
    flies: tuple[BoxFly, ...]
    rod_m: float = 3.0
    boat: bool = False
    indicators: tuple[str, ...] = ("fixed", "quick-release", "sliding")
    rod_number: int | None = None
    spools: tuple[Spool, ...] = ()

    def suits_rod(self, line: Line) -> bool:
        """Return whether the rod casts a line: its own number, and one either side (common practice)."""
        return self.rod_number is None or abs(line.number - self.rod_number) <= 1


@dataclass(frozen=True, slots=True)
class Pins:
    """What the angler has decided; the rest is solved around it. Names are those of the box, keys those of `METHODS`."""

    method_key: str | None = None
    line_name: str | None = None
    fly_name: str | None = None
    leader: Leader | None = None
