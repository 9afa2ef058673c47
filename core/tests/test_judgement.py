"""The judgement piece by piece, each formula against a hand-worked value or an outside source."""

from __future__ import annotations

import math
import unittest
from dataclasses import fields, replace
from datetime import datetime
from pathlib import Path

import numpy as np

from stillthread.depth.activity import LEAST_ACTIVITY, activity_share
from stillthread.depth.belief import chase_m, form_belief, roaming, window
from stillthread.depth.factors import Factor, below_sharp_thermocline, temperature_factor
from stillthread.depth.picture import read_water
from stillthread.depth.seen import nothing_factor, seen_layer
from stillthread.food.catalogue import FOODS
from stillthread.food.inference import FoodPicture, rank_food
from stillthread.food.kin import KIN
from stillthread.food.layers import Column, layer_density
from stillthread.food.signs import SIGNS
from stillthread.judgement import JUDGEMENT, Judgement, numbers
from stillthread.phrase import Phrase
from stillthread.plan.actions import Exposure, Hang
from stillthread.plan.explain import weak_point
from stillthread.plan.match import Matcher, pace_share, size_share
from stillthread.plan.methods import METHODS
from stillthread.plan.option import Option
from stillthread.plan.setting import Setting, setting_of
from stillthread.sinking.cast import Cast
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.sinking.troll import Troll
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.lines import line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.water.comfort import SPECIES
from stillthread.water.profile import build_profile
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake
from stillthread.water.stratification import find_layers
from stillthread.weather.wind import Wind
from tests.planning import SUMMER_DAY, fly, picture, scorer_for
from tests.rigs import LEADER, SUMMER_TIME, conditions

J = JUDGEMENT
DOCS = Path(__file__).resolve().parents[2] / "docs" / "judgement.md"
MILD = Setting(3.0, 0.3)


class NumberTests(unittest.TestCase):
    def test_every_number_lies_within_its_bounds_and_the_docs_say_the_same(self) -> None:
        said = DOCS.read_text()
        for name, value, about in numbers():
            low, high = about["bounds"]
            self.assertTrue(low <= value <= high, name)
            self.assertTrue(f"| `{name}` | {value:g} | {about['unit']} | {low:g} to {high:g} |" in said, name)
            self.assertIn(about["source"], {"ours", "common-practice"})
        self.assertEqual(len(numbers()), len(fields(Judgement)))


class ActivityTests(unittest.TestCase):
    def test_the_rise_is_that_of_published_growth(self) -> None:
        # elliott-1995, brown trout of 50 g: 0.840 % a day at 13.11 C, 0.391 % at 8 C. Printed to three digits.
        share = activity_share(SPECIES["brown"], [8.0, 13.11])
        self.assertAlmostEqual(float(share[0] / share[1]), 0.391 / 0.840, delta=0.001)

    def test_it_is_best_between_the_two_published_optima_and_ends_under_what_kills(self) -> None:
        # elliott-1995: 13.1 C; hokanson-1977: 17.2 C.
        rainbow = SPECIES["rainbow"]
        self.assertTrue((activity_share(rainbow, [13.2, 15.0, 17.2]) == 1.0).all())
        self.assertEqual(float(activity_share(rainbow, 23.0)), LEAST_ACTIVITY)
        self.assertAlmostEqual(float(activity_share(rainbow, 20.1)), 0.5, delta=0.01)  # half-way from 17.2 to 23

    def test_the_steps_of_practice_hold(self) -> None:
        # Common practice: hardly under 4 C, half-hearted to 7, best 13 to 17, falling from 18, next to nothing above 22.
        share = activity_share(SPECIES["rainbow"], [3.9, 6.0, 15.0, 18.5, 22.1])
        self.assertLess(share[0], 0.06)
        self.assertTrue(0.15 < share[1] < 0.4)
        self.assertEqual(share[2], 1.0)
        self.assertTrue(0.7 < share[3] < 0.9)
        self.assertLess(share[4], 0.17)

    def test_other_species_keep_their_distance_from_their_own_range(self) -> None:
        # By hand: char are best from 10 C, two degrees under rainbows, so they feed in full two degrees sooner.
        char, rainbow = SPECIES["char"], SPECIES["rainbow"]
        self.assertAlmostEqual(float(activity_share(char, 11.11)), 1.0)
        self.assertLess(float(activity_share(rainbow, 11.11)), 0.8)

    def test_where_they_are_and_how_much_they_feed_are_two_things(self) -> None:
        two, fourteen = (read_water(conditions(readings=(Reading(0.0, c),), at=datetime(2026, 4, 20, 11, tzinfo=SUMMER_TIME)))
                         for c in (2.0, 14.0))  # fmt: skip
        self.assertLess(two.feeding_activity, 0.1)
        self.assertGreater(fourteen.feeding_activity, 0.9)
        self.assertIn("hardly feed", two.activity_why.plain())
        self.assertIn("feed freely", fourteen.activity_why.plain())
        cold = [f.why.text for f in two.belief.factors if f.key == "temperature"]
        cool = [f.why.text for f in read_water(conditions(readings=(Reading(0.0, 11.5),), at=datetime(2026, 4, 20, 11, tzinfo=SUMMER_TIME))).belief.factors if f.key == "temperature"]  # fmt: skip
        self.assertIn("feed little", cold[0])
        self.assertNotIn("feed little", cool[0])


class SeenTests(unittest.TestCase):
    DEPTH = np.arange(0.0, 5.01, 0.1)

    def test_doubts_multiply_and_layers_are_averaged_by_their_weights(self) -> None:
        sips, swirls = SIGNS["sips"], SIGNS["swirls"]
        assert sips.tells is not None
        assert swirls.tells is not None
        weight, layer = seen_layer(self.DEPTH, (sips, swirls))
        self.assertAlmostEqual(weight, 1.0 - (1.0 - sips.tells.weight) * (1.0 - swirls.tells.weight))
        self.assertAlmostEqual(float(layer.sum()), 1.0)
        # By hand: swirls lie about 0.7 of 5 m, sips at the top.
        top, deep = float(layer[self.DEPTH < 1.0].sum()), float(layer[self.DEPTH > 2.0].sum())
        self.assertAlmostEqual(top / deep, sips.tells.weight / swirls.tells.weight, delta=0.02)
        self.assertAlmostEqual(float(layer[self.DEPTH > 2.0] @ self.DEPTH[self.DEPTH > 2.0]) / deep, 3.5, delta=0.05)

    def test_a_sign_that_tells_nothing_of_depth_leaves_the_belief_alone(self) -> None:
        weight, layer = seen_layer(self.DEPTH, (SIGNS["shucks"],))
        self.assertEqual((weight, float(layer.sum())), (0.0, 0.0))

    def test_nothing_shows_empties_the_top(self) -> None:
        share = nothing_factor(self.DEPTH).share
        self.assertAlmostEqual(float(share[0]), 1.0 - J.nothing_tells)
        at = 1.0 - J.nothing_tells * math.exp(-((0.5 / J.nothing_top_m) ** 2))
        self.assertAlmostEqual(float(share[5]), at)
        self.assertGreater(float(share[-1]), 0.99)

    def test_rises_at_noon_outweigh_the_light_and_every_rise_is_a_rise(self) -> None:
        noon = {"at": datetime(2026, 7, 10, 13, tzinfo=SUMMER_TIME), "cloud_fraction": 0.0, "readings": (Reading(0.0, 16.0),)}
        plain = read_water(conditions(**noon)).belief
        for key in ("head-and-tail", "sips", "splashes"):
            seen = read_water(conditions(**noon, signs=(key,))).belief
            top = float(seen.mass()[seen.depth_m <= 0.6].sum())
            self.assertGreater(top, 0.5, key)
            self.assertLess(float(plain.mass()[plain.depth_m <= 0.6].sum()), 0.2)
            self.assertTrue(SIGNS[key].rise)
        self.assertEqual({key for key, sign in SIGNS.items() if sign.rise}, {"head-and-tail", "sips", "splashes"})


class BeliefTests(unittest.TestCase):
    DEPTH = np.arange(0.0, 4.01, 0.1)

    def column(self, **changes: object) -> Column:
        usual: dict[str, object] = {"depth_m": self.DEPTH, "light": np.full(len(self.DEPTH), 0.2), "brightness": 0.3, "bottom_m": 4.0, "far_m": 4.0}  # fmt: skip
        return Column(**{**usual, **changes})  # type: ignore[arg-type]

    def foods(self) -> FoodPicture:
        told = rank_food(latitude_deg=54.0, on=datetime(2026, 6, 15).date(), hour=11.0, water_c=15.0, wind_speed_ms=3.0, brightness=0.3)  # fmt: skip
        kept = tuple(replace(c, probability=0.5) for c in told.chances if c.food.key in {"midge-film", "shrimp"})
        return FoodPicture(kept, None)

    def test_it_is_the_mixture_of_the_formula(self) -> None:
        lets = np.linspace(0.2, 1.0, len(self.DEPTH))
        belief, foods = form_belief(self.column(), [Factor("light", "Light", lets, Phrase("x."))], self.foods())
        width = np.gradient(self.DEPTH)
        roams = J.roam_unseen
        about = {c.food.key: roams * width / width.sum() + (1.0 - roams) * layer_density(c, self.column()) for c in self.foods().chances}  # fmt: skip
        fits = {key: float((lets * share).sum()) for key, share in about.items()}
        # Shrimps in weed: over 4 m with a Secchi depth of 3 m the bottom holds 1.2 - 4 / 7.5 = 0.67 of them.
        weight = {"midge-film": fits["midge-film"] ** J.fit_power, "shrimp": (1.2 - 4.0 / 7.5) * fits["shrimp"] ** J.fit_power}
        for key in weight:
            self.assertAlmostEqual(foods.probability(key), weight[key] / sum(weight.values()), places=9)
        by_hand = sum(foods.probability(key) * lets * about[key] / fits[key] for key in weight) / width
        by_hand /= float(np.trapezoid(by_hand, self.DEPTH))
        self.assertLess(float(np.abs(belief.density_pm - by_hand).max()), 1e-9)
        for on in belief.feeding:
            self.assertAlmostEqual(float((on.density_pm * width).sum()), 1.0)

    def test_how_many_roam_follows_what_is_known(self) -> None:
        column = self.column()
        self.assertEqual(roaming(column, (), J), J.roam_unseen)
        self.assertEqual(roaming(column, (SIGNS["shucks"],), J), J.roam_signs)
        self.assertEqual(roaming(column, (SIGNS["shucks"], SIGNS["sips"]), J), J.roam_surface)
        self.assertEqual(roaming(self.column(sampled=frozenset({"shrimp"})), (), J), J.roam_surface)
        self.assertEqual(roaming(self.column(bottom_m=J.shallow_m - 0.1, far_m=J.shallow_m - 0.1), (), J), J.roam_shallow)

    def test_the_window_is_a_bell_above_the_fish_and_hardly_anything_below(self) -> None:
        seen = window(np.array([2.0]), np.array([1.5, 2.0, 2.15, 3.0]), 0.5, 0.15)
        self.assertTrue(np.allclose(seen, [math.exp(-1.0), 1.0, math.exp(-1.0), math.exp(-((1.0 / 0.15) ** 2))]))

    def test_how_far_they_chase_follows_the_clarity_within_bounds(self) -> None:
        self.assertAlmostEqual(chase_m(2.0), J.chase_secchi * 2.0)
        self.assertEqual([chase_m(secchi) for secchi in (0.2, 20.0)], [J.chase_least_m, J.chase_most_m])

    def test_warm_water_is_left_for_cooler_where_there_is_some(self) -> None:
        def share(*readings: tuple[float, float]) -> float:
            profile = build_profile([Reading(*r) for r in readings], 4.0, Lake(54.0, 100.0, 1.0), datetime(2026, 7, 1).date())
            factor = temperature_factor(replace(profile, spread_c=np.zeros_like(profile.water_c)), SPECIES["rainbow"])
            return float(factor.share[0] / factor.share[-1])

        scale = J.warm_scale_c
        self.assertAlmostEqual(
            share((0, 18.0), (2, 16.0), (4, 14.0)), math.exp(-(((18.0 - J.warm_from_c) / scale) ** 2)), delta=1e-6
        )
        self.assertAlmostEqual(share((0, 17.5), (2, 17.5), (4, 17.5)), 1.0)  # warm all through: nowhere to go

    def test_a_thermocline_bars_what_lies_under_it_as_far_as_it_is_sharp(self) -> None:
        def least(step_c: float, top_c: float = 20.0) -> float:
            readings = [
                Reading(float(d), top_c if d <= 4 else top_c - step_c if d == 5 else top_c - step_c - 0.2 * (d - 5))
                for d in range(10)
            ]
            profile = build_profile(readings, 9.0, Lake(54.0, 100.0, 1.0), datetime(2026, 7, 1).date())
            found = below_sharp_thermocline(profile, find_layers(profile.depth_m[::2], profile.water_c[::2]))
            self.assertEqual(float(found[0]), 1.0)
            return float(found.min())

        self.assertEqual(least(0.7), 1.0)
        self.assertAlmostEqual(least(6.0), 0.05)
        self.assertTrue(0.05 < least(1.6) < 1.0)
        self.assertEqual(least(6.0, 15.0), 1.0)  # under cool water nothing is barred


class SettingTests(unittest.TestCase):
    def test_shyness_is_glare_pressure_and_clear_bright_water(self) -> None:
        calm = Setting(3.0, 0.9, wind_ms=0.0)
        self.assertAlmostEqual(calm.shy, J.shy_calm + J.shy_clear * (1.0 / 3.0))
        ruffled = Setting(2.0, 0.9, wind_ms=5.0)
        self.assertEqual((ruffled.calm, ruffled.clear, ruffled.shy), (0.0, 0.0, 0.0))
        self.assertAlmostEqual(replace(ruffled, pressed=True).shy, J.shy_pressed)
        self.assertAlmostEqual(Setting(5.0, 0.25, wind_ms=4.0).shy, J.shy_clear * 0.5 * 1.0 * 0.5)
        self.assertEqual(Setting(6.0, 1.0, wind_ms=0.0, pressed=True).shy, 1.0)

    def test_cold_runs_from_where_they_stop_chasing_to_four_degrees(self) -> None:
        middle = 0.5 * (J.cold_from_c + 4.0)
        self.assertEqual([Setting(3.0, 0.3, water_c=c).cold for c in (J.cold_from_c, middle, 4.0, 1.0)], [0.0, 0.5, 1.0, 1.0])

    def test_the_months_are_those_of_the_northern_year(self) -> None:
        self.assertEqual([m for m in range(1, 13) if Setting(3.0, 0.3, month=m).warm_months], [5, 6, 7, 8, 9])
        self.assertEqual([m for m in range(1, 13) if Setting(3.0, 0.3, month=m).stout_months], [1, 2, 3, 4, 11, 12])

    def test_small_lures_are_for_shallow_water_and_shy_fish(self) -> None:
        self.assertEqual(Setting(3.0, 0.3, fish_m=3.0).lure_hooks, (6, 10))
        self.assertEqual(Setting(3.0, 0.3, fish_m=1.0).lure_hooks, (10, 14))
        self.assertEqual(Setting(3.0, 0.9, wind_ms=0.0, fish_m=3.0).lure_hooks, (10, 14))

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
        told = rank_food(latitude_deg=54.0, on=datetime(2026, 8, 15).date(), hour=11.0, water_c=15.0, wind_speed_ms=3.0, brightness=0.3)  # fmt: skip
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
        share = KIN[("damsel-nymph", "dragon-nymph")]
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
        murky, clear = Setting(0.8, 0.3), Setting(6.0, 0.8, wind_ms=5.0)
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
        for (own, eaten), share in KIN.items():
            self.assertTrue({own, eaten} <= set(FOODS) and own != eaten and 0.0 < share <= 0.5, (own, eaten))


def exposure(*layer_s: object, duration_s: float = 100.0, weed_s: float = 0.0) -> Exposure:
    layers = np.array(layer_s, dtype=np.float64)
    return Exposure(layers, np.tile([1.0, 1.4], (len(layers), 1)), duration_s, weed_s)


SLOW, BRISK, STILL = (Cast(18.0, 10.0, RETRIEVES[key]) for key in ("slow-twist", "two-handed", "static"))
SUNK_LINE, FLOATER = line_of_class("type-5"), line_of_class("floating")


class ScorerTests(unittest.TestCase):
    def test_a_team_is_the_best_of_its_flies_and_a_little_of_the_others(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        q = scorer.ground().q
        first, second = np.zeros_like(q), np.zeros_like(q)
        first[:, 0], second[:, 0], second[:, 1] = 0.6, 0.2, 0.5
        seen = np.zeros((2, len(scorer.matcher.reaches_m), q.shape[1]))
        pupae = (fly("Black ribbed pupa"), fly("Olive ribbed pupa"))
        by_hand = float((q[:, 0] * (0.6 + J.second_fly * 0.2) + q[:, 1] * 0.5).sum())
        self.assertAlmostEqual(scorer.union(np.stack([first, second]), seen, pupae), by_hand)

    def test_a_natural_below_an_attractor_that_is_in_sight_gains(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        q = scorer.ground().q
        offered = np.stack([np.full_like(q, 0.5), np.zeros_like(q)])
        seen = np.ones((2, len(scorer.matcher.reaches_m), q.shape[1]))
        natural, bright = fly("Black ribbed pupa"), fly("Bright orange attractor")
        plain = 0.5 * float(q.sum())
        self.assertAlmostEqual(scorer.union(offered, seen, (natural, bright)), (1.0 + J.hands_on) * plain)
        self.assertAlmostEqual(scorer.union(offered, seen, (natural, fly("Olive ribbed pupa"))), plain)
        self.assertAlmostEqual(scorer.union(offered[::-1], seen, (bright, natural)), plain)  # the natural is above it
        seen[1] = 0.0
        self.assertAlmostEqual(scorer.union(offered, seen, (natural, bright)), plain)

    def test_the_ground_holds_every_food_with_its_chance_and_how_much_they_feed(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        ground, belief = scorer.ground(), SUMMER_DAY.belief
        width = np.gradient(belief.depth_m)
        for row, chance in zip(ground.q, scorer.matcher.chances, strict=True):
            density = next(on.density_pm for on in belief.feeding if on.chance.food.key == chance.food.key)
            by_hand = chance.probability * float((density * width * SUMMER_DAY.activity).sum())
            self.assertAlmostEqual(float(row.sum()), by_hand)
        self.assertTrue(((ground.takes >= 0.0) & (ground.takes <= 1.0)).all())

    def test_fish_do_not_come_up_into_light(self) -> None:
        glare = picture(7, 10, 13, ((0, 14.0),), cloud_fraction=0.0, bottom_depth_m=4.0, secchi_m=5.0, wind=Wind(5.0, 0.0))
        scorer = scorer_for(glare)
        ground, chase = scorer.ground(), len(scorer.matcher.reaches_m) - 1
        takes = ground.takes.reshape(len(scorer.layers), chase + 1, -1)[:, chase]
        j = int(np.argmin(np.abs(ground.fish_m - 1.5)))
        fish_m, fly_m = float(ground.fish_m[j]), float(scorer.layers[8])
        lets = np.ones_like(glare.belief.depth_m)
        for factor in glare.belief.factors:
            if factor.key in {"light", "temperature"}:
                lets = lets * factor.share
        at_fly, at_fish = (float(np.interp(m, glare.belief.depth_m, lets)) for m in (fly_m, fish_m))
        self.assertLess(at_fly, at_fish)
        reach = scorer.matcher.reaches_m[chase]
        by_hand = math.exp(-(((fish_m - fly_m) / reach) ** 2)) * (at_fly / at_fish) ** J.rise_power
        self.assertAlmostEqual(float(takes[8, j]), by_hand)
        # Down into the dark they go as they are.
        below = int(np.argmin(np.abs(scorer.layers - fish_m - 0.1)))
        self.assertAlmostEqual(float(takes[below, j]), math.exp(-(((float(scorer.layers[below]) - fish_m) / J.below_m) ** 2)))

    def test_deeper_fish_are_met_by_deeper_flies(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        n = len(scorer.layers)
        rig = Rig(SUNK_LINE, LEADER, (PlacedFly(fly("Long marabou nymph").fly),))
        option = Option(METHODS["sinker"], rig, (fly("Long marabou nymph"),), SLOW)
        shallow, deep = np.zeros(n), np.zeros(n)
        shallow[5], deep[45] = 100.0, 100.0
        at = [[scorer.takes_ph(option, exposure(layers), shift) for shift in (-1.0, 0.0, 1.0)] for layers in (shallow, deep)]
        self.assertGreater(at[0][0], at[0][2])
        self.assertGreater(at[1][2], at[1][0])

    def test_the_top_costs_a_wet_fly_and_an_uneven_bottom_a_moved_one_that_sinks(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        n = len(scorer.layers)
        top, low = np.zeros(n), np.zeros(n)
        top[0], low[48] = 100.0, 100.0
        wet, dry, foam = fly("Black ribbed pupa"), fly("Black beetle"), fly("Deer-hair dragon nymph")

        def seen(layers: object, one: BoxFly, action: Cast = SLOW) -> float:
            return float(scorer.seen(exposure(layers), (one,), action).sum())

        self.assertAlmostEqual(seen(top, wet) / seen(top, dry), 1.0 - J.skin_cost)
        above = 5.0 - 4.85
        lost = 1.0 - J.uneven_cost * math.exp(-((above / J.uneven_m) ** 2))
        self.assertAlmostEqual(seen(low, wet) / seen(low, foam), lost)
        self.assertAlmostEqual(seen(low, wet, STILL), seen(low, foam, STILL))

    def test_flies_and_lures_cost_more_before_shy_fish(self) -> None:
        plain = scorer_for(SUMMER_DAY)
        shy = plain.setting.shy
        each = J.fly_cost + J.fly_cost_shy * shy
        self.assertAlmostEqual(plain.of_numbers(3, 0), (1.0 - each) ** 2)
        self.assertAlmostEqual(plain.of_numbers(1, 2), (1.0 - J.lure_shy_cost * shy) ** 2)
        self.assertAlmostEqual(
            plain.of_team((fly("Black ribbed pupa"), fly("White streamer"))), (1.0 - each) * (1.0 - J.lure_shy_cost * shy)
        )
        windy = scorer_for(picture(6, 25, 12, ((0, 15.0),), bottom_depth_m=5.0, wind=Wind(8.0, 0.0)))
        self.assertAlmostEqual(windy.of_numbers(2, 0), 1.0 - J.fly_cost - J.fly_cost_shy * windy.setting.shy - J.fly_cost_windy)

    def test_snags_cost_takes_and_time(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        self.assertEqual(scorer.of_snags(SLOW, exposure([0.0])), 1.0)
        # Half of a cast on the bottom: half of contact_cost is lost, and two quarters of a cast cost snag_min each.
        left = (1.0 - 0.5 * J.contact_cost) * 115.0 / (115.0 + 2.0 * 60.0 * J.snag_min)
        self.assertAlmostEqual(scorer.of_snags(SLOW, exposure([0.0], weed_s=50.0)), left)

    def test_glare_pressure_and_cold_cost_what_moves_by_how_briskly_it_does(self) -> None:
        glassy = picture(6, 10, 13, ((0, 16.0),), bottom_depth_m=4.0, cloud_fraction=0.0, secchi_m=4.0, wind=Wind(0.0, 0.0))
        scorer = scorer_for(glassy)
        self.assertEqual(glassy.conditions.wind.speed_ms, 0.0)
        bright = scorer.setting.bright
        self.assertAlmostEqual(scorer.undisturbed(SUNK_LINE, BRISK), 1.0 - J.glare_cost * bright)
        self.assertAlmostEqual(scorer.undisturbed(SUNK_LINE, SLOW, depth_m=J.glare_m), 1.0 - J.glare_cost * bright / math.e)
        self.assertAlmostEqual(scorer.undisturbed(SUNK_LINE, STILL), 1.0 - J.glare_cost * bright * 0.1)
        self.assertEqual(scorer.undisturbed(SUNK_LINE, BRISK, 5.0), 1.0)
        pressed = scorer_for(glassy, pressed=True)
        self.assertAlmostEqual(pressed.undisturbed(SUNK_LINE, BRISK, 5.0), 1.0 - J.pressed_cost)
        self.assertAlmostEqual(pressed.undisturbed(SUNK_LINE, SLOW, 5.0), 1.0 - J.pressed_cost * (0.05 / J.brisk_mps + 0.5))
        self.assertEqual(pressed.undisturbed(SUNK_LINE, STILL, 5.0), 1.0)
        cold = scorer_for(picture(3, 10, 12, ((0, 4.0),), bottom_depth_m=4.0, wind=Wind(3.0, 0.0)))
        self.assertAlmostEqual(cold.undisturbed(SUNK_LINE, BRISK), 1.0 - J.cold_cost * cold.setting.cold)

    def test_wind_bows_a_slow_floater_or_tip_drags_a_float_and_ends_casting(self) -> None:
        scorer = scorer_for(SUMMER_DAY)
        tip = line_of_class("midge-tip")
        for line in (FLOATER, tip):
            self.assertEqual(scorer.undisturbed(line, SLOW, J.bow_from_ms), 1.0)
            self.assertAlmostEqual(scorer.undisturbed(line, SLOW, J.bow_from_ms + 2.5), 1.0 - 0.5 * J.bow_cost)
            self.assertAlmostEqual(scorer.undisturbed(line, SLOW, J.bow_from_ms + 5.5), 1.0 - J.bow_cost)
            self.assertEqual(scorer.undisturbed(line, BRISK, 8.0), 1.0)
        self.assertEqual(scorer.undisturbed(SUNK_LINE, SLOW, 8.0), 1.0)
        float_at = Hang(2.0, "fixed", 120.0, 4.0)
        self.assertAlmostEqual(scorer.undisturbed(FLOATER, float_at, J.float_wind_ms + 2.0), 1.0 - 2.0 * J.float_wind_cost)
        deep = replace(float_at, set_depth_m=J.float_deep_m + 1.0)
        self.assertAlmostEqual(scorer.undisturbed(FLOATER, deep, 3.0), 1.0 - J.float_deep_cost)
        self.assertAlmostEqual(scorer.undisturbed(SUNK_LINE, SLOW, J.gale_from_ms + 2.0), 1.0 - 2.0 * J.gale_cost)

    def test_what_moves_passes_more_fish_until_something_pins_them_down(self) -> None:
        def gain(*signs: str) -> float:
            water = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), bottom_depth_m=5.0, signs=signs)
            scorer = scorer_for(water)
            moved, towed = (
                scorer.costs(METHODS["tow"], SUNK_LINE, (), action, exposure([0.0])) for action in (SLOW, Troll(18.0, 0.3))
            )
            self.assertAlmostEqual(moved, towed)
            still = scorer.costs(METHODS["tow"], SUNK_LINE, (), STILL, exposure([0.0]))
            return (moved / still - 1.0) / water.feeding_activity

        self.assertAlmostEqual(gain(), J.passes_more, delta=0.01)
        self.assertAlmostEqual(gain("nothing"), 0.5 * J.passes_more, delta=0.01)
        self.assertAlmostEqual(gain("shucks"), 0.0, delta=0.01)
        scorer = scorer_for(SUMMER_DAY)
        self.assertAlmostEqual(
            scorer.costs(METHODS["tow"], SUNK_LINE, (), STILL, exposure([0.0])),
            J.takes_ph * scorer.undisturbed(SUNK_LINE, STILL),
        )


class OwnTests(unittest.TestCase):
    """What each method has of its own."""

    def own(self, key: str, middle_m: object = ((1.0, 1.2),), **changes: object) -> float:
        water = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), **{"bottom_depth_m": 5.0, **changes})  # type: ignore[arg-type]
        middles = np.array(middle_m, dtype=np.float64)
        run = Exposure(np.zeros((len(middles), 50)), middles, 100.0, 0.0)
        return METHODS[key].suits_now(scorer_for(water).given, run, len(middles))

    def test_a_rise_is_cast_to_and_without_one_few_look_up(self) -> None:
        self.assertEqual([self.own("dry", signs=signs) for signs in (("sips",), ("shucks",))], [J.shown_to, J.not_shown])
        self.assertEqual([self.own("fry", signs=signs) for signs in (("fry-seen",), ())], [J.fry_seen, 1.0])

    def test_a_washing_line_holds_one_layer_or_is_not_one(self) -> None:
        self.assertEqual(self.own("washing-line", ((0.5, 0.7), (0.6, 0.9))), 1.0)
        self.assertEqual(self.own("washing-line", ((0.1, 0.3), (1.1, 1.3))), 0.0)
        half = 0.5 * (J.layer_hold_m + 0.9)
        self.assertAlmostEqual(self.own("washing-line", ((0.5, 0.7), (0.5 + half, 0.7 + half))), 0.7)
        self.assertAlmostEqual(self.own("washing-line", ((0.2, 1.6), (0.2, 1.6))), 1.0 - 0.4 * 0.5)

    def test_below_the_top_two_metres_a_take_on_a_floater_is_hardly_felt(self) -> None:
        self.assertEqual(self.own("nymphs-floating", ((2.0, 2.2),)), 1.0)
        self.assertAlmostEqual(self.own("nymphs-floating", ((3.1, 3.3),)), 0.75)
        self.assertEqual(self.own("nymphs-floating", ((8.0, 8.2),)), 0.2)

    def test_a_drift_wants_a_ripple_and_fish_that_nothing_pins_down(self) -> None:
        self.assertAlmostEqual(self.own("drift-boat", wind=Wind(6.0, 0.0)), 0.7 + J.drift_meets)
        self.assertAlmostEqual(self.own("drift-boat", wind=Wind(3.25, 0.0)), 0.7 + 0.5 * J.drift_meets)
        self.assertAlmostEqual(self.own("drift-boat", wind=Wind(6.0, 0.0), signs=("shucks",)), 0.6)

    def test_sight_wants_sun_clarity_and_waves(self) -> None:
        def own(**changes: object) -> float:
            return self.own("sight", **{"cloud_fraction": 0.0, "secchi_m": 6.0, "wind": Wind(6.5, 0.0), **changes})

        self.assertAlmostEqual(own(), 0.7 + J.sight_gain, delta=0.02)
        self.assertAlmostEqual(own(secchi_m=3.0), 0.7 + 0.5 * J.sight_gain, delta=0.02)
        self.assertAlmostEqual(own(wind=Wind(0.0, 0.0)), 0.7 + 0.2 * J.sight_gain, delta=0.02)


class WeakPointTests(unittest.TestCase):
    def said(
        self, action: object, key: str = "sinker", line: object = SUNK_LINE, weed_s: float = 0.0, **changes: object
    ) -> str:
        pressed = bool(changes.pop("pressed", False))
        water = picture(6, 25, 12, ((0, 15.0), (3, 14.8)), **{"bottom_depth_m": 5.0, **changes})  # type: ignore[arg-type]
        rig = Rig(line, LEADER, (PlacedFly(fly("Black ribbed pupa").fly),))  # type: ignore[arg-type]
        option = Option(METHODS[key], rig, (fly("Black ribbed pupa"),), action)  # type: ignore[arg-type]
        return weak_point(scorer_for(water, pressed=pressed), option, exposure([0.0], weed_s=weed_s)).plain()

    def test_the_one_thing_that_costs_most_is_said(self) -> None:
        glassy = {"wind": Wind(0.0, 0.0), "cloud_fraction": 0.0, "secchi_m": 5.0}
        self.assertIn("snags", self.said(SLOW, weed_s=20.0))
        self.assertIn("They are pressed", self.said(BRISK, pressed=True))
        self.assertIn("Flat and bright", self.said(BRISK, **glassy))
        self.assertNotIn("Flat and bright", self.said(STILL, **glassy))
        self.assertIn("bows the line", self.said(SLOW, "nymphs-floating", FLOATER, wind=Wind(7.5, 0.0)))
        self.assertIn("drags the float", self.said(Hang(2.0, "fixed", 90.0, 7.5), "indicator", FLOATER, wind=Wind(7.5, 0.0)))
        self.assertIn("Spoiled by", self.said(SLOW))
        rig = Rig(SUNK_LINE, LEADER, (PlacedFly(fly("Black ribbed pupa").fly),))
        option = Option(METHODS["sinker"], rig, (fly("Black ribbed pupa"),), BRISK)
        cold = scorer_for(picture(3, 10, 12, ((0, 4.5),), bottom_depth_m=4.0, wind=Wind(3.0, 0.0)))
        self.assertIn("Cold for chasing", weak_point(cold, option, exposure([0.0])).plain())
