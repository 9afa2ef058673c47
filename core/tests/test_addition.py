"""One tie or one purchase: it must help, and only what is not owned is proposed."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import datetime

from stillthread.depth.picture import read_water
from stillthread.plan.box import Box
from stillthread.plan.choose import choose
from stillthread.plan.seeking.addition import best_addition
from stillthread.rules.water_rules import WaterRules
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.water.reading import Reading
from stillthread.weather.wind import Wind
from tests.rigs import SUMMER_TIME, conditions

HATCH = read_water(
    conditions(
        at=datetime(2026, 6, 20, 14, tzinfo=SUMMER_TIME),
        readings=(Reading(0.0, 17.5), Reading(1.0, 17.0)),
        bottom_depth_m=2.0,
        wind=Wind(3.0, 225.0),
        signs=("damsels-about",),
    )
)
FREE = WaterRules()


class AdditionTests(unittest.TestCase):
    def test_without_the_fly_they_are_on_that_fly_is_the_one_to_tie(self) -> None:
        poor = Box(
            lines=starter_lines(),
            flies=tuple(fly for fly in STARTER_FLIES if "damsel-nymph" not in fly.foods and fly.style != "dry"),
        )
        plan = choose(HATCH, poor, FREE)
        found = best_addition(plan)
        assert found is not None
        named = {fly.name: fly for fly in STARTER_FLIES}
        self.assertEqual((found.kind, named[found.name].foods), ("fly", ("damsel-nymph",)))
        # And it is true: with it in the box the plan is better.
        richer = choose(HATCH, replace(poor, flies=(*poor.flies, named[found.name])), FREE)
        self.assertGreater(richer.ranked[0].takes_ph, plan.ranked[0].takes_ph)

    def test_what_is_owned_or_forbidden_is_not_proposed(self) -> None:
        whole = Box(lines=starter_lines(), flies=STARTER_FLIES)
        found = best_addition(choose(HATCH, whole, FREE))
        self.assertIsNone(found)
        few = Box(lines=starter_lines(), flies=STARTER_FLIES[:3])
        strict = WaterRules(largest_hook=14, lures=False)
        found = best_addition(
            choose(HATCH, replace(few, flies=tuple(f for f in STARTER_FLIES if f.fly.hook_size >= 14)[:3]), strict)
        )
        if found is not None and found.kind == "fly":
            tied = next(fly for fly in STARTER_FLIES if fly.name == found.name)
            self.assertGreaterEqual(tied.fly.hook_size, 14)

    def test_a_line_that_reaches_them_is_worth_buying(self) -> None:
        deep = read_water(conditions(bottom_depth_m=9.0, readings=tuple(Reading(float(d), t) for d, t in enumerate((22.0, 21.8, 21.5, 21.0, 18.0, 14.5, 12.0, 11.0, 10.0)))))  # fmt: skip
        shallow = Box(lines=tuple(line for line in starter_lines() if line.class_key == "very-slow"), flies=STARTER_FLIES)
        plan = choose(deep, shallow, FREE)
        found = best_addition(plan)
        assert found is not None
        self.assertGreater(found.gain, 0.08)
