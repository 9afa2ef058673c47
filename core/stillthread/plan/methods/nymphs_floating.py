"""Nymphs on a floater and long leader."""

from __future__ import annotations

from stillthread.plan.exposure import Exposure
from stillthread.plan.methods.base import CastingMethod, Given, SeatRule, above, light_natural, sunk_natural

FELT_M = 2.2  # common practice: the top two metres
UNFELT_PM, LEAST_FELT = 0.25, 0.2  # ours


class NymphsFloating(CastingMethod):
    """A long leader that sinks slowly, and hands that hardly move."""

    key = "nymphs-floating"
    leaders_m, spacing_m = (5.4, 4.2), 1.8
    retrieves = ("slow-twist", "lift-hang", "twitch-drop", "static")
    suits = "fish in the top two metres on rising food"
    needs = "time to sink, and slow hands"
    spoils = "side wind that bows the line and drags the flies"

    def suits_now(self, given: Given, exposure: Exposure, count: int) -> float:
        """It is for the top two metres: deeper down a take is not felt along a line that floats above it."""
        deeper = float(exposure.middle_m[0].mean()) - FELT_M
        return max(1.0 - UNFELT_PM * max(deeper, 0.0), LEAST_FELT)

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return ((sunk_natural,), (sunk_natural, light_natural), (sunk_natural, light_natural, above))[flies - 1]
