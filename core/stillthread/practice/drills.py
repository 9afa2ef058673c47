"""Drills of two minutes: guess what the simulator works out, and see how far off it was."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from stillthread.errors import BadInput
from stillthread.phrase import Phrase
from stillthread.practice.truth import seeded
from stillthread.sinking.cast import Cast, level_water, simulate
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.thread import QUICK
from stillthread.tackle.leaders import Leader, LeaderSection
from stillthread.tackle.lines import line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.tackle.starter import STARTER_FLIES
from stillthread.trade.usual import USUAL_CAST_M

# common practice
LEADER = Leader("12 ft", (LeaderSection(1.2, 0.00045, "nylon"), LeaderSection(1.5, 0.00025), LeaderSection(1.0, 0.00020)))
LAKE = level_water(12.0, 12.0)  # ours
CAST_M = float(USUAL_CAST_M)
# How far above the bottom a food is met [m]: common practice, 1 to 2 ft for rising pupae and a hand's breadth for larvae.
FLOAT_FOODS = MappingProxyType(
    {"rising midge pupae": (0.3, 0.6), "midge larvae": (0.1, 0.15), "shrimps over the weed": (0.2, 0.5)}
)
LINES = ("floating", "slow-intermediate", "fast-intermediate", "type-3", "type-5")
DRILL_KINDS = MappingProxyType(
    {
        "depth": "How deep is the fly?",
        "float": "Set the float",
        "line": "Which line?",
        "count": "Count with your eyes shut",
    }
)
HALF_POINTS = MappingProxyType({"depth": 0.35, "float": 0.35, "line": 1.0, "count": 0.12})  # ours: how far off is worth half
"""How far off gives half the points: as a share of the answer, in metres for a float, in lines, as a share of the seconds."""


@dataclass(frozen=True, slots=True)
class Question:
    """What is asked: in `words`, answered by a number in `unit` "m" or "s", or by one of `choices`."""

    kind: str
    words: Phrase
    unit: str
    choices: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Scored:
    """How an answer did: 0 to 100 `points`, and what was right, in words."""

    points: int
    words: Phrase


@lru_cache(maxsize=256)
def _asked(kind: str, seed: str) -> tuple[Question, float, float]:
    """Return a question, its answer and the other end of what is right."""
    draw = seeded(f"drill {kind} {seed}")
    if kind == "depth":
        line = line_of_class(
            draw.choice(("floating", "slow-intermediate", "intermediate", "fast-intermediate", "type-3", "type-5"))
        )
        fly = draw.choice([fly for fly in STARTER_FLIES if not fly.buoyant and fly.style != "dry"])
        count = float(draw.choice((10, 15, 20, 25, 30, 40)))
        run = simulate(
            Rig(line, LEADER, (PlacedFly(fly.fly),)), Cast(CAST_M, count, RETRIEVES["strip-pause"]), LAKE, mesh=QUICK
        )
        words = Phrase(
            f"{line.name}, 12 ft leader, {fly.name}. How deep is the fly after a count of {{count_s}}?", {"count_s": count}
        )
        return Question(kind, words, "m"), run.start_depth_m(), run.start_depth_m()
    if kind == "float":
        food = draw.choice(sorted(FLOAT_FOODS))
        bottom = round(draw.uniform(2.0, 6.0), 1)
        low, high = FLOAT_FOODS[food]
        words = Phrase(f"They are on {food} over {{bottom_m}}. How deep do you set the float?", {"bottom_m": bottom})
        return Question(kind, words, "m"), bottom - high, bottom - low
    if kind == "line":
        deep = round(draw.uniform(0.4, 5.0), 1)
        count = 20.0
        fly = next(fly for fly in STARTER_FLIES if not fly.buoyant and fly.style == "natural" and not fly.weighted)
        runs = {
            key: simulate(
                Rig(line_of_class(key), LEADER, (PlacedFly(fly.fly),)),
                Cast(CAST_M, count, RETRIEVES["slow-twist"]),
                LAKE,
                mesh=QUICK,
            )
            for key in LINES
        }
        off = {key: abs(math.fsum(run.middle_depth_m()) / 2.0 - deep) for key, run in runs.items()}
        best = min(LINES, key=lambda key: off[key])
        words = Phrase(
            "They lie at {deep_m}. Counted 20 s and twisted back slowly with a light nymph: which line works there?",
            {"deep_m": deep},
        )
        choices = tuple(line_of_class(key).name for key in LINES)
        return Question(kind, words, "choice", choices), float(LINES.index(best)), float(LINES.index(best))
    if kind == "count":
        seconds = float(draw.choice((8, 12, 15, 20, 25, 30)))
        words = Phrase("Press, shut your eyes, count {count_s} as you do at the water, and press again.", {"count_s": seconds})
        return Question(kind, words, "s"), seconds, seconds
    raise BadInput(f"drill {kind!r} is not known. Known: {', '.join(DRILL_KINDS)}.", field="kind")


def ask_drill(kind: str, seed: str) -> Question:
    """Return the question of a seed."""
    return _asked(kind, seed)[0]


def score_drill(kind: str, seed: str, answer: float) -> Scored:
    """Return how an answer did: metres, seconds, or the place of a choice.

    Raises
    ------
    BadInput
        The answer is none.
    """
    question, low, high = _asked(kind, seed)
    if not math.isfinite(answer) or answer < 0.0 or (question.choices and answer >= len(question.choices)):
        raise BadInput("That is no answer to this.", field="answer")
    off = max(low - answer, answer - high, 0.0)
    share = off / (max(low, 0.3) if kind in {"depth", "count"} else 1.0) / HALF_POINTS[kind]
    points = round(100.0 * 0.5**share)
    if kind == "line":
        return Scored(points, Phrase(f"The simulator says: {question.choices[int(low)]}."))
    if kind == "float":
        return Scored(points, Phrase("Practice sets it at {low_m} to {high_m}.", {"low_m": low, "high_m": high}))
    if kind == "count":
        return Scored(points, Phrase("You counted {count_s} in {took_s}.", {"count_s": low, "took_s": answer}))
    return Scored(points, Phrase("The simulator says {right_m}.", {"right_m": low}))
