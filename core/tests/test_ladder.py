"""The ladder: what to change when nothing comes, rung by rung."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from stillthread.plan.box import Pins
from stillthread.plan.choose import choose
from stillthread.plan.explaining.ladder import ladder
from stillthread.plan.scoring.cruisers import how_to_lead, lead_m
from stillthread.sinking.cast import Cast, level_water, simulate
from stillthread.sinking.hang import Hang
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.tackle.flies import Fly
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.trade.schools import SCHOOLS
from stillthread.weather.wind import Wind
from tests.planning import BOX, FREE, SMALL_BOX, SUMMER_DAY, options_for, picture
from tests.rigs import LEADER


class LadderTests(unittest.TestCase):
    def test_one_thing_changes_at_a_time_depth_before_fly_unless_the_school_says_otherwise(self) -> None:
        plan = choose(SUMMER_DAY, SMALL_BOX, FREE)
        plain = [rung.changes for rung in ladder(plan)]
        self.assertEqual((plain[0], plain[-1]), ("start", "place"))
        self.assertLess(plain.index("depth"), plain.index("fly"))
        fly_first = [rung.changes for rung in ladder(plan, SCHOOLS["fly-first"])]
        self.assertLess(fly_first.index("fly"), fly_first.index("depth"))
        self.assertTrue(all(rung.minutes > 0.0 for rung in ladder(plan)))

    def test_a_float_is_stepped_a_foot_or_two_every_ten_minutes_from_the_bottom_up_or_down(self) -> None:
        # Common practice: steps of 1 to 2 ft, about ten minutes each.
        plan = choose(SUMMER_DAY, BOX, FREE, pins=Pins(method_key="indicator"))
        up = [rung for rung in ladder(plan, SCHOOLS["bottom-up"]) if rung.changes == "depth"]
        depths = [rung.words.values["set_m"] for rung in up]
        self.assertEqual(depths, sorted(depths, reverse=True))
        self.assertTrue(all(rung.minutes == 10.0 for rung in up))
        start = plan.ranked[0].option.action
        assert isinstance(start, Hang)
        self.assertTrue(all(0.3 <= abs(depth - start.set_depth_m) <= 1.3 for depth in depths))

    def test_schools_order_the_depths_both_ways_and_spent_flies_are_on_no_rung(self) -> None:
        deep = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=9.0)
        plan = choose(deep, BOX, FREE, pins=Pins(method_key="indicator"))
        for school, down in (("top-down", True), ("bottom-up", False)):
            rungs = [r.words.values["set_m"] for r in ladder(plan, SCHOOLS[school]) if r.changes == "depth"]
            self.assertGreaterEqual(len(rungs), 2)
            self.assertEqual(rungs, sorted(rungs, reverse=not down), school)
        last = tuple(replace(fly, left=int(fly.name in {f.name for f in plan.ranked[0].option.flies})) for fly in BOX.flies)
        spent = choose(deep, replace(BOX, flies=last), FREE, pins=Pins(method_key="indicator"))
        self.assertNotIn("fly", [rung.changes for rung in ladder(spent)])

    def test_every_rung_changes_what_matters_for_the_rig_and_lasts_three_casts(self) -> None:
        # Common practice: a floating washing line changes its line, a dry its place or fly, a float its depth, a sunk line
        # its count.
        plan = choose(SUMMER_DAY, BOX, FREE)
        for i, one in enumerate(plan.ranked):
            rungs = ladder(plan, first=i)
            words = " ".join(rung.words.text for rung in rungs[1:] if rung.changes in {"depth", "place"})
            wants = {"washing-line": "Same team on the", "dry": "Same fly, nearer", "sight": "Same fly, nearer",
                     "indicator": "Set the float", "tow": "Let out"}.get(one.option.method.key, "Count {count_s}")  # fmt: skip
            with self.subTest(one.option.method.key):
                self.assertIn(wants, words)
                cast_min = one.option.cycle_s(one.result) / 60.0
                for rung in rungs:
                    if rung.changes in {"start", "depth", "fly"}:
                        self.assertGreaterEqual(rung.minutes, 3.0 * cast_min - 0.5)
                if "Count" in wants:
                    start = one.option.action
                    assert isinstance(start, Cast)
                    counts = [rung.words.values["count_s"] for rung in rungs if "count_s" in rung.words.values]
                    self.assertTrue(all(abs(count - start.count_s) >= 4.5 for count in counts), counts)
                    self.assertTrue(all(count <= 60.0 or start.count_s < 60.0 for count in counts), counts)

    def test_when_colour_is_refused_it_goes_slim_and_dark(self) -> None:
        early = picture(3, 25, 11, ((0, 6.5),), bottom_depth_m=3.5, secchi_m=2.0, cloud_fraction=0.6)
        plan = choose(early, BOX, FREE, pins=Pins(method_key="tip", fly_name="Bright orange attractor"))
        rung = next(r for r in ladder(plan) if r.words.text.startswith("Colour refused"))
        named = {fly.name: fly for fly in STARTER_FLIES}
        new = named[rung.words.text.removeprefix("Colour refused: slim and dark, ").split(" for ")[0]]
        self.assertIn("Bright orange attractor", rung.words.text)
        self.assertTrue({"black", "brown", "dark", "olive"} & set(new.colour.split()), new.colour)
        self.assertNotEqual(new.fly.dressing, "bulky")

    def test_a_seen_fish_is_led_by_what_the_fly_needs_to_sink_to_it(self) -> None:
        still = level_water(10.0, 3.0)
        slow, fast = (
            simulate(Rig(starter_lines()[0], LEADER, (PlacedFly(fly),)), Cast(12.0, 30.0, RETRIEVES["static"]), still)
            for fly in (Fly(name="light", hook_size=14, wire="fine"), Fly(name="heavy", hook_size=10, bead_mm=3.3))
        )
        # By hand: a trout at 0.4 m/s swims on while the fly sinks; nearer than two metres the line frightens it.
        at_s = float(slow.time_s[np.argmax(slow.fly_depth_m[0] >= 0.6)])
        self.assertEqual(lead_m(slow, 0.6), (0.4 * at_s, at_s))
        self.assertGreater(0.4 * at_s, 2.0)
        self.assertLess(lead_m(fast, 0.6)[1], at_s)  # type: ignore[index]
        self.assertEqual(lead_m(fast, 0.05)[0], 2.0)  # type: ignore[index]
        self.assertIsNone(lead_m(slow, 1.0))
        said = how_to_lead(fast, Wind(3.0, 225.0)).plain()
        self.assertTrue(
            said.startswith("They swim upwind, toward SW. Land it ahead of the fish, never over it: 2.4 m for one at 0.3 m"),
            said,
        )
        stand = how_to_lead(fast, Wind(3.0, 225.0), 180.0).plain()
        self.assertTrue(stand.startswith("Stand with the sun (S) behind you, looking N."), stand)
        self.assertNotIn("upwind", how_to_lead(fast, Wind(0.0, 225.0)).plain())

    def test_fish_that_lie_too_deep_are_not_fished_for_by_sight(self) -> None:
        hot = picture(7, 20, 13, tuple(enumerate((22.0, 21.8, 21.5, 21.0, 18.0, 14.5, 12.0, 11.0, 10.0))), bottom_depth_m=9.0, cloud_fraction=0.0, secchi_m=4.5, wind=Wind(3.0, 225.0))  # fmt: skip
        self.assertEqual(options_for(hot, BOX, FREE, thorough=False)[1]["sight"], "They are likely too deep to be seen.")

    def test_other_counts_are_one_and_two_steps_away_each_half_a_metre(self) -> None:
        line = next(line for line in starter_lines() if line.class_key == "type-3")
        counts = Cast(18.0, 30.0, RETRIEVES["strip-pause"]).other_counts(line, 9.0)
        self.assertEqual(counts, [36.0, 24.0, 42.0, 18.0])
