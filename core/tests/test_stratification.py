"""Layers of the lake against an independent library and against hand-made profiles."""

from __future__ import annotations

import unittest
import warnings

import numpy as np

from stillthread.chart.lake_shape import hypsography_of
from stillthread.chart.soundings import DepthGrid
from stillthread.water.hypsography import Hypsography
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
        # At a quarter of the steepest gradient; the library names middles of readings, ours interpolates from each to the next.
        top, bottom = pylake.metalimnion(self.water_c, depth=self.depth_m)
        layers = find_layers(self.depth_m, self.water_c)
        self.assertTrue(float(top) - 1.0 <= (layers.metalimnion_top_m or 0.0) <= float(top), (layers, top))
        self.assertTrue(float(bottom) <= (layers.metalimnion_bottom_m or 0.0) <= float(bottom) + 1.0, (layers, bottom))

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
            shape = Hypsography((0.0, 19.999, 20.0), (1000.0, 1000.0, 0.0))
            reference = float(pylake.schmidt_stability(water, depth=depth, bthA=area, bthD=np.array([0.0, 20.0]), sal=0.0))
            self.assertAlmostEqual((find_layers(depth, water, shape).stability_jm2 or 0.0) / reference, 1.0, delta=0.02)

    def test_an_even_column_takes_no_work(self) -> None:
        shape = Hypsography((0.0, 4.0, 8.0), (1e5, 3e4, 0.0))
        self.assertAlmostEqual(find_layers(np.arange(0.0, 9.0), np.full(9, 12.0), shape).stability_jm2 or 0.0, 0.0, places=6)
        self.assertIsNone(find_layers(np.arange(0.0, 9.0), np.full(9, 12.0)).stability_jm2)

    def test_a_bowl_is_as_an_independent_library_has_it(self) -> None:
        depth = np.arange(0.0, 20.05, 0.1)
        water = np.interp(depth, [5.0, 9.0], [18.0, 8.0])
        levels, area = np.linspace(0.0, 20.0, 21), 1e5 * (1.0 - np.linspace(0.0, 1.0, 21)) ** 1.3
        reference = float(pylake.schmidt_stability(water, depth=depth, bthA=area, bthD=levels, sal=0.0))
        found = find_layers(depth, water, Hypsography(tuple(levels), tuple(area))).stability_jm2
        self.assertAlmostEqual((found or 0.0) / reference, 1.0, delta=0.03)

    def test_a_chart_gives_the_shape_of_its_lake(self) -> None:
        # A cone 10 m deep and 100 m in radius: the area at depth z is that at the top times (1 - z / 10) squared.
        x = np.arange(-100.0, 101.0, 2.0)
        depth = 10.0 * (1.0 - np.hypot(*np.meshgrid(x, x)) / 100.0)
        shape = hypsography_of(DepthGrid(x, x, np.where(depth > 0.0, depth, np.nan)))
        assert shape is not None
        found = shape.area_at(np.array([0.0, 5.0, 9.9]))
        self.assertAlmostEqual(found[0] / (np.pi * 1e4), 1.0, delta=0.02)
        self.assertAlmostEqual(found[1] / found[0], 0.25, delta=0.02)
        self.assertAlmostEqual(shape.volume_m3(0.0, 10.0) / (np.pi * 1e4 * 10.0 / 3.0), 1.0, delta=0.03)
        self.assertIsNone(hypsography_of(DepthGrid(x[:3], x[:3], np.full((3, 3), 2.0))))


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
