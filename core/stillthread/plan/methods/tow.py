"""Wind drift or slow troll."""

from __future__ import annotations

from stillthread.plan.methods.base import Given, Method, SeatRule, above, buoyant, sunk
from stillthread.sinking.troll import Troll
from stillthread.tackle.flybox import BoxFly
from stillthread.weather.effects import boat_drift_mps

OARS_MPS = 0.45  # ours: slow on the oars
OUT_MORE_M = (0.0, 10.0)  # ours


def towed(fly: BoxFly) -> bool:
    return sunk(fly) or buoyant(fly)


class TowingMethod(Method):
    """A method whose line is towed behind a boat."""

    action = Troll

    def tows(self, given: Given) -> tuple[Troll, ...]:
        """Return speeds and lengths to try."""
        drift_mps = boat_drift_mps(given.picture.conditions.wind, drogue=True)
        speeds = sorted({round(min(max(drift_mps, 0.1), 0.6), 2), OARS_MPS})
        return tuple(Troll(given.cast_m + more, speed) for speed in speeds for more in OUT_MORE_M)


class Tow(TowingMethod):
    """The line goes behind the boat, as the wind or slow oars take it."""

    key = "tow"
    lines_mps, tips, most_flies = (0.03, 0.25), True, 2
    leaders_m, spacing_m = (3.6,), 1.5
    boat = True
    suits = "covering water to find them"
    needs = "a boat, and the rule that allows it"
    spoils = "shallow weed"

    def why_not(self, given: Given) -> str:
        if not given.rules.boats:
            return "Boats are not allowed on this water."
        return "" if given.box.boat else "It needs a boat."

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (towed, *(above,) * (flies - 1))
