"""A practice day as a device takes it along: what it needs to play the day to its end with no connection."""

from __future__ import annotations

import json
from collections.abc import Iterator
from itertools import combinations
from typing import Any
from uuid import UUID

from common.problems import Refused
from django.db import transaction

from accounts.models import User
from advice.run_serializers import show_action
from practice.models import PracticeDay
from practice.services import (
    EVERY,
    day_of,
    planned,
    scenario_of_day,
    show_name,
    show_option,
    show_plan_of,
    show_seen,
    water_of_day,
)
from stillthread.api import DAY_MIN, Option, Scenario, game, shot_of

HOUR_MIN = 60.0


def take_along(owner: User, day_id: UUID) -> dict[str, Any]:
    """Return the day with all that may become of it; from now on its truth is on the device, sealed.

    A day that was taken along before is given again as it was.
    """
    with transaction.atomic():
        day = day_of(owner, day_id, lock=True)
        if day.ended_at is not None:
            raise Refused(409, "day_ended", "This day has ended. Deal another.")
        if day.taken is None:
            day.taken = {"made": sorted(game.made(day.log)), "hour": int(min(game.at_min(day.log), DAY_MIN - 1.0) / HOUR_MIN)}
            day.save(update_fields=["taken"])
    return _pack(day, frozenset(day.taken["made"]), day.taken["hour"])


def _pack(day: PracticeDay, read: frozenset[str], hour: int) -> dict[str, Any]:
    scenario, of = scenario_of_day(day), water_of_day(day)
    plans, tables = [], []
    for made in game.ahead(read):
        plan, table, ways = planned(of, made, hour)
        fished = {key: {**show_option(option), "shot": shot_of(option.rig, option.action, scenario)}
                  for key, option in ways.items()}  # fmt: skip
        turns = {one.option.method.key: [*_turned(one.option, scenario)] for one in plan.ranked}
        plans.append({"made": sorted(made), **show_plan_of(plan), "ways": fished, "turns": turns})
        tables.append({"made": sorted(made), "table": table})
    return {
        "name": show_name(day),
        "game": json.dumps({"sealed": game.seal(scenario.hidden, scenario.likely), "plans": tables}),
        "plans": plans,
        "seen": dict(_seen(scenario, read, hour)),
        "log": day.log,
    }


def _turned(option: Option, scenario: Scenario) -> Iterator[dict[str, Any]]:
    """Yield a way to fish at the counts, or the depths of its float, that an angler may turn it to."""
    for action in [option.action, *option.action.turned(option.rig, scenario.conditions.bottom_depth_m)]:
        yield {"action": show_action(action), "shot": shot_of(option.rig, action, scenario)}


def _seen(scenario: Scenario, read: frozenset[str], hour: int) -> Iterator[tuple[str, Any]]:
    """Yield the water as it looks from now on, hour by hour, by what may have been read till then."""
    left = sorted(EVERY - read)
    for many in range(len(left) + 1):
        for more in combinations(left, many):
            made = read | set(more)
            for at in range(hour, int(DAY_MIN / HOUR_MIN)):
                yield f"{'+'.join(sorted(made))}|{at}", show_seen(scenario, made, HOUR_MIN * at)
