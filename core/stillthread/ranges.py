"""Every range that an input must lie in, once: the core checks it, the API's contract states it, a form offers it.

Where a formula is sound in less than that, it says so itself. Bounds are ours, wide enough for all that is fished, unless
said otherwise.
"""

from __future__ import annotations

from dataclasses import dataclass

from stillthread.errors import check_range


@dataclass(frozen=True, slots=True)
class Range:
    """The values `low` to `high`, both included, of a quantity in `unit`; `unit` is empty for a share or a number of things."""

    low: float
    high: float
    unit: str = ""

    def check(self, field: str, value: float, advice: str = "") -> float:
        """Return `value`, or raise `OutOfRange` when it is nan or outside."""
        return check_range(field, value, self.low, self.high, self.unit, advice)

    def holds(self, value: float) -> bool:
        return self.low <= value <= self.high


SHARE = Range(0.0, 1.0)

# Where.
LATITUDE_DEG, LONGITUDE_DEG = Range(-90.0, 90.0, "deg"), Range(-180.0, 180.0, "deg")
ALTITUDE_M = Range(-400.0, 6000.0, "m")
FETCH_KM = Range(0.05, 100.0, "km")
DISTANCE_M = Range(-500.0, 500.0, "m")  # from the rod, on a bottom's profile
MARK_DEPTH_M = Range(0.0, 400.0, "m")

# The water.
DEPTH_M = Range(0.0, 100.0, "m")
BOTTOM_DEPTH_M = Range(0.3, 100.0, "m")
WATER_C = Range(-1.0, 40.0, "C")
OXYGEN_MGL = Range(0.0, 25.0, "mg/L")
SECCHI_M = Range(0.2, 20.0, "m")
WEED_M = Range(0.0, 20.0, "m")
SURFACE_DRIFT_MPS = Range(-1.0, 1.0, "m/s")
CROSS_DRIFT_MPS = Range(-1.0, 1.0, "m/s")

# The weather.
WIND_MPS = Range(0.0, 40.0, "m/s")
FORECAST_WIND_MPS = Range(0.0, 60.0, "m/s")  # a service may tell of more than can be fished
WIND_FROM_DEG = Range(0.0, 360.0, "deg")
AIR_C = Range(-60.0, 60.0, "C")
PRESSURE_HPA = Range(500.0, 1100.0, "hPa")

# Food and fish.
SAMPLE_COUNT = Range(1, 500)
FOOD_SIZE_MM = Range(0.5, 150.0, "mm")
SAMPLE_AGE_H = Range(0.0, 72.0, "h")
FISH_KG = Range(0.05, 15.0, "kg")
FISH_LENGTH_M = Range(0.02, 1.5, "m")
FISH_WEIGHT_KG = Range(0.005, 30.0, "kg")
PLAYED_S = Range(0.0, 7200.0, "s")

# Tackle.
ROD_M = Range(1.8, 5.5, "m")
ROD_NUMBER = Range(1, 12)
LINE_NUMBER = Range(4, 8)
LINE_M = Range(0.05, 200.0, "m")
SINK_RATE_MPS = Range(0.0, 0.3, "m/s")  # faster than any that is sold
TIP_M = Range(0.3, 12.0, "m")
RATE_SPREAD = Range(0.005, 0.5)  # of a sink rate, as a share
TRIAL_DEPTH_M, TRIAL_S = Range(0.5, 30.0, "m"), Range(2.0, 1800.0, "s")  # a line timed down to a known bottom
LEADER_M = Range(0.3, 15.0, "m")
LEADER_SECTION_M = Range(0.05, 15.0, "m")
BUILT_LEADER_M, HUNG_LEADER_M = Range(0.9, 12.0, "m"), Range(0.4, 10.0, "m")  # tied to be cast, and under a float
ABOVE_POINT_M = Range(0.0, 15.0, "m")
DROPPER_M = Range(0.0, 0.5, "m")
STRAND_M = Range(0.00005, 0.001, "m")  # diameter, from the finest tippet to the stoutest butt
HOOK_SIZE = Range(2, 24)
BEAD_MM = Range(1.0, 6.0, "mm")
FOAM_MM3 = Range(0.0, 1000.0, "mm3")
EXTRA_G = Range(0.0, 10.0, "g")
FLY_SINK_MPS = Range(-1.0, 2.0, "m/s")  # as timed in a tank; negative rises
FLIES_LEFT = Range(0, 999)
FLOAT_DIAMETER_M = Range(0.006, 0.06, "m")

# What is done with it.
CAST_M = Range(3.0, 60.0, "m")
PLANNED_CAST_M = Range(6.0, 40.0, "m")  # a plan needs some line beyond its leaders, and a caster who reaches it all day
COUNT_S = Range(0.0, 300.0, "s")
RETRIEVE_MPS = Range(0.01, 3.0, "m/s")
SLACK = Range(0.0, 0.5)
OFF_WIND_DEG = Range(0.0, 180.0, "deg")
DRAG_MPS = Range(0.005, 1.0, "m/s")
FED_MPS = Range(0.0, 0.5, "m/s")
MEND_S = Range(0.0, 1000.0, "s")
TIP_MPS = Range(-1.0, 1.0, "m/s")
LIFT_M = Range(0.0, 5.0, "m")
HANG_S = Range(0.0, 60.0, "s")
SET_DEPTH_M = Range(0.2, 15.0, "m")
FOR_S = Range(5.0, 600.0, "s")  # a drift, or a tow
TWITCH_EVERY_S = Range(2.0, 600.0, "s")
FLOAT_DISTANCE_M = Range(1.0, 60.0, "m")
OUT_M = Range(3.0, 200.0, "m")
TOW_MPS = Range(0.0, 2.0, "m/s")
CAST_ELAPSED_S = Range(0.0, 3600.0, "s")
CAST_TOWARD = Range(-2, 2)  # fan of five: 2 is hard right

# The rules of a water.
MOST_FLIES = Range(1, 4)
LARGEST_HOOK = Range(1, 28)
BAG_LIMIT = Range(0, 100)
