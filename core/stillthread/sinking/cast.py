"""Cast and retrieve: from line, leader, flies, count and retrieve to the path of every fly."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

from stillthread.errors import FloatArray, check_range
from stillthread.judgement import Judgement
from stillthread.phrase import Phrase
from stillthread.ranges import CAST_M, COUNT_S, DRAG_MPS, HANG_S, LIFT_M, OFF_WIND_DEG, SLACK, TIP_MPS, WIND_MPS
from stillthread.sinking.across import DRAGGED_MPS, check_mends, driven, with_mends
from stillthread.sinking.action import Action, DepthSteps
from stillthread.sinking.doubts import (
    CAST_SPREAD,
    CASTS,
    COUNT_SPREAD,
    COUNTS,
    PACE_SPREAD,
    PACES,
    SLACK_SPREAD,
    SLACKS,
    doubted_wind_mps,
)
from stillthread.sinking.motion import cast_program
from stillthread.sinking.result import LAYER_M, CastResult
from stillthread.sinking.retrieves import FASTEST_RETRIEVE_MPS, RETRIEVES, SLOWEST_RETRIEVE_MPS, Retrieve
from stillthread.sinking.run import Water, level_water, run_program
from stillthread.sinking.thread import FINE, QUICK, Mesh, thread_of
from stillthread.tackle.lines import Line, plain_sum_m
from stillthread.tackle.rig import Rig
from stillthread.trade.usual import LONGEST_COUNT_S

__all__ = ["LAYER_M", "Cast", "CastResult", "Water", "level_water", "simulate", "simulate_many"]

LEAST_LINE_M = 0.5  # ours: something has to be out to cast with
CAST_MIN = 8.0  # common practice: five casts or more before a change
COUNT_STEP_M = 0.45  # common practice: one to two feet
COUNT_STEPS_S = (5.0, 20.0)  # common practice: count 5, 10, 15, 20, 30 and on
FLY_SINKS_MPS = 0.05  # ours: how fast flies go on down under a line that floats
PAST_BOTTOM = 1.2  # ours: a count is not worth trying that would take the line so much deeper than the water
SLOWER, FASTER = 0.75, 1.3  # ours: paces that a fish tells apart
EVEN_COUNT_S, MORE_EVEN_COUNTS = 5.0, 6  # ours: what is worked out beforehand for a hand with no signal
FLAT_COUNT = 0.06  # ours: counts whose worth differs by less hardly matter
_WORKERS = 2


@dataclass(frozen=True, slots=True)
class Cast(Action):
    """What is done with a rig.

    `cast_m` [m] is the line and leader out on landing, 3 to 60; `count_s` [s] the wait before the first pull, 0 to 300.
    The cast ends with a lift of `lift_m`, 0 to 5, and a hang of `hang_s`, 0 to 60. `slack`, 0 to 0.5, is the share by
    which it lands short of straight. With `loose` line is fed out through the count as fast as it sinks, so that it
    falls level; held tight it swings in under the rod. `tip_mps` [m/s], -1 to 1, is the boat's drift toward the flies,
    `tip_y_mps` across the cast, to where a wind goes that blows across it. The wind of `wind_speed_mps` [m/s] goes
    `off_wind_deg` off the cast: 0 with it, 90 across it. The floating line is mended at `mends_s` [s]. With `recasts` it ends,
    lifted off, once a bow drags the fly; else it is only told when. It is dragged at `drag_mps` [m/s] sideways, and by no
    less than it is retrieved.
    """

    kind = "cast"
    done = "cast"
    turns_over = True

    cast_m: float
    count_s: float
    retrieve: Retrieve
    lift_m: float = 1.8
    hang_s: float = 5.0
    slack: float = 0.0
    loose: bool = False
    tip_mps: float = 0.0
    tip_y_mps: float = 0.0
    wind_speed_mps: float = 0.0
    off_wind_deg: float = 90.0
    mends_s: tuple[float, ...] = ()
    recasts: bool = False
    drag_mps: float = float(DRAGGED_MPS)

    def __post_init__(self) -> None:
        CAST_M.check("cast_m", self.cast_m)
        COUNT_S.check("count_s", self.count_s)
        LIFT_M.check("lift_m", self.lift_m)
        HANG_S.check("hang_s", self.hang_s)
        SLACK.check("slack", self.slack)
        TIP_MPS.check("tip_mps", self.tip_mps)
        TIP_MPS.check("tip_y_mps", self.tip_y_mps)
        WIND_MPS.check("wind_speed_mps", self.wind_speed_mps)
        OFF_WIND_DEG.check("off_wind_deg", self.off_wind_deg)
        check_mends(self.mends_s)
        DRAG_MPS.check("drag_mps", self.drag_mps)

    @property
    def pace_mps(self) -> float:
        return self.retrieve.mean_mps

    @property
    def reach_m(self) -> float:
        return self.cast_m

    def simulate(self, rig: Rig, water: Water, mesh: Mesh = FINE) -> CastResult:
        return simulate(rig, self, water, mesh=mesh)

    def becalmed(self) -> Cast:
        return replace(self, wind_speed_mps=0.0, mends_s=())

    def doubted(self, rig: Rig, x: FloatArray) -> Cast:
        shortest = rig.leader.length_m + LEAST_LINE_M
        pace_mps = self.retrieve.mean_mps * (1.0 + float(PACE_SPREAD) * x[PACES])
        return replace(
            self,
            cast_m=min(max(self.cast_m * (1.0 + float(CAST_SPREAD) * x[CASTS]), shortest, CAST_M.low), CAST_M.high),
            count_s=min(max(self.count_s * (1.0 + float(COUNT_SPREAD) * x[COUNTS]), 0.0), COUNT_S.high),
            retrieve=self.retrieve.at_speed(min(max(pace_mps, SLOWEST_RETRIEVE_MPS), FASTEST_RETRIEVE_MPS)),
            slack=min(self.slack + float(SLACK_SPREAD) * max(1.0 + x[SLACKS], 0.0), SLACK.high),
            wind_speed_mps=doubted_wind_mps(self.wind_speed_mps, x),
        )

    def key(self) -> str:
        return f"{self.count_s:.0f} {self.retrieve.key} {self.retrieve.mean_mps:.3f}"

    def words(self) -> Phrase:
        return Phrase(f"count {self.count_s:.0f}, {self.retrieve.name.lower()}")

    def other_counts(self, line: Line, bottom_m: float) -> list[float]:
        """Return counts [s] that put the fly in another layer, each about two feet away, down to the bottom."""
        rate = line.front_mps or FLY_SINKS_MPS
        step = round(min(max(COUNT_STEP_M / rate, COUNT_STEPS_S[0]), COUNT_STEPS_S[1]))
        counts = [self.count_s + k * step for k in (1, -1, 2, -2)]
        held = [c for c in counts if 0.0 <= c <= float(LONGEST_COUNT_S) and rate * c <= PAST_BOTTOM * bottom_m]
        return held or [self.count_s - step if self.count_s >= step else self.count_s + step]

    def neighbours(self, rig: Rig, bottom_m: float) -> Iterator[Cast]:
        for count_s in self.other_counts(rig.line, bottom_m):
            yield replace(self, count_s=count_s)
        paces, at = RETRIEVES.values(), self.retrieve.mean_mps
        slower = max((r for r in paces if 0.0 < r.mean_mps < SLOWER * at), key=lambda r: r.mean_mps, default=None)
        faster = min((r for r in paces if r.mean_mps > FASTER * at), key=lambda r: r.mean_mps, default=None)
        yield from (replace(self, retrieve=pace) for pace in (slower, faster) if pace is not None)

    def depth_steps(self, line: Line, bottom_m: float) -> DepthSteps:
        counts = tuple(self.other_counts(line, bottom_m))
        return DepthSteps(
            counts, self.count_s, "Count {count_s}; nothing else changes.", "count_s", CAST_MIN, line_goes_on=True
        )

    def turned(self, rig: Rig, bottom_m: float) -> Iterator[Cast]:
        down = range(-int(self.count_s / EVEN_COUNT_S), MORE_EVEN_COUNTS + 1)
        yield from (replace(self, count_s=self.count_s + EVEN_COUNT_S * k) for k in down if k)

    def left(self, judgement: Judgement, wind_mps: float) -> float:
        return 1.0 - judgement.patience_cost * max(self.count_s - judgement.patience_s, 0.0)

    def says(self, line: Line, worth: Sequence[tuple[float, float]]) -> tuple[Phrase, ...]:
        takes = [each for _, each in worth]
        if len(takes) <= 2 or line.floats or min(takes) <= (1.0 - FLAT_COUNT) * max(takes):
            return ()
        return (Phrase("The count hardly matters here: from none to {most_s} it is worth the same.", {"most_s": worth[-1][0]}),)


def simulate(rig: Rig, cast: Cast, water: Water, *, mesh: Mesh = FINE) -> CastResult:
    """Simulate one cast.

    Wind drives the top of the water: along the cast, across it or between. The rod tip stays at the surface, and knots, coils
    and the stiffness of the line are left out.

    Parameters
    ----------
    rig : Rig
    cast : Cast
        `cast_m` must exceed the leader by half a metre of line or more.
    water : Water
    mesh : Mesh
        How finely to cut space and time.

    Returns
    -------
    CastResult

    Raises
    ------
    OutOfRange
        The cast is shorter than leader plus half a metre.

    References
    ----------
    sucker-brauer-1975, clift-gauvin-1970 (drag); critical angle and catenary are met in the tests.
    """
    leader_m = rig.leader.length_m
    check_range("cast_m", cast.cast_m, leader_m + LEAST_LINE_M, CAST_M.high, "m", "The leader and some line must be out.")
    stop_m = min(max(leader_m + LEAST_LINE_M, 3.0), cast.cast_m)
    lift_m = min(cast.lift_m, stop_m - LEAST_LINE_M)
    fed_m = rig.line.profile[-1].sink_rate_mps * cast.count_s if cast.loose else 0.0
    program = cast_program(
        cast.count_s,
        cast.retrieve.pulls,
        cast.cast_m + fed_m - stop_m,
        lift_m,
        cast.hang_s,
        tip_mps=cast.tip_mps,
        tip_y_mps=cast.tip_y_mps,
        fed_m=fed_m,
        most_s=cast.retrieve.longest_s,
    )
    return run_program(
        thread_of(rig, cast.cast_m, water.water_c, mesh),
        with_mends(program, cast.mends_s) if cast.mends_s else program,
        driven(water, cast.wind_speed_mps, cast.off_wind_deg),
        mesh,
        slack=cast.slack,
        fed_m=fed_m,
        plain_sum_m=plain_sum_m(rig.line, cast.count_s),
        drag_mps=max(cast.drag_mps, cast.retrieve.mean_mps),
        stops=cast.recasts,
    )


def simulate_many(jobs: Sequence[tuple[Rig, Cast]], water: Water, *, quick: bool = False) -> list[CastResult]:
    """Simulate many casts in one water, on two threads; results in the order of `jobs`.

    `quick` cuts more coarsely, for comparing presentations.
    """
    mesh = QUICK if quick else FINE
    with ThreadPoolExecutor(_WORKERS) as pool:
        return list(pool.map(lambda job: simulate(job[0], job[1], water, mesh=mesh), jobs))
