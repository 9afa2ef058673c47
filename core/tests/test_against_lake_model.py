"""The thermocline through a season of a lake that an open lake model simulates, read as an angler reads it."""

from __future__ import annotations

import contextlib
import io
import os
import tempfile
import unittest
import warnings
from pathlib import Path

import numpy as np

from stillthread.errors import FloatArray
from stillthread.water.stratification import find_layers

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import netCDF4
    import pylake
    from glmpy.simulation import GLMSim

READ_EVERY_M = 1.0
FINE_M = 0.1
STRATIFIED_C = 6.0


def season() -> list[tuple[FloatArray, FloatArray]]:
    """Return (depth [m], temperature [C]) of the model's own layers, every fourth stratified day of a lake 18 m deep."""
    days = []
    with tempfile.TemporaryDirectory() as folder, warnings.catch_warnings(), contextlib.redirect_stdout(io.StringIO()):
        warnings.simplefilter("ignore")
        lake = GLMSim.from_example_sim(sorted(GLMSim.get_example_sim_names())[2])
        lake.sim_dir_path = folder
        # The model's own program writes to the process's output: that goes nowhere.
        quiet, kept = os.open(os.devnull, os.O_WRONLY), [os.dup(1), os.dup(2)]
        os.dup2(quiet, 1)
        os.dup2(quiet, 2)
        try:
            lake.run()
        finally:
            for number, stream in enumerate(kept, 1):
                os.dup2(stream, number)
                os.close(stream)
            os.close(quiet)
        with netCDF4.Dataset(next(Path(folder).rglob("*.nc"))) as output:
            counts = np.asarray(output["NS"][:]).ravel().astype(int)
            for i, layers in enumerate(counts):
                top = np.asarray(output["z"][i, :layers, 0, 0])
                middle = top[-1] - 0.5 * (top + np.concatenate(([0.0], top[:-1])))
                water_c = np.asarray(output["temp"][i, :layers, 0, 0])
                if water_c[-1] - water_c[0] > STRATIFIED_C:
                    days.append((middle[::-1], water_c[::-1]))
    return days[::4]


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
