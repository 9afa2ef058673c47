"""Hours that count alike whatever the part of the day: a favourite that is kept for the evening is not better for it.

Takes of a way in a part of the day are Poisson about the way's rate times the part's: fitted in turn to both margins (iterative
proportional fitting, W. E. Deming and F. F. Stephan, Annals of Mathematical Statistics 11, 1940; from memory), the parts drawn
towards alike.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from stillthread.errors import FloatArray
from stillthread.sourced import Sourced

NOON_FROM_H, EVENING_FROM_H = 11, 17  # ours: morning, the middle of the day, evening
PARTS = 3  # by definition
ALIKE_TAKES = Sourced(3.0, "1", "ours", "as many takes as speak for parts of the day that are alike", (0.5, 20.0))
MOODS = Sourced(
    1.5, "1", "ours", "fish come by days: a take tells less of a part of the day than one by itself would", (1.0, 10.0)
)
TURNS = 25  # ours: it settles in fewer


def part_of(hour: int) -> int:
    """Return the part of the day of an hour of the clock, 0 to 23: 0 morning, 1 the middle, 2 evening."""
    return int(hour >= NOON_FROM_H) + int(hour >= EVENING_FROM_H)


def hours_alike(
    takes: Sequence[float] | FloatArray, hours: Sequence[float] | FloatArray, way: Sequence[int], part: Sequence[int]
) -> FloatArray:
    """Return the hours of each row as they count once parts of the day are alike, with the same sum.

    Parameters
    ----------
    takes, hours : (n_row,)
        Hours 0 or more [h].
    way, part : (n_row,) of int
        Which way was fished, from 0; in which part of the day, 0 to 2.

    Examples
    --------
    >>> hours_alike([2.0, 2.0], [1.0, 1.0], [0, 1], [2, 2]).tolist()
    [1.0, 1.0]
    """
    took, fished = np.asarray(takes, dtype=np.float64), np.asarray(hours, dtype=np.float64)
    if not len(took) or not fished.sum():
        return fished
    ways = max(way) + 1
    cell = np.asarray(way) * PARTS + np.asarray(part)
    takes_of, hours_of = (
        np.bincount(cell, weights=values, minlength=ways * PARTS).reshape(ways, PARTS) for values in (took, fished)
    )
    usual = float(takes_of.sum() / hours_of.sum())
    if usual == 0.0:
        return fished
    factor = np.ones(PARTS)
    for _ in range(TURNS):
        of_way = (takes_of.sum(axis=1) + 1.0) / (hours_of @ factor + 1.0 / usual)
        expected = of_way @ hours_of
        factor = (takes_of.sum(axis=0) + float(ALIKE_TAKES)) / (expected + float(ALIKE_TAKES))
    alike = fished * factor[np.asarray(part)]
    return np.asarray(alike * (fished.sum() / alike.sum()))


def unsure_by(takes: Sequence[float] | FloatArray, part: Sequence[int]) -> FloatArray:
    """Return how unsure each part's factor is, as the variance of its logarithm, shape (3,): the fewer took in it the more, and
    moods make that several times what single fish would."""
    of_part = np.bincount(np.asarray(part, dtype=np.int64), weights=np.asarray(takes, dtype=np.float64), minlength=PARTS)
    return np.asarray(float(MOODS) / (of_part + float(ALIKE_TAKES)))
