"""What of a presentation is not known well, and how far off each may be."""

from __future__ import annotations

from stillthread.errors import FloatArray
from stillthread.sourced import Sourced

LABEL_SPREAD = Sourced(0.15, "1", "ours", "one standard deviation of a label's sink rate, as a share: labels are often wrong")
SLOW_SIDE, FAST_SIDE = 1.3, 0.4  # ours: the same below and above what a line can do, where its label promises more
CALIBRATED_SPREAD = Sourced(0.05, "1", "ours", "the same for a rate that was measured by hand, its trials not kept")
LOOPED_SPREAD = Sourced(0.2, "1", "ours", "the same for a sinking leader: short ones are told apart by name rather than rate")
FLY_SPREAD = Sourced(0.25, "1", "ours", "one standard deviation of a fly's sink rate: dressings differ, and soak")
TANKED_SPREAD = Sourced(0.08, "1", "ours", "the same where it was timed in a tank: a watch and half a metre of water")
FLY_LEAST_MPS = Sourced(0.004, "m/s", "ours", "at least so much: a bubble or a wet hackle, of a fly that hardly sinks")
CAST_SPREAD = Sourced(0.08, "1", "ours", "how well one knows how far one cast, as a share")
COUNT_SPREAD = Sourced(0.08, "1", "ours", "how evenly one counts, as a share")
PACE_SPREAD = Sourced(0.12, "1", "ours", "how evenly one retrieves, as a share")
SLACK_SPREAD = Sourced(0.02, "1", "ours", "slack in which a cast lands, and how much that varies, as a share of it")
DRIFT_SPREAD = Sourced(0.25, "1", "ours", "how well the wind on the water is known, as a share")
SET_SPREAD = Sourced(0.02, "1", "ours", "how well a float is set, as a share of its depth")
TOW_SPREAD = Sourced(0.1, "1", "ours", "how well the pace of a boat is known, as a share")
DOUBTS = 11  # by definition: as many as the design tells apart
# Columns of a row of doubts.
RATE, LOOPED, CASTS, COUNTS, PACES, SLACKS, DRIFTS, FLIES = range(8)  # by definition


def doubted_wind_mps(wind_speed_mps: float, x: FloatArray) -> float:
    """Return the wind as it may be [m/s], `x` standard deviations off."""
    return float(wind_speed_mps * max(1.0 + float(DRIFT_SPREAD) * x[DRIFTS], 0.0))
