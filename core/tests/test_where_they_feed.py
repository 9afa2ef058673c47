"""How much trout feed, what is seen of them, and where they then are: each formula against a hand-worked value or a source."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from datetime import datetime

import numpy as np

from stillthread.depth.activity import LEAST_ACTIVITY, activity_share
from stillthread.depth.belief import chase_m, form_belief, roaming, window
from stillthread.depth.factors import Factor, below_sharp_thermocline, temperature_factor
from stillthread.depth.picture import read_water
from stillthread.depth.seen import nothing_factor, seen_layer
from stillthread.food.inference import FoodPicture, rank_food
from stillthread.food.layers import Column, layer_density
from stillthread.food.signs import SIGNS
from stillthread.judgement import JUDGEMENT
from stillthread.phrase import Phrase
from stillthread.water.comfort import SPECIES
from stillthread.water.profile import build_profile
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake
from stillthread.water.stratification import find_layers
from tests.planning import picture
from tests.rigs import SUMMER_TIME, conditions

J = JUDGEMENT


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

    def test_how_much_they_feed_is_said_in_words(self) -> None:
        # Ours, of the growth curve above: 5.4 C is 19 % of the way up, 8 C nearly half.
        for water_c, words in ((3.0, "They hardly feed"), (5.4, "half-heartedly"), (9.0, "They feed at"), (14.0, "freely")):
            said = picture(5, 20, 11, ((0, water_c), (5, water_c)), bottom_depth_m=5.0).activity_why
            self.assertIn(words, said.text, said.plain())


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
        told = rank_food(latitude_deg=54.0, on=datetime(2026, 6, 15).date(), hour=11.0, water_c=15.0, wind_speed_mps=3.0, brightness=0.3)  # fmt: skip
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
