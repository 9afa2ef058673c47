"""What became of a presentation: where every fly was, when, how fast, and for how long in each layer."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from stillthread.errors import FloatArray
from stillthread.sinking import chain

LAYER_M = 0.1  # ours: a path is not known better
MOST_SAMPLES = 800  # ours: a bound
HANGING_SHARE = 0.95  # ours: a fly hangs once it is this share of the way to where it ends


@dataclass(kw_only=True, frozen=True, slots=True)
class CastResult:
    """Paths and exposure of one presentation.

    `time_s`, `phase` (0 count, 1 retrieve or drift, 2 lift, 3 hang) have shape (n_time,), at most `MOST_SAMPLES` or so;
    `fly_depth_m` and `fly_distance_m` [m from where the rod began] (n_fly, n_time), point fly first; `thread_m`
    (n_time, n_node, 3) the whole thread as (distance, depth, across), rod tip or float first; `tension_n` (n_time,) at its
    top and `out_m` how much of it is out; `dragged_s` when a bow began to drag the fly or the float [s], None if never;
    `layer_s` (n_fly, n_layer) seconds in each `LAYER_M` layer; `contact_s` and `weed_s` (n_fly,) seconds on the bottom
    and in the weed. `line_node` is where the line meets the leader, `fly_nodes` the flies, `float_node` a float that is not
    the first node (0: none), `below_float_m` what hangs below it; `cross_drift_mps` and `back_share` are of the water;
    `plain_sum_m` is the angler's own sum; `stretch` the largest excess of a segment's length, as a share.
    """

    time_s: FloatArray
    phase: npt.NDArray[np.int64]
    fly_depth_m: FloatArray
    fly_distance_m: FloatArray
    thread_m: FloatArray
    tension_n: FloatArray
    out_m: FloatArray
    layer_s: FloatArray
    contact_s: FloatArray
    weed_s: FloatArray
    line_node: int
    fly_nodes: tuple[int, ...]
    stretch: float
    plain_sum_m: float
    dragged_s: float | None = None
    float_node: int = 0
    below_float_m: float = 0.0
    cross_drift_mps: float = 0.0
    back_share: float = 0.0

    @property
    def fly_across_m(self) -> FloatArray:
        """How far to the side each fly is [m], shape (n_fly, n_time); all 0 in a plane."""
        return np.ascontiguousarray(self.thread_m[:, list(self.fly_nodes), 2].T)

    @property
    def sideways(self) -> bool:
        """Whether anything moved across the cast."""
        return bool(np.abs(self.thread_m[:, :, 2]).max() > 0.0)

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
        """Depth of a fly [m] when the retrieve or drift ends."""
        return float(self.fly_depth_m[fly, max(self._index_of(chain.LIFTING) - 1, 0)])

    def middle_depth_m(self, fly: int = 0) -> tuple[float, float]:
        """Depths [m] between which a fly spends the middle 80 % of the retrieve or drift."""
        low, high = self.middle_depths_m()[fly]
        return float(low), float(high)

    def middle_depths_m(self) -> FloatArray:
        """Return `middle_depth_m` of every fly, shape (n_fly, 2)."""
        inside = np.sort(self.fly_depth_m[:, self.count_end : max(self._index_of(chain.LIFTING), self.count_end + 1)], axis=1)
        at = (inside.shape[1] - 1) * np.array([0.1, 0.9])
        below = at.astype(np.int64)
        above = np.minimum(below + 1, inside.shape[1] - 1)
        return np.asarray(inside[:, below] + (at - below) * (inside[:, above] - inside[:, below]))

    def speed_mps(self, fly: int = 0) -> FloatArray:
        """Speed of a fly [m/s] between samples, shape (n_time,)."""
        if len(self.time_s) < 2:
            return np.zeros_like(self.time_s)
        way = (self.fly_depth_m[fly], self.fly_distance_m[fly], self.fly_across_m[fly])
        steps = np.sqrt(sum(np.diff(along) ** 2 for along in way)) / np.diff(self.time_s)
        return np.append(steps, steps[-1])

    def settle_s(self, fly: int = 0) -> float:
        """Time [s] until a fly is `HANGING_SHARE` of the way to the depth at which its retrieve or drift ends."""
        reached = self.fly_depth_m[fly] >= HANGING_SHARE * self.hang_depth_m(fly)
        return float(self.time_s[int(np.argmax(reached))])

    @property
    def line_end_depth_m(self) -> float:
        """Depth [m] at the end of the count of where the line meets the leader."""
        return float(self.thread_m[self.count_end, self.line_node, 1])
