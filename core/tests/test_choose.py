"""The plan: what must never happen, and what it says of itself. What practice would choose is held by
test_practice_rows.py. Practice here is common practice, no published source."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.depth.picture import read_water
from stillthread.errors import NoAnswer, OnIce
from stillthread.plan.box import Box, Pins
from stillthread.plan.choose import Plan, choose, coverage, second_rod
from stillthread.plan.explaining.team import seats, warnings
from stillthread.plan.methods import METHODS
from stillthread.plan.regulations import check_rig
from stillthread.rules.water_rules import AgainstTheRules, MethodBan, WaterRules
from stillthread.sinking.cast import Cast
from stillthread.sinking.hang import Hang
from stillthread.tackle.flies import Fly
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.weather.wind import Wind
from tests.effort import examples
from tests.planning import BOX, FREE, SUMMER_DAY, keys, options_for, picture
from tests.practice.asking import ask
from tests.practice.rows import ROWS
from tests.rigs import LEADER, conditions

FISHED_IN_SUMMER = {option.method.key for option in options_for(SUMMER_DAY, replace(BOX, boat=True), FREE, thorough=False)[0]}


class NeverTests(unittest.TestCase):
    @settings(max_examples=examples(25), deadline=None)
    @given(
        st.sampled_from((None, 1, 2, 3)), st.sampled_from((None, 10, 12, 14)), st.booleans(), st.booleans(), st.booleans(), st.booleans(),
    )  # fmt: skip
    def test_no_option_breaks_a_rule(
        self, flies: int | None, hook: int | None, floats: bool, still: bool, lures: bool, boats: bool
    ) -> None:
        rules = WaterRules(
            most_flies=flies, largest_hook=hook, indicators=floats, static_buoyant=still, lures=lures, boats=boats
        )
        options, excluded = options_for(SUMMER_DAY, replace(BOX, boat=True), rules, thorough=False)
        self.assertTrue(options)
        for option in options:
            check_rig(rules, option.rig, SUMMER_DAY.conditions.at.date())
            self.assertTrue(floats or option.method.way != "hang")
            self.assertTrue(lures or all(fly.style not in {"lure", "attractor"} for fly in option.flies))
            self.assertTrue(boats or option.method.key not in {"tow", "drift-boat"})
            self.assertTrue(still or not (option.static and any(fly.buoyant for fly in option.flies)))
        self.assertTrue(all(excluded.values()))

    @settings(max_examples=examples(15), deadline=None)
    @given(st.sets(st.sampled_from(sorted(METHODS)), max_size=9), st.booleans())
    def test_no_option_is_of_a_method_that_the_day_closes(self, closed: set[str], now: bool) -> None:
        days = ((6, 1), (7, 31)) if now else ((11, 1), (3, 31))
        rules = WaterRules(method_bans=tuple(MethodBan(key, days) for key in sorted(closed)))
        options, excluded = options_for(SUMMER_DAY, replace(BOX, boat=True), rules, thorough=False)
        fished = {option.method.key for option in options}
        self.assertEqual(fished, FISHED_IN_SUMMER - (closed if now else set()))
        for key in closed if now else ():
            self.assertEqual(excluded[key], "Not allowed on this water from 1 June to 31 July.")

    def test_only_flies_that_are_in_the_box_and_left_are_tied_on(self) -> None:
        spent = tuple(replace(fly, left=0) if i % 2 else fly for i, fly in enumerate(STARTER_FLIES))
        there = {fly.name for fly in spent if fly.left}
        for option in options_for(SUMMER_DAY, replace(BOX, flies=spent), FREE)[0]:
            self.assertLessEqual({fly.name for fly in option.flies}, there)

    def test_no_float_is_fixed_beyond_reach(self) -> None:
        for option in options_for(SUMMER_DAY, replace(BOX, rod_m=2.7), FREE)[0]:
            if isinstance(option.action, Hang) and option.action.indicator == "fixed":
                self.assertLessEqual(option.action.set_depth_m, 2.7 + 0.6)
        only_fixed, _ = options_for(SUMMER_DAY, replace(BOX, rod_m=2.4, indicators=("fixed",)), FREE)
        self.assertLessEqual(max(o.action.set_depth_m for o in only_fixed if isinstance(o.action, Hang)), 3.0)

    def test_floats_are_fished_the_closer_the_deeper(self) -> None:
        # Common practice: 20 to 40 ft, the deeper the closer.
        reach = {
            o.action.set_depth_m: o.action.distance_m
            for o in options_for(SUMMER_DAY, BOX, FREE, pins=Pins(method_key="indicator"))[0]
            if isinstance(o.action, Hang)
        }
        deepest, shallowest = max(reach), min(reach)
        self.assertLess(reach[deepest], reach[shallowest])
        self.assertTrue(all(6.0 <= far <= 12.0 for far in reach.values()))

    def test_surer_temperature_never_widens_the_belief(self) -> None:
        def width(readings: tuple[tuple[float, float], ...]) -> float:
            return sum(bottom - top for top, bottom in picture(7, 14, 11, readings, bottom_depth_m=9.0).belief.bands())

        summer = tuple(enumerate((18.6, 18.5, 18.4, 18.0, 16.8, 14.6, 12.5, 11.2, 10.2)))
        self.assertLessEqual(width(summer), width(summer[:1]) + 0.3)

    def test_pins_are_kept_and_the_rest_is_solved_around_them(self) -> None:
        pins = Pins(method_key="sinker", line_name="Type 5 sinker", fly_name="Black marabou leech", leader=LEADER)
        plan = choose(SUMMER_DAY, BOX, FREE, pins=pins)
        self.assertEqual(keys(plan, 9), ["sinker"])
        best = plan.ranked[0].option
        self.assertEqual(
            (best.rig.line.name, best.flies[0].name, best.rig.leader), ("Type 5 sinker", "Black marabou leech", LEADER)
        )

    def test_what_is_missing_for_a_method_is_named(self) -> None:
        sunk = tuple(line for line in starter_lines() if line.class_key == "type-5")
        naturals = tuple(fly for fly in STARTER_FLIES if fly.style == "natural" and not fly.buoyant)
        plain = Box(lines=sunk, flies=naturals)
        for box, pins, key, words in (
            (plain, None, "nymphs-floating", "No line in the box for it."),
            (BOX, Pins(line_name="Type 5 sinker"), "nymphs-floating", "Not with the line you chose."),
            (
                replace(plain, rod_number=3),
                None,
                "sinker",
                "The rod is built for number 3; no line for it is within one of that.",
            ),
            (Box(lines=starter_lines(), flies=naturals), None, "dry", "No fly in the box for it."),
            (BOX, Pins(fly_name="None such"), "sinker", "Not with the fly you chose."),
            (
                replace(BOX, indicators=()),
                None,
                "indicator",
                "No float in the box that can be landed at the depths worth hanging at.",
            ),
        ):
            deep = picture(7, 14, 11, ((0, 14.0), (9, 9.0)), bottom_depth_m=9.0, wind=Wind(1.5, 225.0))
            with self.subTest(words):
                _, excluded = options_for(deep, box, FREE, pins=pins, thorough=False)
                self.assertEqual(excluded[key], words)
        _, short = options_for(SUMMER_DAY, BOX, FREE, cast_m=4.0, thorough=False)
        self.assertEqual(short["nymphs-floating"], "The leader it needs leaves too little line to cast.")
        with self.assertRaises(NoAnswer) as nothing:
            choose(SUMMER_DAY, replace(plain, rod_number=3), replace(FREE, indicators=False))
        # A reason that several methods share is given once.
        self.assertEqual(nothing.exception.message.count("No line in the box for it."), 1)

    def test_what_cannot_be_done_is_answered_with_the_reasons(self) -> None:
        with self.assertRaises(NoAnswer) as nothing:
            choose(SUMMER_DAY, BOX, WaterRules(indicators=False), pins=Pins(method_key="indicator"))
        self.assertIn("Indicators are not allowed on this water. (Under an indicator)", nothing.exception.message)
        with self.assertRaises(AgainstTheRules):
            choose(SUMMER_DAY, BOX, WaterRules(season=((9, 1), (9, 30))))
        with self.assertRaises(OnIce):
            choose(read_water(conditions(ice=True)), BOX, FREE)
        with self.assertRaises(NoAnswer):
            choose(SUMMER_DAY, replace(BOX, flies=()), FREE)


class PlanTests(unittest.TestCase):
    plan: Plan

    @classmethod
    def setUpClass(cls) -> None:
        cls.plan = choose(SUMMER_DAY, BOX, FREE)

    def test_the_best_of_each_kind_comes_in_order_with_its_spread(self) -> None:
        takes = [one.takes_ph for one in self.plan.ranked]
        self.assertEqual(takes, sorted(takes, reverse=True))
        self.assertEqual(len({one.option.method.key for one in self.plan.ranked}), len(takes))
        for one in self.plan.ranked:
            self.assertLess(one.low_ph, one.takes_ph)
            self.assertLess(one.takes_ph, one.high_ph)
            self.assertEqual(one.as_good, one is not self.plan.ranked[0] and one.takes_ph > 0.9 * takes[0])
        self.assertGreaterEqual(self.plan.tried, 400)
        self.assertEqual(set(self.plan.excluded) | {one.option.method.key for one in self.plan.ranked}, set(METHODS))

    def test_a_first_answer_tries_far_fewer_and_is_near_the_whole(self) -> None:
        first = choose(SUMMER_DAY, BOX, FREE, thorough=False)
        self.assertLess(first.tried, 0.45 * self.plan.tried)
        self.assertGreater(first.ranked[0].takes_ph, 0.6 * self.plan.ranked[0].takes_ph)

    def test_every_line_is_told_what_it_would_give_by_the_same_measure(self) -> None:
        names = [line.line_name for line in self.plan.lines]
        self.assertEqual(sorted(names), sorted(line.name for line in BOX.lines))
        takes = [line.takes_ph for line in self.plan.lines]
        self.assertEqual(takes, sorted(takes, reverse=True))
        best = next(one for one in self.plan.ranked if one.option.method.way == "cast")
        told = next(line for line in self.plan.lines if line.line_name == best.option.rig.line.name)
        self.assertGreater(told.takes_ph, 0.6 * best.takes_ph)
        pinned = choose(SUMMER_DAY, BOX, FREE, pins=Pins(line_name="Type 5 sinker"))
        self.assertEqual({one.option.rig.line.name for one in pinned.ranked}, {"Type 5 sinker"})
        self.assertEqual([line.line_name for line in pinned.lines], ["Type 5 sinker"])

    def test_a_school_leans_the_order_and_invents_nothing(self) -> None:
        static = choose(SUMMER_DAY, BOX, FREE, school_key="static")
        moved = choose(SUMMER_DAY, BOX, FREE, school_key="moved")

        def rank_of_first_static(plan: Plan) -> int:
            return [one.option.static for one in plan.ranked].index(True)

        self.assertLessEqual(rank_of_first_static(static), rank_of_first_static(moved))

    def test_minutes_in_the_band_belong_to_a_fly_that_works_there_and_is_named(self) -> None:
        for one in self.plan.ranked:
            first = one.reasons[0]
            low, high, top, bottom = (first.values[key] for key in ("low_m", "high_m", "top_m", "bottom_m"))
            if one.minutes_in_band >= 1.2:
                self.assertIn((top, bottom), SUMMER_DAY.belief.bands())
                self.assertTrue(low - 0.3 <= bottom and high + 0.3 >= top, first.plain())
                fly = next((k for k, f in enumerate(one.option.flies) if f.name in first.text), 0)
                self.assertAlmostEqual(low, one.result.middle_depth_m(fly)[0])
                layers = 0.1 * (np.arange(one.result.layer_s.shape[1]) + 0.5)
                inside = (layers >= top) & (layers <= bottom + 0.1)
                share = float(one.result.layer_s[fly] @ inside) / one.option.cycle_s(one.result)
                self.assertAlmostEqual(one.minutes_in_band, 60.0 * share)
            else:
                self.assertIn("Outside the likeliest band", first.text)
                self.assertEqual((top, bottom), SUMMER_DAY.belief.main_band)

    def test_of_two_likely_waters_the_one_that_is_fished_is_named(self) -> None:
        asked = ask(next(row for row in ROWS if row.key == "two-layers"))
        high, low = asked.picture.belief.bands()
        self.assertEqual(asked.picture.belief.main_band, low)
        said = {one.reasons[0].text.split(" (")[0]: one for one in asked.plan.ranked}
        for words, band in (("In the band", low), ("In the other likely water", high)):
            values = said[words].reasons[0].values
            self.assertEqual((values["top_m"], values["bottom_m"]), band)
            self.assertAlmostEqual(values["band_min"], said[words].minutes_in_band)

    def test_of_counts_alike_the_shortest_is_advised_and_it_is_said_when_the_count_hardly_matters(self) -> None:
        for one in self.plan.ranked:
            if isinstance(one.option.action, Cast) and one.counts:
                most = max(takes for _, takes in one.counts)
                alike = [count for count, takes in one.counts if takes >= 0.97 * most]
                self.assertEqual(one.option.action.count_s, min(alike), one.option.method.key)
                self.assertTrue(all(count == round(count) for count, _ in one.counts))  # nobody counts in tenths
                flat = min(takes for _, takes in one.counts) > 0.94 * most
                said = any("count hardly matters" in reason.text for reason in one.reasons)
                self.assertEqual(said, flat and len(one.counts) > 2 and not one.option.rig.line.floats)

    def test_what_would_change_the_choice_names_another_method(self) -> None:
        for change in self.plan.changes:
            self.assertNotEqual(change.best_key, self.plan.ranked[0].option.method.key)
        alone = choose(SUMMER_DAY, BOX, FREE, pins=Pins(method_key="sinker"))
        self.assertEqual(alone.changes, ())

    def test_one_seen_rise_is_told_to_change_the_choice_where_it_would(self) -> None:
        # Common practice: what is seen outweighs what is expected.
        rise = next(change for change in self.plan.changes if change.words == "If one fish rises quietly")
        self.assertEqual(rise.best_key, "dry")
        rising = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=5.0, signs=("sips",))
        self.assertEqual(keys(choose(rising, BOX, FREE), 1), ["dry"])

    def test_the_second_rod_covers_what_the_first_leaves(self) -> None:
        found = second_rod(self.plan, SUMMER_DAY)
        assert found is not None
        other, one, both = found
        self.assertNotEqual(other.option.method.key, self.plan.ranked[0].option.method.key)
        self.assertTrue(0.0 < one < both <= 1.0)
        covered = coverage(other, SUMMER_DAY.belief, 0.15)
        self.assertTrue(((covered >= 0.0) & (covered <= 1.0)).all())

    def test_every_fly_of_a_team_has_a_seat_a_depth_and_a_reason(self) -> None:
        team = next(one for one in self.plan.ranked if len(one.option.flies) == 3)
        found = seats(team, SUMMER_DAY)
        self.assertEqual([seat.place for seat in found], ["point", "middle dropper", "top dropper"])
        self.assertTrue(all(seat.why.text for seat in found))
        said = " ".join(why.plain() for why in warnings(team, 9.0))
        self.assertIn("tangle", said)
        # Common practice: 5X and finer (0.15 mm) spins under a bulky fly, 4X (0.18 mm) does not; the line between is ours.
        bulky = replace(team.option.flies[0], fly=replace(team.option.flies[0].fly, dressing="bulky"))
        for tippet_m, spins in ((0.00016, True), (0.00018, False)):
            *above, last = team.option.rig.leader.sections
            leader = replace(team.option.rig.leader, sections=(*above, replace(last, diameter_m=tippet_m)))
            option = replace(team.option, rig=replace(team.option.rig, leader=leader), flies=(bulky, *team.option.flies[1:]))
            told = " ".join(why.plain() for why in warnings(replace(team, option=option), 3.0))
            self.assertEqual("spins it" in told, spins, tippet_m)

    def test_a_wind_that_a_boat_cannot_drift_in_or_before_is_said(self) -> None:
        boat = replace(BOX, boat=True)
        for wind, words in ((0.5, "Too little wind: a boat does not drift."), (12.0, "Too much wind to drift before it.")):
            water = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=5.0, wind=Wind(wind, 0.0))
            self.assertEqual(options_for(water, boat, FREE, thorough=False)[1]["drift-boat"], words)
        short = next(one for one in choose(SUMMER_DAY, boat, FREE).ranked if one.option.method.key == "drift-boat")
        assert isinstance(short.option.action, Cast)
        self.assertTrue(9.0 <= short.option.action.cast_m <= 12.0)  # common practice: a short line is 30 to 40 ft


class BoxFlyTests(unittest.TestCase):
    def test_the_starter_box_is_sixty_patterns_with_names_of_their_own_and_fourteen_lines(self) -> None:
        self.assertEqual((len(STARTER_FLIES), len(starter_lines())), (60, 14))
        self.assertEqual(len({fly.name for fly in STARTER_FLIES}), 60)
        for fly in STARTER_FLIES:
            Rig(starter_lines()[0], LEADER, feasible_placed(fly))

    def test_dry_flies_float_and_weighted_ones_sink_fast(self) -> None:
        for fly in STARTER_FLIES:
            if fly.style == "dry" or "buoyant" in fly.name.lower() or "foam" in fly.name.lower():
                self.assertLess(fly.sink_mps, 0.0, fly.name)
            if "ungsten" in fly.name:
                self.assertGreater(fly.sink_mps, 0.09, fly.name)

    def test_an_unknown_food_or_style_is_refused(self) -> None:
        for wrong in ({"foods": ("bread",)}, {"style": "bait"}, {"left": -1}):
            with self.assertRaises(Exception) as refused:
                BoxFly(Fly(name="x", hook_size=12), **wrong)
            self.assertIn(next(iter(wrong)), str(getattr(refused.exception, "field", "")))


def feasible_placed(fly: BoxFly) -> Any:

    return (PlacedFly(fly.fly),)
