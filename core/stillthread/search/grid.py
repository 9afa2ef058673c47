"""What may be so: where they feed, how far they rise for a fly, how many there are, and which fly they want."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

ANY = 0
"""The fly class that stands for fish that take any sensible fly; the classes of flies count from 1."""
REACH_SHARES = (0.55, 1.0, 1.8)  # ours, bounds 0.3 to 3: of the reach that clarity gives
REACH_PRIOR = (0.3, 0.4, 0.3)  # ours
RATES_PMIN = (0.0, 0.04, 0.08, 0.16, 0.32, 0.64)  # ours: doublings, from none to a take in a minute and a half
RATE_PRIOR = (0.10, 0.135, 0.225, 0.27, 0.18, 0.09)  # ours: fair days are most, nothing at all one in ten
ANY_PRIOR = 0.6  # ours, bounds 0 to 1: six days of ten any fly of the kind will do
FLAT_SHARE = 0.5  # ours, bounds 0.2 to 0.7: how little the reading is trusted
STEP_M, MOST_CENTRES = 0.25, 30  # ours: a grid that a phone thinks through in a moment


@dataclass(frozen=True)
class Grid:
    """Cells of centre and reach, `RATES_PMIN` in each, `classes` of flies.

    `centres_m`, `reaches_m` [m]; `stated` the belief of the reading over the centres, sums to 1; `wanted` the same over the
    classes of flies.
    """

    centres_m: tuple[float, ...]
    reaches_m: tuple[float, ...]
    stated: tuple[float, ...]
    wanted: tuple[float, ...]

    @property
    def step_m(self) -> float:
        return self.centres_m[1] - self.centres_m[0]

    @property
    def classes(self) -> int:
        return len(self.wanted)

    @cached_property
    def cells(self) -> tuple[tuple[float, float], ...]:
        """Centre and reach of every cell, reach by reach within a centre."""
        return tuple((c, u) for c in self.centres_m for u in self.reaches_m)

    def prior(self) -> list[list[float]]:
        """Return the chance of every hypothesis: a list for each class of fly, `ANY` first, cell by cell and rate by rate."""
        flat = 1.0 / len(self.centres_m)
        centre = [(1.0 - FLAT_SHARE) * stated + FLAT_SHARE * flat for stated in self.stated]
        even = 1.0 / self.classes
        wants = [ANY_PRIOR, *((1.0 - ANY_PRIOR) * 0.5 * (stated + even) for stated in self.wanted)]
        return [[w * c * u * r for c in centre for u in REACH_PRIOR for r in RATE_PRIOR] for w in wants]


def grid_of(
    depth_m: Sequence[float], chance: Sequence[float], reach_m: float, deepest_m: float, wanted: Sequence[float]
) -> Grid:
    """Return the grid for a reading's belief.

    Parameters
    ----------
    depth_m, chance : sequence of float, one length
        The belief over depth [m], any scale.
    reach_m : float
        How far fish rise for a fly in this water [m].
    deepest_m : float
        [m]
    wanted : sequence of float
        What is thought of each class of fly, any scale.
    """
    step = max(STEP_M, deepest_m / MOST_CENTRES)
    centres = tuple(step * (i + 0.5) for i in range(max(2, math.ceil(deepest_m / step - 1e-9))))
    stated = [0.0] * len(centres)
    for depth, share in zip(depth_m, chance, strict=True):
        stated[min(int(depth / step), len(centres) - 1)] += share
    return Grid(centres, tuple(share * reach_m for share in REACH_SHARES), to_one(stated), to_one(wanted))


def to_one(values: Sequence[float]) -> tuple[float, ...]:
    total = math.fsum(values)
    return tuple(v / total for v in values) if total > 0.0 else (1.0 / len(values),) * len(values)
