"""Ask the plan about a thousand random, plausible conditions: what it chooses, whether it says so truly, how steady it is.

.venv/bin/python scripts/sweep.py [--rows 1000] [--seed 1]
"""

from __future__ import annotations

import argparse
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from multiprocessing import Pool
from pathlib import Path

import numpy as np

from stillthread.api import Lake, Plan, season_progress, seasonal_ensemble
from tests.practice.asking import Row, ask, told_truly

ROOT = Path(__file__).resolve().parents[1]

SIGNS = (
    "head-and-tail", "sips", "splashes", "bulges", "swirls", "swallows", "shucks", "diving-birds", "small-flies", "upwings",
    "caddis-about", "damsels-about", "blown-insects", "fry-seen", "flea-clouds",
)  # fmt: skip
SAMPLED = (
    ("midge-pupa", 10.0),
    ("midge-larva", 15.0),
    ("shrimp", 12.0),
    ("damsel-nymph", 24.0),
    ("leech", 40.0),
    ("boatman", 9.0),
)


@dataclass(kw_only=True, frozen=True)
class Told:
    """What came of one set of conditions: methods in order, whether all is true, and how it moves when the readings do."""

    first: str
    flies: tuple[str, ...]
    edge: bool
    true: bool
    flips: bool
    far_flip: bool
    brighter_deeper: bool
    sign_higher: bool
    colder_slower: bool | None


def plausible(rng: np.random.Generator) -> Row:
    """Return random conditions as a lake may have them: seasonal water, gusty wind, some signs, now and then a sample."""
    on = datetime(2026, 1, 1) + timedelta(days=float(rng.uniform(20, 345)), hours=0.0)
    hour = float(rng.uniform(7.0, 20.0))
    when = on.replace(hour=int(hour), minute=int(60 * (hour % 1)))
    lake = Lake(54.0, 150.0, 1.5)
    warm = float(np.sin(np.pi * np.clip((on.timetuple().tm_yday - 60) / 270.0, 0.0, 1.0)))
    surface_c = round(float(np.clip(4.0 + 15.0 * warm + rng.normal(0.0, 1.5), 2.0, 24.0)), 1)
    bottom_m = round(float(np.exp(rng.uniform(np.log(1.2), np.log(12.0)))), 1)
    water = [(0.0, surface_c)]
    if rng.random() < 0.4 and bottom_m > 2.5:
        depths = np.arange(1.0, bottom_m, 1.0)
        curves, weights = seasonal_ensemble(np.concatenate(([0.0], depths)), surface_c, lake, on.date())
        curve = curves[int(rng.choice(len(weights), p=weights))]
        water += [(float(d), round(float(c), 1)) for d, c in zip(depths, curve[1:], strict=True)]
    signs: tuple[str, ...] = ()
    if rng.random() < 0.45 and season_progress(lake, on.date()) > -0.3:
        signs = tuple(str(s) for s in rng.choice(SIGNS, size=int(rng.integers(1, 3)), replace=False))
    elif rng.random() < 0.2:
        signs = ("nothing",)
    sample: tuple[tuple[str, int, float | None], ...] = ()
    if rng.random() < 0.15:
        key, size = SAMPLED[int(rng.integers(len(SAMPLED)))]
        sample = ((key, int(rng.integers(3, 30)), size),)
    return Row(
        "random", "", f"{when:%Y-%m-%dT%H:%M}", water, bottom_m, (), round(float(min(rng.gamma(2.2, 1.8), 13.0)), 1),
        round(float(rng.beta(1.0, 1.0)), 2), round(float(np.exp(rng.uniform(np.log(0.8), np.log(7.0)))), 1), None,
        0.3 if rng.random() < 0.2 else 0.0, signs, sample, bool(rng.random() < 0.5), bool(rng.random() < 0.15),
        wind_from_deg=float(rng.integers(0, 360)),
    )  # fmt: skip


def nudged(row: Row, rng: np.random.Generator) -> Row:
    """Return the conditions with every reading a hundredth off."""

    def off(value: float) -> float:
        return value * (1.0 + 0.01 * float(rng.choice((-1.0, 1.0))))

    water = [(depth, off(water_c)) for depth, water_c in row.water]
    return replace(row, water=water, wind_mps=off(row.wind_mps), cloud=min(off(row.cloud), 1.0), secchi_m=off(row.secchi_m))


def at_edge(plan: Plan) -> bool:
    """Return whether the count of the first lies at the end of what is tried, where another might be better."""
    one = plan.ranked[0]
    if not one.option.action.turns_over or len(one.counts) < 3:
        return False
    now = one.option.action.depth_steps(one.option.rig.line, plan.scorer.given.bottom_m).now
    most = max(takes for _, takes in one.counts)
    return one.counts[-1][1] >= most - 1e-9 and one.counts[-1][0] > 0.0 and now == one.counts[-1][0]


def look(job: tuple[int, int]) -> Told | None:
    rng = np.random.default_rng(job)
    row = plausible(rng)
    try:
        q = ask(row)
        other = ask(nudged(row, rng))
    except Exception as refused:  # ice, say
        print(f"{row.when}: {type(refused).__name__} {refused}", flush=True)
        return None
    first, then = q.plan.ranked[0], other.plan.ranked[0]
    flips = first.option.method.key != then.option.method.key
    good = {first.option.method.key} | {one.option.method.key for one in q.plan.ranked if one.as_good}
    dull, bright = (ask_mean(replace(row, cloud=cloud, when=row.when[:11] + "12:00")) for cloud in (1.0, 0.0))
    rising = ask_mean(replace(row, signs=("sips",))) if not row.signs else None
    here = q.picture.belief.mean_m
    slower = replace(row, water=[(depth, min(water_c, 5.0)) for depth, water_c in row.water], signs=(), sample=())
    warmer = replace(row, water=[(depth, 14.0) for depth, _ in row.water], signs=(), sample=())
    # Two more plans: asked of one in ten.
    paces = [_pace(one) for one in (slower, warmer)] if job[1] % 10 == 0 else None
    return Told(
        first=first.option.method.key,
        flies=tuple(fly.name for fly in first.option.flies),
        edge=at_edge(q.plan),
        true=told_truly(q),
        flips=flips,
        far_flip=flips and then.option.method.key not in good,
        brighter_deeper=bright >= dull - 0.02,
        sign_higher=rising is None or rising <= here + 0.02,
        colder_slower=None if paces is None else paces[0] <= paces[1] + 0.03,
    )


def ask_mean(row: Row) -> float:
    from stillthread.api import read_water
    from tests.practice.asking import conditions_of

    return read_water(conditions_of(row)).belief.mean_m


def _pace(row: Row) -> float:
    """Return the pace of the best moved way."""
    moved = [one for one in ask(row).plan.ranked if one.option.action.turns_over and not one.option.static]
    return moved[0].option.speed_mps if moved else 0.0


def summary(told: Sequence[Told]) -> list[tuple[str, str, str]]:
    """Return (what, found, aim) rows."""
    n = len(told)
    methods = Counter(one.first for one in told)
    flies = Counter(name for one in told for name in set(one.flies))
    casts = ", ".join(f"{key} {count / n:.0%}" for key, count in methods.most_common())

    asked = [one.colder_slower for one in told if one.colder_slower is not None]

    def share(name: str) -> float:
        return float(sum(getattr(one, name) for one in told)) / n

    return [
        (f"first methods of {n} random conditions", casts, "none over 30 %"),
        (
            "the commonest fly of first choices",
            f"{flies.most_common(1)[0][0].lower()}, {flies.most_common(1)[0][1] / n:.0%}",
            "30 %",
        ),
        ("counts at the end of what was tried", f"{share('edge'):.1%}", "15 %"),
        ("minutes in the band that belong to no fly named", str(n - sum(one.true for one in told)), "0"),
        ("first method changed by readings a hundredth off", f"{share('flips'):.1%}", "-"),
        ("of these, to one that was not said to be as good", f"{share('far_flip'):.1%}", "5 %"),
        ("brighter, and the belief lies higher", f"{1.0 - share('brighter_deeper'):.1%}", "0"),
        ("a rise is seen, and the belief lies deeper", f"{1.0 - share('sign_higher'):.1%}", "0"),
        ("colder, and the best moved way is faster", f"{asked.count(False)} of {len(asked)} asked", "0"),
    ]


def sweep(rows: int, seed: int) -> list[tuple[str, str, str]]:
    with Pool(2) as pool:
        found = pool.map(look, [(seed, k) for k in range(rows)], chunksize=4)
    return summary([one for one in found if one is not None])


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--rows", type=int, default=1000)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    for row in sweep(asked.rows, asked.seed):
        print(" | ".join(row))
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
