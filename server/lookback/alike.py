"""Days like this one: which they were, what worked on them, and how they lean the belief."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

import numpy as np

from accounts.models import Preferences, User
from advice.condition_schemas import ConditionsIn
from advice.payloads import conditions_of
from advice.serializers import show_phrase
from days.models import DayFacts, Stretch
from days.tally import LAYERS, tally
from stillthread.api import (
    Conditions,
    DayTraits,
    Lean,
    LikeDay,
    alikeness,
    lean_of,
    northern_day,
    sun_elevation_deg,
    surface_brightness,
)

LEAST_ALIKE, MOST_DAYS, SHOWN = 0.05, 40, 6
TRAITS = ("northern_day", "surface_c", "light", "wind_mps", "secchi_m", "water_id")


def traits_of(water_id: int, conditions: Conditions) -> DayTraits:
    top = min(conditions.readings, key=lambda reading: reading.depth_m)
    light = surface_brightness(sun_elevation_deg(conditions.place, conditions.at), conditions.cloud_fraction)
    on = northern_day(conditions.place.latitude_deg, conditions.at.date())
    return DayTraits(
        northern_day=on,
        surface_c=top.water_c,
        light=light,
        wind_mps=conditions.wind.speed_mps,
        secchi_m=conditions.secchi_m,
        water_id=water_id,
    )


def _nearest(owner: User, water_id: int, conditions: Conditions) -> list[tuple[float, Any]]:
    """Return how alike, and the day, of those before this one that are alike at all; the most alike first."""
    # The day itself is no day like it, however much of it is logged already.
    morning = conditions.at.replace(hour=0, minute=0, second=0, microsecond=0)
    before = DayFacts.objects.filter(owner=owner, at__lt=morning, hours__gt=0.0)
    rows = list(before.values_list("day_id", *TRAITS))
    if not rows:
        return []
    alike = alikeness(traits_of(water_id, conditions), [DayTraits(*row[1:]) for row in rows])
    order = np.argsort(-alike, kind="stable")[:MOST_DAYS]
    return [(float(alike[i]), rows[i][0]) for i in order if alike[i] >= LEAST_ALIKE]


def lean_for(owner: User, water_id: int, conditions: Conditions) -> Lean | None:
    """Return how an angler's log leans the belief, unless he has it left out."""
    if Preferences.objects.filter(user=owner, uses_log=False).exists():
        return None
    return _lean(_nearest(owner, water_id, conditions), conditions.deepest_m)


def _lean(nearest: list[tuple[float, Any]], deepest_m: float) -> Lean | None:
    if not nearest:
        return None
    sums: dict[Any, np.ndarray[Any, Any]] = defaultdict(lambda: np.zeros((2, LAYERS)))
    rows = Stretch.objects.filter(day_id__in=[day for _, day in nearest])
    for day_id, packed, told in rows.values_list("day_id", "layers", "presentation__told"):
        if told is None:
            continue
        layers = np.frombuffer(bytes(packed), np.float32).reshape(6, LAYERS)
        worth = np.array(told["worth"], dtype=np.float64)
        worth = np.pad(worth, (0, max(LAYERS - len(worth), 0)), mode="edge")[:LAYERS]
        sums[day_id] += (layers[1], layers[0] / 3600.0 * worth)
    return lean_of([LikeDay(alike, *sums[day]) for alike, day in nearest if day in sums], deepest_m)


def find_alike(owner: User, payload: ConditionsIn) -> dict[str, Any]:
    """Return the days most like this one, what worked on each, and how far the log counts."""
    left = tally(owner)
    conditions = conditions_of(owner, payload)
    nearest = _nearest(owner, payload.water_id, conditions)
    lean = _lean(nearest, conditions.deepest_m)
    facts = {
        row.day_id: row for row in DayFacts.objects.filter(day_id__in=[d for _, d in nearest[:SHOWN]]).select_related("water")
    }
    best = _worked([day for _, day in nearest[:SHOWN]])
    preferences = Preferences.objects.filter(user=owner).first()
    return {
        "days": [
            {
                "id": day,
                "alike": round(alike, 3),
                "on": facts[day].on,
                "water_name": facts[day].water.name,
                "surface_c": facts[day].surface_c,
                "wind_mps": facts[day].wind_mps,
                "hours": round(facts[day].hours, 2),
                "takes": facts[day].takes,
                "landed": facts[day].landed,
                "take_depths": facts[day].take_depths,
                "worked": best.get(day),
            }
            for alike, day in nearest[:SHOWN]
        ],
        "alike": len(nearest),
        "lean": None if lean is None else {"share": round(lean.share, 3), "words": show_phrase(lean.why)},
        "counted": preferences is None or preferences.uses_log,
        "untallied": left,
    }


def _worked(days: list[Any]) -> dict[Any, dict[str, Any]]:
    """Return the line and fly that took most on each day, with takes and hours."""
    sums: dict[Any, dict[tuple[str, str], list[float]]] = defaultdict(dict)
    rows = Stretch.objects.filter(day_id__in=days).values_list("day_id", "line", "by_fly", "hours")
    for day, line, team, hours in rows:
        for fly, takes, _ in team:
            one = sums[day].setdefault((line, fly), [0.0, 0.0])
            one[0] += takes
            one[1] += hours
    found = {}
    for day, ways in sums.items():
        (line, fly), (took, in_h) = max(ways.items(), key=lambda way: (way[1][0], -way[1][1]))
        if took:
            found[day] = {"line": line, "fly": fly, "takes": int(took), "hours": round(in_h, 2)}
    return found
