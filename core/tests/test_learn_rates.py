"""Takes an hour with intervals: against closed forms, published limits and seasons whose truth is known."""

from __future__ import annotations

import unittest

import numpy as np

from stillthread.errors import OutOfRange
from stillthread.learn.comparing import best_of, compared_words
from stillthread.learn.part_of_day import hours_alike
from stillthread.learn.rates import Group, more_likely, rates_of
from stillthread.phrase import Phrase
from tests.seasons import coverage_of_rates, favourites, rate_season


class PartOfDayTests(unittest.TestCase):
    def test_a_favourite_kept_for_the_evening_is_not_called_better_for_it(self) -> None:
        as_they_are, alike = (favourites(60, alike=alike) for alike in (False, True))
        self.assertGreater(as_they_are[2], 10)
        self.assertLess(alike[2], 4)
        self.assertGreater(alike[0], 0.85)
        self.assertLess(as_they_are[0], 0.7)

    def test_one_way_alone_and_hours_without_a_fish_count_as_they_are(self) -> None:
        self.assertEqual(hours_alike([3.0, 1.0], [2.0, 2.0], [0, 0], [1, 1]).tolist(), [2.0, 2.0])
        self.assertEqual(hours_alike([0.0, 0.0], [2.0, 1.0], [0, 1], [0, 2]).tolist(), [2.0, 1.0])
        self.assertEqual(len(hours_alike([], [], [], [])), 0)

    def test_two_ways_alike_in_every_part_give_the_parts_their_rates(self) -> None:
        """With every way in every part, the fit is the product of the margins (Deming and Stephan 1940, from memory)."""
        takes, hours = [100.0, 400.0, 200.0, 800.0], [10.0, 10.0, 10.0, 10.0]
        counted = hours_alike(takes, hours, [0, 0, 1, 1], [0, 2, 0, 2])
        self.assertAlmostEqual(float(counted.sum()), 40.0, places=9)
        self.assertAlmostEqual(float(counted[1] / counted[0]), 4.0, delta=0.25)
        self.assertAlmostEqual(float(counted[0]), float(counted[2]), places=9)

    def test_what_is_unsure_of_the_hours_widens_the_interval_and_hardly_moves_its_middle(self) -> None:
        plain = rates_of([group("a", [4.0] * 10, [2.0] * 10)])[0]
        one = Group("a", np.full(10, 4.0), np.full(10, 2.0), None, 0.4)
        wide = rates_of([one])[0]
        self.assertGreater(wide.high_ph / wide.low_ph, 1.5 * plain.high_ph / plain.low_ph)
        self.assertAlmostEqual(wide.mean_ph, plain.mean_ph, delta=0.15 * plain.mean_ph)
        self.assertAlmostEqual(float(wide.chance.sum()), 1.0, places=9)


def group(key: str, takes: list[float], hours: list[float]) -> Group:
    return Group(key, np.array(takes, float), np.array(hours, float))


class RateTest(unittest.TestCase):
    def test_nine_in_ten_intervals_hold_about_nine_in_ten_true_rates(self) -> None:
        inside, below, above = coverage_of_rates(250)
        self.assertTrue(0.87 <= inside <= 0.93, inside)
        self.assertTrue(max(below, above) <= 0.08, (below, above))

    def test_even_days_give_the_limits_of_a_poisson_count(self) -> None:
        # garwood-1936: for 100 events the two-sided nine-in-ten limits of the mean are 84.1 and 118.1 (m).
        takes = [1.0] * 100
        (rate,) = rates_of([group("even", takes, [1.0] * 100)])
        self.assertAlmostEqual(rate.low_ph, 0.841, delta=0.03)
        self.assertAlmostEqual(rate.high_ph, 1.181, delta=0.04)

    def test_moody_days_widen_the_interval(self) -> None:
        even = rates_of([group("even", [2.0] * 20, [1.0] * 20)])[0]
        moody = rates_of([group("moody", [10.0] * 4 + [0.0] * 16, [1.0] * 20)])[0]
        self.assertGreater(moody.high_ph / moody.low_ph, 1.5 * even.high_ph / even.low_ph)

    def test_what_was_fished_little_is_drawn_to_the_others(self) -> None:
        usual = [group(str(i), [1.0, 1.0, 2.0, 0.0], [1.0] * 4) for i in range(5)]
        lucky = group("lucky", [3.0], [0.5])
        found = rates_of([*usual, lucky])[-1]
        self.assertTrue(1.0 < found.mean_ph < 3.5, found.mean_ph)
        self.assertTrue(found.thin)
        alone = rates_of([lucky])[0]
        self.assertGreater(alone.mean_ph, found.mean_ph)

    def test_no_take_in_many_hours_is_a_low_rate_and_not_none(self) -> None:
        (rate,) = rates_of([group("nothing", [0.0] * 10, [2.0] * 10)])
        self.assertTrue(0.0 < rate.low_ph < rate.mean_ph < 0.2)
        self.assertEqual((rate.takes, rate.hours, rate.outings, rate.thin), (0.0, 20.0, 10, False))

    def test_a_rich_log_is_known_as_well_as_a_fine_grid_would(self) -> None:
        rng = np.random.default_rng(3)
        hours = rng.uniform(0.5, 1.5, 1500)
        rates = rates_of([Group(str(w), rng.poisson(w * hours).astype(float), hours) for w in (1.0, 1.1)])
        for rate, true in zip(rates, (1.0, 1.1), strict=True):
            self.assertTrue(rate.low_ph < true < rate.high_ph)
            # A Poisson count of some 1 500 is known to 1.645 / sqrt(1500) = 4.2 % either way.
            self.assertAlmostEqual(rate.high_ph / rate.low_ph, np.exp(2 * 1.645 / np.sqrt(rate.takes)), delta=0.015)
        self.assertGreater(more_likely(rates[1], rates[0]), 0.95)

    def test_chances_of_more_add_up(self) -> None:
        groups, _ = rate_season(np.random.default_rng(5))
        a, b = rates_of(groups)[:2]
        self.assertAlmostEqual(more_likely(a, b) + more_likely(b, a), 1.0, places=6)
        self.assertAlmostEqual(more_likely(a, a), 0.5, places=6)

    def test_the_best_is_said_as_surely_as_it_is_known_and_not_of_an_hour(self) -> None:
        good, poor = group("good", [4.0] * 10, [2.0] * 10), group("poor", [0.0, 1.0] * 5, [2.0] * 10)
        lucky = group("lucky", [4.0], [0.5])
        names = {key: Phrase(f"{key} {{low_m}}", {"low_m": 2.0}) for key in ("good", "poor", "lucky", "also")}
        found = best_of(rates_of([poor, good, lucky]))
        assert found is not None
        assert found.other is not None
        self.assertEqual((found.best.key, found.other.key, found.sure), ("good", "poor", True))
        said = compared_words(found, names, 40.5).plain()
        self.assertTrue(said.startswith("Good 2.0 m: "), said)
        self.assertIn("more than poor 2.0 m", said)
        close = compared_words(best_of(rates_of([good, group("also", [3.0] * 10, [2.0] * 10)])), names, 40.0).plain()
        self.assertIn("but the log can’t tell it from also 2.0 m", close)
        self.assertIn("20.0 h is too little", close)
        self.assertIn("Nothing else was fished enough", compared_words(best_of(rates_of([good, lucky])), names, 20.5).plain())
        self.assertIsNone(best_of(rates_of([lucky])))
        self.assertIn("too little to tell", compared_words(None, names, 0.5).plain())

    def test_hours_do_what_hours_should(self) -> None:
        # Twice as many takes in twice the hours is the same rate; no groups give no rates; a wrong level is refused.
        once = rates_of([group("a", [1.0, 2.0, 1.0], [1.0, 2.0, 1.0])])[0]
        twice = rates_of([group("a", [1.0, 2.0, 1.0] * 2, [1.0, 2.0, 1.0] * 2)])[0]
        self.assertAlmostEqual(once.mean_ph, twice.mean_ph, delta=0.2)
        self.assertLess(twice.high_ph - twice.low_ph, once.high_ph - once.low_ph)
        self.assertEqual(rates_of([]), ())
        with self.assertRaises(OutOfRange):
            rates_of([group("a", [1.0], [1.0])], level=1.5)

    def test_one_way_alone_is_never_sure(self) -> None:
        good = group("good", [3.0] * 10, [4.0] * 10)
        alone = best_of(rates_of([good]))
        assert alone is not None
        self.assertEqual((alone.sure, alone.other), (False, None))
