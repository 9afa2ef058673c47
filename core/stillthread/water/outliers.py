"""Readings that can't be so: flagged, shown and not followed, unless the angler says he checked them."""

from __future__ import annotations

import functools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced
from stillthread.water.reading import Reading

OVERTURN_C = Sourced(
    1.2, "C", "ours", "more than two hand thermometers differ by; water that top-heavy turns over within minutes"
)
DENSEST_C = 4.0  # by definition

Kept = npt.NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Flag:
    """A reading that breaks with the others, and why; `followed` when the angler trusts it all the same."""

    reading: Reading
    why: Phrase
    followed: bool


def flag_outliers(readings: Sequence[Reading]) -> tuple[Flag, ...]:
    """Return the fewest readings without which the rest could lie on one another, of `readings` ordered by depth.

    Water is densest at 4 C, so each layer must be no further from 4 C than the one above it: water that warms with depth is
    fine under 4 C, and a typing error or a thermometer read too soon elsewhere.
    """
    return _flagged(tuple(readings))


@functools.lru_cache(maxsize=64)
def _flagged(readings: tuple[Reading, ...]) -> tuple[Flag, ...]:
    # Kept: the hours of a day, and a page that asks again, have the same readings.
    depth_m = np.array([r.depth_m for r in readings])
    water_c = np.array([r.water_c for r in readings])
    off_c = np.abs(water_c - DENSEST_C)
    # Deeper (along) clashes with shallower (down) where it lies further from the densest water.
    clash = np.triu(off_c[None, :] > off_c[:, None] + float(OVERTURN_C), 1)
    clash |= clash.T
    left = np.ones(len(readings), dtype=np.bool_)
    counts = clash.sum(axis=1)
    flags: list[Flag] = []
    while counts.max(initial=0) > 0:
        worst = np.flatnonzero(counts == counts.max())
        odd = int(worst[np.argmax(_misfits(depth_m, water_c, left)[worst])])
        beside = np.flatnonzero(clash[odd] & left)
        other = int(beside[np.argmin(np.abs(depth_m[beside] - depth_m[odd]))])
        flags.append(_flag(readings[odd], readings[other]))
        left[odd] = False
        counts = np.where(left, counts - clash[odd], 0)
    return tuple(sorted(flags, key=lambda flag: flag.reading.depth_m))


def _misfits(depth_m: FloatArray, water_c: FloatArray, left: Kept) -> FloatArray:
    """Return how far [C] each reading that is left lies from the line through its neighbours, else 0, shape (n,)."""
    at = np.flatnonzero(left)
    found = np.zeros(len(left))
    if len(at) > 1:
        depth, water = depth_m[at], water_c[at]
        drawn = np.empty(len(at))
        drawn[0], drawn[-1] = water[1], water[-2]
        share = (depth[1:-1] - depth[:-2]) / (depth[2:] - depth[:-2])
        drawn[1:-1] = water[:-2] + share * (water[2:] - water[:-2])
        # Of two readings that only contradict each other, doubt the deeper: its cord was longer.
        found[at] = np.abs(water - drawn) + 1e-3 * at
    return found


def _flag(one: Reading, other: Reading) -> Flag:
    text = "{odd_c} at {odd_m} can't lie so with {other_c} at {other_m}. Not followed until you say it is right."
    if one.trusted:
        text = "{odd_c} at {odd_m} is odd beside {other_c} at {other_m}. Followed, because you checked it."
    values = {"odd_c": one.water_c, "odd_m": one.depth_m, "other_c": other.water_c, "other_m": other.depth_m}
    return Flag(one, Phrase(text, values), one.trusted)
