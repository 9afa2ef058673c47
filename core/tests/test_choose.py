"""The plan against what practice would choose, and what must never happen. Practice here is common practice, no published source."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import datetime
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.depth.picture import WaterPicture, read_water
from stillthread.errors import NoAnswer, OnIce
from stillthread.food.inference import Sample, SampleItem
from stillthread.plan.choose import Plan, Scorer, choose, coverage, second_rod, shifted
from stillthread.plan.cruisers import how_to_lead, lead_m
from stillthread.plan.enumerate import Box, Pins, feasible_options
from stillthread.plan.ladder import ladder
from stillthread.plan.match import Setting, colour_share, match, pace_share
from stillthread.plan.methods import METHODS
from stillthread.plan.options import Hang
from stillthread.plan.team import seats, warnings
from stillthread.rules.water_rules import AgainstTheRules, MethodBan, WaterRules, check_rig
from stillthread.sinking.cast import Cast, level_water, simulate
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.tackle.flies import Fly
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from stillthread.water.reading import Reading
from stillthread.weather.wind import Wind
from tests.rigs import LEADER, SUMMER_TIME, conditions

BOX = Box(starter_lines(), STARTER_FLIES)
SMALL_BOX = Box(
    tuple(line for line in starter_lines() if line.class_key in {"floating", "intermediate", "type-5"}), STARTER_FLIES[::4]
)
FREE = WaterRules()


def picture(month: int, day: int, hour: float, readings: tuple[tuple[float, float], ...], **changes: Any) -> WaterPicture:
    at = datetime(2026, month, day, int(hour), int(60 * (hour % 1)), tzinfo=SUMMER_TIME)
    return read_water(conditions(at=at, readings=tuple(Reading(d, t) for d, t in readings), **changes))


def keys(plan: Plan, first: int) -> list[str]:
    return [one.option.method.key for one in plan.ranked[:first]]


def flies_of(plan: Plan, key: str) -> list[str]:
    return next([fly.name for fly in one.option.flies] for one in plan.ranked if one.option.method.key == key)


class PracticeTests(unittest.TestCase):
    """From conditions to rig: the first choices hold the method that practice would choose."""

    def test_early_in_the_year_on_a_reservoir_a_slow_sunk_line_a_dark_fly_below_a_bright_one(self) -> None:
        spring = picture(
            4, 18, 11, ((0, 6.5), (3, 6.2)), bottom_depth_m=3.5, cloud_fraction=0.6, secchi_m=2.5, wind=Wind(4.0, 225.0)
        )
        plan = choose(spring, BOX, FREE)
        self.assertTrue({"tip", "intermediate"} & set(keys(plan, 3)))
        # Common practice: 8 to 10 ft down, in 6 to 14 ft of water.
        self.assertTrue(1.8 < spring.belief.mean_m < 3.2, spring.belief.mean_m)
        self.assertIn("Bright orange attractor", flies_of(plan, "tip")[-1:])

    def test_spring_midges_over_fifteen_feet_are_fished_under_a_float_a_foot_or_two_off_the_bottom(self) -> None:
        sample = Sample((SampleItem("midge-pupa", 30, 10.0),), 1.0)
        hatch = picture(5, 20, 11, ((0, 11.5), (2, 11.2), (4.5, 10.5)), bottom_depth_m=4.6, cloud_fraction=0.3, wind=Wind(2.5, 225.0), signs=("shucks",), sample=sample)  # fmt: skip
        plan = choose(hatch, BOX, FREE)
        self.assertIn("indicator", keys(plan, 2))
        hung = next(one for one in plan.ranked if one.option.method.key == "indicator")
        assert isinstance(hung.option.action, Hang)
        self.assertTrue(3.9 <= hung.option.action.set_depth_m <= 4.5, hung.option.action)
        self.assertNotEqual(hung.option.action.kind, "fixed")  # 13 ft can't be landed on a 10 ft rod otherwise
        self.assertTrue(any("pupa" in name or "wet" in name for name in flies_of(plan, "indicator")))

    def test_damsels_over_weed_want_a_slim_olive_fly_near_the_top(self) -> None:
        weed = picture(6, 20, 14, ((0, 17.5), (1, 17.0)), bottom_depth_m=1.6, weed_m=0.5, cloud_fraction=0.3, wind=Wind(3.0, 225.0), signs=("damsels-about",))  # fmt: skip
        plan = choose(weed, BOX, FREE)
        self.assertIn("intermediate", keys(plan, 3))
        self.assertIn("Slim olive nymph", flies_of(plan, "intermediate"))
        self.assertLess(plan.ranked[0].result.middle_depth_m(0)[1], 1.2)

    def test_a_hot_bright_layered_day_is_fished_by_the_thermocline(self) -> None:
        hot = picture(7, 20, 13, tuple(enumerate((22.0, 21.8, 21.5, 21.0, 18.0, 14.5, 12.0, 11.0, 10.0))), bottom_depth_m=9.0, cloud_fraction=0.05, secchi_m=4.5, wind=Wind(3.0, 225.0))  # fmt: skip
        plan = choose(hot, BOX, FREE)
        low, high = plan.ranked[0].result.middle_depth_m(0)
        top, bottom = hot.belief.main_band
        self.assertTrue(low < bottom and high > top, (low, high))
        # By the thermocline, and in clear water under full sun some way below it.
        self.assertLess(abs(top - (hot.layers.thermocline_m or 0.0)), 1.5)
        self.assertTrue({"tip", "sinker"} & set(keys(plan, 3)))

    def test_late_in_autumn_they_are_looked_for_deep(self) -> None:
        late = picture(11, 5, 12, ((0, 8.5), (8, 8.3)), bottom_depth_m=9.0, cloud_fraction=0.5, wind=Wind(4.0, 225.0))
        # Common practice: 15 to 30 ft down.
        self.assertGreater(late.belief.mean_m, 4.5)
        plan = choose(late, BOX, FREE)
        self.assertGreater(max(one.result.deepest_m() for one in plan.ranked[:3]), 4.5)

    def test_at_winter_midday_the_margins_are_fished_slowly(self) -> None:
        winter = picture(1, 20, 12, ((0, 5.0), (1.5, 4.9)), bottom_depth_m=1.5, cloud_fraction=0.3, wind=Wind(2.0, 225.0))
        plan = choose(winter, BOX, FREE)
        self.assertLess(plan.ranked[0].option.speed_mps, 0.15)
        self.assertTrue({"washing-line", "indicator"} & set(keys(plan, 3)))

    def test_on_calm_bright_pressed_water_static_wins(self) -> None:
        glassy = picture(
            6, 10, 13, ((0, 16.0), (3, 15.0)), bottom_depth_m=4.0, cloud_fraction=0.0, secchi_m=4.0, wind=Wind(0.5, 225.0)
        )
        plan = choose(glassy, BOX, FREE, pressed=True)
        self.assertTrue(plan.ranked[0].option.static)
        self.assertEqual(plan.ranked[0].option.method.key, "indicator")

    def test_fry_in_the_margins_are_met_with_fry(self) -> None:
        fry = picture(9, 15, 17, ((0, 15.0),), bottom_depth_m=1.8, cloud_fraction=0.5, wind=Wind(3.0, 225.0), signs=("bulges", "fry-seen"))  # fmt: skip
        plan = choose(fry, BOX, FREE)
        self.assertIn("fry", keys(plan, 3))
        named = {fly.name: fly for fly in STARTER_FLIES}
        self.assertTrue(any("fry" in named[name].foods for name in flies_of(plan, plan.ranked[0].option.method.key)))

    def test_in_the_evening_film_a_fly_that_sits_in_it_is_among_the_first(self) -> None:
        film = picture(6, 15, 21.5, ((0, 15.5), (3, 15.0)), bottom_depth_m=4.0, cloud_fraction=0.3, wind=Wind(1.0, 225.0), signs=("head-and-tail", "sips", "shucks"))  # fmt: skip
        plan = choose(film, BOX, FREE)
        self.assertIn("dry", keys(plan, 3))
        self.assertTrue(any("film" in name for name in flies_of(plan, "dry")))

    def test_in_coloured_water_black_and_hot_spots_are_tied_on(self) -> None:
        brown = picture(
            5, 5, 12, ((0, 11.0), (2, 10.8)), bottom_depth_m=3.0, cloud_fraction=0.8, secchi_m=0.6, wind=Wind(5.0, 225.0)
        )
        best = choose(brown, BOX, FREE).ranked[0].option
        self.assertTrue(all({"black", "orange", "red", "yellow"} & set(fly.colour.split()) for fly in best.flies), best.flies)

    def test_a_windy_drift_in_a_boat_is_fished_on_a_short_line(self) -> None:
        rough = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=6.0, cloud_fraction=0.8, wind=Wind(7.0, 225.0))
        self.assertIn("drift-boat", keys(choose(rough, replace(BOX, boat=True), FREE), 3))
        self.assertNotIn("drift-boat", keys(choose(rough, BOX, FREE), 12))


SUMMER_DAY = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=5.0)


class NeverTests(unittest.TestCase):
    @settings(max_examples=25, deadline=None)
    @given(
        st.sampled_from((None, 1, 2, 3)), st.sampled_from((None, 10, 12, 14)), st.booleans(), st.booleans(), st.booleans(), st.booleans(),
    )  # fmt: skip
    def test_no_option_breaks_a_rule(
        self, flies: int | None, hook: int | None, floats: bool, still: bool, lures: bool, boats: bool
    ) -> None:
        rules = WaterRules(
            most_flies=flies, largest_hook=hook, indicators=floats, static_buoyant=still, lures=lures, boats=boats
        )
        found = feasible_options(SUMMER_DAY, replace(BOX, boat=True), rules)
        self.assertTrue(found.options)
        for option in found.options:
            check_rig(rules, option.rig, SUMMER_DAY.conditions.at.date())
            self.assertTrue(floats or option.method.way != "hang")
            self.assertTrue(lures or all(fly.style != "lure" for fly in option.flies))
            self.assertTrue(boats or option.method.key not in {"tow", "drift-boat"})
            self.assertTrue(still or not (option.static and any(fly.buoyant for fly in option.flies)))
        for key in found.excluded:
            self.assertTrue(found.excluded[key])

    @settings(max_examples=15, deadline=None)
    @given(st.sets(st.sampled_from(sorted(METHODS)), max_size=9), st.booleans())
    def test_no_option_is_of_a_method_that_the_day_closes(self, closed: set[str], now: bool) -> None:
        days = ((6, 1), (7, 31)) if now else ((11, 1), (3, 31))
        rules = WaterRules(method_bans=tuple(MethodBan(key, days) for key in sorted(closed)))
        found = feasible_options(SUMMER_DAY, replace(BOX, boat=True), rules, thorough=False)
        fished = {option.method.key for option in found.options}
        free = feasible_options(SUMMER_DAY, replace(BOX, boat=True), FREE, thorough=False)
        self.assertEqual(fished, {option.method.key for option in free.options} - (closed if now else set()))
        for key in closed if now else ():
            self.assertEqual(found.excluded[key], "Not allowed on this water from 1 June to 31 July.")

    def test_only_flies_that_are_in_the_box_and_left_are_tied_on(self) -> None:
        spent = tuple(replace(fly, left=0) if i % 2 else fly for i, fly in enumerate(STARTER_FLIES))
        there = {fly.name for fly in spent if fly.left}
        for option in feasible_options(SUMMER_DAY, replace(BOX, flies=spent), FREE).options:
            self.assertLessEqual({fly.name for fly in option.flies}, there)

    def test_no_float_is_fixed_beyond_reach(self) -> None:
        for option in feasible_options(SUMMER_DAY, replace(BOX, rod_m=2.7), FREE).options:
            if isinstance(option.action, Hang) and option.action.kind == "fixed":
                self.assertLessEqual(option.action.set_depth_m, 2.7 + 0.6)
        only_fixed = feasible_options(SUMMER_DAY, replace(BOX, rod_m=2.4, indicators=("fixed",)), FREE)
        self.assertLessEqual(max(o.action.set_depth_m for o in only_fixed.options if isinstance(o.action, Hang)), 3.0)

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
        plain = Box(sunk, naturals)
        for box, pins, key, words in (
            (plain, None, "nymphs-floating", "No line in the box for it."),
            (BOX, Pins(line_name="Type 5 sinker"), "nymphs-floating", "Not with the line you chose."),
            (
                replace(plain, rod_number=3),
                None,
                "sinker",
                "The rod is built for number 3; no line for it is within one of that.",
            ),
            (Box(starter_lines(), naturals), None, "dry", "No fly in the box for it."),
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
                found = feasible_options(deep, box, FREE, pins=pins, thorough=False)
                self.assertEqual(found.excluded[key], words)
        short = feasible_options(SUMMER_DAY, BOX, FREE, cast_m=5.0, thorough=False)
        self.assertEqual(short.excluded["nymphs-floating"], "The leader it needs leaves too little line to cast.")
        with self.assertRaises(NoAnswer) as nothing:
            choose(SUMMER_DAY, replace(plain, rod_number=3), replace(FREE, indicators=False))
        # A reason that several methods share is given once.
        self.assertEqual(nothing.exception.message.count("No line in the box for it."), 1)

    def test_what_cannot_be_done_is_answered_with_the_reasons(self) -> None:
        with self.assertRaises(NoAnswer) as nothing:
            choose(SUMMER_DAY, BOX, WaterRules(indicators=False), pins=Pins(method_key="indicator"))
        self.assertIn("Indicators are not allowed", nothing.exception.message)
        with self.assertRaises(AgainstTheRules):
            choose(SUMMER_DAY, BOX, WaterRules(season=((9, 1), (9, 30))))
        with self.assertRaises(OnIce):
            choose(read_water(conditions(ice=True)), BOX, FREE)
        with self.assertRaises(NoAnswer):
            choose(SUMMER_DAY, replace(BOX, flies=()), FREE)


class ScoreTests(unittest.TestCase):
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
        self.assertGreaterEqual(self.plan.tried, 400)
        self.assertLessEqual(set(self.plan.excluded) | {one.option.method.key for one in self.plan.ranked}, set(METHODS))

    def test_a_school_leans_the_order_and_invents_nothing(self) -> None:
        static = choose(SUMMER_DAY, BOX, FREE, school_key="static")
        moved = choose(SUMMER_DAY, BOX, FREE, school_key="moved")

        def rank_of_first_static(plan: Plan) -> int:
            return [one.option.static for one in plan.ranked].index(True)

        self.assertLessEqual(rank_of_first_static(static), rank_of_first_static(moved))

    def test_a_match_follows_food_pace_and_colour(self) -> None:
        foods, plain = SUMMER_DAY.foods, Setting(3.0, 0.3)
        pupa = next(fly for fly in STARTER_FLIES if fly.name == "Black ribbed pupa")
        self.assertGreater(match(pupa, 0.02, foods, plain), 2.0 * match(pupa, 0.6, foods, plain))
        self.assertGreater(match(pupa, 0.02, foods, plain), match(replace(pupa, foods=()), 0.02, foods, plain))
        self.assertGreater(colour_share("black", Setting(0.8, 0.3)), colour_share("pale olive", Setting(0.8, 0.3)))
        self.assertLess(colour_share("orange", Setting(6.0, 0.9)), colour_share("olive", Setting(6.0, 0.9)))
        fry = next(chance.food for chance in foods.chances if chance.food.key == "fry")
        self.assertEqual(pace_share(fry, 0.3), 1.0)

    def test_calm_glare_and_pressed_fish_cost_a_moving_fly_most(self) -> None:
        glassy = picture(
            6, 10, 13, ((0, 16.0), (3, 15.0)), bottom_depth_m=4.0, cloud_fraction=0.0, secchi_m=4.0, wind=Wind(0.0, 0.0)
        )
        plan = choose(glassy, BOX, FREE)
        still = next(one.option for one in plan.ranked if one.option.static)
        moving = next(one.option for one in plan.ranked if one.option.speed_mps > 0.08)
        calm, windy = Scorer(glassy, "best", False), Wind(5.0, 0.0)
        self.assertLess(
            1.0 - calm.undisturbed(still, glassy.conditions.wind),
            0.4 * (1.0 - calm.undisturbed(moving, glassy.conditions.wind)),
        )
        self.assertEqual(calm.undisturbed(moving, windy), 1.0)
        pressed = Scorer(glassy, "best", True)
        self.assertAlmostEqual(pressed.undisturbed(moving, windy), 0.7)
        self.assertEqual(pressed.undisturbed(still, windy), calm.undisturbed(still, windy))

    def test_snags_cost_takes_and_a_fish_that_is_seen_is_worth_more(self) -> None:
        scorer, one = Scorer(SUMMER_DAY, "best", False), self.plan.ranked[0]
        snagged = replace(one.result, weed_s=np.full_like(one.result.weed_s, 0.5 * one.result.duration_s))
        free = scorer.takes_ph(one.option, replace(one.result, weed_s=np.zeros_like(one.result.weed_s)))
        # Half of it on the bottom: 0.7 of that half is lost, and a minute of each cast with it.
        cycle = one.option.cycle_s(one.result)
        self.assertAlmostEqual(scorer.takes_ph(one.option, snagged) / free, 0.65 * cycle / (cycle + 60.0))
        seen = replace(one.option, method=METHODS["sight"])
        self.assertAlmostEqual(scorer.takes_ph(seen, one.result) / one.takes_ph, 1.5)

    def test_a_strong_wind_bows_a_floating_line_that_is_fished_slowly(self) -> None:
        slow = next(one.option for one in self.plan.ranked if one.option.method.key == "nymphs-floating")
        sunk = next(one.option for one in self.plan.ranked if one.option.method.key == "sinker")
        scorer = Scorer(SUMMER_DAY, "best", False)
        self.assertEqual([scorer.undisturbed(slow, Wind(ms, 0.0)) for ms in (3.0, 8.0)], [1.0, 0.5])
        self.assertEqual(scorer.undisturbed(sunk, Wind(8.0, 0.0)), 1.0)

    def test_what_would_change_the_choice_names_another_method(self) -> None:
        for change in self.plan.changes:
            self.assertNotEqual(change.best_key, self.plan.ranked[0].option.method.key)
        alone = choose(SUMMER_DAY, BOX, FREE, pins=Pins(method_key="sinker"))
        self.assertEqual(alone.changes, ())

    def test_a_hook_of_another_size_and_a_dry_fly_under_water_are_worth_less(self) -> None:
        named = {fly.name: fly for fly in STARTER_FLIES}
        pupa, plain = named["Black ribbed pupa"], Setting(3.0, 0.3)
        huge = replace(pupa, fly=replace(pupa.fly, hook_size=2))
        self.assertLess(match(huge, 0.02, SUMMER_DAY.foods, plain), 0.7 * match(pupa, 0.02, SUMMER_DAY.foods, plain))
        sitter = replace(named["Black beetle"], foods=())
        wet = replace(sitter, style="natural")
        self.assertLess(match(sitter, 0.1, SUMMER_DAY.foods, plain), 0.7 * match(wet, 0.1, SUMMER_DAY.foods, plain))

    def test_shifting_the_belief_moves_its_mean(self) -> None:
        belief = SUMMER_DAY.belief
        self.assertGreater(shifted(belief, 1.0).mean_m, belief.mean_m + 0.2)
        self.assertLess(shifted(belief, -1.0).mean_m, belief.mean_m - 0.2)
        self.assertAlmostEqual(float(np.trapezoid(shifted(belief, 1.0).density_pm, belief.depth_m)), 1.0)

    def test_the_second_rod_covers_what_the_first_leaves(self) -> None:
        found = second_rod(self.plan, SUMMER_DAY)
        assert found is not None
        other, one, both = found
        self.assertNotEqual(other.option.method.key, self.plan.ranked[0].option.method.key)
        self.assertTrue(0.0 < one < both <= 1.0)
        self.assertTrue(((coverage(other, SUMMER_DAY.belief) >= 0.0) & (coverage(other, SUMMER_DAY.belief) <= 1.0)).all())

    def test_every_fly_of_a_team_has_a_seat_a_depth_and_a_reason(self) -> None:
        team = next(one for one in self.plan.ranked if len(one.option.flies) == 3)
        found = seats(team, SUMMER_DAY)
        self.assertEqual([seat.place for seat in found], ["point", "middle dropper", "top dropper"])
        self.assertTrue(all(seat.why.text for seat in found))
        said = " ".join(why.plain() for why in warnings(team, 9.0))
        self.assertIn("tangle", said)


class LadderTests(unittest.TestCase):
    def test_one_thing_changes_at_a_time_depth_before_fly_unless_the_school_says_otherwise(self) -> None:
        plan = choose(SUMMER_DAY, SMALL_BOX, FREE)
        plain = [rung.changes for rung in ladder(plan, SUMMER_DAY, SMALL_BOX.flies)]
        self.assertEqual((plain[0], plain[-1]), ("start", "place"))
        self.assertLess(plain.index("depth"), plain.index("fly"))
        fly_first = [rung.changes for rung in ladder(plan, SUMMER_DAY, SMALL_BOX.flies, "fly-first")]
        self.assertLess(fly_first.index("fly"), fly_first.index("depth"))
        self.assertTrue(all(rung.minutes > 0.0 for rung in ladder(plan, SUMMER_DAY, SMALL_BOX.flies)))

    def test_a_float_is_stepped_a_foot_or_two_every_ten_minutes_from_the_bottom_up_or_down(self) -> None:
        # Common practice: steps of 1 to 2 ft, about ten minutes each.
        plan = choose(SUMMER_DAY, BOX, FREE, pins=Pins(method_key="indicator"))
        up = [rung for rung in ladder(plan, SUMMER_DAY, BOX.flies, "bottom-up") if rung.changes == "depth"]
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
            rungs = [r.words.values["set_m"] for r in ladder(plan, deep, BOX.flies, school) if r.changes == "depth"]
            self.assertEqual(len(rungs), 3)
            self.assertEqual(rungs, sorted(rungs, reverse=not down), school)
        tied = {fly.name for fly in plan.ranked[0].option.flies}
        spent = tuple(replace(fly, left=0) for fly in BOX.flies)
        self.assertNotIn("fly", [rung.changes for rung in ladder(plan, deep, spent)])
        self.assertTrue(tied)

    def test_a_seen_fish_is_led_by_what_the_fly_needs_to_sink_to_it(self) -> None:
        still = level_water(10.0, 3.0)
        slow, fast = (
            simulate(Rig(starter_lines()[0], LEADER, (PlacedFly(fly),)), Cast(12.0, 30.0, RETRIEVES["static"]), still)
            for fly in (Fly("light", hook_size=14, wire="fine"), Fly("heavy", hook_size=10, bead_mm=3.3))
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
            said.startswith("They swim upwind, toward SW. Land it ahead of the fish, never over it: 2.5 m for one at 0.3 m"),
            said,
        )
        self.assertNotIn("upwind", how_to_lead(fast, Wind(0.0, 225.0)).plain())

    def test_fish_that_lie_too_deep_are_not_fished_for_by_sight(self) -> None:
        hot = picture(7, 20, 13, tuple(enumerate((22.0, 21.8, 21.5, 21.0, 18.0, 14.5, 12.0, 11.0, 10.0))), bottom_depth_m=9.0, cloud_fraction=0.0, secchi_m=4.5, wind=Wind(3.0, 225.0))  # fmt: skip
        self.assertEqual(feasible_options(hot, BOX, FREE).excluded["sight"], "They are likely too deep to be seen.")


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
                BoxFly(Fly("x", 12), **wrong)  # type: ignore[arg-type]
            self.assertIn(next(iter(wrong)), str(getattr(refused.exception, "field", "")))


def feasible_placed(fly: BoxFly) -> Any:
    from stillthread.tackle.rig import PlacedFly

    return (PlacedFly(fly.fly),)
