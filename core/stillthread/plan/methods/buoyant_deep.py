"""Buoyant fly close to the bottom."""

from __future__ import annotations

from stillthread.plan.methods.base import CastingMethod, Given, SeatRule, above, buoyant
from stillthread.tackle.flybox import BoxFly

LEAST_DEPTH_M = 1.5  # ours


def lively(fly: BoxFly) -> bool:
    return buoyant(fly) or above(fly)


class BuoyantDeep(CastingMethod):
    """A fast line on the bottom, and a fly that hovers over it on a short leader: pulls take it down, pauses let it rise."""

    key = "buoyant-deep"
    lines_mps, most_flies, spacing_m = (0.1, 0.25), 2, 1.2
    leaders_m = (1.6, 1.2, 2.4)
    retrieves = ("pull-stop", "long-pull", "static", "strip-pause", "twist-pulls")
    suits = "fish on the bottom over weed"
    needs = "a fast line and a short leader"
    spoils = "a long leader, which lifts the fly over their heads"

    def why_not(self, given: Given) -> str:
        if not any(buoyant(fly) for fly in given.flies):
            return "No buoyant fly in the box."
        return "Too shallow." if given.bottom_m < LEAST_DEPTH_M else ""

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return ((buoyant,), (buoyant, lively))[flies - 1]

    def leader_lengths(self, given: Given, flies: int) -> tuple[float, ...]:
        return self.leaders_m
