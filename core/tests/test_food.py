"""Food: priors that follow the year, and Bayes against hand-worked cases."""

from __future__ import annotations

import math
import unittest
from datetime import date, datetime
from pathlib import Path

import numpy as np

from stillthread.depth.picture import read_water
from stillthread.errors import BadInput, OutOfRange
from stillthread.food.catalogue import FOODS
from stillthread.food.inference import (
    SAMPLE_ODDS,
    FoodChance,
    FoodPicture,
    Sample,
    SampleItem,
    hooks_for,
    hour_share,
    keyed_on_nothing,
    rank_food,
    sample_weight,
    season_share,
    warmth_share,
)
from stillthread.food.layers import Column, bottom_holds, layer_density
from stillthread.food.signs import BY_CHANCE, SIGNS
from stillthread.food.tables import food_rows, sign_rows
from stillthread.sinking.retrieves import RETRIEVES
from tests.rigs import SUMMER_TIME, conditions

JULY = date(2026, 7, 14)
DEPTHS = np.arange(0.0, 9.01, 0.1)
DAYLIGHT = 0.6 * np.exp(-0.5 * DEPTHS)


def ranked(**changes: object) -> FoodPicture:
    usual: dict[str, object] = {
        "latitude_deg": 54.0, "on": JULY, "hour": 11.0, "water_c": 16.0, "wind_speed_mps": 3.0, "brightness": 0.5,
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

    def test_the_docs_show_every_food_and_sign_as_it_is(self) -> None:
        said = (Path(__file__).resolve().parents[2] / "docs" / "foods.md").read_text().splitlines()
        for row in (*food_rows(), *sign_rows()):
            self.assertTrue(row in said, f"run `make advice`: {row}")


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
        # Hand-worked: two items, each sixty times likelier of what it is than of another food: odds grow 60^2 times.
        prior = ranked()
        odds = [p.probability("shrimp") / p.probability("fry") for p in (prior, fresh, old)]
        self.assertAlmostEqual(odds[1] / odds[0], float(SAMPLE_ODDS) ** 2, delta=1.0)
        self.assertAlmostEqual(odds[2] / odds[0], float(SAMPLE_ODDS) ** (2 / 8), delta=1e-6)  # three half-lives

    def test_tiny_mixed_items_weigh_little_and_many_items_no_more_than_eight(self) -> None:
        mixed = tuple(SampleItem(key, 3, 2.0) for key in ("daphnia", "midge-larva", "shrimp"))
        self.assertAlmostEqual(sample_weight(Sample(mixed)), 0.3)
        eight, eighty = (ranked(sample=Sample((SampleItem("leech", n),))) for n in (8, 80))
        self.assertAlmostEqual(eight.probability("leech"), eighty.probability("leech"), delta=1e-12)

    def test_a_sample_of_a_few_small_things_says_keyed_on_nothing(self) -> None:
        few = Sample((SampleItem("midge-pupa", 1), SampleItem("shrimp", 1, 3.0)))
        self.assertTrue(keyed_on_nothing(few))
        for items in ((("midge-pupa", 1),), (("midge-pupa", 5), ("shrimp", 2))):
            self.assertFalse(keyed_on_nothing(Sample(tuple(SampleItem(key, n) for key, n in items))))
        told, plain = ranked(sample=few), ranked()
        nothing = next(c for c in told.chances if c.food.key == "attractor")
        self.assertIn("keyed on nothing", nothing.reasons[0].plain())
        self.assertGreater(nothing.probability, 3.0 * plain.probability("attractor"))
        # By hand: ten times likelier than a food that was not in it, before the items themselves.
        ratio = told.probability("attractor") / told.probability("leech") * plain.probability("leech")
        self.assertAlmostEqual(ratio / plain.probability("attractor"), 10.0, delta=1e-6)

    def test_water_fleas_keep_to_deep_water_unless_their_clouds_are_seen(self) -> None:
        def odds(bottom_m: float, *signs: str) -> float:
            told = ranked(bottom_m=bottom_m, signs=signs)
            return told.probability("daphnia") / told.probability("boatman")

        self.assertAlmostEqual(odds(3.5) / odds(20.0), 0.5)
        self.assertAlmostEqual(odds(3.5, "flea-clouds"), odds(20.0, "flea-clouds"))

    def test_hooks_follow_the_size_that_was_measured(self) -> None:
        pupa = FOODS["midge-pupa"]
        # By hand: 4 mm is hook 18 and 16 mm hook 10, so 10 mm is 14.
        self.assertEqual(hooks_for(pupa, 10.0), (14, 16))
        self.assertEqual([hooks_for(pupa, mm)[0] for mm in (4.0, 16.0, 1.0, 40.0)], [18, 10, 20, 2])
        big = next(c for c in ranked(sample=Sample((SampleItem("midge-pupa", 9, 15.0),))).chances if c.food.key == "midge-pupa")
        self.assertEqual(big.hooks, (10, 12))

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


def column(**changes: object) -> Column:
    usual: dict[str, object] = {
        "depth_m": DEPTHS, "light": DAYLIGHT, "brightness": 0.6, "bottom_m": 9.0, "far_m": 9.0, "secchi_m": 4.0,
    }  # fmt: skip
    return Column(**{**usual, **changes})  # type: ignore[arg-type]


def chance(key: str, **changes: object) -> FoodChance:
    return next(c for c in ranked(**changes).chances if c.food.key == key)


def mean_m(key: str, on: Column, **changes: object) -> float:
    return float(layer_density(chance(key, **changes), on) @ on.depth_m)


class LayerTests(unittest.TestCase):
    def test_every_layer_is_a_density_and_lies_where_it_should(self) -> None:
        centre: dict[str, float] = {}
        for one in ranked(on=date(2026, 8, 20)).chances:
            share = layer_density(one, column())
            self.assertAlmostEqual(float(share.sum()), 1.0, delta=1e-9)
            centre[one.layer] = float(share @ DEPTHS)
        self.assertLess(centre["film"], 0.4)
        self.assertLess(centre["margin"], 1.0)
        self.assertGreater(centre["bottom"], 8.0)
        self.assertTrue(4.0 < centre["rising"] < 8.5)

    def test_water_fleas_go_down_with_the_sun_and_come_up_at_dusk(self) -> None:
        sun, dusk = (mean_m("daphnia", column(light=b * np.exp(-0.5 * DEPTHS), brightness=b)) for b in (0.9, 0.02))
        self.assertGreater(sun, dusk + 3.0)

    def test_sampled_larvae_lie_four_to_six_inches_off_the_bottom(self) -> None:
        # Common practice.
        sampled = column(sampled=frozenset({"midge-larva"}))
        self.assertTrue(0.1 <= 9.0 - mean_m("midge-larva", sampled) <= 0.25, mean_m("midge-larva", sampled))
        self.assertGreater(9.0 - mean_m("midge-larva", column()), 0.45)
        shrimps = [mean_m("shrimp", column(nothing_shows=shown)) for shown in (False, True)]
        self.assertGreater(shrimps[1], shrimps[0])

    def test_over_a_slope_the_layers_on_the_bottom_run_from_near_to_far(self) -> None:
        slope = column(bottom_m=5.0, far_m=9.0)
        share = layer_density(chance("shrimp"), slope)
        held = [float(share[(at - 1.5 < DEPTHS) & (at >= DEPTHS)].sum()) for at in (5.0, 7.0, 9.0)]
        self.assertTrue(all(0.15 < one < 0.45 for one in held), held)
        flat = layer_density(chance("shrimp"), column())
        self.assertLess(float(flat[DEPTHS <= 6.0].sum()), 0.01)

    def test_fry_are_pin_fry_at_the_top_in_june_and_go_deep_late_in_the_year(self) -> None:
        days = {month: date(2026, month, 15) for month in (6, 9, 11)}
        june, september, november = (chance("fry", on=days[m]) for m in (6, 9, 11))
        self.assertEqual((june.hooks, june.top_m), ((10, 14), 0.45))
        self.assertEqual((september.hooks, september.layer), ((6, 10), "margin"))
        depths = [float(layer_density(one, column()) @ DEPTHS) for one in (june, september, november)]
        self.assertTrue(depths[0] < depths[1] < depths[2], depths)
        south = next(c for c in ranked(latitude_deg=-54.0, on=date(2026, 12, 15)).chances if c.food.key == "fry")
        self.assertEqual(south.hooks, june.hooks)

    def test_a_dim_bottom_holds_less_of_what_lives_in_weed_and_a_sampled_food_is_there(self) -> None:
        # By hand: over 9 m with a Secchi depth of 4 m, 1.2 - 9 / (2.5 x 4) = 0.3; never less than is stated.
        shrimp = chance("shrimp").food
        self.assertAlmostEqual(bottom_holds(shrimp, column(), 0.2), 0.3)
        self.assertEqual(bottom_holds(shrimp, column(), 0.5), 0.5)
        self.assertEqual(bottom_holds(shrimp, column(sampled=frozenset({"shrimp"})), 0.2), 1.0)
        self.assertEqual(bottom_holds(chance("midge-larva").food, column(), 0.2), 1.0)

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
        found = rank_food(latitude_deg=54.0, on=date(2026, 6, 1), hour=11.0, water_c=13.0, wind_speed_mps=3.0, brightness=0.5, sample=sample)  # fmt: skip
        pupa = next(chance for chance in found.chances if chance.food.key == "midge-pupa")
        self.assertEqual((pupa.size_mm, pupa.colours), ((6.0, 6.0), ("red", "black", "brown", "olive")))
        self.assertIn("9 Red in the sample.", [why.plain() for why in pupa.reasons])
