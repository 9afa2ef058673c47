"""A float that hangs its flies at a depth, as an angler does it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from stillthread.errors import FloatArray
from stillthread.judgement import Judgement
from stillthread.phrase import Phrase
from stillthread.ranges import FLOAT_DISTANCE_M, SET_DEPTH_M
from stillthread.sinking.action import LEAST_LEFT, Action, DepthSteps
from stillthread.sinking.doubts import CAST_SPREAD, CASTS, SET_SPREAD, SLACKS, doubted_wind_mps
from stillthread.sinking.indicator import Drift, DriftResult, Indicator, IndicatorRig, drift_of, simulate_drift
from stillthread.sinking.result import CastResult
from stillthread.sinking.run import Water
from stillthread.sinking.thread import FINE, Mesh
from stillthread.tackle.build import Landing, check_landing
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import Rig
from stillthread.trade.usual import USUAL_FLOAT_M

HANGING_MPS, TWITCHED_MPS = 0.005, 0.03  # ours: how fast a fly under a float moves, left alone and lifted now and then
SHALLOWEST_M = 0.4  # ours: a float nearer its fly than this is over it
CLEAR_OF_BOTTOM_M = 0.1  # ours: nearer, every swell lays the point on it
NEIGHBOURS_M = (-0.5, 0.5, -1.0, 1.0, -2.0, 2.0)  # ours: worth thinking of beside a setting, the nearest first
STEP_M = 0.45  # common practice: one to two feet
HANG_MIN = 10.0  # common practice: ten minutes a depth
EVEN_M = 0.25  # ours: what is worked out beforehand for a hand with no signal
_KEPT_OFF_TOP_M = 0.1  # ours: a fly hangs below its float


@dataclass(kw_only=True, frozen=True, slots=True)
class Hang(Action):
    """A float `diameter_m` [m] wide, its `indicator` a key of `KINDS`, set `set_depth_m` [m] above the point, drifting `for_s`
    [s], lifted every `twitch_every_s` or left alone; cast about `distance_m` [m] out."""

    kind = "hang"
    done = "hung under a float"
    passes = False
    dragged = "it drags the float after {fishes_s}. Lift off then, or fish it nearer."

    set_depth_m: float
    indicator: str
    for_s: float
    wind_speed_mps: float
    twitch_every_s: float | None = None
    distance_m: float = 10.0
    off_wind_deg: float = 90.0
    mends_s: tuple[float, ...] = ()
    recasts: bool = False
    fed_mps: float = 0.0
    diameter_m: float = float(USUAL_FLOAT_M)

    @property
    def pace_mps(self) -> float:
        return HANGING_MPS if self.twitch_every_s is None else TWITCHED_MPS

    @property
    def float_m(self) -> float:
        return self.set_depth_m

    @property
    def reach_m(self) -> float:
        return self.distance_m

    def simulate(self, rig: Rig, water: Water, mesh: Mesh = FINE) -> CastResult:
        drift = Drift(
            for_s=self.for_s,
            wind_speed_mps=self.wind_speed_mps,
            twitch_every_s=self.twitch_every_s,
            distance_m=self.distance_m,
            off_wind_deg=self.off_wind_deg,
            mends_s=self.mends_s,
            recasts=self.recasts,
            fed_mps=self.fed_mps,
        )
        return simulate_drift(self._hung(rig), drift, water, mesh=mesh).run

    def _hung(self, rig: Rig) -> IndicatorRig:
        return IndicatorRig(rig.leader, rig.flies, self.set_depth_m, Indicator(self.indicator, self.diameter_m), rig.line)

    def drift_of(self, rig: Rig, run: CastResult, water: Water) -> DriftResult:
        return drift_of(self._hung(rig), run, water)

    def becalmed(self) -> Hang:
        return replace(self, wind_speed_mps=0.0, mends_s=(), fed_mps=0.0)

    def doubted(self, rig: Rig, x: FloatArray) -> Hang:
        lowest = rig.flies[-1].above_point_m + _KEPT_OFF_TOP_M
        set_m = max(self.set_depth_m * (1.0 + float(SET_SPREAD) * x[SLACKS]), lowest, SET_DEPTH_M.low)
        distance_m = max(self.distance_m * (1.0 + float(CAST_SPREAD) * x[CASTS]), FLOAT_DISTANCE_M.low)
        return replace(
            self,
            set_depth_m=min(set_m, rig.leader.length_m),
            distance_m=min(distance_m, FLOAT_DISTANCE_M.high),
            wind_speed_mps=doubted_wind_mps(self.wind_speed_mps, x),
        )

    def key(self) -> str:
        return f"{self.indicator} {self.set_depth_m:.2f} {self.twitch_every_s or 0:.0f}"

    def words(self) -> Phrase:
        return Phrase("float at {set_m}", {"set_m": self.set_depth_m})

    def with_line(self, line: Line) -> Phrase:
        return Phrase(f"{self.indicator} float at {{set_m}}", {"set_m": self.set_depth_m})

    def neighbours(self, rig: Rig, bottom_m: float) -> Iterator[Hang]:
        longest = min(bottom_m - CLEAR_OF_BOTTOM_M, rig.leader.length_m)
        # The top fly of a team hangs below its float too.
        least = max(SHALLOWEST_M, rig.flies[-1].above_point_m + _KEPT_OFF_TOP_M)
        for step in NEIGHBOURS_M:
            if least <= self.set_depth_m + step <= longest:
                yield replace(self, set_depth_m=self.set_depth_m + step)

    def depth_steps(self, line: Line, bottom_m: float) -> DepthSteps:
        steps = (self.set_depth_m + k * STEP_M for k in (1, -1, 2, -2))
        held = tuple(s for s in steps if SHALLOWEST_M <= s <= bottom_m - CLEAR_OF_BOTTOM_M)
        return DepthSteps(held, self.set_depth_m, "Set the float at {set_m}; nothing else changes.", "set_m", HANG_MIN)

    def turned(self, rig: Rig, bottom_m: float) -> Iterator[Hang]:
        most = min(bottom_m - CLEAR_OF_BOTTOM_M, rig.leader.length_m)
        least = rig.flies[-1].above_point_m + SHALLOWEST_M
        down, up = int(max(self.set_depth_m - least, 0.0) / EVEN_M), int(max(most - self.set_depth_m, 0.0) / EVEN_M)
        yield from (replace(self, set_depth_m=self.set_depth_m + EVEN_M * k) for k in range(-down, up + 1) if k)

    def landing(self, rod_m: float) -> Landing:
        return check_landing(self.set_depth_m, rod_m, self.indicator)

    def left(self, judgement: Judgement, wind_mps: float) -> float:
        j = judgement
        in_waves = max(1.0 - j.float_wave_cost * max(wind_mps - j.float_wave_mps, 0.0), LEAST_LEFT)
        return in_waves * max(1.0 - j.float_deep_cost * max(self.set_depth_m - j.float_deep_m, 0.0), LEAST_LEFT)

    def says(self, line: Line, worth: Sequence[tuple[float, float]]) -> tuple[Phrase, ...]:
        return (
            Phrase("Cast no more than {cast_m}: the deeper it hangs, the closer it is fished.", {"cast_m": self.distance_m}),
        )
