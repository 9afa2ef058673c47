"""What docs/extending.md says of a method is done: its page's file is added, and a plan fishes it."""

from __future__ import annotations

import re
import unittest
from dataclasses import replace
from datetime import date
from pathlib import Path
from types import MappingProxyType
from typing import Any
from unittest import mock

from stillthread import ranges
from stillthread.depth.picture import read_water
from stillthread.food import inference
from stillthread.food.catalogue import FOODS
from stillthread.food.inference import FoodPicture, Sample, SampleItem, rank_food
from stillthread.food.signs import SIGNS, Sign
from stillthread.plan import choose as choosing
from stillthread.plan.box import Box, Pins
from stillthread.plan.choose import Plan, choose
from stillthread.plan.explaining.ladder import ladder
from stillthread.plan.explaining.team import seats
from stillthread.plan.methods import METHODS, base
from stillthread.plan.search_table.table import search_table
from stillthread.rules.method_names import METHOD_NAMES
from stillthread.rules.water_rules import WaterRules
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from tests.rigs import conditions

PAGE = Path(__file__).resolve().parents[2] / "docs" / "extending.md"
WATER = read_water(conditions())
BOX = Box(lines=starter_lines(), flies=STARTER_FLIES)


SIGN = Sign("gulls-wheel", "Gulls wheel", "birds that circle low over one place", MappingProxyType({"midge-pupa": 0.4}), 0.05)
GRUB = replace(FOODS["leech"], key="grub", name="Grub", usual=1e-9)


class ExtendingTests(unittest.TestCase):
    def added(self, name: str) -> Any:
        """Return a method that the page writes."""
        sources = re.findall(
            r"<!-- carried out by core/tests/test_extending.py -->\n```python\n(.*?)```", PAGE.read_text(), re.DOTALL
        )
        (source,) = (one for one in sources if f"class {name}(" in one)
        room: dict[str, Any] = {"__name__": f"stillthread.plan.methods.{name.lower()}"}
        exec(compile(source, f"{name}.py", "exec"), room)
        return room[name]()

    def fished(self, method: Any, named: str, box: Box = BOX) -> tuple[Plan, list[str]]:
        """Return the plan of a further method alone, and its ladder in words; look at how it is tied and followed."""
        rows = MappingProxyType({**METHODS, method.key: method})
        names = MappingProxyType({**METHOD_NAMES, method.key: named})
        with mock.patch.object(choosing, "METHODS", rows), mock.patch.object(base, "METHOD_NAMES", names):
            plan = choose(WATER, box, WaterRules())
            alone = choose(WATER, box, WaterRules(), pins=Pins(method_key=method.key))
            rungs = ladder(alone)
            table, ways = search_table(alone)
        self.assertIn(method.key, [one.option.method.key for one in plan.ranked])
        (one,) = alone.ranked
        self.assertGreater(one.takes_ph, 0.0)
        self.assertEqual(seats(one, WATER)[0].place, "point")
        self.assertIn(named.lower(), rungs[0].words.plain().lower())
        self.assertTrue(all(way.method is method for way in ways.values()))
        self.assertEqual(len(table["options"]), len(ways))
        return alone, [rung.words.plain() for rung in rungs]

    def test_the_method_of_the_page_is_planned_tied_and_followed_by_its_ladder(self) -> None:
        alone, _ = self.fished(self.added("SlowLift"), "Slow line, lift and hang")
        (one,) = alone.ranked
        self.assertLessEqual(one.option.rig.line.front_mps, 0.03)
        self.assertIn("Suits pupae that climb", one.reasons[-1].plain())

    def test_a_second_float_and_a_second_tow_are_one_file_each(self) -> None:
        alone, rungs = self.fished(self.added("HighFloat"), "High float")
        self.assertLessEqual(alone.ranked[0].option.action.float_m or 99.0, 2.0)
        self.assertIn("Set the float at", rungs[1])
        alone, rungs = self.fished(self.added("Crawl"), "Crawl", replace(BOX, boat=True))
        self.assertEqual((alone.ranked[0].option.action.kind, alone.ranked[0].option.action.pace_mps), ("tow", 0.15))
        self.assertIn("Let out 5.0 m more line.", rungs)

    def test_one_more_food_or_sign_leaves_what_is_known_of_the_others_as_it_was(self) -> None:
        def ranked(**seen: Any) -> FoodPicture:
            return rank_food(
                latitude_deg=61.2, on=date(2026, 7, 14), hour=10.0, water_c=15.0, wind_speed_mps=3.0, brightness=0.6, **seen
            )

        sample = Sample((SampleItem("shrimp", 3, 10.0), SampleItem("fry", 1, 30.0)))
        before = ranked(sample=sample)
        with mock.patch.object(inference, "FOODS", MappingProxyType({**FOODS, GRUB.key: GRUB})):
            after = ranked(sample=sample)
        for key in ("shrimp", "fry", "midge-pupa"):
            self.assertAlmostEqual(after.probability(key), before.probability(key), places=6)
        with mock.patch.object(inference, "SIGNS", MappingProxyType({**SIGNS, SIGN.key: SIGN})):
            seen = ranked(signs=(SIGN.key,))
        odds = [p.probability("midge-pupa") / p.probability("leech") for p in (ranked(), seen)]
        self.assertAlmostEqual(odds[1] / odds[0], 0.4 / 0.05, places=6)

    def test_every_room_that_the_page_names_is_there(self) -> None:
        root = PAGE.parents[1]
        named = set(re.findall(r"`((?:core|server|web)/[\w/]+\.\w+)`", PAGE.read_text()))
        self.assertGreater(len(named), 6)
        self.assertEqual([path for path in named if not (root / path).is_file()], [])

    def test_the_glossary_has_every_quantity_that_has_a_range_and_its_bounds(self) -> None:
        said = (PAGE.parent / "glossary.md").read_text()
        of = {
            "depth_m": ranges.DEPTH_M, "far_bottom_depth_m": ranges.BOTTOM_DEPTH_M, "weed_m": ranges.WEED_M,
            "oxygen_mgl": ranges.OXYGEN_MGL, "secchi_m": ranges.SECCHI_M, "altitude_m": ranges.ALTITUDE_M,
            "wind_speed_mps": ranges.WIND_MPS, "wind_from_deg": ranges.WIND_FROM_DEG, "sink_rate_mps": ranges.SINK_RATE_MPS,
            "above_point_m": ranges.ABOVE_POINT_M, "cast_m": ranges.CAST_M, "count_s": ranges.COUNT_S,
            "retrieve_mps": ranges.RETRIEVE_MPS, "slack": ranges.SLACK, "tip_mps": ranges.TIP_MPS, "set_depth_m": ranges.SET_DEPTH_M,
            "for_s": ranges.FOR_S, "out_m": ranges.OUT_M, "water_c": ranges.WATER_C,
        }  # fmt: skip
        for name, valid in of.items():
            with self.subTest(name):
                row = next(line for line in said.splitlines() if line.startswith("|") and f"`{name}`" in line)
                self.assertIn(f"{valid.low:g} to {valid.high:g}", row)
