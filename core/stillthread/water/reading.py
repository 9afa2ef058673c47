"""One temperature at one depth, and several of them taken in one lowering of the thermometer."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from stillthread.errors import MissingReading
from stillthread.ranges import DEPTH_M, WATER_C
from stillthread.sourced import Sourced

CARRY_DOWN_M = Sourced(1.0, "m", "ours", "an earlier lowering still speaks for water this far below the newest reading")

SURFACE_WITHIN_M = 1.0  # ours: a reading no deeper than this is one of the top


@dataclass(frozen=True, slots=True)
class Reading:
    """One temperature at one depth: `depth_m` 0 to 100, `water_c` -1 to 40; `trusted` when the angler checked an odd one."""

    depth_m: float
    water_c: float
    trusted: bool = False

    def __post_init__(self) -> None:
        DEPTH_M.check("depth_m", self.depth_m)
        WATER_C.check("water_c", self.water_c)


@dataclass(frozen=True, slots=True)
class Lowering:
    """The readings of one time."""

    at: datetime
    readings: tuple[Reading, ...]


def readings_now(lowerings: Sequence[Lowering]) -> tuple[tuple[Reading, ...], tuple[Lowering, ...]]:
    """Return the readings that count now, and the lowerings behind them, newest first.

    The newest lowering counts. Below its deepest reading the water hardly changes within a day, so there the next older
    one goes on, and so down.

    Raises
    ------
    MissingReading
        There is no lowering.
    """
    if not lowerings:
        raise MissingReading("A temperature at the surface is needed. Give one at 1 m or less.", field="readings")
    ordered = sorted(lowerings, key=lambda lowering: lowering.at, reverse=True)
    counted = sorted(ordered[0].readings, key=lambda r: r.depth_m)
    for older in ordered[1:]:
        reached_m = counted[-1].depth_m if counted else -math.inf
        deeper = (r for r in older.readings if r.depth_m > reached_m + float(CARRY_DOWN_M))
        counted += sorted(deeper, key=lambda r: r.depth_m)
    return tuple(counted), tuple(ordered[1:])
