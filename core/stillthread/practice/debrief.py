"""What a practice day was, told afterwards: the truth, what others would have taken, and the moments that decided it. Standard
library alone."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from stillthread.phrase import Phrase
from stillthread.practice.answer import PLAYED_MIN, cast, takes_of
from stillthread.practice.truth import DAY_MIN, MOVE_MIN, Hidden
from stillthread.search.day import Table
from stillthread.search.presentation import Costs, Presentation
from stillthread.search.thinker import Thinker
from stillthread.trade.entries import ENDS_FISH, FELT, FISH

LADDER_MIN = 15.0  # common practice: about ten minutes to a rung, and a few to change
KNEW_EVERY_MIN = 5.0  # ours
NEAR_M = 0.5  # ours: a fly this near where they are could be taken
MOST_CASTS = 400  # ours: a bound
SOON_CASTS = 4  # ours
RIGHT_SHARE = 0.6  # ours: a way worth this much of the best was right


@dataclass(frozen=True, slots=True)
class FishedCast:
    """One cast of the day: when it began [min], what was fished, to which place one had moved, what was expected of it by the
    truth and what came."""

    at_min: float
    one: Presentation
    place: int
    expected: float
    takes: int


@dataclass(frozen=True, slots=True)
class Moment:
    """A moment that decided the day: when [min], at which cast, in words, and about how many takes it was worth."""

    at_min: float
    cast: int
    words: Phrase
    worth: float


def knew(hidden: Hidden, options: Sequence[Presentation]) -> float:
    """Return the takes expected of one who knew all: the best there is minute by minute, changes for nothing."""
    return _knew(hidden, options)[0]


def _knew(hidden: Hidden, options: Sequence[Presentation]) -> tuple[float, list[float]]:
    truth, place = hidden.truth, int(hidden.truth.empty)
    at = MOVE_MIN * place
    rates: list[float] = []
    known: dict[tuple[float, bool], float] = {}
    while at < DAY_MIN - 1e-9:
        here = (round(truth.centre_m(at), 2), truth.rate_at(at, place) > 0.0)
        if here not in known:
            # A fish that is played is time in which none is caught.
            best = max(takes_of(truth, one, at, place) / one.minutes for one in options)
            known[here] = best / (1.0 + PLAYED_MIN * best)
        rates.append(known[here])
        at += KNEW_EVERY_MIN
    return KNEW_EVERY_MIN * math.fsum(rates), rates


Choose = Callable[[float, list[dict[str, Any]]], tuple[Presentation, bool]]


def fished_by(hidden: Hidden, choose: Choose, *, costs: Costs | None = None) -> float:
    """Return the takes expected of a day fished by a rule: of the minutes so far and all that happened, what to fish next and
    whether to move to another place first."""
    at, place, number, expected = 0.0, 0, 0, 0.0
    now: Presentation | None = None
    happened: list[dict[str, Any]] = []
    costs = costs or Costs()
    while at < DAY_MIN and number < MOST_CASTS:
        one, moves = choose(at, happened)
        if moves:
            at, place = at + MOVE_MIN, place + 1
            happened.append({"kind": "place", "at_min": at, "fished": one.key})
        at += costs.between(now, one)
        now = one
        if at >= DAY_MIN:
            break
        happened.append({"kind": "cast", "at_min": at, "fished": one.key})
        expected += takes_of(hidden.truth, one, at, place)
        came = cast(hidden, number, one, at, place)
        number += 1
        at += one.minutes
        for event in came:
            kind = "follow" if event.kind == "follow" else "knock" if event.kind == "knock" else "take"
            happened.append({"kind": kind, "at_min": at, "fished": one.key, "depth_m": event.depth_m, "fly": event.fly})
        took = bool(came) and came[-1].kind in FISH
        happened.append({"kind": "landed" if took else "nothing", "at_min": at, "fished": one.key,
                         "depth_m": came[-1].depth_m if came else 0.0})  # fmt: skip
        at += PLAYED_MIN if took else 0.0
    return expected


def by_ladder(options: Sequence[Presentation]) -> Choose:
    """Return the classic ladder: all depths of the first way's line from the top down, a quarter of an hour each, and again."""
    first = options[0]
    same = [one for one in options if one.line == first.line and one.method == first.method] or [first]
    rungs = sorted(same, key=lambda one: max(map(max, one.depth_m)))

    def choose(at_min: float, happened: list[dict[str, Any]]) -> tuple[Presentation, bool]:
        takes = [one["at_min"] for one in happened if one["kind"] in FELT and one["kind"] not in ENDS_FISH]
        if takes and at_min - takes[-1] < LADDER_MIN:
            last = next(one["fished"] for one in reversed(happened) if one["kind"] == "cast")
            return next(one for one in options if one.key == last), False
        return rungs[int(at_min / LADDER_MIN) % len(rungs)], False

    return choose


def by_advice(table: Mapping[str, Any], school: str = "best") -> Choose:
    """Return what the app would have done by a school: its plan first, then its own next move after each cast."""
    thinker = Thinker(table)
    options = Table.of(table).options
    told = {one["key"]: one for one in table["options"]}
    now = options[0]

    def choose(at_min: float, happened: list[dict[str, Any]]) -> tuple[Presentation, bool]:
        nonlocal now
        if not happened:
            return now, False
        fished = {one["fished"]: told[one["fished"]] for one in happened}
        answer = thinker.think({"fished": fished, "happened": happened, "now_min": at_min, "school": school})
        move = answer["move"]
        if move is not None and move["change"]:
            now = next((one for one in options if one.key == move["best"]["key"]), now)
        return now, bool(move is not None and move["elsewhere"])

    return choose


def moments(hidden: Hidden, casts: Sequence[FishedCast], options: Sequence[Presentation]) -> tuple[Moment, ...]:
    """Return the three moments that decided the day, the weightiest first."""
    truth = hidden.truth
    best = {
        k: max((takes_of(truth, one, c.at_min, c.place) / one.minutes for one in options), default=0.0)
        for k, c in enumerate(casts)
    }
    found: list[Moment] = []
    for k, (before, after) in enumerate(itertools.pairwise(casts)):
        if before.one.key == after.one.key or best[k] <= 0.0:
            continue
        stayed = next((j for j in range(k, -1, -1) if casts[j].one.key != before.one.key), -1)
        here, there = before.expected / before.one.minutes, after.expected / after.one.minutes
        left_min = DAY_MIN - after.at_min
        values = {"casts_n": float(k - stayed), "at_min": after.at_min}
        if here >= RIGHT_SHARE * best[k] and there < 0.5 * here and k - stayed <= SOON_CASTS:
            words = Phrase("After {at_min} of the day you left the right depth, after {casts_n} casts.", values)
            found.append(Moment(after.at_min, k + 1, words, (here - there) * min(left_min, 40.0)))
        elif there >= RIGHT_SHARE * best[k] and here < 0.5 * there:
            words = Phrase("After {at_min} of the day you found them: the change that mattered.", values)
            found.append(Moment(after.at_min, k + 1, words, (there - here) * min(left_min, 40.0)))
    run = 0
    for k, one in enumerate([*casts, None]):
        off = one is not None and best[k] > 0.0 and one.expected / one.one.minutes < 0.3 * best[k]
        if off:
            run += 1
        elif run >= 6:
            first = casts[k - run]
            lost = math.fsum(best[j] * casts[j].one.minutes - casts[j].expected for j in range(k - run, k))
            deep = math.fsum(max(map(max, casts[j].one.depth_m)) for j in range(k - run, k)) / run
            off_m = truth.centre_m(first.at_min) - deep
            where = "above" if off_m > NEAR_M else "below" if off_m < -NEAR_M else "at"
            text = f"From {{at_min}} on you fished {{casts_n}} casts {where} them"
            text += "." if where != "at" else ", with a fly they did not want." if truth.fly else ", hardly in their sight."
            found.append(Moment(first.at_min, k - run, Phrase(text, {"at_min": first.at_min, "casts_n": float(run)}), lost))
            run = 0
        else:
            run = 0
    if truth.empty and casts and all(one.place == 0 for one in casts):
        words = Phrase("Nobody was at home at this place all day: moving would have cost {move_min}.", {"move_min": MOVE_MIN})
        found.append(Moment(casts[-1].at_min, len(casts) - 1, words, 99.0))
    return tuple(sorted(found, key=lambda one: -one.worth)[:3])


def luck_of(casts: Sequence[FishedCast]) -> float:
    """Return how far what came lies from what was expected of these casts, in standard deviations of a Poisson count."""
    expected, took = math.fsum(one.expected for one in casts), sum(one.takes for one in casts)
    return (took - expected) / math.sqrt(max(expected, 0.25))
