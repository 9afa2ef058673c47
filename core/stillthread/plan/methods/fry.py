"""Fry feeders."""

from __future__ import annotations

from stillthread.plan.exposure import Exposure
from stillthread.plan.methods.base import CastingMethod, Given, SeatRule
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line

LIKELY = 0.1  # ours: fry less likely than this are not fished for


def fry_fly(fly: BoxFly) -> bool:
    return "fry" in fly.foods and not fly.weighted


class FryFeeders(CastingMethod):
    """A small fish where fish chase fry: still and emerging for pin fry, moved for coarser ones."""

    key = "fry"
    lines_mps, tips, most_flies = (0.0, 0.045), True, 1
    leaders_m = (3.0, 3.8)
    drag_mps = 0.15  # ours: a fry that is swept along looks like one
    retrieves = ("strip-pause", "twitch-drop", "jerks", "two-handed", "static")
    suits = "fry in the margins and fish that push water"
    needs = "something small and silver in the top inches"
    spoils = "fishing through them instead of at their edge"

    def why_not(self, given: Given) -> str:
        return "Fry are unlikely now, and none were seen." if given.picture.foods.probability("fry") < LIKELY else ""

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (fry_fly,)

    def counts_s(self, given: Given, line: Line) -> tuple[float, ...]:
        return (0.0, 10.0)

    def suits_now(self, given: Given, exposure: Exposure, count: int) -> float:
        """Where fry are chased, one waits for the chase and casts to it."""
        return given.setting.judgement.fry_seen if given.setting.fry_seen else 1.0
