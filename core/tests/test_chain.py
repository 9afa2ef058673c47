"""The chain against theory: free fall, the critical angle of a towed cable, a hanging chain, the catenary."""

from __future__ import annotations

import math
import unittest
from dataclasses import dataclass

import numpy as np

from stillthread.drag.laws import cylinder_cd, thread_weight_npm
from stillthread.errors import FloatArray
from stillthread.sinking import chain
from stillthread.sinking.groups import NO_FLOAT, Around, Chain, Cut
from stillthread.sinking.thread import FINE
from stillthread.water.properties import water_density_kgm3, water_viscosity_pas

DENSITY = float(water_density_kgm3(10.0))
VISCOSITY = float(water_viscosity_pas(10.0))


@dataclass
class Thread:
    """A bare level line of one kind, laid straight along the surface."""

    sink_rate_mps: float = 0.0381
    length_m: float = 15.0
    segment_m: float = 1.0
    diameter_m: float = 1.1e-3
    tip_speed_mps: float = 0.0
    count_s: float = 60.0
    step_s: float = 0.1
    bottom_m: float = 200.0
    point_weight_n: float = 0.0
    point_diameter_m: float = 0.0
    skin: float = 0.015

    def run(self) -> tuple[FloatArray, FloatArray, float]:
        """Return time_s (n_time,), path (n_time, n_node, 2) of the count, and the worst length error."""
        n = round(self.length_m / self.segment_m) + 1
        rest = np.full(n, self.segment_m)
        rest[0] = 0.0
        away = -1.0 if self.tip_speed_mps > 0.0 else 1.0
        weights, widths = np.zeros(n), np.zeros(n)
        weights[-1], widths[-1] = self.point_weight_n, self.point_diameter_m
        laid = Chain(
            away * np.cumsum(rest), np.zeros(n), np.zeros(n), rest,
            np.full(n, thread_weight_npm(self.sink_rate_mps, self.diameter_m, DENSITY, VISCOSITY)),
            np.full(n, self.diameter_m), np.full(n, self.skin), weights, widths,
        )  # fmt: skip
        around = Around(DENSITY, VISCOSITY, 0.0, 0.0, 0.5, 0.0, np.array([0.0, 1.0]), np.full(2, self.bottom_m), 0.0)
        program = np.array([[self.count_s, 0.0, self.tip_speed_mps, 0.0, 0.0, 0.0, chain.COUNTING]])
        cut = Cut(self.step_s, FINE.stretch, 0.5, 0.1, int(self.bottom_m / 0.1) + 1)
        time_s, _, path, _, _, _, error, _ = chain.run_chain(laid, np.array([n - 1]), 0, around, NO_FLOAT, program, cut, False)
        return time_s, path, error


class FreeFallTests(unittest.TestCase):
    def test_a_long_line_falls_at_its_sink_rate(self) -> None:
        for rate in (0.0102, 0.0381, 0.1524):
            time_s, path, _ = Thread(sink_rate_mps=rate, length_m=60.0, count_s=40.0).run()
            fallen = np.interp([20.0, 40.0], time_s, path[:, -1, 1])
            self.assertAlmostEqual(float(fallen[1] - fallen[0]) / 20.0, rate, delta=0.002 * rate)


class TowTests(unittest.TestCase):
    """A bare line towed level settles straight, at the angle where cross drag carries its weight (berteaux-1976)."""

    def angle_deg(self, rate_mps: float, tow_mps: float, segment_m: float) -> float:
        _, path, _ = Thread(sink_rate_mps=rate_mps, tip_speed_mps=tow_mps, count_s=500.0, segment_m=segment_m).run()
        tip, end = path[-1, 0], path[-1, -1]
        return math.degrees(math.atan2(end[1] - tip[1], tip[0] - end[0]))

    def theory_deg(self, rate_mps: float, tow_mps: float) -> float:
        """Solve w cos(phi) = drag(U sin(phi)) with Cd(Re), by bisection."""
        weight = thread_weight_npm(rate_mps, 1.1e-3, DENSITY, VISCOSITY)
        low, high = 1e-4, math.pi / 2
        for _ in range(60):
            phi = 0.5 * (low + high)
            across = tow_mps * math.sin(phi)
            drag = 0.5 * DENSITY * cylinder_cd(DENSITY * across * 1.1e-3 / VISCOSITY) * 1.1e-3 * across**2
            low, high = (phi, high) if drag < weight * math.cos(phi) else (low, phi)
        return math.degrees(low)

    def test_towed_line_settles_at_the_critical_angle(self) -> None:
        for rate, tow in ((0.0381, 0.25), (0.0762, 0.10), (0.1524, 0.5)):
            self.assertAlmostEqual(self.angle_deg(rate, tow, 1.0), self.theory_deg(rate, tow), delta=0.1)

    def test_towed_angles_are_the_worked_ones(self) -> None:
        # cos/sin^2 = (U/Vs)^2 gives 8.7 deg at 1.5 in/s and 0.25 m/s; 40.8 deg at 3 in/s and 0.1 m/s with Cd(Re).
        self.assertAlmostEqual(self.angle_deg(0.0381, 0.25, 1.0), 8.7, delta=0.1)
        self.assertAlmostEqual(self.angle_deg(0.0762, 0.10, 1.0), 40.8, delta=0.2)

    def test_finer_segments_change_nothing(self) -> None:
        self.assertAlmostEqual(self.angle_deg(0.0381, 0.25, 1.0), self.angle_deg(0.0381, 0.25, 0.25), delta=0.02)


class HangingTests(unittest.TestCase):
    def test_a_hanging_chain_is_as_deep_as_it_is_long(self) -> None:
        _, path, _ = Thread(length_m=6.0, segment_m=0.5, count_s=590.0).run()
        self.assertAlmostEqual(float(path[-1, -1, 1]), 6.0, delta=0.01)

    def test_a_line_between_rod_and_bottom_lies_below_its_chord(self) -> None:
        # Part of the line rests on the bottom: it cannot go through, and the hanging part sags.
        _, path, _ = Thread(length_m=12.0, segment_m=0.5, count_s=500.0, bottom_m=4.0).run()
        self.assertLessEqual(float(path[:, :, 1].max()), 4.0)
        self.assertGreater(int((path[-1, :, 1] > 3.97).sum()), 8)


class NumericsTests(unittest.TestCase):
    def test_halving_the_step_changes_depth_less_than_one_per_cent(self) -> None:
        _, coarse, _ = Thread(point_weight_n=2e-4, point_diameter_m=0.012, step_s=0.2).run()
        _, fine, _ = Thread(point_weight_n=2e-4, point_diameter_m=0.012, step_s=0.05).run()
        self.assertAlmostEqual(coarse[-1, -1, 1] / fine[-1, -1, 1], 1.0, delta=0.01)

    def test_lengths_hold_and_nothing_leaves_the_water(self) -> None:
        for heavy in (0.0, 3e-3):
            _, path, error = Thread(point_weight_n=heavy, point_diameter_m=0.01 if heavy else 0.0, bottom_m=3.0).run()
            self.assertLess(error, 0.005)
            self.assertGreaterEqual(float(path[:, :, 1].min()), 0.0)
            self.assertLessEqual(float(path[:, :, 1].max()), 3.0)
