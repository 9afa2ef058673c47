"""What light, wind and season make of the fish, and what a fly is worth on each food: hand-worked values."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from datetime import datetime

import numpy as np

from stillthread.depth.belief import chase_m
from stillthread.food.catalogue import FOODS
from stillthread.food.inference import FoodPicture, rank_food
from stillthread.food.substitutes import SUBSTITUTES
from stillthread.judgement import JUDGEMENT
from stillthread.plan.scoring.match import Matcher, pace_share, size_share
from stillthread.plan.scoring.setting import Setting, setting_of
from stillthread.tackle.flybox import BoxFly
from tests.planning import SUMMER_DAY, fly, picture

J = JUDGEMENT
MILD = Setting(3.0, 0.3)


class SettingTests(unittest.TestCase):
    def test_shyness_is_glare_pressure_and_clear_bright_water(self) -> None:
        calm = Setting(3.0, 0.9, wind_mps=0.0)
        self.assertAlmostEqual(calm.shy, J.shy_calm + J.shy_clear * (1.0 / 3.0))
        ruffled = Setting(2.0, 0.9, wind_mps=5.0)
        self.assertEqual((ruffled.calm, ruffled.clear, ruffled.shy), (0.0, 0.0, 0.0))
        self.assertAlmostEqual(replace(ruffled, pressed=True).shy, J.shy_pressed)
        self.assertAlmostEqual(Setting(5.0, 0.25, wind_mps=4.0).shy, J.shy_clear * 0.5 * 1.0 * 0.5)
        self.assertEqual(Setting(6.0, 1.0, wind_mps=0.0, pressed=True).shy, 1.0)

    def test_cold_runs_from_where_they_stop_chasing_to_four_degrees(self) -> None:
        middle = 0.5 * (J.cold_from_c + 4.0)
        self.assertEqual([Setting(3.0, 0.3, water_c=c).cold for c in (J.cold_from_c, middle, 4.0, 1.0)], [0.0, 0.5, 1.0, 1.0])

    def test_the_months_are_those_of_the_northern_year(self) -> None:
        self.assertEqual([m for m in range(1, 13) if Setting(3.0, 0.3, month=m).warm_months], [5, 6, 7, 8, 9])
        self.assertEqual([m for m in range(1, 13) if Setting(3.0, 0.3, month=m).stout_months], [1, 2, 3, 4, 11, 12])

    def test_small_lures_are_for_shallow_water_and_shy_fish(self) -> None:
        self.assertEqual(Setting(3.0, 0.3, fish_m=3.0).lure_hooks, (6, 10))
        self.assertEqual(Setting(3.0, 0.3, fish_m=1.0).lure_hooks, (10, 14))
        self.assertEqual(Setting(3.0, 0.9, wind_mps=0.0, fish_m=3.0).lure_hooks, (10, 14))

    def test_what_was_seen_pins_them_down(self) -> None:
        def unpinned(*signs: str) -> float:
            return setting_of(picture(6, 10, 11, ((0, 15.0),), signs=signs)).unpinned

        self.assertEqual([unpinned(), unpinned("nothing"), unpinned("shucks")], [1.0, 0.5, 0.0])
        rising = setting_of(picture(6, 10, 11, ((0, 15.0),), signs=("sips", "fry-seen")))
        self.assertTrue(rising.rises)
        self.assertTrue(rising.fry_seen)
        plain = setting_of(SUMMER_DAY, pressed=True)
        self.assertEqual((plain.rises, plain.fry_seen, plain.pressed, plain.month), (False, False, True, 6))


class FlyTests(unittest.TestCase):
    def on(self, one: BoxFly, key: str, speed: float, setting: Setting = MILD) -> tuple[float, float]:
        """Return what a fly is worth on a food alone, and how far they move for it."""
        told = rank_food(latitude_deg=54.0, on=datetime(2026, 8, 15).date(), hour=11.0, water_c=15.0, wind_speed_mps=3.0, brightness=0.3)  # fmt: skip
        alone = FoodPicture(tuple(replace(c, probability=1.0) for c in told.chances if c.food.key == key), None)
        matcher = Matcher(alone, setting)
        answer = matcher.answer(one, speed)
        return float(answer.weight[0]), matcher.reaches_m[int(answer.reach_index[0])]

    def test_what_it_was_tied_for_is_worth_one_and_two_foods_share(self) -> None:
        self.assertEqual(self.on(fly("Black ribbed pupa"), "midge-pupa", 0.02), (1.0, 0.25))
        two = fly("Soft-hackled black wet")
        self.assertAlmostEqual(self.on(two, "midge-pupa", 0.02)[0], 2.0**-J.shared_power)
        # Another colour than they are on: claret for black, brown or grey.
        self.assertAlmostEqual(self.on(fly("Palmered wet, claret"), "midge-film", 0.01)[0], 0.85 * 2.0**-J.shared_power)

    def test_kin_pass_for_each_other_in_part(self) -> None:
        share = SUBSTITUTES[("damsel-nymph", "dragon-nymph")]
        slim = fly("Slim olive nymph")
        found, reach = self.on(slim, "dragon-nymph", 0.1)
        # Hook 12 where 6 to 10 is theirs, and olive is one of their colours.
        self.assertAlmostEqual(found, share * size_share(12, FOODS["dragon-nymph"].hooks))
        self.assertEqual(reach, chase_m(3.0))

    def test_what_does_not_imitate_attracts_searches_or_is_out_of_place(self) -> None:
        orange, black = fly("Bright orange attractor"), fly("Tungsten-headed black nymph")
        warm, cold = (replace(MILD, month=month) for month in (7, 3))
        self.assertEqual(self.on(orange, "shrimp", J.attract_mps, warm), (J.attracts_warm, chase_m(3.0)))
        self.assertAlmostEqual(self.on(orange, "shrimp", J.attract_mps, cold)[0], J.attracts_cold)
        self.assertEqual(self.on(black, "shrimp", 0.1), (J.searches, 0.4))
        self.assertAlmostEqual(self.on(fly("Black ribbed pupa"), "shrimp", 0.1)[0], 0.8 * J.searches)
        self.assertEqual(self.on(fly("Black beetle"), "shrimp", 0.1)[0], J.out_of_film)
        # A pace e^width from its own is worth three fifths.
        slow = J.attract_mps * math.exp(-J.pace_width)
        self.assertAlmostEqual(self.on(orange, "shrimp", slow, warm)[0], J.attracts_warm * math.exp(-0.5))

    def test_of_nothing_in_particular_an_attractor_is_most(self) -> None:
        orange, bare, pupa, dry = (fly(n) for n in ("Bright orange attractor", "Tungsten-headed black nymph", "Black ribbed pupa", "Black beetle"))  # fmt: skip
        found = [self.on(one, "attractor", J.attract_mps)[0] for one in (orange, bare, pupa, dry)]
        self.assertEqual(found, [0.9, 0.45, 0.30, 0.15])

    def test_a_hanging_fly_of_a_swimming_food_is_worth_something_more_to_shy_fish(self) -> None:
        damsel = fly("Slim olive nymph")
        plain, pressed = self.on(damsel, "damsel-nymph", 0.005)[0], self.on(damsel, "damsel-nymph", 0.005, replace(MILD, pressed=True))[0]  # fmt: skip
        self.assertAlmostEqual(plain, J.still_least + J.still_shy * MILD.shy)
        self.assertAlmostEqual(pressed, J.still_least + J.still_shy * replace(MILD, pressed=True).shy + J.still_pressed)

    def test_coloured_water_wants_black_or_a_hot_spot_and_clear_water_neither(self) -> None:
        murky, clear = Setting(0.8, 0.3), Setting(6.0, 0.8, wind_mps=5.0)
        black, olive = (replace(fly("Black ribbed pupa"), colour=c, fly=replace(fly("Black ribbed pupa").fly, hook_size=10)) for c in ("black", "olive"))  # fmt: skip
        self.assertAlmostEqual(
            self.on(olive, "midge-pupa", 0.02, murky)[0] / self.on(black, "midge-pupa", 0.02, murky)[0], 0.75
        )
        sizes = [
            self.on(replace(black, fly=replace(black.fly, hook_size=n)), "midge-pupa", 0.02, murky)[0] for n in (10, 12, 14)
        ]
        self.assertTrue(np.allclose(sizes, [0.8, 0.8 * 0.75, 0.8 * 0.6]))  # slim: hardly a silhouette
        bulky = replace(black, fly=replace(black.fly, dressing="medium"))
        self.assertAlmostEqual(self.on(bulky, "midge-pupa", 0.02, murky)[0], 1.0)
        red, brown = (replace(fly("Red bottom larva"), colour=c) for c in ("red", "maroon"))
        self.assertAlmostEqual(
            self.on(red, "midge-larva", 0.005, clear)[0] / self.on(brown, "midge-larva", 0.005, clear)[0], 0.85
        )

    def test_pace_and_size_are_bells_outside_their_range(self) -> None:
        self.assertAlmostEqual(pace_share((0.1, 0.3), 0.3 * math.e), math.exp(-0.5 / J.pace_width**2))
        self.assertAlmostEqual(pace_share((0.1, 0.3), 0.1 / math.e), math.exp(-0.5 / J.pace_width**2))
        self.assertEqual([size_share(n, (10, 14)) for n in (10, 12, 14)], [1.0, 1.0, 1.0])
        self.assertAlmostEqual(size_share(20, (10, 14)), math.exp(-1.0))

    def test_kin_speak_of_foods_that_exist(self) -> None:
        for (own, eaten), share in SUBSTITUTES.items():
            self.assertTrue({own, eaten} <= set(FOODS) and own != eaten and 0.0 < share <= 0.5, (own, eaten))
