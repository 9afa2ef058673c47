"""What they may want of a fly beside its class: the pattern, its shade and size, and how fast it is moved.

The belief knows where they are, how many and which class of fly they want; a blank cast is its to read. What came to a fly
and would not have it, and what took, tells more: of that fly most, of others the more alike they are. It is a mean of chances
that are alike, shrunk to what was thought: kernel weights on a beta prior (E. A. Nadaraya, Theory of Probability and its
Applications 9, 1964; G. S. Watson, Sankhya A 26, 1964; both from memory), its numbers ours.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from types import MappingProxyType
from typing import Any

from stillthread.search.presentation import Presentation
from stillthread.trade.usual import STILL_MPS, colour_words

USUAL, USUAL_OF = 0.6, 2.0  # ours, bounds 0.2 to 0.9 and 0.5 to 5: of fish that meet the best fly, how many have it; and as
# how many answers that counts
LEAST_WORTH = 0.15  # ours, bounds 0.05 to 0.5: the plan may be wrong of a fly, too
ALIKE = MappingProxyType({"same": 1.0, "told": 0.8, "class": 0.55, "shade": 0.3, "other": 0.2})  # ours, bounds 0 to 1
HOOK_SIZES = 5.0  # ours, bounds 2 to 10: numbers apart at which flies have little to do with each other
ANY_PACE, PACE_WIDTH = 0.4, 0.6  # ours, bounds 0 to 1 and 0.2 to 1.5 (log scale)
FADES_CASTS = 4.0  # ours, bounds 2 to 20: casts in which what an answer tells halves
FORGOTTEN = 0.004  # ours, bounds 0 to 0.05: less is not thought of
BEST_SEAT = 0.5  # ours, bounds 0 to 1: how far a team is worth its best fly, and for the rest their mean
HITS: Mapping[str, float] = MappingProxyType({"take": 1.0, "lost": 0.8, "landed": 1.0, "told": 1.6})  # ours, bounds 0 to 2
MISSES: Mapping[str, float] = MappingProxyType({"knock": 0.6, "follow": 0.8, "refused": 0.9})  # ours, 0 to 1
UNKNOWN_HOOK = 12


@dataclass(kw_only=True, frozen=True, slots=True)
class FlyAbout:
    """What a fly is: its class, from 1, `colour`, `hook_size`, how it `sinks`, what it is `worth` held still and pulled as a
    share of the box's best, and what seats it may have by method."""

    fly_class: int
    colour: str = ""
    hook_size: int = UNKNOWN_HOOK
    style: str = ""
    sinks: str = ""
    still: float = 1.0
    pulled: float = 1.0
    fits: Mapping[str, Sequence[int]] = field(default_factory=dict)

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> FlyAbout:
        return cls(
            fly_class=int(told["fly_class"]),
            colour=str(told.get("colour", "")),
            hook_size=int(told.get("hook_size", UNKNOWN_HOOK)),
            style=str(told.get("style", "")),
            sinks=str(told.get("sinks", "")),
            still=float(told.get("still", 1.0)),
            pulled=float(told.get("pulled", 1.0)),
            fits=dict(told.get("fits", {})),
        )

    @property
    def bright(self) -> bool:
        return self.fly_class % 2 == 0

    def worth(self, *, still: bool) -> float:
        return self.still if still else self.pulled


@dataclass(frozen=True, slots=True)
class Answer:
    """What came of a fly: how far it was taken (`hit`) and refused (`miss`), after so many `casts` of the day."""

    name: str
    about: FlyAbout
    pace_mps: float
    hit: float
    miss: float
    casts: int


class Likes:
    """What is expected of flies by what was answered so far, after `casts` of the day."""

    def __init__(self, answers: Sequence[Answer], casts: int) -> None:
        fresh = [(one, 0.5 ** ((casts - one.casts) / FADES_CASTS)) for one in answers]
        self._answers = [(one, share) for one, share in fresh if share > FORGOTTEN]

    @cached_property
    def nothing(self) -> bool:
        return not self._answers

    def of_fly(self, name: str, about: FlyAbout, pace_mps: float) -> float:
        """Return how far a fly is taken as it is fished beside what was thought of it, 1 where nothing is known."""
        usual = USUAL * min(max(about.worth(still=pace_mps < float(STILL_MPS)), LEAST_WORTH), 1.0)
        hits, every = USUAL_OF * usual, USUAL_OF
        for one, fresh in self._answers:
            weight = fresh * _alike(name, about, one) * _paced(pace_mps, one.pace_mps)
            hits += weight * one.hit
            every += weight * (one.hit + one.miss)
        return hits / every / usual

    def of(self, way: Presentation, about: Mapping[str, FlyAbout]) -> float:
        """Return how far a way is taken beside what the belief says of it, 1 where nothing is known."""
        if self.nothing:
            return 1.0
        found, worths = [], []
        for fly in way.flies:
            known = about.get(fly.name) or FlyAbout(fly_class=fly.fly_class)
            found.append(self.of_fly(fly.name, known, way.pace_mps))
            worths.append(max(known.worth(still=way.still), LEAST_WORTH))
        best = max(liked * worth for liked, worth in zip(found, worths, strict=True)) / max(worths)
        return BEST_SEAT * best + (1.0 - BEST_SEAT) * sum(found) / len(found)


def _alike(name: str, about: FlyAbout, one: Answer) -> float:
    if name and name == one.name:
        return ALIKE["same"]
    if not one.name and about.fly_class == one.about.fly_class and colour_words(about.colour) & colour_words(one.about.colour):
        return ALIKE["told"] * math.exp(-abs(about.hook_size - one.about.hook_size) / HOOK_SIZES)
    kind = "class" if about.fly_class == one.about.fly_class else "shade" if about.bright == one.about.bright else "other"
    return ALIKE[kind] * math.exp(-abs(about.hook_size - one.about.hook_size) / HOOK_SIZES)


def _paced(pace_mps: float, other_mps: float) -> float:
    return ANY_PACE + (1.0 - ANY_PACE) * math.exp(-abs(math.log(pace_mps / other_mps)) / PACE_WIDTH)
