"""What a method of the trade is: what it needs, when it can be fished, who sits where, and what is done with the rig."""

from __future__ import annotations

from abc import ABC
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import ClassVar, Literal

import numpy as np

from stillthread.depth.picture import WaterPicture
from stillthread.phrase import Phrase
from stillthread.plan.box import Box, Pins
from stillthread.plan.exposure import Exposure
from stillthread.plan.scoring.setting import Setting
from stillthread.rules.method_names import METHOD_NAMES
from stillthread.rules.water_rules import WaterRules
from stillthread.sinking.across import DRAGGED_MPS, MOST_MENDS
from stillthread.sinking.action import Action
from stillthread.sinking.cast import Cast, CastResult
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.tackle.build import Build, Tied, Tippet, build_leader, from_spools, tippet_for
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.trade.usual import LONGEST_COUNT_S, USUAL_CAST_M
from stillthread.weather.wind import SURFACE_DRIFT_SHARE

SeatRule = Callable[[BoxFly], bool]

BRIGHT_ENOUGH = 0.35  # ours: bright enough for a longer, thinner leader
LONGER_CALM_M = 0.9  # common practice: 12 ft standard, 15 ft when flat and bright
SHORTER_COLOURED_M = 0.6  # ours
LEAST_APART_M = 0.4  # ours: closer flies are one
DROPPER_M = 0.12  # common practice: four to six inches
LEFT_ALONE_MPS = 0.03  # ours: a retrieve no faster than this leaves the line lying
MENDED_BOW_M = 1.6  # ours: a bow that a rod still lays back in one movement
LEAST_MEND_S = 15.0  # ours: nobody mends oftener and fishes


def natural(fly: BoxFly) -> bool:
    return fly.style == "natural"


def sunk(fly: BoxFly) -> bool:
    """A fly that goes down and stays: not a dry, not a buoyant one."""
    return fly.style != "dry" and not fly.buoyant


def sunk_natural(fly: BoxFly) -> bool:
    return sunk(fly) and natural(fly)


def above(fly: BoxFly) -> bool:
    """Who may sit on a dropper of a sunk team: light enough not to see-saw."""
    return sunk(fly) and not fly.weighted and fly.style != "lure"


def light_natural(fly: BoxFly) -> bool:
    return sunk_natural(fly) and not fly.weighted


def buoyant(fly: BoxFly) -> bool:
    return fly.buoyant and fly.style != "dry"


def dry(fly: BoxFly) -> bool:
    return fly.style == "dry"


@dataclass(kw_only=True, frozen=True)
class Given:
    """What a plan is made for: the water as read, what is carried, what the water allows, what is decided.

    `cast_m` [m] from the rod tip to the point fly; `fluorocarbon` "always", "when-bright" or "never"; `fish_kg` [kg] the
    usual fish; `thorough` whether everything is tried.
    """

    picture: WaterPicture
    box: Box
    rules: WaterRules
    pins: Pins
    setting: Setting
    cast_m: float = float(USUAL_CAST_M)
    fluorocarbon: str = "when-bright"
    fish_kg: float = 1.0
    thorough: bool = True

    @cached_property
    def flies(self) -> tuple[BoxFly, ...]:
        """The flies that are left and allowed."""
        return tuple(fly for fly in self.box.flies if fly.left > 0 and self.rules.allows_fly(fly.fly.hook_size, fly.style))

    @property
    def bottom_m(self) -> float:
        return self.picture.conditions.bottom_depth_m

    def tippet(self, flies: Sequence[BoxFly], *, floating: bool = False) -> Tippet:
        """Return the tippet for a team, as it can be cut from the spools; nylon, which hardly sinks, for `floating` flies."""
        fluorocarbon = "never" if floating and self.fluorocarbon == "when-bright" else self.fluorocarbon
        wanted = tippet_for(
            [Tied(fly.fly.hook_size, fly.stout, fly.weighted and fly.fly.hook_size <= 10) for fly in flies],
            secchi_m=self.setting.secchi_m,
            brightness=self.setting.brightness,
            weed_m=self.picture.conditions.weed_m,
            fish_kg=self.fish_kg,
            stout_months=self.setting.stout_months,
            fluorocarbon=fluorocarbon,
        )
        return from_spools(wanted, self.box.spools, any_material=self.fluorocarbon == "when-bright")


@dataclass(frozen=True, slots=True)
class Way:
    """A way to fish, not yet tied: the `line`, `classes` of flies from the point up, length of leader [m], what is done,
    and a `shot` pinched on under a float."""

    line: Line
    classes: tuple[str, ...]
    leader_m: float
    action: Action
    shot: str | None = None


class Method(ABC):
    """One way to fish: what is the same for all of it. A method is one file, its row in `METHODS` and its test; it is one of
    those that cast, hang a float or tow.

    `lines_mps` are the least and greatest sink rate of its line [m/s], `tips` whether a sink tip will do; `leaders_m` lengths
    of leader to try, the usual first; `spacing_m` between flies; `most_flies` and `least_flies`; `retrieves` keys to try, the
    usual first; `moved` while it fishes; `drag_mps` how
    fast a bow may take its flies sideways [m/s]; `boat` where it needs one; `deepens_by` is what is
    changed to fish it deeper or higher.
    """

    key: ClassVar[str]
    action: ClassVar[type[Action]]
    lines_mps: ClassVar[tuple[float, float]] = (0.0, 0.0)
    tips: ClassVar[bool] = False
    most_flies: ClassVar[int] = 3
    least_flies: ClassVar[int] = 1
    leaders_m: ClassVar[tuple[float, ...]] = (3.6,)
    spacing_m: ClassVar[float] = 1.8
    retrieves: ClassVar[tuple[str, ...]] = ()
    moved: ClassVar[bool] = True
    greased: ClassVar[bool] = False
    drag_mps: ClassVar[float] = float(DRAGGED_MPS)
    boat: ClassVar[bool] = False
    deepens_by: ClassVar[Literal["count", "line", "place"]] = "count"
    suits: ClassVar[str]
    needs: ClassVar[str]
    spoils: ClassVar[str]

    @property
    def name(self) -> str:
        return METHOD_NAMES[self.key]

    @property
    def way(self) -> str:
        """What is done with it: "cast", "hang" or "tow"."""
        return self.action.kind

    def takes(self, line: Line) -> bool:
        """Return whether it can be fished with a line. A floater with a sinking leader looped on fishes as a tip does."""
        if line.tips and not self.tips:
            return False
        low, high = self.lines_mps
        return low - 1e-9 <= line.front_mps <= high + 1e-9

    def suits_line(self, given: Given, line: Line) -> bool:
        """Return whether a line that it takes is worth trying in this water."""
        return True

    def why_not(self, given: Given) -> str:
        """Return why it can't be fished here now, or an empty text."""
        return ""

    def seats(self, flies: int) -> tuple[SeatRule, ...]:
        """Return who may sit where in a team of so many, point first."""
        return (sunk, *(above,) * (flies - 1))

    def team_sizes(self, given: Given) -> range:
        """Return how many flies may be tied on."""
        most = min(self.most_flies, given.rules.most_flies or self.most_flies)
        return range(self.least_flies, most + 1)

    def leader_lengths(self, given: Given, flies: int) -> tuple[float, ...]:
        """Return the lengths of leader to try [m], the usual first, as light and water ask."""
        change = 0.0
        if given.setting.brightness > BRIGHT_ENOUGH and given.setting.wind_mps < 2.0:
            change += LONGER_CALM_M
        if given.setting.secchi_m < 1.5:
            change -= SHORTER_COLOURED_M
        return tuple(max(length + change, 1.2) for length in self.leaders_m)

    def heights(self, leader_m: float, flies: int) -> tuple[float, ...]:
        """Return how far above the point each fly sits [m]."""
        if flies == 1:
            return (0.0,)
        apart = min(self.spacing_m, (leader_m - 0.9) / (flies - 1))
        return tuple(round(k * apart, 2) for k in range(flies))

    def leader(self, given: Given, flies: Sequence[BoxFly], length_m: float, tippet: Tippet) -> Leader | None:
        """Return the angler's own leader, or one built; None when the team does not fit it."""
        if given.pins.leader is not None:
            heights = self.heights(given.pins.leader.length_m, len(flies))
            spaced = len(flies) == 1 or heights[1] >= LEAST_APART_M
            return given.pins.leader if spaced else None
        heights = self.heights(length_m, len(flies))
        if len(flies) > 1 and heights[1] < LEAST_APART_M:
            return None
        return _built(length_m, heights[1:], tippet, self.greased)

    def rig(self, given: Given, line: Line, flies: Sequence[BoxFly], leader_m: float, tippet: Tippet) -> Rig | None:
        """Return what is tied on, or None where leader, team and cast do not go together."""
        leader = self.leader(given, flies, leader_m, tippet)
        if leader is None or leader.length_m + 0.5 > self.cast_m(given):
            return None
        heights = self.heights(leader.length_m, len(flies))
        return Rig(line, leader, place(flies, heights))

    def tied(self, given: Given, way: Way, flies: Sequence[BoxFly], tippet: Tippet) -> Rig | None:
        """Return what is tied on for a way to fish, or None where it does not go together."""
        return self.rig(given, way.line, flies, way.leader_m, tippet)

    def build(self, rig: Rig, action: Action, tippet: Tippet) -> Build:
        """Return how to tie a leader: what to cut, with knots, and hints."""
        heights = [placed.above_point_m for placed in rig.flies[1:]]
        return build_leader(rig.leader.length_m, heights, tippet, greased=self.greased)

    def rehung(self, rig: Rig, action: Action, given: Given) -> tuple[Rig, Action]:
        """Return a rig and what is done with it once a hand has turned it: as they stand, but for what moves with a float.

        Raises
        ------
        BadInput
            There is no room for its flies.
        """
        return rig, action

    def cast_m(self, given: Given) -> float:
        """Return how far it is cast [m]."""
        return given.cast_m

    def says(self, picture: WaterPicture, result: CastResult) -> tuple[Phrase, ...]:
        """Return what an angler needs to be told of it here and now, beside the reasons that any way has."""
        return ()

    def suits_now(self, given: Given, exposure: Exposure, count: int) -> float:
        """Return what the method has of its own in these conditions, as a share: 1 where it has nothing."""
        return 1.0


class CastingMethod(Method):
    """A method whose line is cast, counted down and retrieved."""

    action = Cast

    def counts_s(self, given: Given, line: Line) -> tuple[float, ...]:
        """Return counts to try coarsely [s]: what takes the line to quarters of the depth, none longer than is counted."""
        if line.front_mps == 0.0:
            return (0.0, 15.0, 35.0, 60.0)
        whole_s = given.picture.conditions.deepest_m / line.front_mps
        return tuple(
            sorted({float(round(min(share * whole_s, float(LONGEST_COUNT_S)))) for share in (0.0, 0.25, 0.5, 0.75, 1.0)})
        )

    def cast(self, given: Given, count_s: float, retrieve_key: str) -> Cast:
        """Return the cast with a count and a retrieve."""
        cast = Cast(self.cast_m(given), count_s, RETRIEVES[retrieve_key], drag_mps=self.drag_mps)
        return across_wind(cast, given)


def across_wind(cast: Cast, given: Given, off_wind_deg: float = 90.0) -> Cast:
    """Return the cast as it is made in the wind of the day: across it, unless said otherwise, lifted off once a bow drags, and
    mended where hardly any line comes in."""
    wind_mps = given.picture.conditions.wind.speed_mps
    left_alone = cast.retrieve.mean_mps <= LEFT_ALONE_MPS and off_wind_deg == 90.0
    mends_s = usual_mends_s(wind_mps, cast.count_s + cast.retrieve.longest_s) if left_alone else ()
    return replace(cast, wind_speed_mps=wind_mps, off_wind_deg=off_wind_deg, mends_s=mends_s, recasts=True)


def usual_mends_s(wind_mps: float, for_s: float) -> tuple[float, ...]:
    """Return when a line that is left lying is mended [s]: as often as the wind bows it by `MENDED_BOW_M`."""
    drift_mps = float(SURFACE_DRIFT_SHARE) * wind_mps
    if drift_mps * for_s < MENDED_BOW_M:
        return ()
    every_s = max(round(MENDED_BOW_M / drift_mps / 5.0) * 5.0, LEAST_MEND_S)
    return tuple(float(at_s) for at_s in np.arange(every_s, for_s - 1.0, every_s)[:MOST_MENDS])


@lru_cache(maxsize=2000)
def _built(length_m: float, droppers_m: tuple[float, ...], tippet: Tippet, greased: bool) -> Leader:
    """Return a leader; the same one serves every line and count that a plan tries."""
    return build_leader(length_m, droppers_m, tippet, greased=greased).leader


def place(flies: Sequence[BoxFly], heights: Sequence[float]) -> tuple[PlacedFly, ...]:
    """Return flies at their places on the leader."""
    return tuple(PlacedFly(fly.fly, height, DROPPER_M if height else 0.0) for fly, height in zip(flies, heights, strict=True))
