"""Flies under an indicator: how long they take to hang, how deep they really fish, and what the drift does to them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from stillthread.errors import BadInput, FloatArray, check_range
from stillthread.ranges import FED_MPS, FLOAT_DIAMETER_M, FLOAT_DISTANCE_M, FOR_S, OFF_WIND_DEG, TWITCH_EVERY_S, WIND_MPS
from stillthread.sinking import chain
from stillthread.sinking.across import FLOAT_DRAGGED_MPS, check_mends, driven, with_mends
from stillthread.sinking.groups import Afloat
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water, run_program
from stillthread.sinking.thread import FINE, Mesh, Piece, cut, fluid_of, leader_pieces
from stillthread.sourced import Sourced
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import PlacedFly
from stillthread.trade.usual import USUAL_DRIFT_S, USUAL_FLOAT_M
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
TWITCH_SLACK_M = 0.3  # ours: what is to be twitched is held nearly tight
TWITCH_M, TWITCH_S = 0.15, 0.4  # common practice: six inches, now and then


@dataclass(frozen=True, slots=True)
class Indicator:
    """A float: `kind` a key of `KINDS`, `diameter_m` 0.006 to 0.06, as a sphere of that width."""

    kind: str = "fixed"
    diameter_m: float = float(USUAL_FLOAT_M)

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise BadInput(f"indicator {self.kind!r} is not known. Known: {', '.join(KINDS)}.", field="kind")
        FLOAT_DIAMETER_M.check("diameter_m", self.diameter_m)

    def lift_n(self, density_kgm3: float) -> float:
        """Return the most weight [N] it carries before it goes under."""
        return math.pi / 6.0 * self.diameter_m**3 * (density_kgm3 - float(FLOAT_KGM3)) * GRAVITY_MS2


@dataclass(frozen=True, slots=True)
class IndicatorRig:
    """A float set `set_depth_m` [m] above the point fly, 0.2 to the leader's length; flies from the point upward. Without a
    `line` it goes free."""

    leader: Leader
    flies: tuple[PlacedFly, ...]
    set_depth_m: float
    indicator: Indicator = Indicator()
    line: Line | None = None

    def __post_init__(self) -> None:
        check_range("set_depth_m", self.set_depth_m, 0.2, self.leader.length_m, "m", "The indicator sits on the leader.")
        if not 1 <= len(self.flies) <= 4 or self.flies[0].above_point_m != 0.0:
            raise BadInput("One to four flies hang under an indicator, the first on the point.", field="flies")
        for lower, upper in zip(self.flies, self.flies[1:], strict=False):
            if upper.above_point_m - lower.above_point_m < 0.2:
                raise BadInput("Flies sit at least 0.2 m apart, from the point upward.", field="flies")
        if self.flies[-1].above_point_m > self.set_depth_m - 0.1:
            raise BadInput("Every fly hangs 0.1 m or more below the indicator.", field="flies")


@dataclass(kw_only=True, frozen=True, slots=True)
class Drift:
    """`for_s` [s] of drifting, 5 to 600, before a wind of `wind_speed_mps` [m/s]; a twitch every `twitch_every_s`, or none.

    With a line it is cast `distance_m` [m] out, `off_wind_deg` off where the wind goes (90: across it), mended at `mends_s`,
    and line is fed out at `fed_mps` [m/s] as it goes;    with `recasts` it ends once the line drags the float.
    """

    for_s: float = float(USUAL_DRIFT_S)
    wind_speed_mps: float = 0.0
    twitch_every_s: float | None = None
    distance_m: float = 10.0
    off_wind_deg: float = 90.0
    mends_s: tuple[float, ...] = ()
    recasts: bool = False
    fed_mps: float = 0.0

    def __post_init__(self) -> None:
        FOR_S.check("for_s", self.for_s)
        WIND_MPS.check("wind_speed_mps", self.wind_speed_mps)
        if self.twitch_every_s is not None:
            TWITCH_EVERY_S.check("twitch_every_s", self.twitch_every_s)
        FLOAT_DISTANCE_M.check("distance_m", self.distance_m)
        OFF_WIND_DEG.check("off_wind_deg", self.off_wind_deg)
        check_mends(self.mends_s)
        FED_MPS.check("fed_mps", self.fed_mps)


@dataclass(frozen=True, slots=True)
class DriftResult:
    """`run` holds the paths; `load_n` is the weight of what hangs on the float, in water, `lift_n` what it can carry.

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
    back; the water below moves less, so the leader trails. In a wind, with a line, all of the thread is run from the rod
    out: the floating line drifts and bows, and in the end drags the float. Without, it goes free. Blind to waves and takes.
    """
    if rig.line is not None and drift.wind_speed_mps > 0.0:
        return drift_of(rig, _run_on_line(rig, rig.line, drift, water, mesh), water)
    density, _ = fluid_of(water.water_c)
    thread = cut(_below(rig, density), rig.leader, rig.flies, density, mesh, reach_m=rig.set_depth_m)
    surface_mps = float(SURFACE_DRIFT_SHARE) * drift.wind_speed_mps
    moving = Water(water.water_c, water.bottom, min(surface_mps, 1.0), water.weed_m)
    afloat = Afloat(0, float(FLOAT_CD) * _half_area_m2(rig), _push_n(rig, drift.wind_speed_mps), 0.0)
    return drift_of(rig, run_program(thread, _drift_program(drift), moving, mesh, afloat=afloat), water)


def _half_area_m2(rig: IndicatorRig) -> float:
    """Return how much of the float's section [m2] is in the air, and how much in the water."""
    return 0.125 * math.pi * rig.indicator.diameter_m**2


def _push_n(rig: IndicatorRig, wind_speed_mps: float) -> float:
    """Return the push of the wind on the float [N]."""
    return 0.5 * float(AIR_KGM3) * float(FLOAT_CD) * _half_area_m2(rig) * wind_speed_mps**2


def _run_on_line(rig: IndicatorRig, line: Line, drift: Drift, water: Water, mesh: Mesh) -> CastResult:
    """Run a float on its line, cast out with some slack, from the rod to the flies."""
    density, _ = fluid_of(water.water_c)
    above_m = rig.leader.length_m - rig.set_depth_m
    slack_m = SLACK_M if drift.twitch_every_s is None else TWITCH_SLACK_M
    line_m = max(drift.distance_m + slack_m - above_m, 0.5)
    pieces = leader_pieces(rig.leader, density)
    pieces += [Piece(s.length_m, s.weight_npm, s.diameter_m) for s in line.sections(line_m)]
    # Half of it is in the water: its drag is that of a ball of half the section.
    body = (rig.set_depth_m, -rig.indicator.lift_n(density), rig.indicator.diameter_m * math.sqrt(0.5))
    thread = cut(pieces, rig.leader, rig.flies, density, mesh, float_at=body)
    push_n, toward = _push_n(rig, drift.wind_speed_mps), math.radians(drift.off_wind_deg)
    afloat = Afloat(thread.float_node, 0.0, push_n * math.cos(toward), push_n * math.sin(toward))
    return run_program(
        thread,
        with_mends(_drift_program(drift, on_line=True), drift.mends_s),
        driven(water, drift.wind_speed_mps, drift.off_wind_deg),
        mesh,
        fed_m=drift.fed_mps * drift.for_s,
        slack=1.0 - drift.distance_m / (line_m + above_m),
        afloat=afloat,
        drag_mps=float(FLOAT_DRAGGED_MPS),
        stops=drift.recasts,
    )


def drift_of(rig: IndicatorRig, run: CastResult, water: Water) -> DriftResult:
    """Return what a drift's run says of its float: what hangs on it against what it carries, and how short the flies hang."""
    density, _ = fluid_of(water.water_c)
    placed = np.array([rig.set_depth_m - fly.above_point_m for fly in rig.flies])
    hanging = np.array([run.hang_depth_m(k) for k in range(len(rig.flies))])
    reach_m = rig.set_depth_m
    load_n = sum(piece.length_m * piece.weight_npm for piece in _below(rig, density))
    load_n += sum(fly.fly.weight_n(density) for fly in rig.flies)
    load_n += sum(part.weight_n(density) for part in rig.leader.hardware if part.above_point_m < reach_m)
    return DriftResult(run, load_n, rig.indicator.lift_n(density), placed - hanging)


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


def _drift_program(drift: Drift, *, on_line: bool = False) -> FloatArray:
    """Return the program of a drift: a twitch draws the line in, or moves the float where there is none."""
    twitch = (TWITCH_M / TWITCH_S, 0.0) if on_line else (0.0, -TWITCH_M / TWITCH_S)
    pieces: list[tuple[float, ...]] = []
    left = drift.for_s
    every = drift.twitch_every_s
    while left > 1e-6:
        calm_s = left if every is None else min(every, left)
        pieces.append((calm_s, -drift.fed_mps if on_line else 0.0, *[0.0] * 4, chain.RETRIEVING))
        left -= calm_s
        if every is not None and left > TWITCH_S:
            pieces.append((TWITCH_S, *twitch, 0.0, 0.0, 0.0, chain.RETRIEVING))
            left -= TWITCH_S
    return np.array(pieces, dtype=np.float64)
