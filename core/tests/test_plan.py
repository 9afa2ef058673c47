"""The plan: water as it runs, what weed and pace cost, words that fit what happened, and cautions where they apply."""

from __future__ import annotations

import unittest
from datetime import datetime

import numpy as np

from stillthread.depth.picture import read_water
from stillthread.plan.rank import (
    Presentation,
    best_pace_mps,
    judge,
    pace_fit,
    rank_presentations,
    score_of,
    target_of,
    water_for,
)
from stillthread.rules.cautions import cautions_for, reminders_for
from stillthread.sinking.cast import Cast, simulate
from stillthread.sinking.retrieves import RETRIEVES, retrieve_named
from stillthread.tackle.lines import FULL_LINE_KEYS, line_of_class
from stillthread.tackle.rig import PlacedFly
from stillthread.water.comfort import SPECIES
from stillthread.weather.wind import Wind
from tests.rigs import HEAVY_NYMPH, LEADER, LIGHT_NYMPH, SUMMER_TIME, conditions, rig

STRIP = RETRIEVES["strip-pause"]


class WaterTests(unittest.TestCase):
    def test_a_ledge_runs_from_the_rods_bottom_to_the_far_one(self) -> None:
        shelf = read_water(conditions(bottom_depth_m=3.0, far_bottom_depth_m=8.0))
        water = water_for(shelf, 20.0)
        depths = np.interp([0.0, 4.0, 12.0, 20.0, 30.0], *zip(*water.bottom, strict=True))
        self.assertEqual([round(float(d), 6) for d in depths], [3.0, 3.0, 5.5, 8.0, 8.0])
        self.assertEqual(float(shelf.profile.depth_m[-1]), 8.0)

    def test_the_mean_water_above_the_feeding_depth_sets_how_things_sink(self) -> None:
        picture = read_water(conditions())
        self.assertTrue(10.0 < water_for(picture).water_c < 18.7)


class ScoreTests(unittest.TestCase):
    def setUp(self) -> None:
        self.picture = read_water(conditions())

    def score(self, key: str, count_s: float, pace: float = 0.12, weed_m: float = 0.0) -> float:
        picture = read_water(conditions(weed_m=weed_m))
        one = Presentation(rig(key), Cast(18.0, count_s, retrieve_named("strip-pause", pace)))
        return score_of(target_of(picture), one, simulate(one.rig, one.cast, water_for(picture)))

    def test_a_score_is_a_share_of_time(self) -> None:
        for key in FULL_LINE_KEYS:
            self.assertTrue(0.0 <= self.score(key, 15.0) <= 1.0)

    def test_weed_costs_what_drags_through_it_and_nothing_else(self) -> None:
        self.assertLess(self.score("type-7", 60.0, weed_m=2.0), 0.8 * self.score("type-7", 60.0))
        self.assertAlmostEqual(
            self.score("hover", 5.0, weed_m=2.0), self.score("hover", 5.0), delta=0.15 * self.score("hover", 5.0)
        )

    def test_pace_suits_the_warmth(self) -> None:
        self.assertLess(best_pace_mps(5.0), best_pace_mps(15.0))
        self.assertEqual(pace_fit(0.1, 0.1), 1.0)
        self.assertAlmostEqual(pace_fit(0.2, 0.1), pace_fit(0.05, 0.1), delta=1e-12)  # twice and half cost the same

    def test_the_judge_and_the_ranking_agree(self) -> None:
        ranked = rank_presentations(self.picture, [line_of_class("type-3")], LEADER, [PlacedFly(LIGHT_NYMPH)], 18.0)
        best = ranked[0]
        again = judge(
            self.picture, best.presentation, simulate(best.presentation.rig, best.presentation.cast, water_for(self.picture))
        )
        self.assertAlmostEqual(best.score, again.score, delta=1e-12)
        self.assertAlmostEqual(best.band_s_per_minute, 60.0 * best.band_s / best.cast_s)

    def test_words_fit_what_happened(self) -> None:
        def words(key: str, count_s: float, fly: object = LIGHT_NYMPH, weed_m: float = 0.0) -> str:
            picture = read_water(conditions(weed_m=weed_m))
            one = Presentation(rig(key, fly), Cast(18.0, count_s, STRIP))  # type: ignore[arg-type]
            choice = judge(picture, one, simulate(one.rig, one.cast, water_for(picture)))
            return " ".join(phrase.plain() for phrase in (*choice.reasons, choice.sum_differs))

        self.assertIn("goes on", words("type-3", 5.0))
        self.assertIn("A floating line has no sum", words("floating", 10.0))
        self.assertIn("expect snags", words("type-7", 60.0, weed_m=2.0))
        self.assertIn("weighted fly", words("intermediate", 10.0, HEAVY_NYMPH))
        self.assertNotIn("{", words("type-5", 20.0))


class CautionTests(unittest.TestCase):
    def keys(self, water_c: float, wind_ms: float = 2.0, elevation_deg: float = 30.0) -> list[tuple[str, str]]:
        found = cautions_for(water_c, Wind(wind_ms, 0.0), SPECIES["rainbow"], elevation_deg)
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
        def said(water_c: float, wind_ms: float, elevation_deg: float) -> str:
            return " ".join(phrase.plain() for phrase in reminders_for(water_c, Wind(wind_ms, 0.0), elevation_deg))

        for word in ("Local codes", "Thunder", "hooks", "Wading", "anchor from the bow", "wet hands", "dry the gear"):
            self.assertIn(word, said(9.0, 1.0, 20.0))
        self.assertEqual([("litre" in said(*day)) for day in ((21.0, 1.0, 20.0), (21.0, 1.0, -5.0), (12.0, 1.0, 20.0))],
                         [True, False, False])  # fmt: skip
        self.assertEqual([("carry a fly" in said(9.0, wind, 20.0)) for wind in (1.0, 9.0)], [False, True])
        self.assertEqual(read_water(conditions()).reminders[0].plain(), "Local codes and people on the spot come first.")

    def test_ice_time_is_cautioned_in_the_picture_itself(self) -> None:
        from stillthread.water.reading import Reading

        winter = read_water(conditions(readings=(Reading(0.0, 0.2),), at=datetime(2026, 1, 20, 12, 0, tzinfo=SUMMER_TIME)))
        self.assertEqual(winter.cautions[0].key, "ice")
