"""What the compiled chain is handed, in groups that belong together. Arrays are (n_node,) unless said otherwise."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from stillthread.errors import FloatArray


class Chain(NamedTuple):
    """Where the nodes lie and what hangs between them; `x`, `z` [m] and `rest_m` are changed as it runs.

    `weight_npm` [N/m], `diameter_m` and `skin` friction belong to segments, `point_weight_n` [N] (negative if buoyant) and
    `point_diameter_m` to nodes: a fly, a bead or a float.
    """

    x: FloatArray
    z: FloatArray
    rest_m: FloatArray
    weight_npm: FloatArray
    diameter_m: FloatArray
    skin: FloatArray
    point_weight_n: FloatArray
    point_diameter_m: FloatArray


class Around(NamedTuple):
    """The water and its bottom: `density` [kg/m3], `viscosity` [Pa s], how fast the top drifts [m/s] and within what depth that
    dies out [m]; corners (n_corner,) of the bottom, and how high weed stands on it [m]."""

    density: float
    viscosity: float
    drift_ms: float
    drift_decay_m: float
    bottom_x: FloatArray
    bottom_z: FloatArray
    weed_m: float


class Cut(NamedTuple):
    """How finely it is worked out: the longest step [s], the share by which a segment may stretch in one, how often a sample is
    kept [s], and layers of `layer_m` [m]."""

    longest_step_s: float
    aim_stretch: float
    sample_s: float
    layer_m: float
    n_layer: int


class Tip(NamedTuple):
    """What becomes of the tip in a step: it moves by `dx`, `dz` [m], unless `drag` [N/m] is positive: then it is a float, which
    goes along x as `force` [N], that drag and the chain's pull let it."""

    dx: float
    dz: float
    drag: float
    force: float


class State(NamedTuple):
    """What is known of the chain between steps, and room to work in.

    `speed` (3, n) [m/s] through the water: across a segment, along it, and of a node. `tangent` (2, n), `drag` (3, n: xx, xz,
    zz) per displacement, `force` (2, n), `carried` (2, n) how fast the water goes at a node and at the middle of a segment;
    `dx`, `dz` the last displacements. The rest is scratch of the solve.
    """

    tension: FloatArray
    slack: np.ndarray
    speed: FloatArray
    length: FloatArray
    tangent: FloatArray
    drag: FloatArray
    force: FloatArray
    carried: FloatArray
    inverse: FloatArray
    free: FloatArray
    tau: FloatArray
    stiffness: FloatArray
    dx: FloatArray
    dz: FloatArray
