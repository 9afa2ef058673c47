"""Simulate a cast: from line, leader, flies, count and retrieve to the path of every fly."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray, check_range
from stillthread.sinking import chain
from stillthread.sinking.drag import SKIN_FRICTION
from stillthread.sinking.motion import cast_program
from stillthread.sinking.retrieves import Retrieve
from stillthread.sinking.thread import FINE, QUICK, Mesh, fluid_of, thread_of
from stillthread.tackle.lines import plain_sum_m
from stillthread.tackle.rig import Rig
from stillthread.weather.wind import DRIFT_DECAY_M

LAYER_M = 0.1
LONGEST_CAST_M = 60.0
SHORTEST_CAST_M = 3.0
LONGEST_COUNT_S = 300.0
SINK_RATE_SPREAD = 0.10  # ours: one standard deviation of a label's sink rate, as a share; see docs/physics.md

_SAMPLE_S = 0.5
MOST_SAMPLES = 800
_LONGEST_RUN_S = 600.0
_WORKERS = 2


@dataclass(frozen=True, slots=True)
class Water:
    """The water a cast is made in.

    `water_c` [C] sets density and viscosity; `surface_drift_ms` [m/s] pushes the top layer away from the rod
    (negative: toward it); `bottom` are (distance from the rod [m], depth [m]) corners of the bottom, held at the ends.
    """

    water_c: float
    bottom: tuple[tuple[float, float], ...]
    surface_drift_ms: float = 0.0

    def __post_init__(self) -> None:
        check_range("water_c", self.water_c, -1.0, 40.0, "C")
        check_range("surface_drift_ms", self.surface_drift_ms, -1.0, 1.0, "m/s")
        for _, depth_m in self.bottom:
            check_range("bottom_depth_m", depth_m, 0.3, 100.0, "m")

    @property
    def deepest_m(self) -> float:
        return max(depth for _, depth in self.bottom)


@dataclass(frozen=True, slots=True)
class Cast:
    """What is done with a rig.

    `cast_m` [m] is the distance from rod tip to point fly on landing, 3 to 60; `count_s` [s] the wait before the
    first pull, 0 to 300. The cast ends with a lift of `lift_m` and a hang of `hang_s`.
    """

    cast_m: float
    count_s: float
    retrieve: Retrieve
    lift_m: float = 1.8
    hang_s: float = 5.0

    def __post_init__(self) -> None:
        check_range("cast_m", self.cast_m, SHORTEST_CAST_M, LONGEST_CAST_M, "m")
        check_range("count_s", self.count_s, 0.0, LONGEST_COUNT_S, "s")


@dataclass(frozen=True, slots=True)
class CastResult:
    """What became of a cast.

    `time_s`, `phase` (0 count, 1 retrieve, 2 lift, 3 hang) have shape (n_time,); `fly_depth_m` and
    `fly_distance_m` [m from the rod] (n_fly, n_time); `thread_m` (n_time, n_node, 2) the whole thread as
    (distance, depth), rod tip first; `layer_s` (n_fly, n_layer) seconds in each `LAYER_M` layer; `contact_s`
    (n_fly,) seconds on the bottom. `line_end_depth_m` is where the line meets the leader at the end of the count.
    """

    time_s: FloatArray
    phase: npt.NDArray[np.int64]
    fly_depth_m: FloatArray
    fly_distance_m: FloatArray
    thread_m: FloatArray
    layer_s: FloatArray
    contact_s: FloatArray
    line_node: int
    length_error: float
    plain_sum_m: float

    @property
    def duration_s(self) -> float:
        return float(self.time_s[-1])

    def _index_of(self, phase: int) -> int:
        return int(np.searchsorted(self.phase, phase))

    @property
    def count_end(self) -> int:
        """Index of the last sample of the count."""
        return max(self._index_of(chain.RETRIEVING) - 1, 0)

    def start_depth_m(self, fly: int = 0) -> float:
        """Depth of a fly [m] when the retrieve starts."""
        return float(self.fly_depth_m[fly, self.count_end])

    def deepest_m(self, fly: int = 0) -> float:
        """Greatest depth of a fly [m]."""
        return float(self.fly_depth_m[fly].max())

    def hang_depth_m(self, fly: int = 0) -> float:
        """Depth of a fly [m] when the retrieve ends and the lift begins."""
        return float(self.fly_depth_m[fly, min(self._index_of(chain.LIFTING), len(self.time_s) - 1)])

    def middle_depth_m(self, fly: int = 0) -> tuple[float, float]:
        """Depths [m] between which a fly spends the middle 80 % of the retrieve."""
        inside = self.fly_depth_m[fly, self.count_end : max(self._index_of(chain.LIFTING), self.count_end + 1)]
        low, high = np.quantile(inside, (0.1, 0.9))
        return float(low), float(high)

    @property
    def line_end_depth_m(self) -> float:
        return float(self.thread_m[self.count_end, self.line_node, 1])


def simulate(rig: Rig, cast: Cast, water: Water, *, mesh: Mesh = FINE) -> CastResult:
    """Simulate one cast.

    The chain is plane: no side wind, no side current. Line and leader land straight on the surface, the rod tip
    stays at the surface, and knots, coils and the stiffness of the line are left out.

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
    check_range("cast_m", cast.cast_m, leader_m + 0.5, LONGEST_CAST_M, "m", "The leader and some line must be out.")
    density, viscosity = fluid_of(water.water_c)
    thread = thread_of(rig, cast.cast_m, water.water_c, mesh)
    n_layer = int(water.deepest_m / LAYER_M) + 1
    bottom = np.array(sorted(water.bottom), dtype=np.float64)
    stop_m = min(max(leader_m + 0.5, 3.0), cast.cast_m)
    lift_m = min(cast.lift_m, stop_m - 0.5)
    program = cast_program(cast.count_s, cast.retrieve.pulls, cast.cast_m - stop_m, lift_m, cast.hang_s, most_s=_LONGEST_RUN_S)
    sample_s = max(_SAMPLE_S, float(program[:, chain.FOR_S].sum()) / MOST_SAMPLES)
    time_s, phase, path, _, layer_s, contact_s, error = chain.run_chain(
        np.cumsum(thread.rest_m),
        np.zeros_like(thread.rest_m),
        thread.rest_m.copy(),
        thread.weight_npm,
        thread.diameter_m,
        np.full_like(thread.rest_m, float(SKIN_FRICTION)),
        thread.point_weight_n,
        thread.point_diameter_m,
        thread.flies,
        0,
        np.array([density, viscosity, water.surface_drift_ms, float(DRIFT_DECAY_M)]),
        np.ascontiguousarray(bottom[:, 0]),
        np.ascontiguousarray(bottom[:, 1]),
        0.0,
        program,
        mesh.step_s,
        sample_s,
        LAYER_M,
        n_layer,
    )
    return CastResult(
        time_s,
        phase,
        np.ascontiguousarray(path[:, thread.flies, 1].T),
        np.ascontiguousarray(path[:, thread.flies, 0].T),
        path,
        layer_s,
        contact_s[:, chain.ON_BOTTOM],
        thread.line_node,
        float(error),
        plain_sum_m(rig.line, cast.count_s),
    )


def simulate_many(jobs: Sequence[tuple[Rig, Cast]], water: Water, *, quick: bool = False) -> list[CastResult]:
    """Simulate many casts in one water, on two threads; results in the order of `jobs`.

    `quick` takes coarser steps, for comparing presentations: depths agree with the fine run within a few per cent.
    """
    mesh = QUICK if quick else FINE
    with ThreadPoolExecutor(_WORKERS) as pool:
        return list(pool.map(lambda job: simulate(job[0], job[1], water, mesh=mesh), jobs, chunksize=8))


def simulate_spread(rig: Rig, cast: Cast, water: Water) -> tuple[CastResult, CastResult, CastResult]:
    """Return the cast with the line's rate as given, and with it one spread slower and one faster.

    A floater has no rate to vary; its three results are the same.
    """
    runs = [rig]
    for sign in (-1.0, 1.0):
        rate = min(rig.line.sink_rate_mps * (1.0 + sign * SINK_RATE_SPREAD), 0.30)
        runs.append(replace(rig, line=replace(rig.line, sink_rate_mps=rate)))
    middle, slower, faster = simulate_many([(run, cast) for run in runs], water)
    return middle, slower, faster
