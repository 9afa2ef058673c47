"""What a score needs of a run, kept so that the same rig in the same water is run once."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from stillthread.errors import FloatArray
from stillthread.sinking.action import Action
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water
from stillthread.sinking.thread import QUICK
from stillthread.tackle.rig import Rig

_KEPT_RUNS = 6000  # ours: some tens of megabytes


@dataclass(frozen=True, slots=True)
class Exposure:
    """Of a run, what a score needs: `layer_s` (n_fly, n_layer), the depths (n_fly, 2) [m] of the middle 80 % of the retrieve,
    how long one lasts and how long a fly lies in weed or on the bottom [s]."""

    layer_s: FloatArray
    middle_m: FloatArray
    duration_s: float
    weed_s: float


def exposure_of(result: CastResult) -> Exposure:
    """Return what a score needs of a run."""
    return Exposure(result.layer_s, result.middle_depths_m(), result.duration_s, float(result.weed_s.max()))


@lru_cache(maxsize=_KEPT_RUNS)
def quick_exposure(rig: Rig, action: Action, water: Water) -> Exposure:
    """Simulate coarsely, for comparing; the same rig in the same water is run once."""
    return exposure_of(action.simulate(rig, water, QUICK))
