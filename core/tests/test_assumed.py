"""What nobody read: what stands for it, how the belief is averaged over it, and what reading it is worth."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta, timezone

import numpy as np

from stillthread.depth.assumed import NAMES, NODE_WEIGHTS, Usual, assume, filled, searched_m, with_value
from stillthread.depth.picture import Conditions, read_water
from stillthread.depth.refining import worths
from stillthread.errors import BadInput
from stillthread.food.inference import Sample, SampleItem
from stillthread.water.comfort import species_named
from stillthread.water.reading import Lowering, Reading, readings_now
from stillthread.water.seasonal import Lake, usual_surface_c
from stillthread.weather.sun import Place
from stillthread.weather.wind import Wind

LAKE = Lake(54.0, 150.0, 2.0)
USUAL = Usual(3.0, 7.0)
JULY = datetime(2026, 7, 13, 11, 0, tzinfo=timezone.utc)
READ = Conditions(
    place=Place(54.0, -2.5), lake=LAKE, at=JULY, readings=(Reading(0.0, 19.5),), wind=Wind(3.0, 225.0), cloud_fraction=0.2, secchi_m=3.0, bottom_depth_m=7.0, species=species_named("rainbow")
)  # fmt: skip

COLUMN = tuple(Reading(float(d), c) for d, c in enumerate((19.5, 19.2, 18.6, 16.0, 13.1, 11.2, 10.4, 10.0)))


def unread(*names: str, of: Conditions = READ) -> Conditions:
    return replace(of, assumed=assume(names, of.lake, of.at.date(), USUAL))


class AssumptionTests(unittest.TestCase):
    def test_the_top_of_a_lake_follows_season_latitude_and_height(self) -> None:
        # Of lakes of these latitudes in general, from memory: some 19 to 23 C at 45 degrees in high summer, 14 to 18 at 61.
        for latitude, altitude, on, low, high in (
            (45.0, 100.0, date(2026, 7, 29), 19.0, 24.0), (61.2, 412.0, date(2026, 7, 20), 13.0, 17.5),
            (61.2, 412.0, date(2026, 1, 25), 1.0, 2.0), (-41.3, 780.0, date(2026, 1, 28), 16.0, 20.5),
            (5.0, 0.0, date(2026, 3, 1), 24.0, 29.0),
        ):  # fmt: skip
            with self.subTest(latitude=latitude, on=on):
                self.assertTrue(low <= usual_surface_c(Lake(latitude, altitude, 2.0), on) <= high)
        self.assertLess(usual_surface_c(Lake(54.0, 900.0, 2.0), JULY.date()), usual_surface_c(LAKE, JULY.date()))

    def test_each_stands_between_its_tenth_and_its_ninetieth_and_says_why(self) -> None:
        for assumption in assume(NAMES, LAKE, JULY.date(), USUAL):
            with self.subTest(assumption.name):
                self.assertLessEqual(assumption.low, assumption.value)
                self.assertLessEqual(assumption.value, assumption.high)
                self.assertTrue(assumption.why.text)
        (top,) = assume(["surface_c"], LAKE, JULY.date(), USUAL, [Reading(2.0, 15.0)])
        self.assertEqual((top.value, top.low, top.high), (15.0, 13.5, 16.5))

    def test_an_unknown_name_or_one_twice_is_refused(self) -> None:
        for names in (["mood"], ["secchi_m", "secchi_m"]):
            with self.subTest(names), self.assertRaises(BadInput):
                assume(names, LAKE, JULY.date(), USUAL)


class AveragedTests(unittest.TestCase):
    def test_one_unknown_is_the_mean_of_what_each_of_its_values_would_say(self) -> None:
        asked = unread("surface_c")
        (top,) = asked.assumed
        each = [read_water(with_value(READ, "surface_c", c)).belief.density_pm for c in top.nodes]
        mean = sum(w * density for w, density in zip(NODE_WEIGHTS, each, strict=True))
        found = read_water(asked).belief
        np.testing.assert_allclose(found.density_pm, mean / np.trapezoid(mean, found.depth_m), rtol=1e-9)

    def test_the_foods_still_add_up_to_the_belief(self) -> None:
        picture = read_water(unread(*NAMES))
        told = sum(on.chance.probability * on.density_pm for on in picture.belief.feeding)
        np.testing.assert_allclose(told, picture.belief.density_pm, atol=1e-9)
        self.assertAlmostEqual(sum(c.probability for c in picture.foods.chances), 1.0)

    def test_what_stood_in_the_place_of_an_unread_value_is_not_looked_at(self) -> None:
        odd = with_value(with_value(READ, "secchi_m", 0.4), "cloud_fraction", 1.0)
        names = ("secchi_m", "cloud_fraction")
        np.testing.assert_array_equal(
            read_water(unread(*names, of=odd)).belief.density_pm, read_water(unread(*names)).belief.density_pm
        )
        self.assertEqual(filled(unread("secchi_m", of=odd)).secchi_m, USUAL.secchi_m)

    def test_the_less_is_read_the_less_is_measured_and_nothing_read_is_nothing_measured(self) -> None:
        column = replace(READ, readings=COLUMN)
        shares = [read_water(unread(*names, of=column)).measured_share for names in ((), NAMES[4:5], NAMES[4:], NAMES[1:])]
        for more, less in itertools.pairwise(shares):
            self.assertLessEqual(less, more + 0.01)
        self.assertLess(shares[-1], shares[0])
        self.assertLess(read_water(unread(*NAMES)).measured_share, 0.05)

    def test_knowing_never_costs_and_a_wind_s_quarter_turns_no_depth(self) -> None:
        worth = {each.assumption.name: each.narrows_m for each in read_water(unread(*NAMES)).unread}
        self.assertEqual(set(worth), set(NAMES))
        self.assertTrue(all(narrows >= 0.0 for narrows in worth.values()))
        self.assertEqual(worth["wind_from_deg"], 0.0)
        self.assertGreater(worth["bottom_depth_m"], 0.2)

    def test_what_one_unknown_is_worth_is_what_is_searched_without_it_less_what_is_with_it(self) -> None:
        asked = unread("surface_c")
        depth = read_water(READ).belief.depth_m
        each = [read_water(with_value(READ, "surface_c", c)).belief.density_pm for c in asked.assumed[0].nodes]
        without = searched_m(depth, np.asarray(sum(w * density for w, density in zip(NODE_WEIGHTS, each, strict=True))))
        known = sum(w * searched_m(depth, density) for w, density in zip(NODE_WEIGHTS, each, strict=True))
        self.assertGreater(without, known)
        self.assertAlmostEqual(read_water(asked).unread[0].narrows_m, without - known, places=9)

    def test_a_lowering_that_read_nothing_leaves_the_word_to_an_earlier_one(self) -> None:
        earlier = Lowering(JULY - timedelta(hours=2), (Reading(0.0, 17.5), Reading(4.0, 12.0)))
        counted, before = readings_now([Lowering(JULY, ()), earlier])
        self.assertEqual((counted, before), (earlier.readings, (earlier,)))

    def test_an_even_spread_is_searched_in_eight_tenths_of_its_depth(self) -> None:
        depth = np.linspace(0.0, 10.0, 101)
        self.assertAlmostEqual(searched_m(depth, np.ones(101)), 8.0, delta=0.1)
        self.assertAlmostEqual(searched_m(depth, np.where(depth < 2.0, 1.0, 1e-9)), 1.6, delta=0.06)


class WorthsTests(unittest.TestCase):
    def test_a_reading_at_depth_and_a_sample_are_worth_something_until_they_are_made(self) -> None:
        told = worths(READ)
        self.assertGreater(told.sample_m, 0.1)
        self.assertGreaterEqual(told.reading_m, 0.0)
        self.assertLess(max(told.sample_m, told.reading_m), told.searched_m)
        sampled = replace(READ, sample=Sample((SampleItem("midge-pupa", 8),)))
        self.assertEqual(worths(sampled).sample_m, 0.0)
        # What was read there is not asked again.
        again = worths(replace(READ, readings=(*READ.readings, Reading(told.reading_at_m or 0.1, 12.0))))
        self.assertNotEqual(again.reading_at_m, told.reading_at_m)

    def test_what_is_assumed_is_taken_as_it_stands(self) -> None:
        self.assertEqual(worths(unread("secchi_m")), worths(with_value(READ, "secchi_m", USUAL.secchi_m)))


if __name__ == "__main__":
    unittest.main()
