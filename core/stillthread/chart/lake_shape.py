"""How much of a charted lake lies at each depth."""

from __future__ import annotations

import numpy as np

from stillthread.chart.soundings import DepthGrid
from stillthread.water.hypsography import Hypsography

_STEPS = 60  # ours: depths at which areas are told
LEAST_CELLS = 25  # ours: fewer cells of a drawn bottom are a few soundings, not a lake


def hypsography_of(grid: DepthGrid) -> Hypsography | None:
    """Return how much of a charted lake lies at each depth, or None where too little of it is drawn."""
    known = grid.depth_m[np.isfinite(grid.depth_m) & (grid.depth_m > 0.0)]
    if known.size < LEAST_CELLS:
        return None
    depth = np.linspace(0.0, float(known.max()), _STEPS)
    cells = known.size - np.searchsorted(np.sort(known), depth, side="left")
    area = cells * grid.step_m**2
    return Hypsography(tuple(depth.tolist()), (*(float(a) for a in area[:-1]), 0.0))
