"""The thermocline through a season of a lake that an open lake model simulates, read as an angler reads it."""

from __future__ import annotations

import unittest
import warnings

import numpy as np

from stillthread.errors import FloatArray
from stillthread.water.stratification import find_layers
from tests.reference_lakes import SETTINGS, reference, weeks

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import pylake

READ_EVERY_M = 1.0
FINE_M = 0.1
STRATIFIED_C = 6.0


def season() -> list[tuple[FloatArray, FloatArray]]:
    """Return (depth [m], temperature [C]) of the model's own layers, every fourth stratified day of a lake 18 m deep."""
    return [one for one in reference("sparkling_lake").profiles if one[1][0] - one[1][-1] > STRATIFIED_C][::4]


class SeasonTests(unittest.TestCase):
    days: list[tuple[FloatArray, FloatArray]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.days = season()

    def read(self, depth: FloatArray, water_c: FloatArray) -> tuple[FloatArray, FloatArray]:
        at = np.arange(0.0, depth[-1], READ_EVERY_M)
        return at, np.interp(at, depth, water_c)

    def test_a_reading_each_metre_finds_it_within_half_a_metre_on_every_day(self) -> None:
        # A reading each metre can't see steps thinner than a metre: the model's profile is averaged over that.
        off = []
        for depth, water_c in self.days:
            fine = np.arange(0.0, depth[-1], FINE_M)
            window = round(READ_EVERY_M / FINE_M) | 1
            drawn = np.convolve(
                np.pad(np.interp(fine, depth, water_c), window // 2, mode="edge"), np.ones(window) / window, "valid"
            )
            reference = float(pylake.thermocline(drawn, depth=fine)[0])
            off.append(abs((find_layers(*self.read(depth, water_c)).thermocline_m or 0.0) - reference))
        self.assertGreater(len(off), 60)
        self.assertLessEqual(max(off), READ_EVERY_M / 2.0)

    def test_against_the_unsmoothed_model_three_days_in_four_agree_as_well(self) -> None:
        # The others have two steps, one of the day's sun near the top: which is the steeper changes from hour to hour.
        near = 0
        for depth, water_c in self.days:
            fine = np.arange(0.0, depth[-1], FINE_M)
            reference = float(pylake.thermocline(np.interp(fine, depth, water_c), depth=fine)[0])
            near += abs((find_layers(*self.read(depth, water_c)).thermocline_m or 0.0) - reference) <= READ_EVERY_M / 2.0
        self.assertGreater(near / len(self.days), 0.75)

    def test_the_same_readings_give_the_same_depth_as_an_independent_library(self) -> None:
        for depth, water_c in self.days:
            read = self.read(depth, water_c)
            reference = float(pylake.thermocline(read[1], depth=read[0])[0])
            self.assertAlmostEqual(find_layers(*read).thermocline_m or 0.0, reference, delta=0.005)


class CarriedTests(unittest.TestCase):
    """Our lake, carried on beside the open model's by the same weather since the lake was mixed, and told nothing else."""

    def off(self, name: str, *, read_weekly: bool = False) -> tuple[FloatArray, FloatArray, float]:
        """Return by the week how far the column is off [C], how far the thermocline [m], and the share of it in the band."""
        column, thermocline, inside = [], [], []
        for week in weeks(name, read_weekly=read_weekly):
            expected = week.state.column()
            mean = expected.at_c(week.depth_m).mean(axis=0)
            column.append(float(np.sqrt(np.mean((mean - week.reference_c) ** 2))))
            bands = np.array([expected.band_c(float(d)) for d in week.depth_m])
            inside.append(np.mean((week.reference_c >= bands[:, 1]) & (week.reference_c <= bands[:, 2])))
            ours = find_layers(week.depth_m, mean).thermocline_m
            theirs = find_layers(week.depth_m, week.reference_c).thermocline_m
            if ours is not None and theirs is not None:
                thermocline.append(abs(ours - theirs))
        return np.array(column), np.array(thermocline), float(np.mean(inside))

    def test_a_deep_lake_is_told_of_within_a_degree_and_its_thermocline_within_half_a_metre(self) -> None:
        column, thermocline, inside = self.off("sparkling_lake")
        self.assertLessEqual(float(np.median(column)), 0.9)
        self.assertLessEqual(float(np.quantile(column, 0.9)), 1.4)
        self.assertLessEqual(float(np.median(thermocline)), 0.5)
        self.assertTrue(0.75 <= inside <= 0.88, inside)

    def test_a_shallow_southern_lake_is_told_of_within_half_a_degree(self) -> None:
        column, _, _ = self.off("woods_lake")
        self.assertLessEqual(float(np.median(column)), 0.4)

    def test_a_surface_reading_a_week_brings_it_nearer(self) -> None:
        for name in SETTINGS:
            column, _, _ = self.off(name, read_weekly=True)
            self.assertLessEqual(float(np.median(column)), 0.7, name)
