"""What is done with a rig - a cast, a float that hangs, a tow - and its run."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

from stillthread.errors import FloatArray
from stillthread.ranges import FLOAT_DISTANCE_M, OUT_M, SET_DEPTH_M, TOW_MPS
from stillthread.sinking.cast import LEAST_LINE_M, Cast, CastResult, Water, simulate
from stillthread.sinking.indicator import Drift, DriftResult, Indicator, IndicatorRig, drift_of, simulate_drift
from stillthread.sinking.spread import (
    CAST_SPREAD,
    CASTS,
    PACES,
    SET_SPREAD,
    SLACKS,
    TOW_SPREAD,
    SpreadResult,
    band_about,
    doubted_cast,
    doubted_rig,
    doubted_wind_mps,
)
from stillthread.sinking.thread import FINE, QUICK, Mesh
from stillthread.sinking.troll import Troll, simulate_troll
from stillthread.sourced import Sourced
from stillthread.tackle.rig import Rig

RECAST_S = Sourced(15.0, "s", "ours", "lift off, back cast, shoot and settle")
RESET_S = 22.0  # ours: lift, land the float, mend and let it hang again
BACK_SHARE = 0.6  # ours: time to go back for the next drift, as a share of the drift
HANGING_MPS, TWITCHED_MPS = 0.005, 0.03  # ours: how fast a fly under a float moves, left alone and lifted now and then
USUAL_DRIFT_S, USUAL_TOW_S = 178.0, 180.0  # ours: a drift left alone, three of which are ten minutes, and a pull
_KEPT_RUNS = 6000


@dataclass(frozen=True, slots=True)
class Hang:
    """A float `diameter_m` [m] wide set `set_depth_m` [m] above the point, drifting `for_s` [s], lifted every `twitch_every_s`
    or left alone; cast about `distance_m` [m] out."""

    set_depth_m: float
    kind: str
    for_s: float
    wind_speed_mps: float
    twitch_every_s: float | None = None
    distance_m: float = 10.0
    off_wind_deg: float = 90.0
    mends_s: tuple[float, ...] = ()
    recasts: bool = False
    fed_mps: float = 0.0
    diameter_m: float = 0.019


Action = Cast | Hang | Troll


def becalmed(action: Action) -> Action:
    """Return what is done where there is no wind."""
    if isinstance(action, Troll):
        return action
    if isinstance(action, Cast):
        return replace(action, wind_speed_mps=0.0, mends_s=())
    return replace(action, wind_speed_mps=0.0, mends_s=(), fed_mps=0.0)


def speed_of(action: Action) -> float:
    """Return how fast the flies move through the water, about [m/s]."""
    if isinstance(action, Cast):
        return action.retrieve.mean_mps
    if isinstance(action, Troll):
        return action.speed_mps
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
    drift = Drift(
        action.for_s, action.wind_speed_mps, action.twitch_every_s, action.distance_m, action.off_wind_deg, action.mends_s,
        action.recasts, action.fed_mps,
    )  # fmt: skip
    return simulate_drift(_hung(rig, action), drift, water, mesh=mesh).run


def float_of(rig: Rig, action: Hang, run: CastResult, water: Water) -> DriftResult:
    """Return what a run says of the float it hung under."""
    return drift_of(_hung(rig, action), run, water)


def _hung(rig: Rig, action: Hang) -> IndicatorRig:
    return IndicatorRig(rig.leader, rig.flies, action.set_depth_m, Indicator(action.kind, action.diameter_m), rig.line)


def reach_m(action: Action) -> float:
    """Return how far from the rod the point fly begins [m]."""
    if isinstance(action, Cast):
        return action.cast_m
    return action.distance_m if isinstance(action, Hang) else action.out_m


def simulate_action_spread(rig: Rig, action: Action, water: Water) -> SpreadResult:
    """Simulate what is done with a rig, and how unsure its depths are."""
    return spread_of_action(rig, action, water, simulate_action(rig, action, water))


def spread_of_action(rig: Rig, action: Action, water: Water, run: CastResult) -> SpreadResult:
    """Return how unsure the depths of a run are that is known."""

    def again(x: FloatArray) -> CastResult:
        doubted = doubted_rig(rig, x)
        return simulate_action(doubted, doubted_action(doubted, action, x), water, QUICK)

    return band_about(run, again)


def doubted_action(rig: Rig, action: Action, x: FloatArray) -> Action:
    """Return what the hand does with a rig, `x` standard deviations off what was meant."""
    if isinstance(action, Cast):
        return doubted_cast(rig, action, x)
    if isinstance(action, Troll):
        shortest = rig.leader.length_m + LEAST_LINE_M
        out_m = min(max(action.out_m * (1.0 + float(CAST_SPREAD) * x[CASTS]), shortest, OUT_M.low), OUT_M.high)
        speed_mps = min(action.speed_mps * (1.0 + float(TOW_SPREAD) * x[PACES]), TOW_MPS.high)
        return replace(action, out_m=out_m, speed_mps=speed_mps)
    lowest = rig.flies[-1].above_point_m + 0.1
    set_m = min(max(action.set_depth_m * (1.0 + float(SET_SPREAD) * x[SLACKS]), lowest, SET_DEPTH_M.low), rig.leader.length_m)
    distance_m = min(
        max(action.distance_m * (1.0 + float(CAST_SPREAD) * x[CASTS]), FLOAT_DISTANCE_M.low), FLOAT_DISTANCE_M.high
    )
    return replace(action, set_depth_m=set_m, distance_m=distance_m, wind_speed_mps=doubted_wind_mps(action.wind_speed_mps, x))


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
