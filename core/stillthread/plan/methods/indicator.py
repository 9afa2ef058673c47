"""Under an indicator."""

from __future__ import annotations

import math
from collections.abc import Sequence

from stillthread.plan.actions import USUAL_DRIFT_S, Action, Hang
from stillthread.plan.methods.base import Given, Method, SeatRule, light_natural, place, sunk_natural, usual_mends_s
from stillthread.sinking.indicator import SLACK_M
from stillthread.tackle.build import Tippet, build_under_indicator, check_landing
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import Rig

STRONG_WIND_MPS = 9.0  # common practice
SHALLOWEST_M, DEEPEST_M = 0.4, 10.0
CLEAR_OF_BOTTOM_M = 0.1  # ours: nearer, every swell lays the point on it
LEAST_APART_M = 0.6  # common practice: evenly spaced and well apart, so one fly in shallow water; the number is ours
NEAREST_M, FARTHEST_M = 6.0, 12.0  # common practice: 20 to 40 ft, the deeper the closer
CAST_AT_TOP_M, NEARER_SHARE = 14.0, 1.5  # ours: a float set near the top, and how much closer for each metre down
TWITCH_WIND_MPS, TWITCH_EVERY_S = 2.0, 25.0  # common practice: lift it now and then where no wave does
STEP_M = 0.05
SHOT = "shot-6"  # common practice: a small one, where light flies have far to sink
SHOT_FROM_M = 2.0  # ours: shallower, flies hang soon enough without


FARTHEST_FISHED_M = 20.0  # ours: farther off a float is neither seen nor struck


def usual_feed_mps(distance_m: float, drift_mps: float, for_s: float) -> float:
    """Return how fast line is let out [m/s] so that a float can drift across the wind for so long, as far as it is fished."""
    way_m = min(math.hypot(distance_m, drift_mps * for_s), FARTHEST_FISHED_M)
    return round(max(way_m - distance_m - SLACK_M, 0.0) / for_s, 3)


class UnderIndicator(Method):
    """A float that holds the flies at a depth and lets them hang."""

    key, way = "indicator", "hang"
    most_flies, spacing_m, moved = 3, 1.2, False
    suits = "a known depth; calm, bright, pressed fish; cold water"
    needs = "a float that can be landed, and patience to hang"
    spoils = "a drift so fast that it lifts the flies; a bow in the line"

    def why_not(self, given: Given) -> str:
        if not given.rules.indicators:
            return "Indicators are not allowed on this water."
        if given.setting.wind_mps > STRONG_WIND_MPS:
            return "Too much wind: the drift would drag the flies up."
        return ""

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        return (sunk_natural, *(light_natural,) * (flies - 1))

    def set_depths_m(self, given: Given) -> tuple[float, ...]:
        """Return depths to try coarsely [m]: even steps down the water, and close to the bottom."""
        deepest = min(given.bottom_m - CLEAR_OF_BOTTOM_M, DEEPEST_M)
        if deepest < SHALLOWEST_M:
            return ()
        steps = 8 if given.thorough else 5
        even = {round(SHALLOWEST_M + (deepest - SHALLOWEST_M) * k / (steps - 1), 2) for k in range(steps)}
        near = {round(deepest - off, 2) for off in (0.35,) if deepest - off >= SHALLOWEST_M}
        return tuple(sorted(even | near))

    def kind_at(self, given: Given, set_m: float) -> str:
        """Return the kind of float that can be landed there, of those that are carried; empty if none is."""
        landing = check_landing(set_m, given.box.rod_m, "fixed")
        kinds = ("fixed",) if landing.ok else ()
        return next((k for k in (*kinds, landing.needs, "sliding", "quick-release") if k in given.box.indicators), "")

    def hang(self, given: Given, set_m: float, *, twitched: bool = False) -> Hang | None:
        """Return the float at a depth, or None where none that is carried can be landed there."""
        kind = self.kind_at(given, set_m)
        if not kind:
            return None
        wind = given.picture.conditions.wind
        distance_m = min(max(CAST_AT_TOP_M - NEARER_SHARE * set_m, NEAREST_M), FARTHEST_M)
        if twitched:
            return Hang(set_m, kind, USUAL_DRIFT_S, wind.speed_mps, TWITCH_EVERY_S, distance_m, recasts=True)
        mends_s = usual_mends_s(wind.speed_mps, USUAL_DRIFT_S)
        fed_mps = usual_feed_mps(distance_m, wind.surface_drift_mps, USUAL_DRIFT_S)
        return Hang(
            set_m, kind, USUAL_DRIFT_S, wind.speed_mps, None, distance_m, mends_s=mends_s, recasts=True, fed_mps=fed_mps
        )

    def hung_heights(self, set_m: float, flies: int) -> tuple[float, ...] | None:
        """Return how far above the point each fly hangs [m], or None where they would be too close."""
        apart = min(self.spacing_m, (set_m - 0.3) / flies)
        if flies > 1 and apart < LEAST_APART_M:
            return None
        return tuple(round(k * apart, 2) for k in range(flies))

    def hung_rig(
        self, given: Given, line: Line, flies: Sequence[BoxFly], set_m: float, tippet: Tippet, shot: str | None = None
    ) -> Rig | None:
        """Return what hangs from the float, or None where flies or the angler's own leader do not fit."""
        heights = self.hung_heights(set_m, len(flies))
        if heights is None:
            return None
        leader: Leader = given.pins.leader or build_under_indicator(set_m, heights[1:], tippet, shot=shot).leader
        if leader.length_m < set_m:
            return None
        return Rig(line, leader, place(flies, heights))

    def cast(self, given: Given, count_s: float, retrieve_key: str) -> Action:
        raise NotImplementedError("a float hangs")
