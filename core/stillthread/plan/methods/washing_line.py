"""Washing line."""

from __future__ import annotations

import numpy as np

from stillthread.plan.exposure import Exposure
from stillthread.plan.methods.base import CastingMethod, Given, SeatRule, above, buoyant
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line

THICKEST_M = 0.9  # ours: flies spread over more than this are a team, not one layer
SWEEP_M = 0.9  # ours: one fly that itself climbs through more than this holds no layer
SWEEP_COST = 0.4  # ours
HELD_S = 30.0  # ours
LIGHT_MPS = 0.09  # common practice: a heavy fly above the point makes a see-saw; the number is ours


def unweighted(fly: BoxFly) -> bool:
    return above(fly) and fly.sink_mps < LIGHT_MPS


class WashingLine(CastingMethod):
    """Two or more flies held in one layer by a buoyant one on the point."""

    key = "washing-line"
    lines_mps, tips, least_flies = (0.0, 0.16), True, 2
    leaders_m, spacing_m = (4.6, 3.6), 1.5
    retrieves = ("slow-twist", "static", "quick-twist")
    deepens_by = "line"
    suits = "one shallow layer, fished slowly"
    needs = "a buoyant fly on the point, and light ones above it"
    spoils = "a heavy fly in the middle"

    def why_not(self, given: Given) -> str:
        if not any(buoyant(fly) for fly in given.flies):
            return "No buoyant fly in the box."
        if given.rules.most_flies == 1:
            return "It needs two flies, and one is the rule here."
        return ""

    def suits_line(self, given: Given, line: Line) -> bool:
        """A line that is on the bottom in half a minute holds no layer."""
        return line.front_mps * HELD_S <= given.bottom_m

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return ((buoyant, unweighted), (buoyant, unweighted, unweighted))[flies - 2]

    def suits_now(self, given: Given, exposure: Exposure, count: int) -> float:
        """Its flies keep to one layer, or it is not one."""
        middles = exposure.middle_m.mean(axis=1)
        spread = float(np.ptp(middles))
        if spread > THICKEST_M:
            return 0.0
        hold = given.setting.judgement.layer_hold_m
        sweep = float(np.ptp(exposure.middle_m, axis=1).max())
        apart = max(spread - hold, 0.0) / (THICKEST_M - hold)
        return max(1.0 - 0.6 * apart - SWEEP_COST * max(sweep - SWEEP_M, 0.0), 0.4)
