"""Schools of thought among anglers, of which each may choose one: what it believes, how it tips a plan, orders a ladder and
what it would change first on the water."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from types import MappingProxyType

from stillthread.sourced import Sourced

LEANS = Sourced(1.25, "1", "ours", "how far a school tips the scales: it decides between likes and not against much more")
SAME_M = Sourced(0.35, "m", "common-practice", "about a foot: to the fish two flies no further apart are at one depth")


LEAST_STEP_M = Sourced(0.2, "m", "common-practice", "less is no step up or down the water")
MOST_STEP_M = Sourced(1.2, "m", "common-practice", "more leaves out water that a search by steps means to go through")


@dataclass(frozen=True, slots=True)
class Step:
    """A change on the water, as a school sees it: `deeper_m` by how much the point fly goes down [m], whether the flies and the
    line stay, and whether it is a way that fishes a still fly."""

    deeper_m: float
    same_flies: bool
    same_line: bool
    same: bool
    still: bool

    @property
    def same_depth(self) -> bool:
        return abs(self.deeper_m) < float(SAME_M)


@dataclass(frozen=True, slots=True)
class School:
    """A way of thinking the angler may choose; `believes` says it in one line. What it holds of still and moved flies holds all
    day, the rest as long as nothing has come."""

    key: str
    name: str
    believes: str
    for_plan: bool = True
    flies_first: bool = False

    def lean(self, *, still: bool) -> float:
        """Return how far it tips the scales for a way to fish."""
        return 1.0

    def in_order(self, depths: Iterable[float]) -> list[float]:
        """Return depths, or counts, in the order in which it tries them; given, the nearest come first."""
        return list(depths)

    def holds(self, step: Step) -> bool:
        """Whether it would ever fish so."""
        return True

    def next(self, step: Step) -> bool:
        """Whether it would try that next, while nothing has come."""
        return True

    def kept(self, steps: Sequence[Step], *, searching: bool) -> list[int]:
        """Return which of the changes it would look at."""
        return [i for i, step in enumerate(steps) if self.holds(step) and (not searching or self.next(step))]


class _DepthFirst(School):
    def next(self, step: Step) -> bool:
        return step.same_flies


class _FlyFirst(School):
    def next(self, step: Step) -> bool:
        return step.same or (step.same_depth and not step.same_flies)


class _BottomUp(School):
    def in_order(self, depths: Iterable[float]) -> list[float]:
        return sorted(depths, reverse=True)

    def next(self, step: Step) -> bool:
        return step.same or float(LEAST_STEP_M) <= -step.deeper_m <= float(MOST_STEP_M)


class _TopDown(School):
    def in_order(self, depths: Iterable[float]) -> list[float]:
        return sorted(depths)

    def next(self, step: Step) -> bool:
        return step.same or float(LEAST_STEP_M) <= step.deeper_m <= float(MOST_STEP_M)


class _Still(School):
    def lean(self, *, still: bool) -> float:
        return float(LEANS) if still else 1.0

    def holds(self, step: Step) -> bool:
        return step.still


class _Moved(School):
    def lean(self, *, still: bool) -> float:
        return 1.0 if still else float(LEANS)

    def holds(self, step: Step) -> bool:
        return not step.still


class _Stay(School):
    def holds(self, step: Step) -> bool:
        return step.same_line

    def kept(self, steps: Sequence[Step], *, searching: bool) -> list[int]:
        # It counts on for as long as nothing comes; what gave a fish is fished and nothing else.
        return [i for i, step in enumerate(steps) if (step.same_line if searching else step.same)]


SCHOOLS: MappingProxyType[str, School] = MappingProxyType(
    {
        school.key: school
        for school in (
            School("best", "Best expected", "The likeliest takes an hour decide, whatever school they come from."),
            _DepthFirst("depth-first", "Depth first", "Depth matters most: keep the fly, step through the depths."),
            _FlyFirst(
                "fly-first",
                "Fly first",
                "They are there but refuse: keep the depth, change the fly, quickly.",
                flies_first=True,
            ),
            _BottomUp("bottom-up", "Bottom up", "Start on the bottom and come up until they take."),
            _TopDown("top-down", "Top down", "Start at the top and go down until they take."),
            _Still("static", "Static", "Let them come to a fly that hardly moves."),
            _Moved("moved", "Moved", "A moving fly is found by more fish."),
            _Stay("stay", "Stay with the plan", "The plan was made with a clear head: keep its line.", for_plan=False),
        )
    }
)
