"""Was the advice right: promised against come, followed and not; and its correction, which the angler takes or leaves."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from typing import Any

import numpy as np
from common.problems import Refused
from django.db.models import CharField
from django.db.models.functions import Cast

from accounts.models import User
from advice.serializers import show_phrase
from days.finding import where_of
from days.models import Presentation, Stretch
from days.schemas import DaysQuery
from days.tally import tally
from lookback.rates import show_rate
from lookback.stretches import Way
from stillthread.api import Correction, Group, Phrase, Promise, correction_of, rates_of, reliability
from waters.models import Water
from waters.services import water_of

STANDINGS = {"best": "The first choice", "as-good": "Called as good", "other": "Another of its choices",
             "changed": "Its choice, changed", "move": "Its next move",
             "own": "Your own"}  # fmt: skip


def find_audit(owner: User, query: DaysQuery) -> dict[str, Any]:
    """Return what came of advice that was followed and of what was not, and how promises held."""
    left = tally(owner)
    rows = _fished(owner, query)
    promises = [row.promise for row in rows if row.promise is not None]
    by_standing: dict[str, list[_Row]] = defaultdict(list)
    for row in rows:
        by_standing[row.standing].append(row)
    keys = [key for key in STANDINGS if by_standing[key]]
    rates = rates_of([_by_day(key, by_standing[key]) for key in keys])
    correction = correction_of(promises)
    return {
        "followed": [
            show_rate(Way(key, Phrase(STANDINGS[key])), rate) for key, rate in zip(keys, rates, strict=True)
        ],
        "bins": [
            {
                "said_ph": round(one.said_ph, 3),
                "least_ph": round(one.least_ph, 3),
                "most_ph": round(one.most_ph, 3),
                "came_ph": round(one.came.mean_ph, 3),
                "low_ph": round(one.came.low_ph, 3),
                "high_ph": round(one.came.high_ph, 3),
                "hours": round(one.came.hours, 2),
                "takes": round(one.came.takes),
            }
            for one in reliability(promises)
        ],
        "promises": len(promises),
        "within": sum(promise.within for promise in promises),
        "correction": _show(correction),
        "taken": None if query.water_id is None else water_of(owner, query.water_id).takes_factor,
        "untallied": left,
    }  # fmt: skip


def _show(found: Correction) -> dict[str, Any]:
    return {
        "said": round(found.said, 2),
        "came": round(found.came),
        "factor": round(found.factor, 3),
        "low": round(found.low, 3),
        "high": round(found.high, 3),
        "offered": found.offered,
        "words": show_phrase(found.words),
    }


@dataclass(slots=True)
class _Row:
    """What was fished at once: of which day, for how long [h], what came, and what was promised of it."""

    day: str
    hours: float
    takes: int
    promise: Promise | None = None
    standing: str = "own"


def _fished(owner: User, query: DaysQuery) -> list[_Row]:
    """Return what was fished, with hours and takes, each with what was promised of it."""
    rows: dict[str, _Row] = {}
    found = Stretch.objects.filter(where_of(query, "day__facts__"), owner=owner)
    for one, day, hours, takes in found.values_list(_text("presentation_id"), _text("day_id"), "hours", "takes"):
        row = rows.setdefault(one, _Row(day, 0.0, 0))
        row.hours += hours
        row.takes += takes
    advised = Presentation.objects.filter(day__owner=owner, advice__isnull=False)
    for one, advice in advised.values_list(_text("id"), "advice"):
        known = rows.get(one)
        if known is not None:
            known.standing = advice["standing"]
            takes_ph, low_ph, high_ph = (advice[name] for name in ("takes_ph", "low_ph", "high_ph"))
            # An archive may bring a promise in part: of that nothing can be held against what came.
            if None not in (takes_ph, low_ph, high_ph):
                known.promise = Promise(
                    day=known.day,
                    said_ph=float(takes_ph),
                    low_ph=float(low_ph),
                    high_ph=float(high_ph),
                    hours=known.hours,
                    takes=known.takes,
                )
    return [row for row in rows.values() if row.hours > 0.0]


def _text(column: str) -> Cast:
    # Told apart as text: see `stretches.fished`.
    return Cast(column, CharField())


def _by_day(key: str, rows: list[_Row]) -> Group:
    days: dict[str, list[float]] = {}
    for row in rows:
        one = days.setdefault(row.day, [0.0, 0.0])
        one[0] += row.takes
        one[1] += row.hours
    takes, hours = np.array(list(days.values())).T
    return Group(key, takes, hours)


def take_correction(owner: User, water_id: int) -> Water:
    """Have promised takes at a water multiplied by what the log says, where it is sure enough to be offered."""
    water = water_of(owner, water_id)
    tally(owner)
    promises = [row.promise for row in _fished(owner, DaysQuery(water_id=water_id)) if row.promise is not None]
    found = correction_of(promises)
    if not found.offered:
        raise Refused(409, "not_offered", "The log is not sure enough of a correction here.")
    water.takes_factor = round(found.factor, 3)
    water.save(update_fields=["takes_factor"])
    return water


def leave_correction(owner: User, water_id: int) -> None:
    """Have promises said as the advice makes them."""
    water = water_of(owner, water_id)
    water.takes_factor = None
    water.save(update_fields=["takes_factor"])
