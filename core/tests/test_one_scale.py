"""What the plan promises and what the search expects before the first cast are one number, on any day."""

from __future__ import annotations

import random
import unittest
from datetime import datetime

from stillthread.depth.picture import read_water
from stillthread.plan.choose import Plan, choose
from stillthread.plan.methods import METHODS
from stillthread.plan.search_table.table import search_table
from stillthread.search.day import Table
from stillthread.search.presentation import as_json
from stillthread.search.thinker import Thinker
from stillthread.water.reading import Reading
from tests.effort import LONG
from tests.planning import BOX, FREE
from tests.rigs import SUMMER_TIME, conditions

TENTH = 0.1


def random_day(luck: random.Random) -> Plan:
    """Return the plan of some day from March to November: what was read at the top alone, over some depth of water."""
    at = datetime(2026, luck.randint(3, 11), luck.randint(1, 28), luck.randint(8, 18), tzinfo=SUMMER_TIME)
    top = (Reading(0.0, luck.uniform(4.5, 21.0)),)
    return choose(read_water(conditions(at=at, readings=top, bottom_depth_m=luck.uniform(2.0, 12.0))), BOX, FREE)


class OneScaleTests(unittest.TestCase):
    def test_before_the_first_cast_the_search_expects_what_the_plan_promises_of_every_methods_best(self) -> None:
        luck = random.Random(20)
        for day in range(300 if LONG else 3):
            plan = random_day(luck)
            told, ways = search_table(plan)
            table = Table.of(told)
            thinker = Thinker(told)
            of = {one.key: one for one in table.options}
            for ranked in plan.ranked:
                key = next(key for key, way in ways.items() if way is ranked.option)
                move = thinker.think({"fished": {"a": as_json(of[key])}, "now": "a"})["move"]
                with self.subTest(day=day, key=key):
                    self.assertAlmostEqual(move["stay"]["takes_ph"], ranked.takes_ph, delta=TENTH * ranked.takes_ph)

    def test_a_waters_own_log_sets_both_right_alike(self) -> None:
        plan = random_day(random.Random(7))
        plain, twice = search_table(plan)[0], search_table(plan, 2.0)[0]
        self.assertAlmostEqual(twice["grid"]["rate_pmin"] / plain["grid"]["rate_pmin"], 2.0, places=3)
        self.assertEqual([one["share"] for one in plain["options"]], [one["share"] for one in twice["options"]])

    def test_seats_are_known_for_every_number_of_flies_that_a_method_may_have(self) -> None:
        told = search_table(random_day(random.Random(7)))[0]
        methods = {one["method"] for one in told["options"]}
        known = {key for fly in told["about"].values() for key in fly["fits"]}
        for key in methods:
            sizes = range(METHODS[key].least_flies, METHODS[key].most_flies + 1)
            self.assertLessEqual({f"{key}/{n}" for n in sizes}, known, key)
        self.assertLessEqual(max(len(fly["fits"]) for fly in told["about"].values()), 60)
