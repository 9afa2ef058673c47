"""Cut a rig into the chain's segments: fine at each fly, coarser away from it, with a node at every joint."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray
from stillthread.tackle.rig import Rig
from stillthread.water.properties import water_density_kgm3, water_viscosity_pas

_GROWTH = 0.6


@dataclass(frozen=True, slots=True)
class Mesh:
    """How finely to cut: segments of `finest_m` touch a fly and grow away from it to `coarsest_m`; steps up to `step_s`."""

    finest_m: float
    coarsest_m: float
    step_s: float


# Against a mesh four times as fine, depths of FINE agree within a hundredth, of QUICK within a few: see docs/physics.md.
FINE = Mesh(0.15, 1.0, 0.3)
QUICK = Mesh(0.3, 2.0, 0.8)


@dataclass(frozen=True, slots=True)
class Thread:
    """Arrays of the chain, shape (n_node,), rod tip first; entry 0 of segment arrays is unused. Shared: copy before use.

    `flies` are the nodes of the flies, point first; `line_node` joins line and leader.
    """

    rest_m: FloatArray
    weight_npm: FloatArray
    diameter_m: FloatArray
    point_weight_n: FloatArray
    point_diameter_m: FloatArray
    flies: npt.NDArray[np.int64]
    line_node: int


@lru_cache(maxsize=64)
def fluid_of(water_c: float) -> tuple[float, float]:
    """Return density [kg/m3] and viscosity [Pa s]."""
    return float(water_density_kgm3(water_c)), float(water_viscosity_pas(water_c))


@lru_cache(maxsize=512)
def thread_of(rig: Rig, out_m: float, water_c: float, mesh: Mesh) -> Thread:
    """Return the rig with `out_m` [m] of line and leader out, cut by `mesh`."""
    density, _ = fluid_of(water_c)
    leader_m = rig.leader.length_m
    line = rig.line.section(out_m - leader_m)
    # Pieces from the point upward, as (length [m], weight [N/m], diameter [m]).
    pieces = [(s.length_m, s.weight_npm(density), s.diameter_m) for s in reversed(rig.leader.sections)]
    pieces.append((line.length_m, line.weight_npm, line.diameter_m))
    fly_at = [placed.above_point_m for placed in rig.flies]
    joints = set(fly_at)
    up = 0.0
    for length, _, _ in pieces:
        up += length
        joints.add(up)
    rest: list[float] = []
    weight: list[float] = []
    diameter: list[float] = []
    node_at = [0.0]
    for low, high in itertools.pairwise(sorted(joints)):
        if high - low < 1e-6:
            continue
        piece = _piece_at(pieces, 0.5 * (low + high))
        for length in _grade(low, high, fly_at, mesh.finest_m, max(mesh.coarsest_m, out_m / 40.0)):
            rest.append(length)
            weight.append(piece[1])
            diameter.append(piece[2])
            node_at.append(node_at[-1] + length)
    n = len(node_at)
    along = np.array(node_at)
    flies = np.array([n - 1 - int(np.argmin(np.abs(along - at))) for at in fly_at], dtype=np.int64)
    point_weight, point_diameter = np.zeros(n), np.zeros(n)
    for node, placed in zip(flies, rig.flies, strict=True):
        point_weight[node] += placed.fly.weight_n(density)
        point_diameter[node] = placed.fly.drag_diameter_m
    return Thread(
        np.array([0.0, *reversed(rest)]),
        np.array([0.0, *reversed(weight)]),
        np.array([1e-3, *reversed(diameter)]),
        point_weight,
        point_diameter,
        flies,
        n - 1 - int(np.argmin(np.abs(along - leader_m))),
    )


def _piece_at(pieces: Sequence[tuple[float, float, float]], up_m: float) -> tuple[float, float, float]:
    """Return the piece that holds the point `up_m` above the point fly."""
    reached = 0.0
    for piece in pieces:
        reached += piece[0]
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
