"""Was the advice right: takes that were promised against those that came, and what would put it right for this angler."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from stillthread.learn.rates import Group, Rate, rates_of
from stillthread.phrase import Phrase
from stillthread.sourced import Sourced

OFFERED_FROM = Sourced(0.15, "1", "ours", "a promise off by less than this share is as good as any")
LEAST_TAKES = Sourced(5.0, "1", "ours", "promised or come: of fewer nobody can tell bad advice from a bad day")
MOST_FACTOR = Sourced(5.0, "1", "ours", "more than this is no matter of promises: something is missing in the log")
BINS = 4  # ours: as many as a season of promises fills


@dataclass(kw_only=True, frozen=True, slots=True)
class Promise:
    """What the advice said of one presentation, takes an hour with the range of eight days in ten; for how long it was fished
    [h], what came, and on which `day`."""

    day: str
    said_ph: float
    low_ph: float
    high_ph: float
    hours: float
    takes: int

    @property
    def within(self) -> bool:
        """Whether as many came as the range allowed, in whole fish."""
        return math.floor(self.low_ph * self.hours) <= self.takes <= math.ceil(self.high_ph * self.hours)


@dataclass(frozen=True, slots=True)
class Bin:
    """Promises of about one size: what was said on average, between which ends, and what came."""

    said_ph: float
    least_ph: float
    most_ph: float
    came: Rate


@dataclass(kw_only=True, frozen=True, slots=True)
class Correction:
    """By what promises would have to be multiplied, with its nine-in-ten interval; `offered` where the log is sure enough."""

    said: float
    came: float
    factor: float
    low: float
    high: float
    offered: bool

    @property
    def words(self) -> Phrase:
        values = {"said_n1": self.said, "came_n": self.came, "factor_n2": self.factor}
        if not self.offered:
            return Phrase("{said_n1} takes were promised, {came_n} came: no reason to correct the advice.", values)
        more = "too little" if self.factor > 1.0 else "too much"
        text = f"{{said_n1}} takes were promised, {{came_n}} came: it promises {more}. Times {{factor_n2}} would be right."
        return Phrase(text, values)


def correction_of(promises: Sequence[Promise]) -> Correction:
    """Return what would put the promises right. What was promised takes the place of hours: takes for each take promised."""
    kept = [p for p in promises if p.said_ph > 0.0 and p.hours > 0.0]
    said, came = sum(p.said_ph * p.hours for p in kept), float(sum(p.takes for p in kept))
    if not kept:
        return Correction(said=0.0, came=0.0, factor=1.0, low=1.0, high=1.0, offered=False)
    (ratio,) = rates_of([_by_day("all", kept, lambda p: p.said_ph * p.hours)])
    most = float(MOST_FACTOR)
    factor = math.exp(float(ratio.chance @ ratio.log_rate))
    sure = ratio.low_ph > 1.0 or ratio.high_ph < 1.0
    enough = max(said, came) >= float(LEAST_TAKES)
    far = abs(math.log(factor)) >= math.log1p(float(OFFERED_FROM))
    believable = 1.0 / most <= factor <= most
    return Correction(
        said=said,
        came=came,
        factor=factor,
        low=ratio.low_ph,
        high=ratio.high_ph,
        offered=sure and enough and far and believable,
    )


def reliability(promises: Sequence[Promise], bins: int = BINS) -> tuple[Bin, ...]:
    """Return what came of promises of about each size, the smallest first: as many outings in each bin as may be."""
    kept = sorted((p for p in promises if p.hours > 0.0), key=lambda p: p.said_ph)
    parts = [kept[i * len(kept) // bins : (i + 1) * len(kept) // bins] for i in range(bins)] if len(kept) >= bins else [kept]
    parts = [part for part in parts if part]
    rates = rates_of([_by_day(str(i), part, lambda p: p.hours) for i, part in enumerate(parts)])
    found = []
    for part, came in zip(parts, rates, strict=True):
        hours = sum(p.hours for p in part)
        found.append(Bin(sum(p.said_ph * p.hours for p in part) / hours, part[0].said_ph, part[-1].said_ph, came))
    return tuple(found)


def _by_day(key: str, promises: Sequence[Promise], weigh: Callable[[Promise], float]) -> Group:
    days: dict[str, list[float]] = {}
    for promise in promises:
        day = days.setdefault(promise.day, [0.0, 0.0])
        day[0] += promise.takes
        day[1] += weigh(promise)
    rows = np.array([day for day in days.values() if day[1] > 0.0])
    return Group(key, rows[:, 0], rows[:, 1])
