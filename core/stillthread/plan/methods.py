"""The methods of the trade: what each is, when it suits, what it needs and what spoils it. All common practice."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from stillthread.tackle.lines import Line

Way = Literal["cast", "hang", "tow"]


@dataclass(frozen=True, slots=True)
class Method:
    """One way to fish. `way` is how it is simulated; `lines` the least and greatest sink rate of its line [m/s], and whether a
    tip will do; `leader_m` usual length, `spacing_m` between flies; `moved` while it fishes."""

    key: str
    name: str
    way: Way
    lines: tuple[float, float]
    tips: bool
    most_flies: int
    leader_m: float
    spacing_m: float
    retrieves: tuple[str, ...]
    moved: bool
    suits: str
    needs: str
    spoils: str

    def takes(self, line: Line) -> bool:
        """Return whether it can be fished with a line."""
        if (line.has_tip and not self.tips) or (self.key == "tip" and not line.has_tip):
            return False
        low, high = self.lines
        return low - 1e-9 <= (0.0 if line.floats else line.sink_rate_mps) <= high + 1e-9


_ROWS = (
    Method("dry", "Dry or emerger on top", "cast", (0.0, 0.0), False, 2, 4.0, 1.5, ("static", "twitch-drop"), False,
           "rises, or land insects on the water", "a floating line, greased leader, a fly that sits in the film",
           "a chop that drowns it; glare on a flat calm"),
    Method("sight", "Sight fishing to cruisers", "cast", (0.0, 0.0), False, 1, 4.6, 0.0, ("static", "slow-twist"), False,
           "high bright sun at your back and clear water", "polarised glasses, and a fly that lands well ahead of the fish",
           "cloud, chop, coloured water"),
    Method("nymphs-floating", "Nymphs on a floater and long leader", "cast", (0.0, 0.0), False, 3, 5.4, 1.8,
           ("static", "slow-twist"), True, "fish in the top two metres on rising food", "time to sink, and slow hands",
           "side wind that bows the line and drags the flies"),
    Method("tip", "Sink tip and team", "cast", (0.02, 0.16), True, 3, 4.8, 1.8,
           ("slow-twist", "strip-pause", "short-strips"), True,
           "a level that must be held through the whole retrieve", "a tip that suits the level", "weed between tip and point"),
    Method("intermediate", "Intermediate, moved", "cast", (0.008, 0.055), False, 2, 3.6, 1.8,
           ("slow-twist", "strip-pause", "jerks"), True, "fish from one to three metres, over weed, in a ripple",
           "a count, and the same count again", "fish tight on a deep bottom"),
    Method("sinker", "Full sinker, moved", "cast", (0.055, 0.25), False, 2, 3.0, 1.5,
           ("slow-twist", "strip-pause", "long-pull", "two-handed"), True, "fish deep, or spread through the column",
           "a count, and a hang at the end of every cast", "snags; slow pulls that let it sink on"),
    Method("washing-line", "Washing line", "cast", (0.0, 0.16), True, 3, 4.6, 1.5, ("static", "slow-twist"), True,
           "one shallow layer, fished slowly", "a buoyant fly on the point", "a heavy fly in the middle"),
    Method("buoyant-deep", "Buoyant fly close to the bottom", "cast", (0.1, 0.25), False, 1, 1.6, 0.0,
           ("static", "long-pull", "strip-pause"), True, "fish on the bottom over weed", "a fast line and a short leader",
           "a long leader, which lifts the fly over their heads"),
    Method("indicator", "Under an indicator", "hang", (0.0, 0.0), False, 3, 0.0, 1.2, (), False,
           "a known depth; calm, bright, pressed fish; cold water", "a float that can be landed, and patience to hang",
           "a drift so fast that it lifts the flies; a bow in the line"),
    Method("drift-boat", "Drifting boat, short line", "cast", (0.0, 0.06), True, 3, 4.2, 1.5,
           ("strip-pause", "two-handed"), True, "a ripple, and fish scattered over open water", "a boat and a drogue",
           "a drift so fast that the line never comes tight"),
    Method("tow", "Wind drift or slow troll", "tow", (0.03, 0.25), True, 2, 3.6, 1.5, (), True,
           "covering water to find them", "a boat, and the rule that allows it", "shallow weed"),
    Method("fry", "Fry feeders", "cast", (0.0, 0.045), True, 1, 3.0, 0.0, ("jerks", "two-handed", "strip-pause"), True,
           "fry in the margins and fish that push water", "something small and silver in the top inches",
           "fishing through them instead of at their edge"),
)  # fmt: skip

METHODS: MappingProxyType[str, Method] = MappingProxyType({method.key: method for method in _ROWS})


@dataclass(frozen=True, slots=True)
class School:
    """A way of thinking the angler may choose; `believes` says it in one line."""

    key: str
    name: str
    believes: str


SCHOOLS: MappingProxyType[str, School] = MappingProxyType(
    {
        school.key: school
        for school in (
            School("best", "Best expected", "The likeliest takes an hour decide, whatever school they come from."),
            School("depth-first", "Depth first", "Depth matters most: keep the fly, step through the depths."),
            School("fly-first", "Fly first", "They are there but refuse: keep the depth, change the fly, quickly."),
            School("bottom-up", "Bottom up", "Start on the bottom and come up until they take."),
            School("top-down", "Top down", "Start at the top and go down until they take."),
            School("static", "Static", "Let them come to a fly that hardly moves."),
            School("moved", "Moved", "A moving fly is found by more fish."),
        )
    }
)
