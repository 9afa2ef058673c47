"""Cast and retrieve: from line, leader, flies, count and retrieve to the path of every fly."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

from stillthread.errors import check_range
from stillthread.ranges import CAST_M, COUNT_S, DRAG_MPS, HANG_S, LIFT_M, OFF_WIND_DEG, SLACK, TIP_MPS, WIND_MPS
from stillthread.sinking.across import DRAGGED_MPS, check_mends, driven, with_mends
from stillthread.sinking.motion import cast_program
from stillthread.sinking.result import LAYER_M, CastResult
from stillthread.sinking.retrieves import Retrieve
from stillthread.sinking.run import Water, level_water, run_program
from stillthread.sinking.thread import FINE, QUICK, Mesh, thread_of
from stillthread.tackle.lines import plain_sum_m
from stillthread.tackle.rig import Rig

__all__ = ["LAYER_M", "Cast", "CastResult", "Water", "level_water", "simulate", "simulate_many"]

LEAST_LINE_M = 0.5
_WORKERS = 2


@dataclass(frozen=True, slots=True)
class Cast:
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
