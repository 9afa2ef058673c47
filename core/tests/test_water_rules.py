"""The rules of a water: what they forbid, and how they are said."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date

from stillthread.errors import BadInput, OutOfRange
from stillthread.plan.regulations import check_rig
from stillthread.rules.water_rules import AgainstTheRules, MethodBan, WaterRules
from stillthread.tackle.lines import line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from tests.rigs import LEADER, LIGHT_NYMPH

JULY = date(2026, 7, 14)


class WaterRulesTests(unittest.TestCase):
    def test_each_rule_forbids_what_it_says(self) -> None:
        team = Rig(line_of_class("floating"), LEADER, (PlacedFly(LIGHT_NYMPH), PlacedFly(LIGHT_NYMPH, 1.5)))
        check_rig(WaterRules(), team, JULY)
        for rules in (
            WaterRules(most_flies=1),
            WaterRules(largest_hook=LIGHT_NYMPH.hook_size + 2),
            WaterRules(season=((8, 1), (9, 30))),
        ):
            with self.assertRaises(AgainstTheRules):
                check_rig(rules, team, JULY)
        check_rig(WaterRules(most_flies=2, largest_hook=LIGHT_NYMPH.hook_size, season=((4, 1), (9, 30))), team, JULY)

    def test_a_season_may_wrap_the_new_year(self) -> None:
        south = WaterRules(season=((11, 1), (5, 1)))
        self.assertEqual([south.open_on(date(2026, m, 2)) for m in (1, 5, 7, 11, 12)], [True, False, False, True, True])

    def test_all_rules_are_said_and_the_local_ones_come_last(self) -> None:
        said = " ".join(
            WaterRules(
                most_flies=1,
                largest_hook=8,
                barbless=True,
                indicators=False,
                static_buoyant=False,
                lures=False,
                boats=False,
                float_tubes=False,
                wading=False,
                release="kill-only",
                bag_limit=2,
                season=((3, 15), (10, 1)),
            ).sentences()
        )
        for words in ("At most 1 fly.", "No hook larger than 8.", "Barbless", "indicators, buoyant", "lures, boats, float tubes, wading", "killed", "Bag limit 2.", "15 March"):  # fmt: skip
            self.assertIn(words, said)
        self.assertEqual(WaterRules().sentences(), ("Local rules and your licence come first.",))

    def test_a_method_is_closed_on_its_days_and_for_good_and_says_so(self) -> None:
        rules = WaterRules(method_bans=(MethodBan("sinker", ((11, 1), (3, 31))), MethodBan("tow")))
        winter = [rules.ban_on("sinker", date(2026, m, d)) is not None for m, d in ((10, 31), (11, 1), (1, 5), (3, 31), (4, 1))]
        self.assertEqual(winter, [False, True, True, True, False])
        self.assertIsNotNone(rules.ban_on("tow", JULY))
        self.assertIsNone(rules.ban_on("tip", JULY))
        said = rules.sentences()
        self.assertEqual(said[0], "Full sinker, moved: not allowed from 1 November to 31 March.")
        self.assertEqual(said[1], "Wind drift or slow troll: not allowed.")

    def test_a_line_that_serves_only_closed_methods_may_not_be_cast(self) -> None:
        deep = Rig(line_of_class("type-3"), LEADER, (PlacedFly(LIGHT_NYMPH),))
        both = (MethodBan("sinker"), MethodBan("washing-line"))
        check_rig(WaterRules(method_bans=both[:1]), deep, JULY)
        with self.assertRaises(AgainstTheRules) as refused:
            check_rig(WaterRules(method_bans=both), deep, JULY)
        self.assertIn("Full sinker, moved: not allowed. Washing line: not allowed.", refused.exception.message)
        check_rig(WaterRules(method_bans=both), replace(deep, line=line_of_class("floating")), JULY)

    def test_refusals(self) -> None:
        with self.assertRaises(OutOfRange):
            WaterRules(most_flies=5)
        with self.assertRaises(BadInput):
            WaterRules(season=((2, 30), (3, 1)))
        with self.assertRaises(BadInput):
            MethodBan("spinning")
        with self.assertRaises(BadInput):
            MethodBan("tip", ((13, 1), (3, 1)))
