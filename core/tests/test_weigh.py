"""A way of the angler's own is weighed as the plan weighs its own, and may no more break a rule."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.depth.picture import read_water
from stillthread.errors import BadInput, OnIce
from stillthread.plan.box import Box, Pins
from stillthread.plan.choose import choose, given_for
from stillthread.plan.methods import METHODS
from stillthread.plan.option import Option
from stillthread.plan.regulations import check_option
from stillthread.plan.seeking.weigh import weigh
from stillthread.rules.water_rules import AgainstTheRules, MethodBan, WaterRules
from stillthread.sinking.cast import Cast
from stillthread.sinking.hang import Hang
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from tests.effort import examples
from tests.planning import options_for
from tests.rigs import conditions

PICTURE = read_water(conditions())
ON = PICTURE.conditions.at.date()
BOX = Box(lines=starter_lines(), flies=STARTER_FLIES, boat=True)
FREE = WaterRules()
PLAN = choose(PICTURE, BOX, FREE, thorough=False)
GIVEN = given_for(PICTURE, BOX, FREE)
OPTIONS, _ = options_for(PICTURE, BOX, FREE, thorough=False)


def best(key: str) -> Option:
    return next(one.option for one in PLAN.ranked if one.option.method.key == key)


class WeighTests(unittest.TestCase):
    def test_what_the_plan_chose_is_worth_the_same_when_it_is_asked_again(self) -> None:
        self.assertGreater(len(PLAN.ranked), 8)
        for one in PLAN.ranked:
            (again,) = weigh(one.option, GIVEN).ranked
            self.assertEqual((again.option, again.takes_ph, again.reasons[0]), (one.option, one.takes_ph, one.reasons[0]))

    def test_of_all_counts_none_is_worth_more_than_the_thorough_plans_own(self) -> None:
        found = choose(PICTURE, BOX, FREE).ranked
        one = next(r for r in found if r.option.method.key == "tip")
        assert isinstance(one.option.action, Cast)
        others = [weigh(replace(one.option, action=replace(one.option.action, count_s=s)), GIVEN) for s in (0.0, 10.0, 30.0)]  # fmt: skip
        # The plan picks from coarser runs than it shows: a hundredth is within their doubt.
        self.assertLess(max(other.ranked[0].takes_ph for other in others), 1.01 * one.takes_ph)
        self.assertGreater(len({round(other.ranked[0].takes_ph, 4) for other in others}), 1)

    def test_a_float_moved_deeper_hangs_on_a_leader_cut_for_it_and_can_still_be_landed(self) -> None:
        option = replace(best("indicator"), action=Hang(set_depth_m=1.5, indicator="fixed", for_s=120.0, wind_speed_mps=4.0))
        for set_m, kind in ((2.4, "fixed"), (5.0, "sliding"), (8.0, "sliding")):
            assert isinstance(option.action, Hang)
            (moved,) = weigh(replace(option, action=replace(option.action, set_depth_m=set_m)), GIVEN).ranked
            assert isinstance(moved.option.action, Hang)
            self.assertEqual(moved.option.action.indicator, kind)
            # The butt stands above the float; the rest is the depth.
            self.assertAlmostEqual(moved.option.rig.leader.length_m, set_m + 0.9, delta=0.05)
            self.assertLessEqual(moved.result.deepest_m(), set_m + 0.01)
            heights = [placed.above_point_m for placed in moved.option.rig.flies]
            self.assertEqual(heights, sorted(heights))
        planned = best("indicator")
        assert isinstance(planned.action, Hang)
        higher = replace(planned.action, set_depth_m=planned.action.set_depth_m - 0.3)
        own = weigh(replace(planned, action=higher), replace(GIVEN, pins=Pins(leader=planned.rig.leader)))
        self.assertEqual(own.ranked[0].option.rig, planned.rig)

    def test_what_cannot_be_is_refused(self) -> None:
        with self.assertRaises(BadInput) as refused:
            weigh(replace(best("tip"), method=METHODS["tow"]), GIVEN)
        self.assertEqual(refused.exception.field, "method_key")
        hung = best("indicator")
        assert isinstance(hung.action, Hang)
        crowded = replace(hung, action=replace(hung.action, set_depth_m=0.6))
        self.assertGreater(len(hung.flies), 1)
        with self.assertRaises(BadInput):
            weigh(crowded, GIVEN)
        with self.assertRaises(OnIce):
            weigh(best("tip"), given_for(read_water(conditions(ice=True)), BOX, FREE))

    @settings(max_examples=examples(60), deadline=None)
    @given(
        st.sampled_from(OPTIONS),
        st.builds(
            WaterRules,
            most_flies=st.sampled_from((None, 1, 2, 3)),
            largest_hook=st.sampled_from((None, 10, 12)),
            indicators=st.booleans(),
            static_buoyant=st.booleans(),
            lures=st.booleans(),
            boats=st.booleans(),
            method_bans=st.sampled_from([(), *((MethodBan(key, ((7, 1), (7, 31))),) for key in METHODS)]),
        ),
    )
    def test_a_rule_is_broken_exactly_when_it_is_refused(self, option: Option, rules: WaterRules) -> None:
        breaks = [
            rules.most_flies is not None and len(option.flies) > rules.most_flies,
            rules.largest_hook is not None and min(fly.fly.hook_size for fly in option.flies) < rules.largest_hook,
            not rules.indicators and option.method.key == "indicator",
            not rules.static_buoyant and option.speed_mps < 0.025 and any(fly.buoyant for fly in option.flies),
            not rules.lures and any(fly.style in {"lure", "attractor"} for fly in option.flies),
            not rules.boats and option.method.key in {"drift-boat", "tow"},
            any(ban.method_key == option.method.key for ban in rules.method_bans),
        ]
        if any(breaks):
            with self.assertRaises(AgainstTheRules):
                check_option(option, rules, ON)
        else:
            check_option(option, rules, ON)
