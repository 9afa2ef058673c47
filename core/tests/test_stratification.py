"""Layers of the lake against an independent library and against hand-made profiles."""

from __future__ import annotations

import unittest
import warnings

import numpy as np

from stillthread.water.stratification import find_layers

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import pylake


class TwoLayerTests(unittest.TestCase):
    """18 C to 5 m, falling to 8 C at 9 m, 8 C to 20 m, read each metre."""

    depth_m = np.arange(0.0, 21.0)
    water_c = np.interp(depth_m, [5.0, 9.0], [18.0, 8.0])

    def test_thermocline_is_where_an_independent_library_puts_it(self) -> None:
        reference = float(pylake.thermocline(self.water_c, depth=self.depth_m)[0])
        found = find_layers(self.depth_m, self.water_c).thermocline_m
        self.assertIsNotNone(found)
        self.assertAlmostEqual(found or 0.0, reference, delta=0.02)
        # Density, not temperature, decides: the steepest step is at the warm end, not in the middle (7.0 m).
        self.assertAlmostEqual(found or 0.0, 5.86, delta=0.01)

    def test_metalimnion_edges_lie_in_the_intervals_the_library_names(self) -> None:
        # At 0.25 kg/m3 per m the library names the middles 5.5 and 8.5; ours interpolates to the limit from above each.
        layers = find_layers(self.depth_m, self.water_c)
        self.assertTrue(4.5 < (layers.metalimnion_top_m or 0.0) <= 5.5, layers)
        self.assertTrue(7.5 < (layers.metalimnion_bottom_m or 0.0) <= 8.5, layers)

    def test_mixed_layer_ends_inside_the_interval_the_library_names(self) -> None:
        # The library names the first reading past the limit (6.0 m); ours interpolates within that last metre.
        mixed = find_layers(self.depth_m, self.water_c).mixed_layer_m
        self.assertTrue(5.0 < mixed < 6.0, mixed)

    def test_reading_twice_as_often_moves_the_thermocline_less_than_half_an_interval(self) -> None:
        fine_m = np.arange(0.0, 20.1, 0.5)
        fine = find_layers(fine_m, np.interp(fine_m, self.depth_m, self.water_c)).thermocline_m
        coarse = find_layers(self.depth_m, self.water_c).thermocline_m
        self.assertAlmostEqual(fine or 0.0, coarse or 0.0, delta=0.5)


class StabilityTests(unittest.TestCase):
    def test_it_is_schmidts_for_a_column_of_even_width(self) -> None:
        for bottom_c in (6.0, 10.0, 16.0):
            depth = np.arange(0.0, 20.05, 0.1)
            water = np.interp(depth, [5.0, 9.0], [18.0, bottom_c])
            area = np.array([1000.0, 1000.0])
            reference = float(pylake.schmidt_stability(water, depth=depth, bthA=area, bthD=np.array([0.0, 20.0]), sal=0.0))
            self.assertAlmostEqual(find_layers(depth, water).stability_jm2 / reference, 1.0, delta=0.02)

    def test_an_even_column_takes_no_work(self) -> None:
        self.assertAlmostEqual(find_layers(np.arange(0.0, 9.0), np.full(9, 12.0)).stability_jm2, 0.0, places=6)


class OtherProfileTests(unittest.TestCase):
    def test_a_nearly_even_column_has_no_thermocline(self) -> None:
        depth = np.arange(0.0, 13.0)
        layers = find_layers(depth, np.linspace(7.0, 6.2, 13))
        self.assertIsNone(layers.thermocline_m)
        self.assertFalse(layers.stratified)

    def test_cold_water_over_four_degrees_is_not_a_thermocline_turned_over(self) -> None:
        depth = np.arange(0.0, 9.0)
        layers = find_layers(depth, 4.0 - 3.0 * np.exp(-depth))
        self.assertIsNone(layers.thermocline_m)

    def test_one_reading_has_no_layers(self) -> None:
        layers = find_layers(np.array([0.0]), np.array([12.0]))
        self.assertEqual((layers.mixed_layer_m, layers.thermocline_m), (0.0, None))
