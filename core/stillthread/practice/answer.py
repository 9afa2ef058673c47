"""What a cast brings on a practice day: the simulated path of the angler's own fly against what is hidden. Standard library
alone."""

from __future__ import annotations

import math
from dataclasses import dataclass

from stillthread.practice.truth import Hidden, Truth, seeded
from stillthread.search.grid import answers
from stillthread.search.presentation import EVENT_SD_M, KNOCK, TAKE, Presentation, shared, spans_of

FOLLOW = 0.12  # ours: of fish that meet a fly they do not take or knock, so many are seen behind it
PLAYED_MIN = 4.0  # ours: a fish that was taken is played, and what it took is put right
LANDED = 0.75  # ours: of takes that are hooked and come in


@dataclass(frozen=True, slots=True)
class Came:
    """Something came in a cast: a "take", "lost", "knock" or "follow", at a depth [m], to the fly at a place on the leader."""

    kind: str
    depth_m: float
    fly: int


def met(truth: Truth, one: Presentation, at_min: float, place: int) -> list[tuple[tuple[float, ...], tuple[float, ...]]]:
    """Return, span by span of one cast, how many interested fish meet each fly, and how deep the flies are [m]."""
    wanted = tuple(truth.fly in (0, fly.fly_class) for fly in one.flies)
    alike = wanted if any(wanted) else (True,) * len(wanted)
    bands = [truth.centre_m(at_min)] + ([] if truth.other_m is None else [truth.other_m])
    rate = truth.rate_at(at_min, place)
    found = []
    for minutes, depths in spans_of(one):
        of = [shared([answers(centre, truth.reach_m, z) for z in depths], alike) for centre in bands]
        found.append((tuple(rate * minutes * sum(each) / len(bands) for each in zip(*of, strict=True)), depths))
    return found


def takes_of(truth: Truth, one: Presentation, at_min: float, place: int = 0) -> float:
    """Return the takes expected of one cast: it ends with the first."""
    weights = [TAKE[truth.fly in (0, fly.fly_class)] for fly in one.flies]
    all_of_them = math.fsum(
        sum(m * w for m, w in zip(fish, weights, strict=True)) for fish, _ in met(truth, one, at_min, place)
    )
    return -math.expm1(-all_of_them)


def cast(hidden: Hidden, number: int, one: Presentation, at_min: float, place: int) -> list[Came]:
    """Return what comes in the cast of this number, in its order; nothing after a take. The same cast brings the same again."""
    luck = seeded(f"{hidden.seed} {hidden.level} {number} {one.key} {at_min:.2f}")
    came: list[Came] = []
    for fish, depths in met(hidden.truth, one, at_min, place):
        for fly, mean in enumerate(fish):
            wanted = hidden.truth.fly in (0, one.flies[fly].fly_class)
            if luck.random() >= -math.expm1(-mean):
                continue
            chance, depth = luck.random(), max(depths[fly] + luck.gauss(0.0, EVENT_SD_M), 0.0)
            if chance < TAKE[wanted]:
                return [*came, Came("take" if luck.random() < LANDED else "lost", round(depth, 1), fly)]
            if chance < TAKE[wanted] + KNOCK[wanted]:
                came.append(Came("knock", round(depth, 1), fly))
            elif luck.random() < FOLLOW:
                came.append(Came("follow", round(depth, 1), fly))
    return came
