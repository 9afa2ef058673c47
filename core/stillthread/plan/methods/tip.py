"""Sink tip and team."""

from __future__ import annotations

from stillthread.plan.methods.base import CastingMethod, Given, SeatRule, above, buoyant, sunk
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line

FAST_TIP_MPS = 0.1  # ours: a tip this fast carries a long leader down
LONG_LEADER_M = 6.0  # common practice: a fast tip with a 20 ft leader hangs at 20 to 30 ft


def on_tip(fly: BoxFly) -> bool:
    return sunk(fly) or buoyant(fly)


class Tip(CastingMethod):
    """The floating part holds, the tip hangs: the flies travel on a level below it."""

    key = "tip"
    lines_mps, tips = (0.02, 0.16), True
    leaders_m, spacing_m = (4.2, 3.2, 5.2), 1.8
    retrieves = ("slow-twist", "strip-pause", "twist-pulls", "quick-twist", "short-strips")
    suits = "a level that must be held through the whole retrieve"
    needs = "a tip that suits the level"
    spoils = "weed between tip and point"

    def takes(self, line: Line) -> bool:
        return line.tips and super().takes(line)

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        """A buoyant fly goes alone on a tip: with others above it, it is a washing line."""
        return (on_tip,) if flies == 1 else (sunk, *(above,) * (flies - 1))

    def leader_lengths(self, given: Given, flies: int) -> tuple[float, ...]:
        lengths = super().leader_lengths(given, flies)
        fast = any(line.tips and line.front_mps >= FAST_TIP_MPS for line in given.box.lines)
        return (*lengths, LONG_LEADER_M) if fast and given.bottom_m > 4.0 else lengths
