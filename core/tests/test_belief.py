"""The belief: what must follow from what was read."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from stillthread.depth.picture import check_time, read_water
from stillthread.errors import BadInput, OutOfRange
from stillthread.plan.casting_water import check_leader_fits
from stillthread.water.comfort import SPECIES, feeding_share, species_named
from stillthread.water.reading import Reading
from stillthread.weather.wind import Wind
from tests.rigs import LEADER, SUMMER_READINGS, SUMMER_TIME, conditions

SUMMER_C = [r.water_c for r in SUMMER_READINGS]


class ComfortTests(unittest.TestCase):
    def test_the_published_ranges_are_the_best_and_the_limit_ends_feeding(self) -> None:
        # raleigh-1984: adult rainbow 12 to 18 C best, 25 C the limit.
        rainbow = SPECIES["rainbow"]
        self.assertTrue((feeding_share(rainbow, [12.0, 15.0, 18.0]) == 1.0).all())
        self.assertEqual(float(feeding_share(rainbow, 25.0)), 0.0)
        # Common practice: under 4 C hardly worth a cast.
        self.assertLess(float(feeding_share(rainbow, 3.9)), 0.2)

    def test_an_unsure_temperature_is_never_better_than_the_best(self) -> None:
        sure, unsure = feeding_share(SPECIES["brown"], 15.0, [0.0, 4.0])
        self.assertLess(unsure, sure)

    def test_an_unknown_species_is_refused_with_the_known_ones(self) -> None:
        with self.assertRaises(BadInput) as refused:
            species_named("pike")
        self.assertEqual(
            refused.exception.message, "species = 'pike' is not known. Known: rainbow, brown, brook, cutthroat, char."
        )


class BeliefTests(unittest.TestCase):
    def test_it_is_a_probability(self) -> None:
        belief = read_water(conditions()).belief
        self.assertAlmostEqual(float(np.trapezoid(belief.density_pm, belief.depth_m)), 1.0, places=9)
        self.assertAlmostEqual(float(belief.mass().sum()), 1.0, places=9)

    def test_hot_bright_layered_water_puts_trout_under_the_warm_layer_near_the_thermocline(self) -> None:
        # Common practice: at or just above the thermocline, below the warm surface layer.
        picture = read_water(conditions(readings=tuple(
            Reading(float(d), t) for d, t in enumerate((22.0, 21.8, 21.5, 21.0, 18.0, 14.5, 12.0, 11.0, 10.0))
        )))  # fmt: skip
        top, bottom = picture.belief.main_band
        self.assertGreater(top, 3.0)
        self.assertAlmostEqual(top, picture.layers.thermocline_m or 0.0, delta=0.5)
        self.assertLess(picture.belief.worth(np.array([0.5]))[0], 0.3 * picture.belief.worth(np.array([4.5]))[0])
        self.assertEqual(picture.cautions[0].key, "fish-stop")
        self.assertGreater(bottom, top)

    def test_dusk_brings_them_up(self) -> None:
        noon = read_water(conditions(at=datetime(2026, 7, 14, 13, 0, tzinfo=SUMMER_TIME)))
        dusk = read_water(conditions(at=datetime(2026, 7, 14, 23, 0, tzinfo=SUMMER_TIME)))
        self.assertLess(dusk.belief.mean_m, noon.belief.mean_m - 0.2)

    def test_cloud_and_wind_bring_them_up(self) -> None:
        bright = read_water(conditions(cloud_fraction=0.0, wind=Wind(0.0, 0.0)))
        dull = read_water(conditions(cloud_fraction=1.0, wind=Wind(7.0, 0.0)))
        self.assertLess(dull.belief.mean_m, bright.belief.mean_m)

    def test_a_full_profile_is_measured_and_a_surface_reading_mostly_guess(self) -> None:
        full = read_water(conditions())
        surface = read_water(conditions(readings=(Reading(0.0, 18.6),)))
        self.assertGreater(full.measured_share, 0.8)
        self.assertLess(surface.measured_share, 0.5)

    def test_a_fly_above_the_fish_is_worth_more_than_one_below(self) -> None:
        belief = read_water(conditions()).belief
        spike = np.exp(-(((belief.depth_m - 5.0) / 0.1) ** 2))
        sharp = replace(belief, density_pm=spike / np.trapezoid(spike, belief.depth_m))
        above, below = sharp.worth(np.array([4.5, 5.5]))
        self.assertGreater(above, 5.0 * below)

    def test_it_asks_for_the_reading_that_would_settle_most(self) -> None:
        surface_only = read_water(conditions(readings=(Reading(0.0, 18.6),)))
        self.assertIsNotNone(surface_only.wanted_reading_m)
        wanted = float(surface_only.wanted_reading_m or 0.0)
        answered = read_water(conditions(readings=(Reading(0.0, 18.6), Reading(wanted, surface_only.profile.at(wanted)))))
        self.assertGreater(answered.measured_share, surface_only.measured_share)
        every_half_metre = tuple(Reading(d / 2, float(np.interp(d / 2, range(9), SUMMER_C))) for d in range(18))
        self.assertIsNone(read_water(conditions(readings=every_half_metre)).wanted_reading_m)

    def test_every_factor_says_why(self) -> None:
        for factor in read_water(conditions()).belief.factors:
            self.assertTrue(factor.why.plain().endswith("."), factor.key)
            self.assertNotIn("{", factor.why.plain())

    def test_dates_too_far_ahead_are_refused(self) -> None:
        now = datetime(2026, 7, 1, tzinfo=SUMMER_TIME)
        check_time(now + timedelta(days=13), now)
        with self.assertRaises(BadInput) as refused:
            check_time(now + timedelta(days=30), now)
        self.assertEqual(refused.exception.message, "31 July 2026 is more than 14 days ahead. Choose a nearer day.")

    def test_cold_water_is_cautioned_and_calm_summer_is_quiet(self) -> None:
        cold = read_water(conditions(readings=(Reading(0.0, 5.0),), wind=Wind(9.0, 0.0)))
        self.assertEqual({c.key for c in cold.cautions}, {"wind", "cold-water"})
        mild = read_water(conditions(readings=(Reading(0.0, 16.0),), wind=Wind(2.0, 0.0)))
        self.assertEqual(mild.cautions, ())

    def test_a_leader_longer_than_the_water_is_deep_is_asked_about(self) -> None:
        with self.assertRaises(BadInput) as refused:
            check_leader_fits(LEADER, 2.0, long_leader_ok=False)
        self.assertEqual(refused.exception.field, "bottom_depth_m")
        check_leader_fits(LEADER, 2.0, long_leader_ok=True)
        with self.assertRaises(OutOfRange):
            read_water(conditions(bottom_depth_m=0.1))

    def test_a_band_holds_from_a_hundredth_to_all_but_one(self) -> None:
        belief = read_water(conditions()).belief
        self.assertGreaterEqual(belief.chance_of(max(belief.bands(0.99), key=belief.chance_of)), 0.5)
        self.assertTrue(belief.bands(0.01))
        for mass in (0.005, 0.995):
            with self.assertRaises(OutOfRange):
                belief.bands(mass)
