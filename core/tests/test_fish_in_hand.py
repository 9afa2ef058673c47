"""Weight by length against published equations, and how a fish is to be handled."""

from __future__ import annotations

import unittest

from stillthread.errors import OutOfRange
from stillthread.log.fish import STANDARD_WEIGHTS, condition_pct, handling, usual_weight_kg
from stillthread.trade.entries import fish_among
from stillthread.water.comfort import SPECIES


class WeightByLength(unittest.TestCase):
    def test_the_published_equations_give_their_published_weights(self) -> None:
        """Simpkins and Hubert (1996): a rainbow trout of 400 mm 762 g; Hyatt and Hubert (2001): a brown trout 774 g."""
        for key, grams in (("rainbow", 762.0), ("brown", 774.0)):
            self.assertAlmostEqual(1000.0 * (usual_weight_kg(key, 0.400) or 0.0), grams, delta=1.0)

    def test_brook_and_cutthroat_by_hand(self) -> None:
        """Kruse and Hubert (1997), Hyatt and Hubert (2001): 10 to the power of the line, worked with a table of logarithms."""
        self.assertAlmostEqual(usual_weight_kg("cutthroat", 0.300) or 0.0, 0.283, delta=0.002)
        self.assertAlmostEqual(usual_weight_kg("brook", 0.300) or 0.0, 0.316, delta=0.002)

    def test_nothing_is_said_of_kinds_and_sizes_without_an_equation(self) -> None:
        self.assertIsNone(usual_weight_kg("char", 0.4))
        self.assertIsNone(usual_weight_kg("rainbow", 0.05))
        with self.assertRaises(OutOfRange):
            usual_weight_kg("rainbow", 4.0)

    def test_condition_is_the_share_of_the_usual_weight(self) -> None:
        self.assertAlmostEqual(condition_pct("rainbow", 0.4, 0.762) or 0.0, 100.0, delta=0.1)
        self.assertAlmostEqual(condition_pct("rainbow", 0.4, 0.61) or 0.0, 80.0, delta=0.1)
        self.assertIsNone(condition_pct("char", 0.4, 0.7))

    def test_a_longer_fish_is_heavier(self) -> None:
        for of in STANDARD_WEIGHTS.values():
            weights = [of.kg(length) for length in (0.2, 0.3, 0.5, 0.8)]
            self.assertEqual(weights, sorted(weights))


class OneFish(unittest.TestCase):
    def test_a_take_and_its_end_are_one_fish_and_everything_else_is_its_own(self) -> None:
        for kinds, fish in (
            (["take", "landed"], [1]), (["take", "cast", "landed"], [0, 2]), (["landed", "landed"], [0, 1]),
            (["take", "seen", "catching", "landed"], [3]), (["take", "lost", "landed"], [1, 2]), (["knock", "nothing", "follow"], []), ([], []),
        ):  # fmt: skip
            self.assertEqual(fish_among(kinds), fish, kinds)


class Handled(unittest.TestCase):
    def test_warm_water_means_short_play_and_a_long_hold(self) -> None:
        cold, warm = (handling(c, SPECIES["rainbow"]) for c in (11.0, 18.5))
        self.assertLess(warm.play_s, cold.play_s)
        self.assertGreater(warm.hold_s, cold.hold_s)
        self.assertLessEqual(max(cold.air_s, warm.air_s), 10.0)
        self.assertTrue(cold.lives and warm.lives)
        self.assertIn("surface_c", warm.words.values)

    def test_in_hot_water_or_above_what_its_kind_bears_a_fish_may_not_live(self) -> None:
        self.assertFalse(handling(20.0, SPECIES["rainbow"]).lives)
        self.assertFalse(handling(18.2, SPECIES["char"]).lives)
        self.assertTrue(handling(18.2, SPECIES["rainbow"]).lives)
