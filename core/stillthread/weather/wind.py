"""Wind over a lake: its name on the Beaufort scale and how fast it drives the surface."""

from __future__ import annotations

from dataclasses import dataclass

from stillthread.ranges import WIND_FROM_DEG, WIND_MPS
from stillthread.sourced import Sourced

SURFACE_DRIFT_SHARE = Sourced(0.02, "1", "common-practice", "the surface of a lake drifts at about a fiftieth of the wind")
DRIFT_DECAY_M = Sourced(0.5, "m", "ours", "depth in which wind drift falls to 37 %; under waves of a small lake")

# Lower edge of each force [m/s]: WMO Manual on Codes, table 1100.
_BEAUFORT_MPS = (0.0, 0.3, 1.6, 3.4, 5.5, 8.0, 10.8, 13.9, 17.2, 20.8, 24.5, 28.5, 32.7)
_WORDS = (
    "calm",
    "light air",
    "light breeze",
    "gentle breeze",
    "moderate breeze",
    "fresh breeze",
    "strong breeze",
    "near gale",
    "gale",
    "strong gale",
    "storm",
    "violent storm",
    "hurricane",
)


@dataclass(frozen=True, slots=True)
class Wind:
    """Wind where the angler stands: `speed_mps` 0 to 40; `from_deg` clockwise from true north, [0, 360)."""

    speed_mps: float
    from_deg: float

    def __post_init__(self) -> None:
        WIND_MPS.check("wind_speed_mps", self.speed_mps)
        WIND_FROM_DEG.check("wind_from_deg", self.from_deg)

    @property
    def beaufort(self) -> int:
        """Force on the Beaufort scale, 0 to 12 (wmo-1100)."""
        return sum(self.speed_mps >= edge for edge in _BEAUFORT_MPS) - 1

    @property
    def word(self) -> str:
        """The Beaufort word, such as "gentle breeze" (wmo-1100)."""
        return _WORDS[self.beaufort]

    @property
    def surface_drift_mps(self) -> float:
        """Speed [m/s] at which the surface water moves downwind."""
        return self.speed_mps * float(SURFACE_DRIFT_SHARE)
