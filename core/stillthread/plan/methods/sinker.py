"""Full sinker, moved."""

from __future__ import annotations

from stillthread.plan.methods.base import CastingMethod, SeatRule, above, buoyant, sunk
from stillthread.tackle.flybox import BoxFly


def on_sinker(fly: BoxFly) -> bool:
    return sunk(fly) or buoyant(fly)


class Sinker(CastingMethod):
    """A line that goes down on the count and is pulled up through them."""

    key = "sinker"
    lines_mps = (0.05, 0.25)  # from two inches a second, by whatever name it is sold
    leaders_m, spacing_m = (3.0, 2.2, 4.0), 1.5
    retrieves = ("strip-pause", "slow-twist", "two-handed", "long-pull", "twist-pulls", "pull-stop")
    suits = "fish deep, or spread through the column"
    needs = "a count, and a hang at the end of every cast"
    spoils = "snags; slow pulls that let it sink on"

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (on_sinker, *(above,) * (flies - 1))
