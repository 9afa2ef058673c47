"""The worlds that practice days are drawn from: those of the search's bench. Standard library alone: a device deals another day
on a water that it took along with no connection."""

from __future__ import annotations

import random
from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from stillthread.practice.truth import Truth, seeded
from stillthread.search.grid import ANY

REACH_M = 0.9  # ours: as the search's bench has it
DEEPEST_MADE_UP_M = 9.0  # ours
CLASSES = 4  # ours: as the search has them
LETTERS = "BCDFGHJKLMNPQRSTVWXZ23456789"
SEED_LENGTH = 6  # ours


@dataclass(frozen=True, slots=True)
class Level:
    """What is dealt at a level: the kinds of day, how many interested fish there usually are [1/min] and how far that spreads
    (of its logarithm), how often they want one class of fly, and how far a reading of everything misleads [m]."""

    kinds: tuple[str, ...]
    rate_pmin: float
    spread: float
    picky: float
    misleads_m: float


# Fair and hard days are those that the search is measured on (docs/search.md): kinds, rates and choosiness are the same.
# ours
LEVELS = MappingProxyType(
    {
        "easy": Level(("steady",), 0.25, 0.4, 0.0, 0.0),
        "fair": Level(("steady", "moving", "patchy", "selective"), 0.16, 0.8, 0.4, 0.0),
        "hard": Level(("moving", "two bands", "selective", "low", "barren", "patchy"), 0.16, 0.8, 0.4, 1.2),
    }
)


@dataclass(frozen=True, slots=True)
class Likely:
    """Where a full reading leads one to expect them: the chance by depth [m], over a bottom [m]."""

    depth_m: tuple[float, ...]
    chance: tuple[float, ...]
    bottom_m: float

    @classmethod
    def of(cls, told: Mapping[str, Any]) -> Likely:
        return cls(tuple(told["depth_m"]), tuple(told["chance"]), float(told["bottom_m"]))


def new_seed(source: random.Random) -> str:
    return "".join(source.choice(LETTERS) for _ in range(SEED_LENGTH))


def truth_of(likely: Likely, kind: str, level: Level, draw: random.Random) -> Truth:
    """Draw what is hidden: where the reading leads one to expect them, more or less, on a day of this kind."""
    deepest = likely.bottom_m
    # In deep water they may be as near the top as in the deepest of those that are made up.
    low, high = 0.1 * min(deepest, DEEPEST_MADE_UP_M), 0.95 * deepest
    at, left = likely.depth_m[-1], draw.random()
    for depth, chance in zip(likely.depth_m, likely.chance, strict=True):
        left -= chance
        if left <= 0.0:
            at = depth
            break
    begin = min(max(at + draw.gauss(0.0, level.misleads_m), low), high)
    step = draw.uniform(1.5, 3.0) * draw.choice((-1.0, 1.0)) * min(1.0, deepest / 6.0)
    beside = begin + step if low <= begin + step <= high else min(max(begin - step, low), high)
    rate = min(max(level.rate_pmin * draw.lognormvariate(0.0, level.spread), 0.028), 0.9)
    rate = draw.uniform(0.02, 0.05) if kind == "low" else rate
    picky = draw.random() < level.picky or kind == "selective"
    return Truth(
        kind, round(begin, 2), round(beside if kind == "moving" else begin, 2),
        round(REACH_M * draw.lognormvariate(0.0, 0.3), 2),
        round(rate, 4), draw.randint(1, CLASSES) if picky else ANY, round(beside, 2) if kind == "two bands" else None,
        kind == "patchy", kind == "barren",
    )  # fmt: skip


def truth_again(likely: Likely, seed: str, level: str) -> Truth:
    """Return what is hidden on another day of the same water."""
    draw = seeded(f"again {seed} {level}")
    return truth_of(likely, draw.choice(LEVELS[level].kinds), LEVELS[level], draw)
