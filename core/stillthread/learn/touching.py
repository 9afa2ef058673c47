"""What an ordinary cast says of its line when the fly touched the bottom: at which rate would it have been there then?"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from stillthread.learn.calibrating import Timed, doubt_of
from stillthread.sinking.cast import Cast, Water, simulate
from stillthread.sinking.spread import at_rate_share
from stillthread.sinking.thread import QUICK
from stillthread.tackle.rig import Rig

_SHARES = (0.6, 0.75, 0.9, 1.1, 1.35, 1.65)  # ours: a grid
NEAR_M = 0.05  # ours: a fly this near the bottom touches it


def timed_touch(rig: Rig, cast: Cast, water: Water, elapsed_s: float, bottom_m: float) -> Timed | None:
    """Return what a touch so long after the fly landed says of the line's rate, over a bottom so deep [m].

    `None` where it says nothing: the line floats, the touch came while it was retrieved, or no believable rate explains it.
    """
    if rig.line.sink_rate_mps <= 0.0 or not 2.0 <= elapsed_s <= cast.count_s + 5.0:
        return None
    # Over water without a bottom: the moment it passes this depth. Counted down for longer than it took.
    open_water = Water(water.water_c, tuple((distance, 3.0 * bottom_m) for distance, _ in water.bottom))
    counted = replace(cast, count_s=min(2.5 * elapsed_s + 10.0, 600.0))
    touched = []
    for share in _SHARES:
        run = simulate(replace(rig, line=at_rate_share(rig.line, share)), counted, open_water, mesh=QUICK)
        down = np.flatnonzero(run.fly_depth_m[0] >= bottom_m - NEAR_M)
        touched.append(float(run.time_s[down[0]]) if len(down) else np.inf)
    if not touched[-1] <= elapsed_s <= touched[0]:
        return None
    known = [(t, s) for t, s in zip(touched, _SHARES, strict=True) if np.isfinite(t)]
    times, shares = np.array(known[::-1]).T
    share = float(np.exp(np.interp(np.log(elapsed_s), np.log(times), np.log(shares))))
    return Timed(share * rig.line.likely_mps, doubt_of(elapsed_s, "fished"))
