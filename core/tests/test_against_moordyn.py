"""The chain beside a general mooring-dynamics library: a towed line, and one that hangs."""

from __future__ import annotations

import contextlib
import math
import os
import tempfile
import unittest
from pathlib import Path

import numpy as np

from stillthread.drag.laws import cylinder_cd, thread_weight_npm
from stillthread.errors import FloatArray
from stillthread.water.properties import GRAVITY_MS2
from tests.effort import LONG
from tests.test_across import bare, critical_rad
from tests.test_chain import DENSITY, VISCOSITY, Thread

try:
    import moordyn
except ImportError as error:  # pragma: no cover - the library installs with the tests
    moordyn = None
    print(f"skipped: moordyn can't be imported ({error})")  # noqa: T201

DEPTH_AGREES = 0.03
ROWS = None if LONG else 1  # the other library takes half a minute for three
_DIAMETER_M = 1.1e-3
# Stiffness [N] and damping that keep a fly line's stretch under a tenth of a per cent at its small loads.
_EA_N, _STEP_S = 50.0, 4e-4


def moordyn_nodes(
    rate_mps: float,
    length_m: float,
    for_s: float,
    cd: float,
    *,
    tow_mps: float = 0.0,
    current_mps: tuple[float, float] = (0.0, 0.0),
    held: tuple[float, float, float] | None = None,
    segments: int = 20,
) -> FloatArray:
    """Return where the nodes of a line end up, shape (n_node, 3) as x, y, height: towed along x from the surface, or in an even
    current (along x, along y) [m/s]; its end free, or held (x, y, depth)."""
    weight = thread_weight_npm(rate_mps, _DIAMETER_M, DENSITY, VISCOSITY)
    mass_kgpm = weight / GRAVITY_MS2 + DENSITY * math.pi / 4.0 * _DIAMETER_M**2
    far = f"Free {-length_m * 0.98 if tow_mps else length_m * 0.98} 0 {-length_m * 0.15}"
    if held is not None:
        far = f"Fixed {held[0]} {held[1]} {-held[2]}"
    text = f"""MoorDyn input
---------------------- LINE TYPES -----------------------------------
Name   Diam    MassDen    EA    BA/-zeta    EI      Cd      Ca     CdAx    CaAx
(name) (m)     (kg/m)     (N)   (N-s/-)     (N-m^2) (-)     (-)    (-)     (-)
fly    {_DIAMETER_M} {mass_kgpm:.8f} {_EA_N} -1.0 0.0 {cd} 1.0 {0.015 * math.pi} 0.0
---------------------- POINTS -----------------------------------
ID  Type  X  Y  Z  M  V  CdA  CA
(#) (name) (m) (m) (m) (kg) (m^3) (m^2) (-)
1 Coupled 0 0 0 0 0 0 0
2 {far} 0 0 0 0
---------------------- LINES -----------------------------------
ID LineType AttachA AttachB UnstrLen NumSegs LineOutputs
(#) (name) (#) (#) (m) (-) (-)
1 fly 1 2 {length_m} {segments} -
---------------------- OPTIONS -----------------------------------
0 writeLog
{_STEP_S} dtM
3.0e6 kBot
3.0e5 cBot
{DENSITY} WtrDnsty
200.0 WtrDpth
{GRAVITY_MS2} g
{1 if any(current_mps) else 0} Currents
0 TmaxIC
0.1 dtIC
------------------------- need this line --------------------------------------
"""
    along, across = current_mps
    current = f"""--------------------- Steady currents ---------------------------------
Tabulated file with the water currents components
z (m), ux (m/s), uy (m/s), uz (m/s)
-200 {along} {across} 0
0 {along} {across} 0
"""
    with tempfile.TemporaryDirectory() as folder, contextlib.chdir(folder):
        path = Path(folder) / "line.txt"
        path.write_text(text)
        (Path(folder) / "current_profile.txt").write_text(current)
        silence = os.open(str(Path(folder) / "said.txt"), os.O_WRONLY | os.O_CREAT)
        kept = os.dup(1), os.dup(2)
        os.dup2(silence, 1)
        os.dup2(silence, 2)
        try:
            system = moordyn.Create(str(path))
            x, v = [0.0, 0.0, 0.0], [tow_mps, 0.0, 0.0]
            moordyn.Init(system, x, v)
            now, pace = 0.0, 0.5
            for _ in range(round(for_s / pace)):
                x = [x[0] + tow_mps * pace, 0.0, 0.0]
                moordyn.Step(system, x, v, now, pace)
                now += pace
            line = moordyn.GetLine(system, 1)
            nodes = [moordyn.GetLineNodePos(line, i) for i in range(segments + 1)]
            moordyn.Close(system)
        finally:
            os.dup2(kept[0], 1)
            os.dup2(kept[1], 2)
            for handle in (*kept, silence):
                os.close(handle)
    return np.array(nodes)


def moordyn_end(rate_mps: float, length_m: float, tow_mps: float, for_s: float, cd: float) -> tuple[float, float]:
    """Return (distance behind the tip [m], depth [m]) of the free end of a line towed from the surface."""
    nodes = moordyn_nodes(rate_mps, length_m, for_s, cd, tow_mps=tow_mps)
    return float(nodes[0, 0] - nodes[-1, 0]), float(-nodes[-1, 2])


@unittest.skipIf(moordyn is None, "moordyn can't be imported")
class TowedTests(unittest.TestCase):
    def settled_cd(self, rate_mps: float, tow_mps: float) -> float:
        """The other library has one Cd: give it that of the speed across the line at the settled angle."""
        low, high = 1e-4, math.pi / 2
        weight = thread_weight_npm(rate_mps, _DIAMETER_M, DENSITY, VISCOSITY)
        cd = 1.0
        for _ in range(60):
            phi = 0.5 * (low + high)
            across = tow_mps * math.sin(phi)
            cd = cylinder_cd(DENSITY * across * _DIAMETER_M / VISCOSITY)
            drag = 0.5 * DENSITY * cd * _DIAMETER_M * across**2
            low, high = (phi, high) if drag < weight * math.cos(phi) else (low, phi)
        return cd

    def test_a_towed_line_runs_as_deep_as_there(self) -> None:
        for rate, tow in ((0.0381, 0.25), (0.1524, 0.50)):
            with self.subTest(rate=rate, tow=tow):
                ours = Thread(sink_rate_mps=rate, tip_speed_mps=tow, count_s=240.0).run()[1][-1]
                depth = float(ours[-1, 1])
                _, other = moordyn_end(rate, 15.0, tow, 120.0, self.settled_cd(rate, tow))
                self.assertAlmostEqual(depth / other, 1.0, delta=DEPTH_AGREES)

    def test_a_line_that_only_hangs_is_as_deep_as_there(self) -> None:
        ours = Thread(sink_rate_mps=0.1524, length_m=6.0, segment_m=0.3, count_s=200.0).run()[1][-1]
        _, other = moordyn_end(0.1524, 6.0, 0.0, 150.0, 1.5)
        self.assertAlmostEqual(float(ours[-1, 1]) / other, 1.0, delta=DEPTH_AGREES)
        self.assertTrue(np.isfinite(other))


@unittest.skipIf(moordyn is None, "moordyn can't be imported")
class CrossCurrentTests(unittest.TestCase):
    def test_in_a_current_its_end_lies_where_it_does_there(self) -> None:
        for rate, along, across in ((0.1524, -0.3, 0.4), (0.0381, 0.15, 0.2), (0.0762, 0.12, -0.16))[:ROWS]:
            with self.subTest(rate=rate, along=along, across=across):
                flow = math.hypot(along, across)
                cd = cylinder_cd(DENSITY * flow * math.sin(critical_rad(rate, flow)) * _DIAMETER_M / VISCOSITY)
                other = moordyn_nodes(rate, 15.0, 150.0, cd, current_mps=(along, across))[-1]
                path = bare(rate, drift_mps=along, cross_mps=across)
                ours = (path[-1] - path[0])[[0, 2, 1]] * (1.0, 1.0, -1.0)
                self.assertLess(float(np.linalg.norm(ours - other)), DEPTH_AGREES * 15.0)
                self.assertAlmostEqual(float(ours[2] / other[2]), 1.0, delta=DEPTH_AGREES)

    def test_held_at_both_ends_across_a_current_it_bows_as_there(self) -> None:
        for rate, flow, held, length in ((0.0762, 0.15, (10.0, 0.0, 4.0), 12.0), (0.0381, 0.2, (10.0, 0.0, 3.0), 12.0))[:ROWS]:
            with self.subTest(rate=rate, flow=flow):
                cd = cylinder_cd(DENSITY * flow * _DIAMETER_M / VISCOSITY)
                other = moordyn_nodes(rate, length, 120.0, cd, current_mps=(0.0, flow), held=held, segments=40)
                ours = bare(rate, cross_mps=flow, fixed_end=held, length_m=length, segments=40, for_s=200.0)
                ours = ours[:, [0, 2, 1]] * (1.0, 1.0, -1.0)
                self.assertGreater(float(np.abs(other[:, 1]).max()), 1.0)  # it does bow
                bows = float(np.abs(ours[:, 1]).max() / np.abs(other[:, 1]).max())
                self.assertAlmostEqual(bows, 1.0, delta=DEPTH_AGREES)
                self.assertLess(float(np.linalg.norm(ours - other, axis=1).max()), DEPTH_AGREES * length)
