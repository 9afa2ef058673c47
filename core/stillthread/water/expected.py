"""What a lake that is carried on by its weather expects of a column: a curve from each of an ensemble, pulled by readings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from stillthread.errors import FloatArray
from stillthread.phrase import Phrase
from stillthread.water.reading import Reading

THERMOMETER_C, DEPTH_ERROR_M = 0.25, 0.35  # ours: of a hand thermometer, and of how deep it hung
REACH_M = 4.0  # ours: a reading speaks less for water far above or below
ASKED_ABOUT, ASKED_ABOUT_C = 1.8, 2.5  # ours: so many half bands off, and so far, is asked about
MODEL_C = 0.25  # ours: what no such model knows, at each depth


@dataclass(kw_only=True, frozen=True, slots=True, eq=False)
class ExpectedColumn:
    """Temperatures [C] and oxygen [mg/L] at depths: `depth_m` (n,), `curves_c` and `oxygen_mgl` (m, n); `read_at` when the lake
    was last read, none where it never was; `ice_share` of the ensemble that is frozen over, 0 to 1."""

    depth_m: FloatArray
    curves_c: FloatArray
    oxygen_mgl: FloatArray
    read_at: datetime | None = None
    ice_share: float = 0.0

    def at_c(self, depth_m: FloatArray) -> FloatArray:
        """Return each curve at these depths [m], (m, n_depth): held at its ends."""
        return np.array([np.interp(depth_m, self.depth_m, one) for one in self.curves_c])

    def oxygen_at(self, depth_m: FloatArray) -> tuple[FloatArray, FloatArray]:
        """Return the mean and the standard deviation of oxygen [mg/L] at depths [m]."""
        curves = np.array([np.interp(depth_m, self.depth_m, one) for one in self.oxygen_mgl])
        return curves.mean(axis=0), curves.std(axis=0)

    def band_c(self, depth_m: float) -> tuple[float, float, float]:
        """Return the mean at a depth [m], and what one chance in ten lies below and above [C]."""
        values = self.at_c(np.array([depth_m]))[:, 0]
        half = 1.2816 * float(np.hypot(values.std(), MODEL_C))
        return float(values.mean()), float(values.mean()) - half, float(values.mean()) + half

    def doubted(self, readings: Sequence[Reading]) -> Phrase | None:
        """Return a question about the reading that fits worst, where one is far from what the weather makes of the water."""
        off = [(abs(one.water_c - self.band_c(one.depth_m)[0]), one) for one in readings if not one.trusted]
        if not off:
            return None
        apart, worst = max(off, key=lambda pair: pair[0])
        middle, low, _ = self.band_c(worst.depth_m)
        if apart < ASKED_ABOUT * (middle - low) or apart < ASKED_ABOUT_C:
            return None
        values = {"read_c": worst.water_c, "read_m": worst.depth_m, "expected_c": middle}
        text = "{read_c} at {read_m} is far from {expected_c}, which the weather makes of it. Right thermometer, right depth?"
        return Phrase(text, values)

    def pulled_c(self, depth_m: FloatArray, readings: Sequence[Reading]) -> tuple[FloatArray, FloatArray]:
        """Return mean and standard deviation [C] at depths [m] once these readings have pulled the curves."""
        curves = self.at_c(depth_m)
        for reading in readings:
            here = np.array([np.interp(reading.depth_m, depth_m, one) for one in curves])
            error = reading_error_c(depth_m, curves, reading.depth_m)
            curves = pulled(curves, nearness(depth_m, reading.depth_m), here, reading.water_c, error)
        return curves.mean(axis=0), np.hypot(curves.std(axis=0), MODEL_C)


def reading_error_c(depth_m: FloatArray, curves_c: FloatArray, at_m: float) -> float:
    """Return how far a reading may be off [C]: its thermometer, and how deep it hung where the water is steep."""
    if len(depth_m) < 2:
        return THERMOMETER_C
    steep = float(np.interp(at_m, depth_m, np.abs(np.gradient(curves_c.mean(axis=0), depth_m))))
    return float(np.hypot(THERMOMETER_C, DEPTH_ERROR_M * steep))


def nearness(depth_m: FloatArray, at_m: float) -> FloatArray:
    """Return how far a reading at one depth speaks for others, 0 to 1."""
    return np.asarray(np.exp(-0.5 * ((depth_m - at_m) / REACH_M) ** 2))


def pulled(
    values: FloatArray, weight: FloatArray, here: FloatArray, told: float, error: float, *, narrow: bool = True
) -> FloatArray:
    """Return an ensemble's values, (m, k), pulled by one reading that its members had as `here`, (m,).

    Each value moves as far as it goes with `here` among the members, times its `weight` (k,).

    References
    ----------
    whitaker-hamill-2002, the serial square-root filter.
    """
    apart = here - here.mean()
    n = len(here) - 1
    whole = float(apart @ apart) / n + error**2
    gain = weight * (apart @ (values - values.mean(axis=0))) / n / whole
    share = 1.0 / (1.0 + np.sqrt(error**2 / whole)) if narrow else 0.0
    return np.asarray(values + gain * (told - here.mean()) - share * apart[:, None] * gain)
