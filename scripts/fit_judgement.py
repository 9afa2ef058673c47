"""Fit the numbers of the judgement that are ours to the project's own table of practice (`core/tests/practice/rows.py`).

    PYTHONPATH=core .venv/bin/python scripts/fit_judgement.py            what today's numbers hold
    PYTHONPATH=core .venv/bin/python scripts/fit_judgement.py --search   a coordinate search within each number's bounds

A vector of numbers is worth the weight of checks that hold, and a little for the margin by which the methods that practice
wants stand before the others. The search moves one number at a time, a step up and a step down, and keeps what is better.
Leave-one-out: for each row, of all vectors that the search visited, the one that is best on the other rows is asked for it.
"""

from __future__ import annotations

import argparse
import json
import math
import os
import time
from dataclasses import asdict, replace
from functools import lru_cache
from multiprocessing import Pool
from pathlib import Path
from typing import Any

from stillthread.judgement import JUDGEMENT, Judgement, numbers
from stillthread.plan import exposure
from stillthread.plan.seeking import weigher
from tests.practice.asking import WEIGHTS, Asked, ask, share_held
from tests.practice.rows import ROWS

ROOT = Path(__file__).resolve().parents[1]

# Paths depend on no number of the judgement but through the choice of what to try: kept, a second look costs a tenth.
weigher.quick_exposure = lru_cache(maxsize=200_000)(exposure.quick_exposure.__wrapped__)  # type: ignore[attr-defined]

MARGIN_SHARE, MARGIN = 0.3, 0.15  # ours: a margin of 15 % is as good as any
PROCESSES = 2
# Common practice has the sign of these right and leaves the size to us.
SIZED = {
    "glare_cost", "glare_m", "pressed_cost", "cold_cost", "passes_more", "uneven_cost", "drift_meets", "lure_shy_cost",
    "still_shy", "float_wave_cost", "hands_on", "rise_power", "attracts_cold", "roam_shallow", "layer_hold_m",
}  # fmt: skip
SEARCHED = [name for name, _, about in numbers() if about["source"] == "ours" or name in SIZED]
FIXED = {"takes_ph", "shortest_within", "as_good_within"}


def margin(q: Asked) -> float:
    """Return by how much what practice wants first stands before the rest, -1 to 1, weighed as its check is; 0 without one."""
    total = 0.0
    for kind, *wants in q.row.checks:
        if kind == "first":
            worth = {one.option.method.key: one.takes_ph for one in q.plan.ranked}
            wanted = max((takes for key, takes in worth.items() if key in wants[0]), default=1e-6)
            other = max((takes for key, takes in worth.items() if key not in wants[0]), default=1e-6)
            total += WEIGHTS["first"] * min(max(math.log(wanted / other) / MARGIN, -1.0), 1.0)
    return MARGIN_SHARE * total


def judge(job: tuple[int, Judgement]) -> tuple[int, float, float, float]:
    """Return the row's number, the weight that holds, all of its weight, and its margin."""
    index, judgement = job
    q = ask(ROWS[index], judgement)
    held, of = share_held(q)
    return index, held, of, margin(q)


class Table:
    """Every vector that was tried, with what each row gave it."""

    def __init__(self, pools: list[Any]) -> None:
        self.pools = pools
        self.tried: dict[str, tuple[Judgement, list[tuple[float, float, float]]]] = {}

    def worth(self, judgement: Judgement) -> float:
        key = json.dumps(asdict(judgement))
        if key not in self.tried:
            # A row is always asked in the same process, where its paths are kept.
            jobs = [pool.map_async(judge, [(i, judgement) for i in range(k, len(ROWS), PROCESSES)], chunksize=1)
                    for k, pool in enumerate(self.pools)]  # fmt: skip
            found = sorted(answer for job in jobs for answer in job.get())
            self.tried[key] = (judgement, [(held, of, soft) for _, held, of, soft in found])
        rows = self.tried[key][1]
        return sum(held + soft for held, _, soft in rows)

    def held(self, judgement: Judgement) -> float:
        rows = self.tried[json.dumps(asdict(judgement))][1]
        return sum(held for held, _, _ in rows) / sum(of for _, of, _ in rows)

    def leave_one_out(self) -> float:
        vectors = [rows for _, rows in self.tried.values()]
        totals = [sum(held + soft for held, _, soft in rows) for rows in vectors]
        kept = of = 0.0
        for i in range(len(ROWS)):
            best = max(range(len(vectors)), key=lambda v: totals[v] - vectors[v][i][0] - vectors[v][i][2])
            kept, of = kept + vectors[best][i][0], of + vectors[best][i][1]
        return kept / of


def search(table: Table, start: Judgement, minutes: float, only: list[str]) -> Judgement:
    """Return the best vector found by moving one number at a time."""
    best, until = start, time.monotonic() + 60.0 * minutes
    bounds = {name: about["bounds"] for name, _, about in numbers()}
    for share in (0.25, 0.12):
        for name in only or [name for name in SEARCHED if name not in FIXED]:
            low, high = bounds[name]
            for sign in (1.0, -1.0):
                value = round(min(max(getattr(best, name) + sign * share * (high - low), low), high), 4)
                if value == getattr(best, name) or time.monotonic() > until:
                    continue
                moved = replace(best, **{name: value})
                if table.worth(moved) > table.worth(best) + 1e-9:
                    best = moved
                    print(f"{name} = {value}: {table.worth(best):.2f}, {table.held(best):.1%}", flush=True)
                    break
    return best


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--search", action="store_true")
    parser.add_argument("--minutes", type=float, default=30.0)
    parser.add_argument("--only", nargs="*", default=[], help="search these numbers alone")
    parser.add_argument("--write", default="", help="a file for the figures, as JSON")
    asked = parser.parse_args()
    os.environ.setdefault("OMP_NUM_THREADS", "1")
    pools = [Pool(1) for _ in range(PROCESSES)]
    table = Table(pools)
    table.worth(JUDGEMENT)
    print(f"today: {table.worth(JUDGEMENT):.2f}, {table.held(JUDGEMENT):.1%} of the weight of {len(ROWS)} rows", flush=True)
    best = search(table, JUDGEMENT, asked.minutes, asked.only) if asked.search else JUDGEMENT
    changed = {name: getattr(best, name) for name, value, _ in numbers() if getattr(best, name) != value}
    figures = {"held": table.held(best), "leave_one_out": table.leave_one_out(), "tried": len(table.tried), "changed": changed}
    print(json.dumps(figures, indent=1))
    if asked.write:
        Path(asked.write).write_text(json.dumps(figures, indent=1) + "\n")
    for pool in pools:
        pool.terminate()
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
