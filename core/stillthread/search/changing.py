"""How long this angler takes to change something, learnt from the times of his log."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from stillthread.search.presentation import Costs
from stillthread.sourced import Sourced

What = Literal["line", "fly", "float"]
BELIEVED_AS = Sourced(4.0, "1", "ours", "what is usual counts as so many changes of his own")
PAUSE_MIN = Sourced(25.0, "min", "ours", "longer between two casts was no change but a rest, lunch or a walk")
_USUAL = Costs()
USUAL: Mapping[What, float] = {"line": _USUAL.line_min, "fly": _USUAL.fly_min, "float": _USUAL.float_min}


@dataclass(frozen=True, slots=True)
class Change:
    """One change between two casts: what was changed and nothing else, how often (flies), and the minutes from the end of the
    cast before to the next."""

    what: What
    times: int
    minutes: float


@dataclass(frozen=True, slots=True)
class Tackle:
    """What was tied on: line, flies from the point up, and how deep the float was set [m], None without one."""

    line: str
    flies: tuple[str, ...]
    float_m: float | None = None


def change_between(before: Tackle, after: Tackle, minutes: float) -> Change | None:
    """Return the change where exactly one thing was changed: of two at once nobody knows which took how long."""
    if before.line != after.line or (before.float_m is None) != (after.float_m is None):
        return Change("line", 1, minutes) if before.flies == after.flies else None
    anew = sum(i >= len(before.flies) or fly != before.flies[i] for i, fly in enumerate(after.flies))
    moved = before.float_m != after.float_m
    if anew and not moved:
        return Change("fly", anew, minutes)
    return Change("float", 1, minutes) if moved and not anew else None


def learnt(changes: Sequence[Change]) -> Costs:
    """Return what changes cost him: his own times on a log scale, shrunk to what is usual while there are few.

    A geometric mean, since one tangle must not count as ten changes.

    Examples
    --------
    >>> round(learnt([Change("fly", 1, 5.0)] * 12).fly_min, 2)
    4.2
    """
    found = {}
    for what, usual in USUAL.items():
        of_it = [c for c in changes if c.what == what and 0.0 < c.minutes <= PAUSE_MIN.value]
        own = [change.minutes / change.times for change in of_it]
        weight = BELIEVED_AS.value
        total = weight * math.log(usual) + sum(math.log(max(minutes, 0.1)) for minutes in own)
        found[what] = math.exp(total / (weight + len(own)))
    return Costs(round(found["line"], 2), round(found["fly"], 2), round(found["float"], 2))
