"""Drag of cylinders and spheres against published values and an independent library."""

from __future__ import annotations

import math
import unittest

import numpy as np
from fluids.drag import v_terminal

from stillthread.drag.laws import (
    body_sink_rate_mps,
    cylinder_cd,
    cylinder_cd_re,
    sphere_cd,
    thread_sink_rate_mps,
    thread_weight_npm,
)
from stillthread.water.properties import GRAVITY_MS2, water_density_kgm3, water_viscosity_pas
from tests.marks import CORRELATIONS_DIFFER

DENSITY = float(water_density_kgm3(10.0))
VISCOSITY = float(water_viscosity_pas(10.0))


class CylinderTests(unittest.TestCase):
    def test_coefficient_equals_its_own_published_table(self) -> None:
        # sucker-brauer-1975, to the printed digit.
        for re, printed in ((1.0, 9.94), (10.0, 2.67), (50.0, 1.65), (100.0, 1.45), (200.0, 1.30), (500.0, 1.11)):
            self.assertAlmostEqual(cylinder_cd(re), printed, delta=0.011 * printed)

    def test_coefficient_agrees_with_the_textbook_curve_as_correlations_do(self) -> None:
        # white-viscous: Cd = 1 + 10 Re^(-2/3).
        for re in (1.0, 5.0, 20.0, 80.0, 300.0, 1000.0):
            other = 1.0 + 10.0 * re ** (-2.0 / 3.0)
            self.assertLess(abs(cylinder_cd(re) / other - 1.0), CORRELATIONS_DIFFER)

    def test_the_simulators_table_is_the_law(self) -> None:
        for re in np.geomspace(1e-3, 2e4, 4001):
            self.assertLess(abs(cylinder_cd_re(re) / (cylinder_cd(re) * re) - 1.0), 3e-4, f"Re {re}")

    def test_weight_and_sink_rate_are_each_others_inverse(self) -> None:
        for rate in (0.01, 0.0381, 0.15, -0.05):
            weight = thread_weight_npm(rate, 1.1e-3, DENSITY, VISCOSITY)
            self.assertAlmostEqual(thread_sink_rate_mps(weight, 1.1e-3, DENSITY, VISCOSITY), rate, delta=1e-9)


class SphereTests(unittest.TestCase):
    def test_beads_fall_as_an_independent_library_says(self) -> None:
        # The correlations of a smooth sphere differ by a few per cent among themselves.
        for bead_kgm3 in (19300.0, 8500.0, 2500.0):
            for width_m in (0.002, 0.003, 0.004):
                weight = math.pi / 6.0 * width_m**3 * (bead_kgm3 - DENSITY) * GRAVITY_MS2
                reference = v_terminal(D=width_m, rhop=bead_kgm3, rho=DENSITY, mu=VISCOSITY)
                found = body_sink_rate_mps(weight, width_m, DENSITY, VISCOSITY)
                self.assertAlmostEqual(found / reference, 1.0, delta=0.04)

    def test_a_creeping_sphere_obeys_stokes(self) -> None:
        self.assertAlmostEqual(sphere_cd(1e-3) * 1e-3 / 24.0, 1.0, delta=0.003)

    def test_a_buoyant_body_rises(self) -> None:
        self.assertLess(body_sink_rate_mps(-1e-4, 0.01, DENSITY, VISCOSITY), 0.0)
