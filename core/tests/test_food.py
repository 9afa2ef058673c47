"""Food: priors that follow the year, and Bayes against hand-worked cases."""

from __future__ import annotations

import math
import unittest
from datetime import date, datetime

import numpy as np

from stillthread.depth.picture import read_water
from stillthread.errors import BadInput, OutOfRange
from stillthread.food.catalogue import FOODS
from stillthread.food.inference import (
    FoodPicture,
    Sample,
    SampleItem,
    hour_share,
    layer_share,
    mean_layer,
    rank_food,
    sample_weight,
    season_share,
    warmth_share,
)
from stillthread.food.signs import BY_CHANCE, SIGNS
from stillthread.sinking.retrieves import RETRIEVES
from tests.rigs import SUMMER_TIME, conditions

JULY = date(2026, 7, 14)
DEPTHS = np.arange(0.0, 9.01, 0.1)
DAYLIGHT = 0.6 * np.exp(-0.5 * DEPTHS)


def ranked(**changes: object) -> FoodPicture:
    usual: dict[str, object] = {
        "latitude_deg": 54.0, "on": JULY, "hour": 11.0, "water_c": 16.0, "wind_speed_ms": 3.0, "brightness": 0.5,
    }  # fmt: skip
    return rank_food(**{**usual, **changes})  # type: ignore[arg-type]


class TableTests(unittest.TestCase):
    def test_every_row_is_sound_and_speaks_of_things_that_exist(self) -> None:
        for food in FOODS.values():
            self.assertLessEqual(food.size_mm[0], food.size_mm[1], food.key)
            self.assertTrue(all(2 <= hook <= 24 for hook in food.hooks), food.key)
            self.assertTrue(set(food.retrieves) <= set(RETRIEVES), food.key)
            self.assertTrue(food.source in {"common-practice", "ours"} or "-" in food.source, food.key)
        for sign in SIGNS.values():
            self.assertTrue(set(sign.shows) <= set(FOODS), sign.key)
            self.assertTrue(all(sign.by_chance < p < 1.0 for p in sign.shows.values()), sign.key)

    def test_the_table_holds_what_practice_says(self) -> None:
        # Common practice, no published source.
        self.assertEqual(FOODS["damsel-nymph"].warmth_c, (12.0, 15.0))  # from about 15 C
        self.assertEqual(FOODS["midge-larva"].size_mm[1], 20)  # up to three quarters of an inch
        self.assertLess(FOODS["daphnia"].size_mm[1], 3.01)
        self.assertGreater(warmth_share(FOODS["midge-pupa"], 8.0), 0.5)  # hatch from about 7 to 8 C
        self.assertLess(warmth_share(FOODS["midge-film"], 6.0), 0.1)


class SeasonTests(unittest.TestCase):
    def test_the_south_has_the_norths_season_half_a_year_later(self) -> None:
        for food in FOODS.values():
            for month in range(1, 13):
                north = season_share(food, 45.0, date(2026, month, 15))
                south = season_share(food, -45.0, date(2026, (month + 5) % 12 + 1, 15))
                self.assertAlmostEqual(north, south, delta=0.13, msg=food.key)

    def test_a_season_may_run_through_the_new_year(self) -> None:
        leech = FOODS["leech"]  # October to April
        self.assertEqual(season_share(leech, 54.0, date(2026, 1, 15)), 1.0)
        self.assertLess(season_share(leech, 54.0, JULY), 0.5)

    def test_evening_is_for_caddis_and_noon_for_blown_insects(self) -> None:
        self.assertGreater(hour_share(FOODS["caddis-adult"], 20.0, 0.1), hour_share(FOODS["caddis-adult"], 12.0, 0.8))
        self.assertGreater(hour_share(FOODS["terrestrial"], 13.0, 0.8), hour_share(FOODS["terrestrial"], 21.0, 0.0))


class BayesTests(unittest.TestCase):
    def test_probabilities_sum_to_one_and_come_in_order(self) -> None:
        for signs in ((), ("sips",), ("nothing",), ("bulges", "diving-birds")):
            chances = [chance.probability for chance in ranked(signs=signs).chances]
            self.assertAlmostEqual(sum(chances), 1.0, delta=1e-9)
            self.assertEqual(chances, sorted(chances, reverse=True))

    def test_one_sign_changes_the_odds_by_the_ratio_of_its_likelihoods(self) -> None:
        # Hand-worked: sips show film midges at 0.40 and water boatmen only by chance, 0.05: the odds grow eightfold.
        before, after = ranked(), ranked(signs=("sips",))
        odds = [p.probability("midge-film") / p.probability("boatman") for p in (before, after)]
        self.assertAlmostEqual(odds[1] / odds[0], 0.40 / BY_CHANCE, delta=1e-9)

    def test_signs_multiply_and_their_order_does_not_matter(self) -> None:
        one_way, other = (ranked(signs=signs) for signs in (("sips", "shucks"), ("shucks", "sips")))
        self.assertEqual([c.food.key for c in one_way.chances], [c.food.key for c in other.chances])
        prior = ranked()
        ratio = one_way.probability("midge-film") / one_way.probability("leech")
        expected = prior.probability("midge-film") / prior.probability("leech") * (0.40 * 0.65) / BY_CHANCE**2
        self.assertAlmostEqual(ratio, expected, delta=1e-6 * expected)

    def test_a_sample_of_one_kind_settles_it_and_an_old_one_less(self) -> None:
        item = (SampleItem("shrimp", 2, 10.0),)
        fresh, old = ranked(sample=Sample(item)), ranked(sample=Sample(item, age_h=9.0))
        # Hand-worked: two items at 0.8 against 0.2 shared by fifteen others: odds grow (0.8 x 15 / 0.2)^2 = 3 600 times.
        prior = ranked()
        odds = [p.probability("shrimp") / p.probability("fry") for p in (prior, fresh, old)]
        self.assertAlmostEqual(odds[1] / odds[0], 3600.0, delta=1.0)
        self.assertAlmostEqual(odds[2] / odds[0], 3600.0 ** (1 / 8), delta=1e-6)  # three half-lives

    def test_tiny_mixed_items_weigh_little_and_many_items_no_more_than_eight(self) -> None:
        mixed = tuple(SampleItem(key, 3, 2.0) for key in ("daphnia", "midge-larva", "shrimp"))
        self.assertAlmostEqual(sample_weight(Sample(mixed)), 0.3)
        eight, eighty = (ranked(sample=Sample((SampleItem("leech", n),))) for n in (8, 80))
        self.assertAlmostEqual(eight.probability("leech"), eighty.probability("leech"), delta=1e-12)

    def test_practice_is_met(self) -> None:
        # Quiet sips, shucks and 11 C: pupae at and under the film. Pushed water and diving birds in September: fry.
        pupae = ranked(on=date(2026, 5, 20), water_c=11.0, signs=("sips", "shucks"))
        self.assertGreater(pupae.probability("midge-film") + pupae.probability("midge-pupa"), 0.85)
        self.assertEqual(pupae.chances[0].food.key, "midge-film")
        self.assertGreater(ranked(on=date(2026, 9, 15), signs=("bulges", "diving-birds")).probability("fry"), 0.8)
        winter = ranked(on=date(2026, 1, 10), water_c=4.0)
        self.assertEqual({c.food.layer for c in winter.chances[:3]}, {"bottom"})

    def test_it_asks_for_the_look_that_tells_most_until_little_is_left_to_tell(self) -> None:
        look_for = ranked().look_for
        assert look_for is not None
        self.assertIn(look_for.key, SIGNS)
        self.assertIsNone(ranked(sample=Sample((SampleItem("leech", 8),))).look_for)

    def test_reasons_name_the_evidence(self) -> None:
        film = ranked(signs=("sips", "shucks")).chances[0]
        self.assertIn("Seen: quiet sips.", [r.plain() for r in film.reasons])
        shrimp = next(c for c in ranked(sample=Sample((SampleItem("shrimp", 4),))).chances if c.food.key == "shrimp")
        self.assertIn("4 in the sample.", [r.plain() for r in shrimp.reasons])

    def test_what_cannot_be_is_refused(self) -> None:
        for signs in (("rainbow",), ("sips", "sips"), ("nothing", "sips")):
            with self.assertRaises(BadInput) as refused:
                ranked(signs=signs)
            self.assertEqual(refused.exception.field, "signs")
        for make in (
            lambda: SampleItem("bread", 1), lambda: Sample(()), lambda: Sample((SampleItem("leech", 1),) * 2),
        ):  # fmt: skip
            with self.assertRaises(BadInput):
                make()
        for broken in (lambda: SampleItem("leech", 0), lambda: Sample((SampleItem("leech", 1),), age_h=100.0)):
            with self.assertRaises(OutOfRange):
                broken()


class LayerTests(unittest.TestCase):
    def test_every_layer_is_a_density_and_lies_where_it_should(self) -> None:
        centre: dict[str, float] = {}
        for food in FOODS.values():
            share = layer_share(food, DEPTHS, DAYLIGHT, 0.6)
            self.assertAlmostEqual(float(share.sum()), 1.0, delta=1e-9)
            centre[food.layer] = float(share @ DEPTHS)
        self.assertLess(centre["film"], 0.4)
        self.assertLess(centre["margin"], 1.0)
        self.assertGreater(centre["bottom"], 8.0)
        self.assertTrue(4.0 < centre["rising"] < 8.5)

    def test_water_fleas_go_down_with_the_sun_and_come_up_at_dusk(self) -> None:
        fleas = FOODS["daphnia"]
        sun, dusk = (float(layer_share(fleas, DEPTHS, b * np.exp(-0.5 * DEPTHS), b) @ DEPTHS) for b in (0.9, 0.02))
        self.assertGreater(sun, dusk + 3.0)

    def test_the_mean_layer_is_the_layers_by_their_chances(self) -> None:
        picture = ranked()
        by_hand = sum(c.probability * layer_share(c.food, DEPTHS, DAYLIGHT, 0.5) for c in picture.chances)
        self.assertLess(float(np.abs(mean_layer(picture, DEPTHS, DAYLIGHT, 0.5) - by_hand).max()), 1e-12)

    def test_rises_bring_the_belief_to_the_top_and_nothing_showing_takes_it_down(self) -> None:
        evening = {"at": datetime(2026, 5, 20, 19, 0, tzinfo=SUMMER_TIME), "bottom_depth_m": 5.0}
        top = read_water(conditions(**evening, signs=("sips", "shucks"))).belief
        usual = read_water(conditions(**evening)).belief
        down = read_water(conditions(**evening, signs=("nothing",))).belief
        self.assertLess(top.mean_m, usual.mean_m - 0.3)
        self.assertGreater(down.mean_m, usual.mean_m + 0.3)
        self.assertTrue(math.isfinite(top.mean_m))

    def test_size_and_colour_of_the_sample_stand_before_the_usual_ones(self) -> None:
        sample = Sample((SampleItem("midge-pupa", 9, 6.0, "Red"),))
        found = rank_food(latitude_deg=54.0, on=date(2026, 6, 1), hour=11.0, water_c=13.0, wind_speed_ms=3.0, brightness=0.5, sample=sample)  # fmt: skip
        pupa = next(chance for chance in found.chances if chance.food.key == "midge-pupa")
        self.assertEqual((pupa.size_mm, pupa.colours), ((6.0, 6.0), ("red", "black", "brown", "olive")))
        self.assertIn("9 Red in the sample.", [why.plain() for why in pupa.reasons])
