"""Drifting boat, short line."""

from __future__ import annotations

from stillthread.plan.exposure import Exposure
from stillthread.plan.methods.base import CastingMethod, Given, SeatRule, above, across_wind, buoyant, sunk
from stillthread.sinking.cast import Cast
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import Line
from stillthread.weather.effects import boat_drift_mps

LEAST_WIND_MPS, MOST_WIND_MPS = 1.5, 11.0  # common practice: a boat drifts before a wind, and not before a gale
SHORT_M = 11.0  # common practice: 30 to 40 ft
GOOD_RIPPLE_MPS = 5.0  # common practice; the number is ours
MOST_DRIFT_MPS = 0.5  # ours: faster, the flies come back to the boat
PINNED = 0.6  # ours: where it is known what they are on, a drift passes it by


def before_boat(fly: BoxFly) -> bool:
    return sunk(fly) or buoyant(fly)


class DriftBoat(CastingMethod):
    """Short casts before a boat that drifts onto them: every cast meets fresh water, and the drift comes off the retrieve."""

    key = "drift-boat"
    lines_mps = (0.0, 0.06)
    leaders_m, spacing_m = (4.2, 3.6), 1.5
    retrieves = ("strip-pause", "quick-twist", "two-handed")
    boat = True
    suits = "a ripple, and fish scattered over open water"
    needs = "a boat and a drogue"
    spoils = "a drift so fast that the line never comes tight"

    def why_not(self, given: Given) -> str:
        if not given.rules.boats:
            return "Boats are not allowed on this water."
        if not given.box.boat:
            return "It needs a boat."
        if given.setting.wind_mps < LEAST_WIND_MPS:
            return "Too little wind: a boat does not drift."
        if given.setting.wind_mps > MOST_WIND_MPS:
            return "Too much wind to drift before it."
        return ""

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (before_boat, *(above,) * (flies - 1))

    def cast_m(self, given: Given) -> float:
        return min(given.cast_m, SHORT_M)

    def counts_s(self, given: Given, line: Line) -> tuple[float, ...]:
        return (0.0, 8.0, 16.0)

    def cast(self, given: Given, count_s: float, retrieve_key: str) -> Cast:
        tip_mps = min(boat_drift_mps(given.picture.conditions.wind, drogue=True), MOST_DRIFT_MPS)
        cast = Cast(self.cast_m(given), count_s, RETRIEVES[retrieve_key], tip_mps=tip_mps)
        return across_wind(cast, given, off_wind_deg=0.0)

    def suits_now(self, given: Given, exposure: Exposure, count: int) -> float:
        """The better the ripple, the more fresh fish come before the boat - while nothing says where they are."""
        ripple = min(max((given.setting.wind_mps - LEAST_WIND_MPS) / (GOOD_RIPPLE_MPS - LEAST_WIND_MPS), 0.0), 1.0)
        scattered = 0.7 + given.setting.judgement.drift_meets * ripple
        return PINNED + (scattered - PINNED) * given.setting.unpinned
