"""Run a program on a thread in a water: the one way into the compiled chain."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from stillthread.drag.laws import SKIN_FRICTION
from stillthread.errors import BadInput, FloatArray
from stillthread.ranges import BOTTOM_DEPTH_M, DISTANCE_M, SURFACE_DRIFT_MS, WATER_C, WEED_M
from stillthread.sinking import chain
from stillthread.sinking.groups import Around, Chain, Cut
from stillthread.sinking.result import LAYER_M, MOST_SAMPLES, CastResult
from stillthread.sinking.thread import Mesh, Thread, fluid_of
from stillthread.weather.wind import DRIFT_DECAY_M

_SAMPLE_S = 0.5
MOST_CORNERS = 200


@dataclass(frozen=True, slots=True)
class Water:
    """The water a fly is presented in.

    `water_c` [C] sets density and viscosity; `bottom` are (distance from the rod [m], depth [m]) corners of the bottom,
    rising in distance, held at the ends; `surface_drift_ms` [m/s] is how fast the top moves away from the rod
    (negative: toward it), dying out downward; `weed_m` [m] is how high weed stands on the bottom.
    """

    water_c: float
    bottom: tuple[tuple[float, float], ...]
    surface_drift_ms: float = 0.0
    weed_m: float = 0.0

    def __post_init__(self) -> None:
        WATER_C.check("water_c", self.water_c)
        SURFACE_DRIFT_MS.check("surface_drift_ms", self.surface_drift_ms)
        WEED_M.check("weed_m", self.weed_m)
        if not 1 <= len(self.bottom) <= MOST_CORNERS:
            raise BadInput(f"The bottom has 1 to {MOST_CORNERS} corners.", field="bottom")
        for (near, _), (far, _) in zip(self.bottom, self.bottom[1:], strict=False):
            if not far > near:
                raise BadInput("The corners of the bottom run outward from the rod.", field="bottom")
        for distance_m, depth_m in self.bottom:
            DISTANCE_M.check("distance_m", distance_m)
            BOTTOM_DEPTH_M.check("bottom_depth_m", depth_m)

    @property
    def deepest_m(self) -> float:
        return max(depth for _, depth in self.bottom)


def level_water(water_c: float, depth_m: float) -> Water:
    """Return still water over a level bottom."""
    return Water(water_c, ((0.0, depth_m),))


def run_program(
    thread: Thread,
    program: FloatArray,
    water: Water,
    mesh: Mesh,
    *,
    slack: float = 0.0,
    fed_m: float = 0.0,
    behind: bool = False,
    afloat: tuple[float, float] = (0.0, 0.0),
    plain_sum_m: float = 0.0,
) -> CastResult:
    """Lay the thread along the surface and run the program.

    Parameters
    ----------
    thread : Thread
    program : array, shape (n_piece, 5)
        As `run_chain` takes it.
    water : Water
    mesh : Mesh
    slack : float
        Share of its length by which the thread lands short of straight, 0 to 0.5.
    fed_m : float
        Line [m] that the program will feed out, kept ready on the reel.
    behind : bool
        Lay the thread behind the rod tip instead of before it: a boat that trolls.
    afloat : tuple of float
        Where the tip is a float that goes as it is driven: its drag area in the water [m2] and the push of the wind [N].
    plain_sum_m : float
        Kept with the result.

    Returns
    -------
    CastResult
    """
    density, viscosity = fluid_of(water.water_c)
    thread, first = _with_reel(thread, fed_m)
    along = np.cumsum(thread.rest_m) - thread.rest_m[: first + 1].sum()
    along[: first + 1] = 0.0
    last_m, last_depth_m = water.bottom[-1]
    corners = np.array((*water.bottom, (last_m + 1.0, last_depth_m)))
    x = (-along if behind else along) * (1.0 - slack)
    laid = Chain(
        x, np.zeros_like(x), thread.rest_m.copy(), thread.weight_npm, thread.diameter_m, np.full_like(x, float(SKIN_FRICTION)),
        thread.point_weight_n, thread.point_diameter_m,
    )  # fmt: skip
    bottom_x, bottom_z = (np.ascontiguousarray(corners[:, axis], dtype=np.float64) for axis in (0, 1))
    around = Around(density, viscosity, water.surface_drift_ms, float(DRIFT_DECAY_M), bottom_x, bottom_z, water.weed_m)
    sample_s = max(_SAMPLE_S, float(program[:, chain.FOR_S].sum()) / MOST_SAMPLES)
    cut = Cut(mesh.step_s, mesh.stretch, sample_s, LAYER_M, int(water.deepest_m / LAYER_M) + 1)
    time_s, phase, path, tension_n, layer_s, contact_s, stretch = chain.run_chain(
        laid, thread.flies, first, around, np.array(afloat), program, cut
    )
    return CastResult(
        time_s,
        phase,
        np.ascontiguousarray(path[:, thread.flies, 1].T),
        np.ascontiguousarray(path[:, thread.flies, 0].T),
        path,
        tension_n,
        layer_s,
        contact_s[:, chain.ON_BOTTOM],
        contact_s[:, chain.IN_WEED],
        thread.line_node,
        float(stretch),
        plain_sum_m,
    )


def _with_reel(thread: Thread, fed_m: float) -> tuple[Thread, int]:
    """Return the thread with segments for `fed_m` [m] before the rod tip, and the node at the tip."""
    if fed_m <= 0.0:
        return thread, 0
    nominal = float(thread.rest_m[1:].max())
    spare = math.ceil(fed_m / nominal) + 1

    def before(values: FloatArray, filler: float) -> FloatArray:
        return np.concatenate((values[:1], np.full(spare, filler), values[1:]))

    longer = replace(
        thread,
        rest_m=before(thread.rest_m, nominal),
        weight_npm=before(thread.weight_npm, float(thread.weight_npm[1])),
        diameter_m=before(thread.diameter_m, float(thread.diameter_m[1])),
        point_weight_n=before(thread.point_weight_n, 0.0),
        point_diameter_m=before(thread.point_diameter_m, 0.0),
        flies=thread.flies + spare,
        line_node=thread.line_node + spare,
    )
    return longer, spare
