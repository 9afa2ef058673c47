"""What docs/extending.md says of a method is done: its page's file is added, and a plan fishes it."""

from __future__ import annotations

import re
import unittest
from pathlib import Path
from types import MappingProxyType
from typing import Any
from unittest import mock

from stillthread import ranges
from stillthread.depth.picture import read_water
from stillthread.plan import choose as choosing
from stillthread.plan.box import Box, Pins
from stillthread.plan.choose import choose
from stillthread.plan.explaining.ladder import ladder
from stillthread.plan.explaining.team import seats
from stillthread.plan.methods import METHODS, base
from stillthread.rules.method_names import METHOD_NAMES
from stillthread.rules.water_rules import WaterRules
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from tests.rigs import conditions

PAGE = Path(__file__).resolve().parents[2] / "docs" / "extending.md"
WATER = read_water(conditions())
BOX = Box(starter_lines(), STARTER_FLIES)


class ExtendingTests(unittest.TestCase):
    def added(self) -> Any:
        """Return the method that the page writes."""
        (source,) = re.findall(
            r"<!-- carried out by core/tests/test_extending.py -->\n```python\n(.*?)```", PAGE.read_text(), re.DOTALL
        )
        room: dict[str, Any] = {"__name__": "stillthread.plan.methods.slow_lift"}
        exec(compile(source, "slow_lift.py", "exec"), room)
        return room["SlowLift"]()

    def test_the_method_of_the_page_is_planned_tied_and_followed_by_its_ladder(self) -> None:
        method = self.added()
        rows = MappingProxyType({**METHODS, method.key: method})
        names = MappingProxyType({**METHOD_NAMES, method.key: "Slow line, lift and hang"})
        with mock.patch.object(choosing, "METHODS", rows), mock.patch.object(base, "METHOD_NAMES", names):
            plan = choose(WATER, BOX, WaterRules())
            alone = choose(WATER, BOX, WaterRules(), pins=Pins(method_key=method.key))
            said = [rung.words.plain() for rung in ladder(alone)]
        self.assertIn("slow-lift", [one.option.method.key for one in plan.ranked])
        (one,) = alone.ranked
        self.assertLessEqual(one.option.rig.line.front_mps, 0.03)
        self.assertGreater(one.takes_ph, 0.0)
        self.assertIn("Suits pupae that climb", one.reasons[-1].plain())
        self.assertEqual(seats(one, WATER)[0].place, "point")
        self.assertIn("slow line, lift and hang", said[0].lower())

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
