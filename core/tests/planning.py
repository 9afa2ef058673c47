"""What the tests of a plan share: the starter box, pictures by date, and every option that a plan looks at."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from stillthread.depth.picture import WaterPicture, read_water
from stillthread.plan.box import Box
from stillthread.plan.choose import Plan, given_for
from stillthread.plan.methods import METHODS
from stillthread.plan.methods.base import Given
from stillthread.plan.option import Option
from stillthread.plan.scoring.scorer import Scorer
from stillthread.plan.seeking import Weigher, seek
from stillthread.rules.water_rules import WaterRules
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.trade.schools import SCHOOLS
from stillthread.water.reading import Reading
from tests.rigs import SUMMER_TIME, conditions

BOX = Box(lines=starter_lines(), flies=STARTER_FLIES)
SMALL_BOX = Box(
    lines=tuple(line for line in starter_lines() if line.class_key in {"floating", "intermediate", "type-5"}),
    flies=STARTER_FLIES[::4],
)
FREE = WaterRules()
NAMED = {fly.name: fly for fly in STARTER_FLIES}


def picture(month: int, day: int, hour: float, readings: tuple[tuple[float, float], ...], **changes: Any) -> WaterPicture:
    at = datetime(2026, month, day, int(hour), int(60 * (hour % 1)), tzinfo=SUMMER_TIME)
    return read_water(conditions(at=at, readings=tuple(Reading(d, t) for d, t in readings), **changes))


SUMMER_DAY = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=5.0)


def keys(plan: Plan, first: int) -> list[str]:
    return [one.option.method.key for one in plan.ranked[:first]]


def looked_at(given: Given) -> tuple[list[Option], dict[str, str]]:
    """Return every option that a plan simulates on its way, and why other methods are left out."""
    options: list[Option] = []
    weigher = Weigher(given, Scorer(given, SCHOOLS["best"]), watch=options.append)
    methods = [method for method in METHODS.values() if given.pins.method_key in {None, method.key}]
    answers = seek(weigher, methods)
    excluded = {method.key: answer for method, answer in zip(methods, answers, strict=True) if isinstance(answer, str)}
    return options, excluded


def options_for(water: WaterPicture, box: Box, rules: WaterRules, **asked: Any) -> tuple[list[Option], dict[str, str]]:
    return looked_at(given_for(water, box, rules, **asked))


def scorer_for(water: WaterPicture, **asked: Any) -> Scorer:
    return Scorer(given_for(water, BOX, FREE, **asked), SCHOOLS["best"])


def fly(name: str) -> BoxFly:
    return NAMED[name]
