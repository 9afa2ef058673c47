"""Fish practice days by rules, and write docs/practice.md. `make practice` runs it, for half an hour on two cores.

Each day is fished twice: by the practice day's own code, and by that of the search's bench (scripts/search_days.py), which is
another: in arrays, with another chance, on the same table against the same truth. That both say the same of the advice, and the
same as docs/search.md, is the check that a practice day is the world that the search was measured in.
"""

from __future__ import annotations

import argparse
import re
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import date
from pathlib import Path

import numpy as np
from search_days import Scored, Share, fish, share_of
from search_worlds import World

from stillthread.api import (
    LEVELS,
    PLAYED_MIN,
    READING_MIN,
    Hidden,
    Table,
    by_advice,
    by_ladder,
    choose,
    fished_by,
    knew,
    likely_of,
    new_seed,
    read_so_far,
    read_water,
    scenario_of,
    search_of,
    seeded,
    truth_of,
)
from tests.planning import BOX, FREE

ROOT = Path(__file__).resolve().parents[1]
KINDS = ("steady", "moving", "patchy", "barren")
USUALLY_READ = frozenset({"lowering", "look", "sounding"})
PLAN = re.compile(r"^\| (\w+), fair \| [\d() -]+, \d+ \| (\d+) \((\d+)-(\d+)\), \d+ \|$", re.MULTILINE)


@dataclass(frozen=True, slots=True)
class Day:
    """One day: takes expected of one who knew, of the advice and of the ladder; and by the bench, of him who knew and of the
    advice."""

    best: float
    advice: float
    ladder: float
    bench_best: float
    bench: float


def fish_a_day(job: tuple[str, str | None, int]) -> Day:
    """Fish the day of a number: as a level deals it, or of one kind of day, read whole and honestly."""
    level, kind, number = job
    draw = seeded(f"practice {level} {kind} {number}")
    scenario = scenario_of(new_seed(draw), level)
    hidden, read = scenario.hidden, USUALLY_READ
    if kind is not None:
        read = frozenset(READING_MIN)
        whole = read_water(read_so_far(scenario, read, 0.0))
        hidden = Hidden(scenario.seed, level, truth_of(likely_of(whole), kind, LEVELS[level], draw))
    table, _ = search_of(choose(read_water(read_so_far(scenario, read, 15.0)), BOX, FREE))
    of = Table.of(table)
    best, advice, ladder = (
        knew(hidden, of.options),
        fished_by(hidden, by_advice(table)),
        fished_by(hidden, by_ladder(of.options)),
    )
    if kind is None:
        return Day(best, advice, ladder, 0.0, 0.0)
    scored = fish(World(list(of.options), of.grid, own_teams=True), hidden.truth, of.grid, "ours", number)
    return Day(best, advice, ladder, scored.best, scored.takes)


def share(days: Sequence[Day], takes: str, best: str = "best") -> Share:
    return share_of([Scored(getattr(day, takes), getattr(day, best), 0.0, 0.0, 0) for day in days])


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--days", type=int, default=100)
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--dry", action="store_true", help="print, write nothing")
    chosen = parser.parse_args()
    cases = [*((level, None) for level in LEVELS), *(("fair", kind) for kind in KINDS)]
    found: dict[tuple[str, str | None], list[Day]] = {}
    with ProcessPoolExecutor(chosen.workers) as pool:
        for level, kind in cases:
            found[level, kind] = list(pool.map(fish_a_day, [(level, kind, i) for i in range(chosen.days)]))
            days = found[level, kind]
            print(level, kind, f"{np.mean([d.best for d in days]):.1f}", share(days, "advice"), share(days, "ladder"),
                  "" if kind is None else share(days, "bench", "bench_best"), flush=True)  # fmt: skip
    page = "\n".join(_page(found, chosen.days)) + "\n"
    if chosen.dry:
        print(page)
    else:
        (ROOT / "docs" / "practice.md").write_text(page)


def _short(of: Share) -> str:
    return f"{of.total:.0f} ({of.low:.0f}-{of.high:.0f})"


def _agrees(one: Share, other: Share) -> bool:
    return one.low <= other.high and other.low <= one.high


def _page(found: dict[tuple[str, str | None], list[Day]], many: int) -> list[str]:
    told = {kind: Share(float(total), float(low), float(high), 0.0)
            for kind, total, low, high in PLAN.findall((ROOT / "docs" / "search.md").read_text())}  # fmt: skip
    missing = set(KINDS) - told.keys()
    if missing:
        raise SystemExit(f"docs/search.md says nothing of {', '.join(sorted(missing))} with a plan's own table")
    levels, kinds = [], []
    for level in LEVELS:
        days = found[level, None]
        best = float(np.mean([day.best for day in days]))
        levels.append(f"| {level} | {best:.1f} | {_short(share(days, 'advice'))} | {_short(share(days, 'ladder'))} |")
    for kind in KINDS:
        days = found["fair", kind]
        ours, bench = share(days, "advice"), share(days, "bench", "bench_best")
        both = ["yes" if _agrees(ours, other) else f"no, by {_apart(ours, other):.1f}" for other in (bench, told[kind])]
        kinds.append(f"| {kind} | {_short(ours)} | {_short(bench)} | {_short(told[kind])} | {both[0]} | {both[1]} |")
    text = (ROOT / "scripts" / "practice_days.md").read_text()
    return [
        text.format(date=f"{date.today():%-d %B %Y}", days=many, levels="\n".join(levels), kinds="\n".join(kinds),
                    played=f"{PLAYED_MIN:.0f}").rstrip()
    ]  # fmt: skip


def _apart(one: Share, other: Share) -> float:
    return max(one.low - other.high, other.low - one.high)


if __name__ == "__main__":
    main()
