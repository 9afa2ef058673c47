"""Density, viscosity and oxygen against published tables and an independent library."""

from __future__ import annotations

import unittest

import numpy as np
from CoolProp.CoolProp import PropsSI

from stillthread.errors import OutOfRange
from stillthread.water.oxygen import oxygen_saturation_mgl, standard_pressure_atm
from stillthread.water.properties import water_density_kgm3, water_viscosity_pas
from tests.marks import FORMULA_AGREES_KGM3, HALF_A_PRINTED_DIGIT_MGL

TEMPERATURES_C = (4.0, 5.0, 10.0, 15.0, 20.0, 25.0, 32.0)


class WaterPropertiesTests(unittest.TestCase):
    def test_density_agrees_with_iapws_95(self) -> None:
        for water_c in TEMPERATURES_C:
            reference = PropsSI("D", "T", water_c + 273.15, "P", 101325.0, "Water")
            self.assertAlmostEqual(float(water_density_kgm3(water_c)), reference, delta=FORMULA_AGREES_KGM3)

    def test_viscosity_agrees_with_iapws_within_three_parts_in_ten_thousand(self) -> None:
        for water_c in TEMPERATURES_C:
            reference = PropsSI("V", "T", water_c + 273.15, "P", 101325.0, "Water")
            self.assertAlmostEqual(float(water_viscosity_pas(water_c)) / reference, 1.0, delta=3e-4)

    def test_water_is_densest_just_below_four_degrees(self) -> None:
        grid = np.arange(0.0, 10.0, 0.01)
        self.assertAlmostEqual(float(grid[np.argmax(water_density_kgm3(grid))]), 3.98, delta=0.02)

    def test_a_temperature_out_of_range_is_refused_by_name(self) -> None:
        with self.assertRaises(OutOfRange) as refused:
            water_density_kgm3([10.0, 41.0])
        self.assertEqual(refused.exception.message, "water_c = 41 C lies outside -1 to 40 C.")
        with self.assertRaises(OutOfRange):
            water_viscosity_pas(float("nan"))


class OxygenTests(unittest.TestCase):
    def test_saturation_equals_the_printed_table(self) -> None:
        # apha-4500-o, fresh water at one atmosphere.
        table = {0: 14.621, 5: 12.771, 10: 11.288, 15: 10.084, 20: 9.092, 25: 8.263}
        for water_c, printed in table.items():
            self.assertAlmostEqual(oxygen_saturation_mgl(float(water_c)), printed, delta=HALF_A_PRINTED_DIGIT_MGL)

    def test_saturation_at_1500_m_equals_the_worked_values(self) -> None:
        # benson-krause-1984 with the standard atmosphere.
        for water_c, printed in ((10.0, 9.398), (20.0, 7.553)):
            self.assertAlmostEqual(oxygen_saturation_mgl(water_c, altitude_m=1500.0), printed, delta=0.003)

    def test_pressure_is_one_atmosphere_at_the_sea(self) -> None:
        self.assertEqual(standard_pressure_atm(0.0), 1.0)
