"""The depth of a take: hand-worked."""

from __future__ import annotations

import unittest

from stillthread.log.depths import LEAST_SPREAD_M, depth_of_take

PATH = ([0.0, 10.0, 20.0], [0.0, 2.0, 3.0], [0.0, 0.5, 0.1])


class DepthTests(unittest.TestCase):
    def test_it_is_that_of_the_moment_a_standard_deviation_either_way(self) -> None:
        self.assertEqual(depth_of_take(10.0, *PATH), (1.5, 2.5))
        low, high = depth_of_take(5.0, *PATH)
        self.assertAlmostEqual(low, 0.75)
        self.assertAlmostEqual(high, 1.25)

    def test_no_path_is_known_better_than_a_hand_and_nothing_takes_in_the_air(self) -> None:
        least = float(LEAST_SPREAD_M)
        self.assertEqual(depth_of_take(0.0, *PATH), (0.0, least))
        low, high = depth_of_take(20.0, *PATH)
        self.assertAlmostEqual(high - low, 2.0 * least)

    def test_past_the_end_it_stays_where_it_was(self) -> None:
        self.assertEqual(depth_of_take(3000.0, *PATH), depth_of_take(20.0, *PATH))
