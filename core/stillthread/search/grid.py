"""What may be so: where they feed, how far they rise for a fly, how many there are, and which fly they want."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from stillthread.trade.usual import BELOW_M

ANY = 0
"""The fly class that stands for fish that take any sensible fly; the classes of flies count from 1."""
REACH_SHARES = (0.55, 1.0, 1.8)  # ours, bounds 0.3 to 3: of the reach that clarity gives
REACH_PRIOR = (0.3, 0.4, 0.3)  # ours
EMPTY_PRIOR = 0.10  # ours: nothing at all is one place in ten
RATE_SD = 0.9  # ours, bounds 0.5 to 1.5: log scale; how far off the plan's own takes an hour may be
_DOUBLINGS = tuple(2.0**k for k in range(-4, 4))  # ours: a finer grid of rates tells a phone nothing more


def _rates() -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Return how many fish there may be, as multiples of what the plan expects, none first, and the chance of each: lognormal
    about it, so that the mean is what the plan expects, places with nothing at all included."""
    odds = [math.exp(-0.5 * ((math.log(m) + 0.5 * RATE_SD**2) / RATE_SD) ** 2) for m in _DOUBLINGS]
    chance = [(1.0 - EMPTY_PRIOR) * one / math.fsum(odds) for one in odds]
    mean = math.fsum(m * p for m, p in zip(_DOUBLINGS, chance, strict=True))
    return (0.0, *(m / mean for m in _DOUBLINGS)), (EMPTY_PRIOR, *chance)


RATE_TIMES, RATE_PRIOR = _rates()
"""From none over a sixteenth to eight times what the plan expects, in doublings; and the chance of each."""
USUAL_RATE_PMIN = 0.18  # ours: for a table of an earlier build, which carries none
ANY_PRIOR = 0.6  # ours, bounds 0 to 1: six days of ten any fly of the kind will do
FLAT_SHARE = 0.5  # ours, bounds 0.2 to 0.7: how little the reading is trusted
STEP_M, MOST_CENTRES = 0.25, 30  # ours: a grid that a phone thinks through in a moment


def answers(centre_m: float, reach_m: float, fly_m: float) -> float:
    """Return how surely a fish at a depth answers a fly at another, 0 to 1: those below it rise, hardly any go down."""
    off = (centre_m - fly_m) / (reach_m if fly_m <= centre_m else float(BELOW_M))
    return math.exp(-off * off)


@dataclass(frozen=True)
class Grid:
    """Cells of centre and reach, `rates_pmin` in each, `classes` of flies.

    `centres_m`, `reaches_m` [m]; `stated` the belief of the reading over the centres, sums to 1; `wanted` the same over the
    classes of flies; `rate_pmin` how many interested fish a minute the plan expects where they are.
    """

    centres_m: tuple[float, ...]
    reaches_m: tuple[float, ...]
    stated: tuple[float, ...]
    wanted: tuple[float, ...]
    rate_pmin: float = USUAL_RATE_PMIN

    @cached_property
    def rates_pmin(self) -> tuple[float, ...]:
        """Interested fish a minute, of each hypothesis: none first."""
        return tuple(self.rate_pmin * times for times in RATE_TIMES)

    @property
    def deepest_m(self) -> float:
        return self.centres_m[-1] + 0.5 * self.step_m

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

    @cached_property
    def _answered(self) -> dict[float, tuple[float, ...]]:
        return {}

    def answered(self, fly_m: float) -> tuple[float, ...]:
        """Return by cell how surely fish answer a fly at a depth; of each depth it is worked out once."""
        if fly_m not in self._answered:
            self._answered[fly_m] = tuple(answers(c, u, fly_m) for c, u in self.cells)
        return self._answered[fly_m]

    def prior(self) -> list[list[float]]:
        """Return the chance of every hypothesis: a list for each class of fly, `ANY` first, cell by cell and rate by rate."""
        flat = 1.0 / len(self.centres_m)
        centre = [(1.0 - FLAT_SHARE) * stated + FLAT_SHARE * flat for stated in self.stated]
        even = 1.0 / self.classes
        wants = [ANY_PRIOR, *((1.0 - ANY_PRIOR) * 0.5 * (stated + even) for stated in self.wanted)]
        return [[w * c * u * r for c in centre for u in REACH_PRIOR for r in RATE_PRIOR] for w in wants]


def grid_of(
    depth_m: Sequence[float],
    chance: Sequence[float],
    reach_m: float,
    deepest_m: float,
    wanted: Sequence[float],
    rate_pmin: float = USUAL_RATE_PMIN,
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
    rate_pmin : float
        How many interested fish a minute are expected where they are.
    """
    step = max(STEP_M, deepest_m / MOST_CENTRES)
    centres = tuple(step * (i + 0.5) for i in range(max(2, math.ceil(deepest_m / step - 1e-9))))
    stated = [0.0] * len(centres)
    for depth, share in zip(depth_m, chance, strict=True):
        stated[min(int(depth / step), len(centres) - 1)] += share
    return Grid(centres, tuple(share * reach_m for share in REACH_SHARES), to_one(stated), to_one(wanted), rate_pmin)


def on_centres(stated: Sequence[float], of_m: Sequence[float], centres_m: Sequence[float]) -> tuple[float, ...]:
    """Return what is stated at some depths as it falls on other centres, each share to the nearest: a bottom that is found
    deeper or shallower leaves the cells as they are.

    Examples
    --------
    >>> on_centres((0.2, 0.8), (1.0, 3.0), (0.5, 1.5, 2.5))
    (0.2, 0.0, 0.8)
    """
    found = [0.0] * len(centres_m)
    for share, at_m in zip(stated, of_m, strict=True):
        found[min(range(len(centres_m)), key=lambda c: abs(centres_m[c] - at_m))] += share
    return to_one(found)


def to_one(values: Sequence[float]) -> tuple[float, ...]:
    total = math.fsum(values)
    return tuple(v / total for v in values) if total > 0.0 else (1.0 / len(values),) * len(values)
