"""Dry or emerger on top."""

from __future__ import annotations

from stillthread.plan.exposure import Exposure
from stillthread.plan.methods.base import CastingMethod, Given, SeatRule, dry


class Dry(CastingMethod):
    """A fly that sits in the film, or two; the leader is greased."""

    key = "dry"
    most_flies, leaders_m, spacing_m = 2, (4.0,), 1.5
    retrieves, moved, greased = ("static", "twitch-drop"), False, True
    deepens_by = "place"
    suits = "rises, or land insects on the water"
    needs = "a floating line, greased leader, a fly that sits in the film"
    spoils = "a chop that drowns it; glare on a flat calm"

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (dry,) * flies

    def counts_s(self, given: Given, line: object) -> tuple[float, ...]:
        return (0.0,)

    def suits_now(self, given: Given, exposure: Exposure, count: int) -> float:
        """A fish that shows is cast to; where nothing rises, few look up."""
        j = given.setting.judgement
        return j.shown_to if given.setting.rises else j.not_shown
