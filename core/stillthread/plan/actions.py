"""What is done with a rig - a cast, a float that hangs, a tow - and its run."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from stillthread.errors import FloatArray
from stillthread.sinking.cast import Cast, CastResult, Water, simulate
from stillthread.sinking.indicator import Drift, DriftResult, Indicator, IndicatorRig, drift_of, simulate_drift
from stillthread.sinking.spread import SpreadResult, spread_about, spread_of
from stillthread.sinking.thread import FINE, QUICK, Mesh
from stillthread.sinking.troll import Troll, simulate_troll
from stillthread.sourced import Sourced
from stillthread.tackle.rig import Rig

RECAST_S = Sourced(15.0, "s", "ours", "lift off, back cast, shoot and settle")
RESET_S = 25.0  # ours: lift, land the float, mend and let it hang again
BACK_SHARE = 0.6  # ours: time to go back for the next drift, as a share of the drift
HANGING_MPS, TWITCHED_MPS = 0.005, 0.03  # ours: how fast a fly under a float moves, left alone and lifted now and then
USUAL_DRIFT_S, USUAL_TOW_S = 180.0, 180.0  # ours: a drift left alone, and a pull
_KEPT_RUNS = 6000


@dataclass(frozen=True, slots=True)
class Hang:
    """A float `diameter_m` [m] wide set `set_depth_m` [m] above the point, drifting `for_s` [s], lifted every `twitch_every_s`
    or left alone; cast about `distance_m` [m] out."""

    set_depth_m: float
    kind: str
    for_s: float
    wind_speed_ms: float
    twitch_every_s: float | None = None
    distance_m: float = 10.0
    diameter_m: float = 0.019


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
    drift = Drift(action.for_s, action.wind_speed_ms, action.twitch_every_s)
    return simulate_drift(_hung(rig, action), drift, water, mesh=mesh).run


def float_of(rig: Rig, action: Hang, run: CastResult, water: Water) -> DriftResult:
    """Return what a run says of the float it hung under."""
    return drift_of(_hung(rig, action), run, water)


def _hung(rig: Rig, action: Hang) -> IndicatorRig:
    return IndicatorRig(rig.leader, rig.flies, action.set_depth_m, Indicator(action.kind, action.diameter_m))


def reach_m(action: Action) -> float:
    """Return how far from the rod the point fly begins [m]."""
    if isinstance(action, Cast):
        return action.cast_m
    return action.distance_m if isinstance(action, Hang) else action.out_m


def simulate_action_spread(rig: Rig, action: Action, water: Water) -> SpreadResult:
    """Simulate what is done with a rig, and how unsure its depths are."""
    return spread_of(rig, lambda one, mesh: simulate_action(one, action, water, mesh))


def spread_of_action(rig: Rig, action: Action, water: Water, run: CastResult) -> FloatArray:
    """Return one standard deviation of each fly's depth [m] about a run, shape (n_fly, n_time)."""
    return spread_about(rig, run, lambda one, mesh: simulate_action(one, action, water, mesh))


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
