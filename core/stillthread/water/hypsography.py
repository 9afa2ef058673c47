"""How much of a lake lies at each depth, from its chart."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray

_STEPS = 60  # ours: a grid


@dataclass(frozen=True, slots=True)
class Hypsography:
    """`area_m2` of the lake at each of `depth_m` [m], (n,) each, from the surface down to where nothing is left."""

    depth_m: tuple[float, ...]
    area_m2: tuple[float, ...]

    def area_at(self, depth_m: FloatArray) -> FloatArray:
        """Return the area [m2] at depths, shape (n,); nothing below the deepest."""
        return np.interp(depth_m, self.depth_m, self.area_m2, right=0.0)

    def volume_m3(self, top_m: float, bottom_m: float) -> float:
        """Return the water between two depths [m3]."""
        depth = np.linspace(top_m, max(bottom_m, top_m), _STEPS)
        return float(np.trapezoid(self.area_at(depth), depth))

    @property
    def deepest_m(self) -> float:
        return self.depth_m[-1]
