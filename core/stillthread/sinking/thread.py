"""Cut a rig into the chain's segments: fine at each fly, coarser away from it, with a node at every joint."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray
from stillthread.tackle.leaders import Leader
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.water.properties import water_density_kgm3, water_viscosity_pas

_GROWTH = 0.6  # ours: numerics
UNDER_FLOAT_M = 1.0  # ours: numerics; twice as deep as the layer that the wind moves


@dataclass(frozen=True, slots=True)
class Mesh:
    """How finely to cut: segments of `finest_m` touch a fly and grow away from it to `coarsest_m`; steps up to `step_s`, in
    which a segment stretches by a share of about `stretch`."""

    finest_m: float
    coarsest_m: float
    step_s: float
    stretch: float = 0.002


# Against a mesh far finer, over 64 varied cases: depths of FINE agree within 3 cm in nine of ten, of QUICK within 10 cm; the
# worst are 4 and 31 cm (docs/physics.md).
FINE = Mesh(0.2, 0.6, 0.4, 0.002)  # ours: numerics, docs/physics.md
QUICK = Mesh(0.5, 3.0, 1.2, 0.008)  # ours: numerics, docs/physics.md


@dataclass(kw_only=True, frozen=True, slots=True)
class Thread:
    """Arrays of the chain, shape (n_node,), rod tip first; entry 0 of segment arrays is unused. Shared: copy before use.

    `flies` are the nodes of the flies, point first; `line_node` joins line and leader; `float_node` is a float that is not the
    first node, 0 if there is none.
    """

    rest_m: FloatArray
    weight_npm: FloatArray
    diameter_m: FloatArray
    point_weight_n: FloatArray
    point_diameter_m: FloatArray
    flies: npt.NDArray[np.int64]
    line_node: int
    float_node: int = 0


@lru_cache(maxsize=64)
def fluid_of(water_c: float) -> tuple[float, float]:
    """Return density [kg/m3] and viscosity [Pa s]."""
    return float(water_density_kgm3(water_c)), float(water_viscosity_pas(water_c))


@lru_cache(maxsize=512)
def thread_of(rig: Rig, out_m: float, water_c: float, mesh: Mesh) -> Thread:
    """Return the rig with `out_m` [m] of line and leader out, cut by `mesh`."""
    density, _ = fluid_of(water_c)
    leader_m = rig.leader.length_m
    pieces = leader_pieces(rig.leader, density)
    pieces += [Piece(s.length_m, s.weight_npm, s.diameter_m) for s in rig.line.sections(out_m - leader_m)]
    return cut(pieces, rig.leader, rig.flies, density, mesh)


class Piece(NamedTuple):
    """A uniform length of thread, as the water feels it."""

    length_m: float
    weight_npm: float
    diameter_m: float


def leader_pieces(leader: Leader, density_kgm3: float) -> list[Piece]:
    """Return the leader's pieces from the point upward."""
    return [Piece(s.length_m, s.weight_npm(density_kgm3), s.diameter_m) for s in reversed(leader.sections)]


def cut(
    pieces: Sequence[Piece],
    leader: Leader,
    placed_flies: Sequence[PlacedFly],
    density: float,
    mesh: Mesh,
    *,
    reach_m: float | None = None,
    float_at: tuple[float, float, float] | None = None,
) -> Thread:
    """Cut pieces, given from the point upward, into segments that carry the flies and the leader's hardware.

    With `reach_m` [m] only what hangs within that length above the point is there: the rest is above an indicator. `float_at`
    is a float on the thread: how far above the point [m], its weight less buoyancy [N] and its width [m].
    """
    hardware = [h for h in leader.hardware if reach_m is None or h.above_point_m < reach_m]
    fly_at = [placed.above_point_m for placed in placed_flies]
    floats_at = () if float_at is None else (float_at[0],)
    joints = {*fly_at, *floats_at, *(h.above_point_m for h in hardware)}
    # The wind moves the top half metre and hardly what is below it: what hangs through it is cut as finely as a fly's.
    below_m = reach_m if reach_m is not None else floats_at[0] if floats_at else 0.0
    if mesh.coarsest_m < UNDER_FLOAT_M:
        joints |= {at for at in below_m - np.arange(mesh.finest_m, UNDER_FLOAT_M + 1e-9, mesh.finest_m) if at > mesh.finest_m}
    up = 0.0
    for piece in pieces:
        up += piece.length_m
        joints.add(up)
    coarsest = max(mesh.coarsest_m, up / 40.0)
    cuts: list[Piece] = []
    node_at = [0.0]
    for low, high in itertools.pairwise(sorted(joints)):
        if high - low < 1e-4:
            continue
        piece = _piece_at(pieces, 0.5 * (low + high))
        for length in _grade(low, high, fly_at, mesh.finest_m, coarsest):
            cuts.append(Piece(length, piece.weight_npm, piece.diameter_m))
            node_at.append(node_at[-1] + length)
    n = len(node_at)
    along = np.array(node_at)

    def node(at_m: float) -> int:
        return n - 1 - int(np.argmin(np.abs(along - at_m)))

    point_weight, point_diameter = np.zeros(n), np.zeros(n)
    bodies = [(p.above_point_m, p.fly.weight_n(density), p.fly.drag_diameter_m) for p in placed_flies]
    bodies += [(h.above_point_m, h.weight_n(density), h.diameter_m) for h in hardware]
    if float_at is not None:
        bodies.append(float_at)
    for at_m, weight_n, diameter_m in bodies:
        point_weight[node(at_m)] += weight_n
        # Two bodies at one node drag as the sphere of their joint area.
        point_diameter[node(at_m)] = float(np.hypot(point_diameter[node(at_m)], diameter_m))
    columns = np.array([(0.0, 0.0, 1e-3), *reversed(cuts)])
    return Thread(
        rest_m=columns[:, 0].copy(),
        weight_npm=columns[:, 1].copy(),
        diameter_m=columns[:, 2].copy(),
        point_weight_n=point_weight,
        point_diameter_m=point_diameter,
        flies=np.array([node(at) for at in fly_at], dtype=np.int64),
        line_node=node(leader.length_m),
        float_node=0 if float_at is None else node(float_at[0]),
    )


def _piece_at(pieces: Sequence[Piece], up_m: float) -> Piece:
    """Return the piece that holds the point `up_m` above the point fly."""
    reached = 0.0
    for piece in pieces:
        reached += piece.length_m
        if up_m < reached:
            return piece
    return pieces[-1]


def _grade(low: float, high: float, flies: Sequence[float], finest_m: float, coarsest_m: float) -> list[float]:
    """Return segment lengths [m] that fill [low, high], growing with distance from the nearest fly."""
    lengths: list[float] = []
    at = low
    while at < high - 1e-9:
        nearest = min(abs(at - fly) for fly in flies)
        ahead = min((fly - at for fly in flies if fly > at), default=1e9)
        size = min(finest_m + _GROWTH * min(nearest, ahead), coarsest_m)
        lengths.append(size)
        at += size
    scale = (high - low) / sum(lengths)
    return [length * scale for length in lengths]
