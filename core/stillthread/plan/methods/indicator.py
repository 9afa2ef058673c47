"""Under an indicator."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from typing import ClassVar, cast

from stillthread.errors import BadInput
from stillthread.plan.methods.base import Given, Method, SeatRule, Way, light_natural, place, sunk_natural, usual_mends_s
from stillthread.sinking.action import Action
from stillthread.sinking.hang import CLEAR_OF_BOTTOM_M, SHALLOWEST_M, Hang
from stillthread.sinking.indicator import SLACK_M
from stillthread.tackle.build import Build, Tippet, build_under_indicator, check_landing
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import Rig
from stillthread.trade.usual import USUAL_DRIFT_S

STRONG_WIND_MPS = 9.0  # common practice
DEEPEST_M = 10.0  # ours: deeper nobody hangs a float
LEAST_APART_M = 0.6  # common practice: evenly spaced and well apart, so one fly in shallow water; the number is ours
NEAREST_M, FARTHEST_M = 6.0, 12.0  # common practice: 20 to 40 ft, the deeper the closer
CAST_AT_TOP_M, NEARER_SHARE = 14.0, 1.5  # ours: a float set near the top, and how much closer for each metre down
TWITCH_WIND_MPS, TWITCH_EVERY_S = 2.0, 25.0  # common practice: lift it now and then where no wave does
STEP_M = 0.05  # ours: a hand sets it no finer
SHOT = "shot-6"  # common practice: a small one, where light flies have far to sink
SHOT_FROM_M = 2.0  # ours: shallower, flies hang soon enough without


FARTHEST_FISHED_M = 20.0  # ours: farther off a float is neither seen nor struck


def usual_feed_mps(distance_m: float, drift_mps: float, for_s: float) -> float:
    """Return how fast line is let out [m/s] so that a float can drift across the wind for so long, as far as it is fished."""
    way_m = min(math.hypot(distance_m, drift_mps * for_s), FARTHEST_FISHED_M)
    return round(max(way_m - distance_m - SLACK_M, 0.0) / for_s, 3)


class HangingMethod(Method):
    """A method whose flies hang under a float."""

    action = Hang
    deepest_m: ClassVar[float] = DEEPEST_M

    def set_depths_m(self, given: Given) -> tuple[float, ...]:
        """Return depths to try coarsely [m]: even steps down the water, and close to the bottom."""
        deepest = min(given.bottom_m - CLEAR_OF_BOTTOM_M, self.deepest_m)
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
        for_s = float(USUAL_DRIFT_S)
        if twitched:
            return Hang(
                set_depth_m=set_m,
                indicator=kind,
                for_s=for_s,
                wind_speed_mps=wind.speed_mps,
                twitch_every_s=TWITCH_EVERY_S,
                distance_m=distance_m,
                recasts=True,
            )
        mends_s = usual_mends_s(wind.speed_mps, for_s)
        fed_mps = usual_feed_mps(distance_m, wind.surface_drift_mps, for_s)
        return Hang(
            set_depth_m=set_m,
            indicator=kind,
            for_s=for_s,
            wind_speed_mps=wind.speed_mps,
            twitch_every_s=None,
            distance_m=distance_m,
            mends_s=mends_s,
            recasts=True,
            fed_mps=fed_mps,
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

    def tied(self, given: Given, way: Way, flies: Sequence[BoxFly], tippet: Tippet) -> Rig | None:
        set_m = way.action.float_m
        return None if set_m is None else self.hung_rig(given, way.line, flies, set_m, tippet, way.shot)

    def build(self, rig: Rig, action: Action, tippet: Tippet) -> Build:
        shot = next((piece.kind for piece in rig.leader.hardware if piece.kind.startswith("shot")), None)
        heights = [placed.above_point_m for placed in rig.flies[1:]]
        return build_under_indicator(action.float_m or rig.leader.length_m, heights, tippet, shot=shot)

    def rehung(self, rig: Rig, action: Action, given: Given) -> tuple[Rig, Action]:
        """A float that was moved hangs on a leader cut for its new depth, unless the leader is pinned; where it could no longer
        be landed fixed, it is one of the box that lets go or slides."""
        if given.pins.leader is not None:
            return rig, action
        hung = cast(Hang, action)
        heights = self.hung_heights(hung.set_depth_m, len(rig.flies))
        if heights is None:
            text = "The flies would hang too close together. Tie on fewer, or set the float deeper."
            raise BadInput(text, field="set_depth_m")
        placed = tuple(replace(fly, above_point_m=height) for fly, height in zip(rig.flies, heights, strict=True))
        kinds = [hung.indicator, *(kind for kind in ("sliding", "quick-release") if kind in given.box.indicators)]
        landed = [kind for kind in kinds if check_landing(hung.set_depth_m, given.box.rod_m, kind).ok]
        return replace(rig, flies=placed), replace(hung, indicator=(landed or kinds)[0])


class UnderIndicator(HangingMethod):
    """A float that holds the flies at a depth and lets them hang."""

    key = "indicator"
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
