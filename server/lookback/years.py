"""A water through the year: how warm, how deep the step, what food showed, and the first and last days."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

from accounts.models import User
from days.models import DayFacts
from days.tally import tally
from stillthread.api import FOODS
from waters.services import water_of

MOST_POINTS = 400


def find_year(owner: User, water_id: int) -> dict[str, Any]:
    """Return what the log knows of a water's year."""
    left = tally(owner)
    water = water_of(owner, water_id)
    names = ("on", "surface_c", "thermocline_m", "secchi_m", "foods", "hours", "takes")
    rows = [dict(zip(names, row, strict=True)) for row in
            DayFacts.objects.filter(owner=owner, water=water).order_by("at").values_list(*names)]  # fmt: skip
    foods: dict[str, list[float]] = defaultdict(lambda: [0.0] * 12)
    days = [0] * 12
    for row in rows:
        month = row["on"].month - 1
        days[month] += 1
        for key, weight in row["foods"].items():
            foods[key][month] += weight
    every = max(-(-len(rows) // MOST_POINTS), 1)
    return {
        "points": [
            {"on": row["on"], "surface_c": row["surface_c"], "thermocline_m": row["thermocline_m"], "secchi_m": row["secchi_m"]}
            for row in rows[::every]
        ],
        "shown_every": every,
        "foods": [
            {"key": key, "name": FOODS[key].name if key in FOODS else key, "months": [round(w, 2) for w in months]}
            for key, months in sorted(foods.items(), key=lambda food: -sum(food[1]))
        ],
        "days_in_month": days,
        "first_on": rows[0]["on"] if rows else None,
        "last_on": rows[-1]["on"] if rows else None,
        "first_takes_on": [on for on in (_edge(rows, year, 0) for year in _years(rows)) if on],
        "last_takes_on": [on for on in (_edge(rows, year, -1) for year in _years(rows)) if on],
        "untallied": left,
    }


def _years(rows: list[dict[str, Any]]) -> list[int]:
    return sorted({row["on"].year for row in rows})


def _edge(rows: list[dict[str, Any]], year: int, end: int) -> Any:
    took = [row["on"] for row in rows if row["on"].year == year and row["takes"]]
    return took[end] if took else None
