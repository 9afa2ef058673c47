"""Readings that can't be so: flagged, shown and not followed, unless the angler says he checked them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from stillthread.phrase import Phrase
from stillthread.sourced import Sourced
from stillthread.water.reading import Reading

OVERTURN_C = Sourced(
    1.2, "C", "ours", "more than two hand thermometers differ by; water that top-heavy turns over within minutes"
)
DENSEST_C = 4.0

Kept = npt.NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Flag:
    """A reading that breaks with the others, and why; `followed` when the angler trusts it all the same."""

    reading: Reading
    why: Phrase
    followed: bool


def flag_outliers(readings: Sequence[Reading]) -> tuple[Flag, ...]:
    """Return the fewest readings without which the rest could lie on one another.

    Water is densest at 4 C, so each layer must be no further from 4 C than the one above it: water that warms with depth is
    fine under 4 C, and a typing error or a thermometer read too soon elsewhere.

    Parameters
    ----------
    readings : sequence of Reading, shape (n,)
        Ordered by depth.
    """
    clash = np.array([[_clash(*sorted((a, b), key=_depth)) for b in readings] for a in readings])
    left = np.ones(len(readings), dtype=np.bool_)
    flags: list[Flag] = []
    while clash[np.ix_(left, left)].any():
        counts = np.where(left, (clash & left[None, :]).sum(axis=1), -1)
        worst = np.flatnonzero(counts == counts.max())
        odd = int(max(worst, key=lambda i: _misfit(readings, left, int(i))))
        left[odd] = False
        flags.append(_flag(readings, left, odd))
    return tuple(sorted(flags, key=lambda flag: flag.reading.depth_m))


def _misfit(readings: Sequence[Reading], left: Kept, i: int) -> float:
    """Return how far [C] reading `i` lies from the line through its neighbours."""
    others = [int(k) for k in np.flatnonzero(left) if k != i]
    depths = [readings[k].depth_m for k in others]
    drawn_c = float(np.interp(readings[i].depth_m, depths, [readings[k].water_c for k in others]))
    # Of two readings that only contradict each other, doubt the deeper: its cord was longer.
    return abs(readings[i].water_c - drawn_c) + 1e-3 * i


def _flag(readings: Sequence[Reading], left: Kept, odd: int) -> Flag:
    one = readings[odd]
    clashing = [readings[int(k)] for k in np.flatnonzero(left) if _clash(*sorted((one, readings[int(k)]), key=_depth))]
    other = min(clashing, key=lambda r: abs(r.depth_m - one.depth_m))
    text = "{odd_c} at {odd_m} can't lie so with {other_c} at {other_m}. Not followed until you say it is right."
    if one.trusted:
        text = "{odd_c} at {odd_m} is odd beside {other_c} at {other_m}. Followed, because you checked it."
    values = {"odd_c": one.water_c, "odd_m": one.depth_m, "other_c": other.water_c, "other_m": other.depth_m}
    return Flag(one, Phrase(text, values), one.trusted)


def _clash(upper: Reading, lower: Reading) -> bool:
    return abs(lower.water_c - DENSEST_C) > abs(upper.water_c - DENSEST_C) + float(OVERTURN_C)


def _depth(reading: Reading) -> float:
    return reading.depth_m
