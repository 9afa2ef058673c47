"""Schools of thought among anglers, of which each may choose one."""

from __future__ import annotations

from dataclasses import dataclass
from types import MappingProxyType


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
