"""What the compiled chain is handed, in groups that belong together. Arrays are (n_node,) unless said otherwise."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from stillthread.errors import FloatArray


class Chain(NamedTuple):
    """Where the nodes lie and what hangs between them; `x`, `y`, `z` [m] and `rest_m` are changed as it runs; `y` only where
    it runs in three dimensions.

    `weight_npm` [N/m], `diameter_m` and `skin` friction belong to segments, `point_weight_n` [N] (negative if buoyant) and
    `point_diameter_m` to nodes: a fly, a bead or a float.
    """

    x: FloatArray
    y: FloatArray
    z: FloatArray
    rest_m: FloatArray
    weight_npm: FloatArray
    diameter_m: FloatArray
    skin: FloatArray
    point_weight_n: FloatArray
    point_diameter_m: FloatArray


class Around(NamedTuple):
    """The water and its bottom: `density` [kg/m3], `viscosity` [Pa s]; how fast the top drifts along the cast and across it
    [m/s], within what depth that dies out [m], and the share of it that flows back below; corners (n_corner,) of the bottom,
    the same all across, and how high weed stands on it [m]."""

    density: float
    viscosity: float
    drift_mps: float
    cross_mps: float
    drift_decay_m: float
    back_share: float
    bottom_x: FloatArray
    bottom_z: FloatArray
    weed_m: float


class Cut(NamedTuple):
    """How finely it is worked out: the longest step [s], the share by which a segment may stretch in one, how often a sample is
    kept [s], and layers of `layer_m` [m]. In space it is watched when the fly goes sideways through the water, or a float
    toward the rod, at `drag_mps` [m/s] or more, and with `stops` the run ends there; 0 watches nothing."""

    longest_step_s: float
    aim_stretch: float
    sample_s: float
    layer_m: float
    n_layer: int
    drag_mps: float = 0.0
    stops: bool = False


class Tip(NamedTuple):
    """What becomes of the tip in a step: it moves by `dx`, `dy`, `dz` [m], unless `drag` [N/m] is positive: then it is a float,
    which goes along x as `force` [N], that drag and the chain's pull let it."""

    dx: float
    dy: float
    dz: float
    drag: float
    force: float


class Afloat(NamedTuple):
    """A float: the `node` it is (-1 if there is none), its drag area in the water [m2], used where it is the tip, and the push
    of the wind on it [N]."""

    node: int
    drag_m2: float
    push_x_n: float
    push_y_n: float


NO_FLOAT = Afloat(-1, 0.0, 0.0, 0.0)


class State(NamedTuple):
    """What is known of the chain between steps, and room to work in. Rows are of x, z in a plane and of x, y, z in space.

    `speed` (3, n) [m/s] through the water: across a segment, along it, and of a node. `tangent` (3, n), `drag` (6, n: xx, xz,
    zz in a plane) per displacement, `force` (3, n), `carried` (4, n) how fast the water goes at a node, then at the middle of a
    segment; `dx`, `dy`, `dz` the last displacements. The rest is scratch of the solve.
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
    dy: FloatArray
    dz: FloatArray
