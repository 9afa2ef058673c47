"""Flies under an indicator: how long they take to hang, how deep they really fish, and what the drift does to them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from stillthread.errors import BadInput, FloatArray, check_range
from stillthread.ranges import FLOAT_DIAMETER_M, FLOAT_DISTANCE_M, FOR_S, TWITCH_EVERY_S, WIND_MS
from stillthread.sinking import chain
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water, run_program
from stillthread.sinking.thread import FINE, Mesh, Piece, cut, fluid_of, leader_pieces
from stillthread.sourced import Sourced
from stillthread.tackle.leaders import Leader
from stillthread.tackle.rig import PlacedFly
from stillthread.water.properties import GRAVITY_MS2
from stillthread.weather.wind import SURFACE_DRIFT_SHARE

KINDS = MappingProxyType(
    {
        "fixed": "stays where it is pegged",
        "sliding": "slides down to the fly when a fish is played",
        "quick-release": "lets go on the strike and slides",
    }
)
FLOAT_CD = Sourced(0.5, "1", "ours", "drag coefficient of a bobbing ball, in air and in water")
AIR_KGM3 = Sourced(1.2, "kg/m3", "us-standard-atmosphere-1976", "near the ground")
FLOAT_KGM3 = Sourced(150.0, "kg/m3", "ours", "foam or cork with its peg")
SLACK_M = 2.0  # ours: line laid out beyond the straight distance, to mend with
TWITCH_M, TWITCH_S = 0.15, 0.4  # common practice: six inches, now and then


@dataclass(frozen=True, slots=True)
class Indicator:
    """A float: `kind` a key of `KINDS`, `diameter_m` 0.006 to 0.06, as a sphere of that width."""

    kind: str = "fixed"
    diameter_m: float = 0.019

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise BadInput(f"indicator {self.kind!r} is not known. Known: {', '.join(KINDS)}.", field="kind")
        FLOAT_DIAMETER_M.check("diameter_m", self.diameter_m)

    def lift_n(self, density_kgm3: float) -> float:
        """Return the most weight [N] it carries before it goes under."""
        return math.pi / 6.0 * self.diameter_m**3 * (density_kgm3 - float(FLOAT_KGM3)) * GRAVITY_MS2


@dataclass(frozen=True, slots=True)
class IndicatorRig:
    """A float set `set_depth_m` [m] above the point fly, 0.2 to the leader's length; flies from the point upward."""

    leader: Leader
    flies: tuple[PlacedFly, ...]
    set_depth_m: float
    indicator: Indicator = Indicator()

    def __post_init__(self) -> None:
        check_range("set_depth_m", self.set_depth_m, 0.2, self.leader.length_m, "m", "The indicator sits on the leader.")
        if not 1 <= len(self.flies) <= 4 or self.flies[0].above_point_m != 0.0:
            raise BadInput("One to four flies hang under an indicator, the first on the point.", field="flies")
        for lower, upper in zip(self.flies, self.flies[1:], strict=False):
            if upper.above_point_m - lower.above_point_m < 0.2:
                raise BadInput("Flies sit at least 0.2 m apart, from the point upward.", field="flies")
        if self.flies[-1].above_point_m > self.set_depth_m - 0.1:
            raise BadInput("Every fly hangs 0.1 m or more below the indicator.", field="flies")


@dataclass(frozen=True, slots=True)
class Drift:
    """`for_s` [s] of drifting, 5 to 600, before a wind of `wind_speed_ms` [m/s]; a twitch every `twitch_every_s`, or none."""

    for_s: float = 180.0
    wind_speed_ms: float = 0.0
    twitch_every_s: float | None = None

    def __post_init__(self) -> None:
        FOR_S.check("for_s", self.for_s)
        WIND_MS.check("wind_speed_ms", self.wind_speed_ms)
        if self.twitch_every_s is not None:
            TWITCH_EVERY_S.check("twitch_every_s", self.twitch_every_s)


@dataclass(frozen=True, slots=True)
class DriftResult:
    """`run` holds the paths; `load_n` is what hangs on the float once it all hangs, `lift_n` what it can carry.

    `shortfall_m` (n_fly,) is how much shallower [m] each fly fishes than its place on the leader says.
    """

    run: CastResult
    load_n: float
    lift_n: float
    shortfall_m: FloatArray

    @property
    def carried(self) -> bool:
        return self.load_n < self.lift_n

    def hanging_s(self) -> float:
        """Time [s] until the point fly hangs."""
        return self.run.settle_s(0)


def simulate_drift(rig: IndicatorRig, drift: Drift, water: Water, *, mesh: Mesh = FINE) -> DriftResult:
    """Simulate a float and what hangs from it, from landing stretched out beyond it to the end of the drift.

    The float keeps to the surface and goes as wind and the wind-driven top water push it and what hangs below holds it
    back; the water below moves less, so the leader trails. The fly line lies slack: it neither tows nor holds. Blind to
    waves, to side wind on the line (see `recast_after_s`) and to takes.
    """
    density, _ = fluid_of(water.water_c)
    thread = cut(_below(rig, density), rig.leader, rig.flies, density, mesh, reach_m=rig.set_depth_m)
    surface_ms = float(SURFACE_DRIFT_SHARE) * drift.wind_speed_ms
    half_area_m2 = 0.125 * math.pi * rig.indicator.diameter_m**2
    push_n = 0.5 * float(AIR_KGM3) * float(FLOAT_CD) * half_area_m2 * drift.wind_speed_ms**2
    moving = Water(water.water_c, water.bottom, min(surface_ms, 1.0), water.weed_m)
    run = run_program(thread, _drift_program(drift), moving, mesh, afloat=(float(FLOAT_CD) * half_area_m2, push_n))
    return drift_of(rig, run, water)


def drift_of(rig: IndicatorRig, run: CastResult, water: Water) -> DriftResult:
    """Return what a drift's run says of its float: what hangs on it against what it carries, and how short the flies hang."""
    density, _ = fluid_of(water.water_c)
    placed = np.array([rig.set_depth_m - fly.above_point_m for fly in rig.flies])
    hanging = np.array([run.hang_depth_m(k) for k in range(len(rig.flies))])
    return DriftResult(run, float(run.tension_n[-1]), rig.indicator.lift_n(density), placed - hanging)


def _below(rig: IndicatorRig, density_kgm3: float) -> list[Piece]:
    """Return the pieces from the point up to the float."""
    pieces: list[Piece] = []
    left = rig.set_depth_m
    for piece in leader_pieces(rig.leader, density_kgm3):
        if left <= 1e-6:
            break
        pieces.append(piece._replace(length_m=min(piece.length_m, left)))
        left -= piece.length_m
    return pieces


def _drift_program(drift: Drift) -> FloatArray:
    pieces: list[tuple[float, ...]] = []
    left = drift.for_s
    every = drift.twitch_every_s
    while left > 1e-6:
        calm_s = left if every is None else min(every, left)
        pieces.append((calm_s, 0.0, 0.0, 0.0, chain.RETRIEVING))
        left -= calm_s
        if every is not None and left > TWITCH_S:
            pieces.append((TWITCH_S, 0.0, -TWITCH_M / TWITCH_S, 0.0, chain.RETRIEVING))
            left -= TWITCH_S
    return np.array(pieces, dtype=np.float64)


def recast_after_s(distance_m: float, cross_drift_ms: float, slack_m: float = SLACK_M) -> float:
    """Return how long [s] a cast across the wind fishes before the bowed line comes tight and drags the flies.

    The float drifts sideways while the line stays held at the rod: it has the slack to use up, and no more.

    Parameters
    ----------
    distance_m : float
        From the rod to the float [m], 1 to 60.
    cross_drift_ms : float
        Drift across the line [m/s], 0.001 to 2.
    slack_m : float
        Line out beyond the straight distance [m], 0 to 20.

    Examples
    --------
    >>> round(recast_after_s(10.0, 0.1, 1.0))
    46
    """
    FLOAT_DISTANCE_M.check("distance_m", distance_m)
    check_range("slack_m", slack_m, 0.0, 20.0, "m")
    check_range("cross_drift_ms", cross_drift_ms, 0.001, 2.0, "m/s")
    return math.sqrt((distance_m + slack_m) ** 2 - distance_m**2) / cross_drift_ms
