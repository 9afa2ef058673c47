"""Meshes and spreads hold what is said of them; the whole tables are in docs/physics.md, a part is measured at every run."""

from __future__ import annotations

import unittest

import numpy as np

from stillthread.sinking.thread import FINE, QUICK
from tests.varied import coverage, mesh_errors


class MeshTests(unittest.TestCase):
    def test_what_is_shown_is_within_centimetres_and_what_is_ranked_within_decimetres(self) -> None:
        shown, ranked = mesh_errors(FINE, every=5), mesh_errors(QUICK, every=5)
        self.assertLess(float(np.median(shown)), 0.02)
        self.assertLess(float(shown.max()), 0.08)
        self.assertLess(float(np.median(ranked)), 0.08)
        self.assertLess(float(ranked.max()), 0.4)


class CoverageTests(unittest.TestCase):
    def test_eight_times_in_ten_is_eight_times_in_ten(self) -> None:
        rng = np.random.default_rng(11)
        found = np.array([coverage(k, 40, rng).shares for k in range(0, 24, 2)])
        # 12 rigs of 40 draws: a standard error of two hundredths, beside what the whole table is asked (76 to 84 %).
        for share in found.mean(axis=0):
            self.assertTrue(0.72 < share < 0.88, found.mean(axis=0))
