"""Days like this one: how alike two days are, in what fish feel of them."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray
from stillthread.sourced import Sourced

SEASON_DAYS = Sourced(21.0, "d", "common-practice", "the same weeks of the year are spoken of")
WARMTH_C = Sourced(2.5, "C", "ours", "between two generations of advice: at 12 and at 17 C other depths are fished")
LIGHT = Sourced(0.3, "1", "ours", "of full daylight: dull and bright are a third apart")
WIND_MPS = Sourced(2.5, "m/s", "common-practice", "a flat calm, a ripple and a wave are so far apart")
CLARITY = Sourced(0.5, "1", "ours", "on a log scale: seen down to 2 m and to 3.3 m")
ELSEWHERE = Sourced(0.3, "1", "ours", "what a day at another water says of this one")
_YEAR_DAYS = 365.25  # by definition


@dataclass(frozen=True, slots=True)
class DayTraits:
    """What a day was like: `northern_day` of the year, the southern half carried over; warmth at the top [deg C]; `light` at
    the surface, 0 to 1 of full daylight; wind [m/s]; how far one sees [m]; and at which water."""

    northern_day: float
    surface_c: float
    light: float
    wind_mps: float
    secchi_m: float
    water_id: int


def alikeness(now: DayTraits, days: Sequence[DayTraits]) -> FloatArray:
    """Return how alike each day is to this one, 0 to 1, shape (n_day,): 1 is the same water on a day the same in all.

    A bell in each trait, multiplied: one that differs much is enough.

    Examples
    --------
    >>> may = DayTraits(140.0, 12.0, 0.5, 3.0, 3.0, 1)
    >>> alikeness(may, [may, DayTraits(161.0, 12.0, 0.5, 3.0, 3.0, 1)]).round(3).tolist()
    [1.0, 0.607]
    """
    if not days:
        return np.zeros(0)
    rows = np.array([(d.northern_day, d.surface_c, d.light, d.wind_mps, math.log(d.secchi_m), d.water_id) for d in days])
    apart = np.abs(rows[:, 0] - now.northern_day) % _YEAR_DAYS
    apart = np.minimum(apart, _YEAR_DAYS - apart)
    far = (
        (apart / float(SEASON_DAYS)) ** 2
        + ((rows[:, 1] - now.surface_c) / float(WARMTH_C)) ** 2
        + ((rows[:, 2] - now.light) / float(LIGHT)) ** 2
        + ((rows[:, 3] - now.wind_mps) / float(WIND_MPS)) ** 2
        + ((rows[:, 4] - math.log(now.secchi_m)) / float(CLARITY)) ** 2
    )
    same = np.where(rows[:, 5] == now.water_id, 1.0, float(ELSEWHERE))
    return np.asarray(np.exp(-0.5 * far) * same)
