"""Where each cast goes, so that the water in reach is covered: a fan from one side to the other, near before far."""

from __future__ import annotations

from collections.abc import Sequence

TOWARD = (-2, -1, 0, 1, 2)
Spot = tuple[int, bool]
"""Direction, -2 hard left to 2 hard right, and whether far."""


def covered(casts: Sequence[Spot]) -> dict[Spot, int]:
    """Return how many casts went to each spot."""
    counts = {(toward, far): 0 for far in (False, True) for toward in TOWARD}
    for spot in casts:
        counts[spot] += 1
    return counts


def next_spot(casts: Sequence[Spot]) -> Spot:
    """Return where the next cast goes: to what was covered least, near before far, then on from the left.

    `casts` are those since the last change of fly: after it fish close by have not seen the new one.
    """
    counts = covered(casts)
    return min(counts, key=lambda spot: (counts[spot], spot[1], spot[0]))
