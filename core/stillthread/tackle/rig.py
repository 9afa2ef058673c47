"""A rig: line, leader and flies, as tied on."""

from __future__ import annotations

from dataclasses import dataclass

from stillthread.errors import BadInput
from stillthread.ranges import ABOVE_POINT_M, DROPPER_M
from stillthread.tackle.flies import Fly
from stillthread.tackle.leaders import Leader
from stillthread.tackle.lines import Line

MOST_FLIES = 4  # ours: a bound


@dataclass(frozen=True, slots=True)
class PlacedFly:
    """A fly at `above_point_m` [m] up the leader; the point fly has 0.

    `dropper_m` [m], 0 to 0.5, is how far it stands off the leader. It is drawn at its knot: a dropper's own sag is
    within a few centimetres.
    """

    fly: Fly
    above_point_m: float = 0.0
    dropper_m: float = 0.0

    def __post_init__(self) -> None:
        ABOVE_POINT_M.check("above_point_m", self.above_point_m)
        DROPPER_M.check("dropper_m", self.dropper_m)


@dataclass(frozen=True, slots=True)
class Rig:
    """`flies` run from the point up the leader: one to four, the first at the point."""

    line: Line
    leader: Leader
    flies: tuple[PlacedFly, ...]

    def __post_init__(self) -> None:
        if not 1 <= len(self.flies) <= MOST_FLIES:
            raise BadInput(f"A rig carries one to {MOST_FLIES} flies.", field="flies")
        if self.flies[0].above_point_m != 0.0:
            raise BadInput("The first fly sits on the point.", field="flies")
        for lower, upper in zip(self.flies, self.flies[1:], strict=False):
            if upper.above_point_m - lower.above_point_m < 0.2:
                raise BadInput("Flies sit at least 0.2 m apart, from the point upward.", field="flies")
        if self.flies[-1].above_point_m > self.leader.length_m - 0.1:
            raise BadInput("The top fly must sit on the leader, 0.1 m or more below the line.", field="flies")

    @property
    def point_fly(self) -> Fly:
        return self.flies[0].fly
