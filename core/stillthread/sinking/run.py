"""Run a program on a thread in a water: the one way into the compiled chain."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from stillthread.drag.laws import SKIN_FRICTION
from stillthread.errors import BadInput, FloatArray
from stillthread.ranges import BOTTOM_DEPTH_M, CROSS_DRIFT_MPS, DISTANCE_M, SURFACE_DRIFT_MPS, WATER_C, WEED_M
from stillthread.sinking import chain
from stillthread.sinking.groups import NO_FLOAT, Afloat, Around, Chain, Cut
from stillthread.sinking.result import LAYER_M, MOST_SAMPLES, CastResult
from stillthread.sinking.thread import Mesh, Thread, fluid_of
from stillthread.weather.wind import DRIFT_DECAY_M

_SAMPLE_S = 0.5  # ours: numerics
MOST_CORNERS = 200  # ours: a bound


@dataclass(frozen=True, slots=True)
class Water:
    """The water a fly is presented in.

    `water_c` [C] sets density and viscosity; `bottom` are (distance from the rod [m], depth [m]) corners of the bottom,
    rising in distance, held at the ends; `surface_drift_mps` [m/s] is how fast the top moves away from the rod
    (negative: toward it), and `cross_drift_mps` how fast it moves across the cast, both dying out downward; with `flows_back`
    what the wind drives away returns below, so that nothing piles up, over the depth at the rod; `weed_m` [m] is how high
    weed stands on the bottom.
    """

    water_c: float
    bottom: tuple[tuple[float, float], ...]
    surface_drift_mps: float = 0.0
    weed_m: float = 0.0
    cross_drift_mps: float = 0.0
    flows_back: bool = False

    def __post_init__(self) -> None:
        CROSS_DRIFT_MPS.check("cross_drift_mps", self.cross_drift_mps)
        WATER_C.check("water_c", self.water_c)
        SURFACE_DRIFT_MPS.check("surface_drift_mps", self.surface_drift_mps)
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
    def back_share(self) -> float:
        """Speed of the return flow as a share of the drift at the top: that which lets no water through on the whole."""
        if not self.flows_back:
            return 0.0
        deep, decay = self.bottom[0][1], float(DRIFT_DECAY_M)
        driven_m = decay * (1.0 - math.exp(-deep / decay))
        return min(driven_m / max(deep - driven_m, 0.05 * deep), 1.0)

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
    afloat: Afloat = NO_FLOAT,
    plain_sum_m: float = 0.0,
    drag_mps: float = 0.0,
    stops: bool = False,
) -> CastResult:
    """Lay the thread along the surface and run the program: in a plane where nothing moves across, else in space.

    Parameters
    ----------
    thread : Thread
    program : array, shape (n_piece, 7)
        As `run_chain` takes it.
    water : Water
    mesh : Mesh
    slack : float
        Share of its length by which the thread lands short of straight, 0 to 0.5; as far as a float that is further out.
    fed_m : float
        Line [m] that the program will feed out, kept ready on the reel.
    behind : bool
        Lay the thread behind the rod tip instead of before it: a boat that trolls.
    afloat : Afloat
        A float: the tip, that goes as it is driven, or a node further out.
    plain_sum_m : float
        Kept with the result.
    drag_mps : float
        From what speed [m/s] on a bow drags the fly; 0 does not watch for it.
    stops : bool
        End where it does.

    Returns
    -------
    CastResult
    """
    if program.ndim != 2 or program.shape[1] != chain.PHASE + 1:
        raise BadInput(f"A program has {chain.PHASE + 1} columns; this one has the shape {program.shape}.")
    density, viscosity = fluid_of(water.water_c)
    thread, first = _with_reel(thread, fed_m)
    along = np.cumsum(thread.rest_m) - thread.rest_m[: first + 1].sum()
    along[: first + 1] = 0.0
    last_m, last_depth_m = water.bottom[-1]
    corners = np.array((*water.bottom, (last_m + 1.0, last_depth_m)))
    if afloat.node > 0:
        afloat = afloat._replace(node=afloat.node + first)
    short_m = slack * (np.minimum(along, along[afloat.node]) if afloat.node > 0 else along)
    x = along - short_m
    if behind:
        x = -x
    laid = Chain(
        x, np.zeros_like(x), np.zeros_like(x), thread.rest_m.copy(), thread.weight_npm, thread.diameter_m,
        np.full_like(x, float(SKIN_FRICTION)), thread.point_weight_n, thread.point_diameter_m,
    )  # fmt: skip
    bottom_x, bottom_z = (np.ascontiguousarray(corners[:, axis], dtype=np.float64) for axis in (0, 1))
    around = Around(
        density, viscosity, water.surface_drift_mps, water.cross_drift_mps, float(DRIFT_DECAY_M), water.back_share,
        bottom_x, bottom_z, water.weed_m,
    )  # fmt: skip
    spatial = afloat.node > 0 or water.cross_drift_mps != 0.0 or bool(program[:, chain.TIP_Y_MPS].any())
    sample_s = max(_SAMPLE_S, float(program[:, chain.FOR_S].sum()) / MOST_SAMPLES)
    cut = Cut(mesh.step_s, mesh.stretch, sample_s, LAYER_M, int(water.deepest_m / LAYER_M) + 1, drag_mps, stops)
    time_s, phase, path, at_rod, layer_s, contact_s, stretch, dragged_s = chain.run_chain(
        laid, thread.flies, first, around, afloat, program, cut, spatial
    )
    return CastResult(
        time_s=time_s,
        phase=phase,
        fly_depth_m=np.ascontiguousarray(path[:, thread.flies, 1].T),
        fly_distance_m=np.ascontiguousarray(path[:, thread.flies, 0].T),
        thread_m=path,
        tension_n=np.ascontiguousarray(at_rod[:, chain.TENSION]),
        out_m=np.ascontiguousarray(at_rod[:, chain.OUT]),
        layer_s=layer_s,
        contact_s=contact_s[:, chain.ON_BOTTOM],
        weed_s=contact_s[:, chain.IN_WEED],
        line_node=thread.line_node,
        fly_nodes=tuple(int(node) for node in thread.flies),
        stretch=float(stretch),
        plain_sum_m=plain_sum_m,
        dragged_s=float(dragged_s) if dragged_s >= 0.0 else None,
        float_node=max(afloat.node, 0),
        below_float_m=float(thread.rest_m[afloat.node + 1 :].sum()) if afloat.node > 0 else 0.0,
        cross_drift_mps=water.cross_drift_mps,
        back_share=water.back_share,
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
        float_node=thread.float_node and thread.float_node + spare,
    )
    return longer, spare
