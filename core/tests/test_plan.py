"""The plan: water as it runs, what weed and pace cost, words that fit what happened, and cautions where they apply."""

from __future__ import annotations

import unittest
from datetime import datetime

import numpy as np

from stillthread.depth.picture import read_water
from stillthread.plan.casting_water import water_for
from stillthread.plan.explaining.cast_report import cast_report
from stillthread.rules.cautions import cautions_for, reminders_for
from stillthread.sinking.cast import Cast, simulate
from stillthread.sinking.retrieves import RETRIEVES
from stillthread.tackle.flies import Fly
from stillthread.water.comfort import SPECIES
from stillthread.weather.wind import Wind
from tests.rigs import FOAM_NYMPH, HEAVY_NYMPH, LIGHT_NYMPH, SUMMER_TIME, conditions, rig

STRIP = RETRIEVES["strip-pause"]


class WaterTests(unittest.TestCase):
    def test_a_ledge_runs_from_the_rods_bottom_to_the_far_one(self) -> None:
        shelf = read_water(conditions(bottom_depth_m=3.0, far_bottom_depth_m=8.0))
        water = water_for(shelf, 20.0)
        depths = np.interp([0.0, 4.0, 12.0, 20.0, 30.0], [at for at, _ in water.bottom], [deep for _, deep in water.bottom])
        self.assertEqual([round(float(d), 6) for d in depths], [3.0, 3.0, 5.5, 8.0, 8.0])
        self.assertEqual(float(shelf.profile.depth_m[-1]), 8.0)

    def test_the_mean_water_above_the_feeding_depth_sets_how_things_sink(self) -> None:
        picture = read_water(conditions())
        water_c = water_for(picture).water_c
        self.assertTrue(10.0 < water_c < 18.7)
        self.assertEqual(water_c, round(water_c))  # to the degree: a little less belief changes no path


class ToldTests(unittest.TestCase):
    def test_words_fit_what_happened(self) -> None:
        def words(key: str, count_s: float, fly: Fly = LIGHT_NYMPH, weed_m: float = 0.0) -> str:
            picture = read_water(conditions(weed_m=weed_m))
            tied, cast = rig(key, fly), Cast(18.0, count_s, STRIP)
            told = cast_report(picture, tied, cast, simulate(tied, cast, water_for(picture)))
            self.assertLessEqual(told.band_s, told.cast_s)
            return " ".join(phrase.plain() for phrase in (*told.reasons, told.sum_differs))

        self.assertIn("goes on", words("type-3", 5.0))
        self.assertIn("A floating line has no sum", words("floating", 10.0))
        self.assertIn("expect snags", words("type-7", 60.0, weed_m=2.0))
        self.assertIn("weighted fly", words("intermediate", 10.0, HEAVY_NYMPH))
        self.assertIn("buoyant fly rides above", words("type-5", 30.0, FOAM_NYMPH))
        self.assertNotIn("{", words("type-5", 20.0))

    def test_the_seconds_in_the_band_are_those_of_the_layers_that_it_holds(self) -> None:
        picture = read_water(conditions())
        tied, cast = rig("type-5"), Cast(18.0, 20.0, STRIP)
        told = cast_report(picture, tied, cast, simulate(tied, cast, water_for(picture)))
        by_hand = sum(
            seconds
            for k, seconds in enumerate(told.result.layer_s[0])
            if any(top <= 0.1 * (k + 0.5) <= bottom + 0.1 for top, bottom in picture.belief.bands())
        )
        self.assertAlmostEqual(told.band_s, by_hand, delta=1e-9)
        self.assertAlmostEqual(told.cast_s, told.result.duration_s + 15.0)


class CautionTests(unittest.TestCase):
    def keys(self, water_c: float, wind_mps: float = 2.0, elevation_deg: float = 30.0) -> list[tuple[str, str]]:
        found = cautions_for(water_c, Wind(wind_mps, 0.0), SPECIES["rainbow"], elevation_deg)
        return [(caution.key, caution.level) for caution in found]

    def test_each_applies_where_practice_says_and_the_gravest_comes_first(self) -> None:
        # Common practice: care from about 18 C, stop releasing from about 20 C; cold water under 15 C; boats from force 4.
        self.assertEqual(self.keys(16.0), [])
        self.assertEqual(self.keys(18.0), [("fish-warm", "care")])
        self.assertEqual(self.keys(20.0), [("fish-stop", "stop")])
        self.assertEqual(self.keys(0.5, 12.0), [("ice", "stop"), ("wind", "stop"), ("cold-water", "care")])
        self.assertEqual(self.keys(16.0, 6.0, -2.0), [("wind", "care"), ("dark", "note")])

    def test_every_caution_says_what_to_do(self) -> None:
        for water_c in (0.0, 8.0, 18.5, 22.0):
            for caution in cautions_for(water_c, Wind(9.0, 0.0), SPECIES["brown"], -1.0):
                self.assertTrue(caution.words.plain().endswith("."))
                self.assertNotIn("{", caution.words.plain())

    def test_any_day_is_reminded_of_what_the_hour_does_not_warn_of(self) -> None:
        # Common practice: each of these is said whatever the day; heat when it is hot and the sun is up.
        def said(water_c: float, wind_mps: float, elevation_deg: float) -> str:
            return " ".join(phrase.plain() for phrase in reminders_for(water_c, Wind(wind_mps, 0.0), elevation_deg))

        for word in ("Local codes", "Thunder", "hooks", "Wading", "anchor from the bow", "wet hands", "dry the gear"):
            self.assertIn(word, said(9.0, 1.0, 20.0))
        self.assertEqual([("litre" in said(*day)) for day in ((21.0, 1.0, 20.0), (21.0, 1.0, -5.0), (12.0, 1.0, 20.0))],
                         [True, False, False])  # fmt: skip
        self.assertEqual([("carries a fly" in said(9.0, wind, 20.0)) for wind in (1.0, 9.0)], [False, True])
        self.assertEqual(read_water(conditions()).reminders[0].plain(), "Local codes and people on the spot come first.")

    def test_ice_time_is_cautioned_in_the_picture_itself(self) -> None:
        from stillthread.water.reading import Reading

        winter = read_water(conditions(readings=(Reading(0.0, 0.2),), at=datetime(2026, 1, 20, 12, 0, tzinfo=SUMMER_TIME)))
        self.assertEqual(winter.cautions[0].key, "ice")
