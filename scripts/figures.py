"""What is measured, and its spread."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Figure:
    """One thing measured: what, its figure in words, and what it is held against."""

    what: str
    found: str
    aim: str


def times_ms(work: Callable[[], object], runs: int) -> list[float]:
    """Return the sorted durations of `runs` calls, after one that is not counted."""
    work()
    durations = []
    for _ in range(runs):
        start = time.perf_counter()
        work()
        durations.append(1000.0 * (time.perf_counter() - start))
    return sorted(durations)


def spread(durations: list[float]) -> str:
    high = durations[min(int(0.95 * len(durations)), len(durations) - 1)]
    return f"median {statistics.median(durations):.1f} ms, p95 {high:.1f} ms"
