"""Intermediate, moved."""

from __future__ import annotations

from stillthread.plan.methods.base import CastingMethod, SeatRule, above, buoyant, sunk
from stillthread.tackle.flybox import BoxFly


def on_intermediate(fly: BoxFly) -> bool:
    return sunk(fly) or buoyant(fly)


class Intermediate(CastingMethod):
    """A slow line, a count, and a retrieve that moves."""

    key = "intermediate"
    lines_mps = (0.008, 0.055)
    leaders_m, spacing_m = (3.6, 2.7, 4.6), 1.8
    retrieves = ("strip-pause", "two-handed", "twist-pulls", "slow-twist", "jerks", "quick-twist")
    suits = "fish from one to three metres, over weed, in a ripple"
    needs = "a count, and the same count again"
    spoils = "fish tight on a deep bottom"

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (on_intermediate, *(above,) * (flies - 1))
