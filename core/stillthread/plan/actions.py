"""What is done with a rig - a cast, a float that hangs, a tow - and its run."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from stillthread.errors import FloatArray
from stillthread.sinking.cast import Cast, CastResult, Water, simulate
from stillthread.sinking.indicator import Drift, Indicator, IndicatorRig, simulate_drift
from stillthread.sinking.spread import SpreadResult, spread_of
from stillthread.sinking.thread import FINE, QUICK, Mesh
from stillthread.sinking.troll import Troll, simulate_troll
from stillthread.sourced import Sourced
from stillthread.tackle.rig import Rig

RECAST_S = Sourced(15.0, "s", "ours", "lift off, back cast, shoot and settle")
RESET_S = 25.0  # ours: lift, land the float, mend and let it hang again
BACK_SHARE = 0.6  # ours: time to go back for the next drift, as a share of the drift
HANGING_MPS, TWITCHED_MPS = 0.005, 0.03  # ours: how fast a fly under a float moves, left alone and lifted now and then
_KEPT_RUNS = 6000


@dataclass(frozen=True, slots=True)
class Hang:
    """A float set `set_depth_m` [m] above the point, drifting `for_s` [s], lifted every `twitch_every_s` or left alone; cast
    about `distance_m` [m] out."""

    set_depth_m: float
    kind: str
    for_s: float
    wind_speed_ms: float
    twitch_every_s: float | None = None
    distance_m: float = 10.0


Action = Cast | Hang | Troll


def speed_of(action: Action) -> float:
    """Return how fast the flies move through the water, about [m/s]."""
    if isinstance(action, Cast):
        return action.retrieve.mean_mps
    if isinstance(action, Troll):
        return action.speed_ms
    return HANGING_MPS if action.twitch_every_s is None else TWITCHED_MPS


def cycle_s(action: Action, duration_s: float) -> float:
    """Return the time [s] from one cast or drift to the next."""
    if isinstance(action, Cast):
        return duration_s + float(RECAST_S)
    if isinstance(action, Troll):
        return duration_s * (1.0 + BACK_SHARE)
    return duration_s + RESET_S


def simulate_action(rig: Rig, action: Action, water: Water, mesh: Mesh = FINE) -> CastResult:
    """Simulate what is done with a rig, by any method."""
    if isinstance(action, Cast):
        return simulate(rig, action, water, mesh=mesh)
    if isinstance(action, Troll):
        return simulate_troll(rig, action, water, mesh=mesh)
    hung = IndicatorRig(rig.leader, rig.flies, action.set_depth_m, Indicator(action.kind))
    return simulate_drift(hung, Drift(action.for_s, action.wind_speed_ms, action.twitch_every_s), water, mesh=mesh).run


def simulate_action_spread(rig: Rig, action: Action, water: Water) -> SpreadResult:
    """Simulate what is done with a rig, and how unsure its depths are."""
    return spread_of(rig, lambda one, mesh: simulate_action(one, action, water, mesh))


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
    return exposure_of(simulate_action(rig, action, water, QUICK))
