"""Simulated seasons with a known truth: what the learning from the log is held to."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from stillthread.errors import FloatArray
from stillthread.learn.calibrating import Timed, calibrated
from stillthread.learn.comparing import best_of
from stillthread.learn.exposure import LOG_LAYER_M
from stillthread.learn.leaning import LikeDay, lean_of
from stillthread.learn.part_of_day import hours_alike, unsure_by
from stillthread.learn.rates import Group, rates_of

DEEP_M = 8.0
MIDDLES_M: FloatArray = LOG_LAYER_M * (np.arange(int(DEEP_M / LOG_LAYER_M), dtype=np.float64) + 0.5)


def rate_season(rng: np.random.Generator, outings: int = 25, ways: int = 6) -> tuple[list[Group], list[float]]:
    """Return a season's groups and their true rates. Days have moods, which all ways fished on them share."""
    common, scatter = rng.normal(0.0, 1.0), rng.uniform(0.05, 0.9)
    shape = math.exp(rng.uniform(math.log(0.6), math.log(20.0)))
    true = np.exp(common + scatter * rng.normal(size=ways))
    mood = rng.gamma(shape, 1.0 / shape, size=outings)
    groups, truth = [], []
    for way in range(ways):
        on = rng.random(outings) < rng.uniform(0.1, 0.7)
        if not on.any():
            continue
        hours = rng.uniform(0.2, 2.0, size=outings)[on]
        groups.append(Group(str(way), rng.poisson(true[way] * mood[on] * hours).astype(float), hours))
        truth.append(float(true[way]))
    return groups, truth


def coverage_of_rates(seasons: int, seed: int = 20) -> tuple[float, float, float]:
    """Return the share of true rates that lie within their nine-in-ten interval, below it and above it."""
    rng = np.random.default_rng(seed)
    within = np.zeros(3)
    for _ in range(seasons):
        groups, truth = rate_season(rng)
        for rate, true in zip(rates_of(groups), truth, strict=True):
            within += (rate.low_ph <= true <= rate.high_ph, true < rate.low_ph, true > rate.high_ph)
    inside, below, above = within / within.sum()
    return float(inside), float(below), float(above)


def evening_season(rng: np.random.Generator, *, alike: bool) -> tuple[list[Group], list[float]]:
    """Return a season whose favourite is kept for the evening, when two to four times as many take whatever is fished; with
    hours that count alike in every part of the day, or as they are."""
    true = np.exp(rng.normal(-0.3, 0.5) + 0.25 * rng.normal(size=4))
    of_part = np.array([rng.uniform(0.7, 1.3), 1.0, rng.uniform(2.0, 4.0)])
    shape = math.exp(rng.uniform(math.log(0.6), math.log(8.0)))
    rows: list[tuple[int, int, int, float, float]] = []
    for day in range(30):
        mood = rng.gamma(shape, 1.0 / shape)
        for part in range(3):
            # In the evening mostly the favourite, before mostly something else.
            kept = 0.8 if part == 2 else 0.1
            way = 0 if rng.random() < kept else int(rng.integers(1, 4))
            hours = float(rng.uniform(0.5, 2.0))
            rows.append((day, way, part, hours, float(rng.poisson(true[way] * of_part[part] * mood * hours))))
    days, ways, parts, hours_of, takes = (np.array(column) for column in zip(*rows, strict=True))
    counted = hours_alike(takes, hours_of, ways.tolist(), parts.tolist()) if alike else hours_of
    # A way's own rate is that of a day as it was fished as a whole.
    whole = float(hours_of @ of_part[parts] / hours_of.sum())
    groups, truth = [], []
    for way in range(4):
        on = [day for day in range(30) if ((days == day) & (ways == way)).any()]
        own = [(days == day) & (ways == way) for day in on]
        sums = [np.array([column[row].sum() for row in own]) for column in (takes, hours_of, counted)]
        if on:
            share = np.bincount(parts[ways == way], weights=counted[ways == way], minlength=3)
            unsure = float(np.sqrt((share / share.sum()) ** 2 @ unsure_by(takes, parts.tolist()))) if alike else 0.0
            groups.append(Group(str(way), sums[0], sums[1], sums[2], unsure))
            truth.append(float(true[way] * whole))
    return groups, truth


def favourites(seasons: int, *, alike: bool, seed: int = 22) -> tuple[float, int, int]:
    """Return how many true rates lie within their interval, and in how many seasons the favourite is called surely the best,
    rightly and wrongly."""
    rng = np.random.default_rng(seed)
    inside, rightly, wrongly = [], 0, 0
    for _ in range(seasons):
        groups, truth = evening_season(rng, alike=alike)
        rates = rates_of(groups)
        inside += [rate.low_ph <= true <= rate.high_ph for rate, true in zip(rates, truth, strict=True)]
        best = best_of(rates)
        if best is not None and best.sure and best.best.key == "0":
            right = max(truth) == truth[0]
            rightly, wrongly = rightly + right, wrongly + (not right)
    return float(np.mean(inside)), rightly, wrongly


def coverage_of_lines(lines: int, seed: int = 21) -> float:
    """Return the share of lines whose true rate lies within the nine-in-ten interval after three to eight trials by hands of
    every steadiness, of which some go wrong."""
    rng = np.random.default_rng(seed)
    within = 0
    for _ in range(lines):
        label = float(rng.uniform(0.03, 0.15))
        true = label * math.exp(0.2 * rng.normal())
        hand = rng.choice([0.03, 0.06, 0.1, 0.15])
        trials = []
        for _ in range(int(rng.integers(3, 9))):
            off = rng.normal() * 0.6 if rng.random() < 0.08 else rng.normal() * math.hypot(hand, 0.05)
            trials.append(Timed(true * math.exp(off), 0.05))
        found = calibrated(label, trials)
        within += found.low_mps <= true <= found.high_mps
    return within / lines


@dataclass(frozen=True, slots=True)
class Habit:
    """An angler's water: fish are `off_m` [m] deeper than the advice has it (the habit of the water), on days that differ by
    `stray_m` [m]; a day brings some `takes` takes."""

    off_m: float
    stray_m: float = 0.7
    takes: float = 4.0


def _density(middle_m: float, width_m: float) -> FloatArray:
    bell = np.exp(-0.5 * ((MIDDLES_M - middle_m) / width_m) ** 2) + 0.02
    return np.asarray(bell / bell.sum())


def _told_m(rng: np.random.Generator) -> float:
    """Return how deep the advice has them: about the same on days that are alike."""
    return float(np.clip(rng.normal(3.5, 0.8), 1.0, DEEP_M - 1.0))


def held_out(rng: np.random.Generator, habit: Habit, days: int, then: Habit | None = None) -> tuple[float, float]:
    """Return the log score of the depths of a held-out day's takes without and with the log of `days` days before it.

    The held-out day follows another habit, `then`, where the log misleads.
    """
    width = 1.2
    log = []
    for _ in range(days):
        told = _told_m(rng)
        density = _density(told, width)
        true = _density(told + habit.off_m + habit.stray_m * rng.normal(), width)
        # He fishes mostly where he was told to, and somewhere else at times.
        hours = 4.0 * (0.7 * _density(told, 1.5) + 0.3 / len(MIDDLES_M))
        rate = habit.takes / 4.0 * true * len(MIDDLES_M)
        log.append(LikeDay(float(rng.uniform(0.3, 1.0)), rng.poisson(rate * hours).astype(float), hours * density))
    told = _told_m(rng)
    density = _density(told, width)
    now = then or habit
    true = _density(told + now.off_m + now.stray_m * rng.normal(), width)
    lean = lean_of(log, DEEP_M)
    leaned = density if lean is None else density * lean.factor(MIDDLES_M)
    leaned = leaned / leaned.sum()
    return float(true @ np.log(density)), float(true @ np.log(leaned))


def gain_of_log(seed: int, tries: int, days: int, habit: Habit, then: Habit | None = None) -> tuple[float, float, float]:
    """Return by how much the log improves the log score of a held-out day on average [nats a take], its standard error, and
    the worst single day."""
    rng = np.random.default_rng(seed)
    gains = np.array([after - before for before, after in (held_out(rng, habit, days, then) for _ in range(tries))])
    return float(gains.mean()), float(gains.std() / math.sqrt(tries)), float(gains.min())
