"""Shapes and laws that hold for any thread: the catenary, symmetry, lengths, energy, and independence of the mesh."""

from __future__ import annotations

import itertools
import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.drag.laws import sphere_cd
from stillthread.errors import FloatArray
from stillthread.sinking import chain
from stillthread.sinking.cast import Cast, level_water, simulate
from stillthread.sinking.retrieves import RETRIEVES, retrieve_named
from stillthread.sinking.run import Water, run_program
from stillthread.sinking.thread import FINE, QUICK, Mesh, Thread, fluid_of, thread_of
from stillthread.tackle.flies import Fly
from stillthread.tackle.leaders import Hardware, Leader, LeaderSection
from stillthread.tackle.lines import LINE_CLASSES, line_of_class
from stillthread.tackle.rig import PlacedFly, Rig
from tests.effort import examples
from tests.rigs import DEEP_WATER, FOAM_NYMPH, HEAVY_NYMPH, LIGHT_NYMPH, rig

STRIP = RETRIEVES["strip-pause"]
LENGTHS_HOLD = 0.005
MESH_AGREES = 0.01


def catenary_depth_m(distance_m: float, depth_m: float, length_m: float, at_m: FloatArray) -> FloatArray:
    """Return the depth at each distance of a cable of this length held at (0, 0) and (distance, depth).

    The textbook solution: sqrt(L^2 - h^2) = 2 a sinh(d / 2a), found by bisection; depth grows downward.
    """
    span = math.sqrt(length_m**2 - depth_m**2)
    low, high = 1e-3, 1e4
    for _ in range(200):
        a = math.sqrt(low * high)
        ratio = distance_m / (2.0 * a)
        low, high = (a, high) if ratio > 700 or 2.0 * a * math.sinh(ratio) > span else (low, a)
    # Height y = a cosh((x - c) / a) + k, upward; here y = -depth.
    c = 0.5 * distance_m - a * math.asinh(-depth_m / (2.0 * a * math.sinh(distance_m / (2.0 * a))))
    k = -a * math.cosh(c / a)
    return -(a * np.cosh((at_m - c) / a) + k)


class CatenaryTests(unittest.TestCase):
    def test_a_line_between_rod_and_anchor_is_the_catenary(self) -> None:
        # A heavy weight lies on the bottom and does not slide; then line is drawn in until none of it lies there too.
        n = 61
        rest = np.full(n, 7.0 / (n - 1))
        rest[0] = 0.0
        weights, widths = np.zeros(n), np.zeros(n)
        weights[-1], widths[-1] = 5.0, 0.02
        thread = Thread(
            rest_m=rest,
            weight_npm=np.full(n, 2e-3),
            diameter_m=np.full(n, 9e-4),
            point_weight_n=weights,
            point_diameter_m=widths,
            flies=np.array([n - 1]),
            line_node=0,
        )
        program = np.array(
            [
                [60.0, 0.0, 0.0, 0.0, 0.0, 0.0, chain.COUNTING],
                [10.0, 0.03, 0.0, 0.0, 0.0, 0.0, chain.RETRIEVING],
                [300.0, 0.0, 0.0, 0.0, 0.0, 0.0, chain.HANGING],
            ]
        )
        result = run_program(thread, program, level_water(10.0, 4.0), Mesh(0.1, 0.1, 0.1))
        shape = result.thread_m[-1, :, :2]
        end = shape[-1]
        hanging = shape[np.any(np.diff(shape, axis=0, prepend=-1.0) != 0.0, axis=1)]
        length = float(np.hypot(*np.diff(hanging, axis=0).T).sum())
        self.assertAlmostEqual(length, 6.7, delta=0.02)
        expected = catenary_depth_m(float(end[0]), float(end[1]), length, hanging[:, 0])
        self.assertGreater(float(np.abs(hanging[:, 1] - hanging[:, 0] * end[1] / end[0]).max()), 0.3)  # it sags
        self.assertLess(float(np.abs(hanging[:, 1] - expected).max()), 0.02)


class TowedBodyTests(unittest.TestCase):
    def test_a_bulky_fly_towed_on_a_hair_hangs_where_its_drag_and_weight_balance(self) -> None:
        fly = Fly(name="bulky and weighted", hook_size=2, dressing="bulky", extra_g=0.5)
        density, viscosity = fluid_of(10.0)
        for speed in (0.1, 0.2):
            rest = np.array([0.0, 0.1, 0.1, 0.1])
            weights, widths = np.zeros(4), np.zeros(4)
            weights[-1], widths[-1] = fly.weight_n(density), fly.drag_diameter_m
            hair = Thread(
                rest_m=rest,
                weight_npm=np.zeros(4),
                diameter_m=np.full(4, 2e-5),
                point_weight_n=weights,
                point_diameter_m=widths,
                flies=np.array([3]),
                line_node=0,
            )
            program = np.array([[60.0, 0.0, speed, 0.0, 0.0, 0.0, chain.COUNTING]])
            result = run_program(hair, program, level_water(10.0, 30.0), Mesh(0.1, 0.1, 0.1), behind=True)
            behind = float(result.thread_m[-1, 0, 0] - result.fly_distance_m[0, -1])
            found = behind / float(result.fly_depth_m[0, -1])
            cd = sphere_cd(density * speed * fly.drag_diameter_m / viscosity)
            drag = 0.125 * math.pi * fly.drag_diameter_m**2 * density * cd * speed**2
            self.assertAlmostEqual(found * fly.weight_n(density) / drag, 1.0, delta=0.03)


class MeshTests(unittest.TestCase):
    """Halving the mesh, in space and time, changes no depth that is shown by one per cent."""

    def depths(self, tied: Rig, cast: Cast, mesh: Mesh) -> FloatArray:
        result = simulate(tied, cast, DEEP_WATER, mesh=mesh)
        middle = float(np.interp(0.5 * result.duration_s, result.time_s, result.fly_depth_m[0]))
        return np.array([result.start_depth_m(), result.deepest_m(), middle])

    def test_halving_segments_and_steps_changes_depths_less_than_one_per_cent(self) -> None:
        half = Mesh(FINE.finest_m / 2, FINE.coarsest_m / 2, FINE.step_s / 2, FINE.stretch / 2)
        for key, fly, count_s in itertools.product(
            ("floating", "intermediate", "type-5"), (LIGHT_NYMPH, HEAVY_NYMPH), (10.0, 30.0)
        ):
            with self.subTest(key, fly=fly.name, count_s=count_s):
                cast = Cast(18.0, count_s, STRIP)
                coarse, fine = self.depths(rig(key, fly), cast, FINE), self.depths(rig(key, fly), cast, half)
                self.assertLess(float((np.abs(coarse - fine) / fine).max()), MESH_AGREES + 0.01 / float(fine.min()))

    def test_the_quick_mesh_ranks_as_the_fine_one(self) -> None:
        found = {mesh: [float(self.depths(rig(key), Cast(18.0, 20.0, STRIP), mesh)[1])
                        for key in ("very-slow", "intermediate", "type-3", "type-5", "type-7")] for mesh in (FINE, QUICK)}  # fmt: skip
        self.assertEqual(found[QUICK], sorted(found[QUICK]))
        self.assertLess(float(np.abs(np.array(found[QUICK]) / np.array(found[FINE]) - 1.0).max()), 0.06)


class LawTests(unittest.TestCase):
    def still(self, tied: Rig, for_s: float, *, behind: bool = False) -> tuple[Thread, FloatArray, FloatArray]:
        thread = thread_of(tied, 15.0, 10.0, FINE)
        program = np.array([[for_s, 0.0, 0.0, 0.0, 0.0, 0.0, chain.COUNTING]])
        result = run_program(thread, program, DEEP_WATER, FINE, behind=behind)
        return thread, result.time_s, result.thread_m

    def test_a_thread_laid_the_other_way_does_the_mirror_image(self) -> None:
        for fly in (LIGHT_NYMPH, HEAVY_NYMPH):
            _, _, ahead = self.still(rig("type-3", fly), 60.0)
            _, _, behind = self.still(rig("type-3", fly), 60.0, behind=True)
            self.assertLess(float(np.abs(ahead[:, :, 1] - behind[:, :, 1]).max()), 1e-6)
            self.assertLess(float(np.abs(ahead[:, :, 0] + behind[:, :, 0]).max()), 1e-6)

    def test_left_alone_it_only_loses_energy(self) -> None:
        for tied in (rig("type-5", HEAVY_NYMPH), rig("intermediate"), rig("type-7", FOAM_NYMPH)):
            thread, _, path = self.still(tied, 90.0)
            segment = 0.5 * (path[:, 1:, 1] + path[:, :-1, 1])
            energy = -(segment @ (thread.weight_npm * thread.rest_m)[1:]) - path[:, :, 1] @ thread.point_weight_n
            scale = float(energy.max() - energy.min())
            # A buoyant part shows what the last bit of lift at the surface is worth: a thousandth of the whole.
            self.assertLess(float(np.diff(energy).max()), 2e-3 * scale)

    @settings(max_examples=examples(40), deadline=None, derandomize=True)
    @given(
        key=st.sampled_from(["intermediate", "type-3", "type-5", "type-7", "fast-tip"]),
        fly=st.sampled_from([LIGHT_NYMPH, HEAVY_NYMPH]),
        count_s=st.floats(2.0, 60.0),
        more_s=st.floats(2.0, 30.0),
        speed=st.floats(0.04, 0.5),
        quicker=st.floats(1.3, 3.0),
    )
    def test_longer_counts_start_deeper_and_faster_retrieves_run_shallower(
        self, key: str, fly: Fly, count_s: float, more_s: float, speed: float, quicker: float
    ) -> None:
        def run(count: float, pace: float) -> tuple[float, float]:
            result = simulate(rig(key, fly), Cast(18.0, count, retrieve_named("slow-twist", pace)), DEEP_WATER)
            return result.start_depth_m(), result.deepest_m()

        start, deepest = run(count_s, speed)
        self.assertGreaterEqual(run(count_s + more_s, speed)[0], start - 0.01)
        self.assertLessEqual(run(count_s, speed * quicker)[1], deepest + 0.03)


class FuzzTests(unittest.TestCase):
    """Whatever can be expressed runs to its end inside the water, or is refused by name."""

    @settings(max_examples=examples(2000), deadline=None, derandomize=True)
    @given(
        key=st.sampled_from(sorted(set(LINE_CLASSES) - {"own"})),
        number=st.integers(4, 8),
        sections=st.lists(st.tuples(st.floats(0.05, 4.0), st.sampled_from([5e-5, 1.5e-4, 3e-4, 1e-3]), st.booleans()),
                          min_size=1, max_size=3),
        flies=st.lists(st.tuples(st.sampled_from([2, 10, 24]), st.sampled_from(["slim", "bulky"]),
                                 st.sampled_from([0.0, 0.5, 10.0]), st.sampled_from([0.0, 300.0])), min_size=1, max_size=4),
        shot=st.booleans(),
        cast_m=st.floats(3.0, 60.0),
        count_s=st.floats(0.0, 300.0),
        retrieve=st.tuples(st.sampled_from(sorted(RETRIEVES)), st.one_of(st.none(), st.floats(0.01, 3.0))),
        bottom=st.tuples(st.floats(0.3, 30.0), st.floats(0.3, 30.0)),
        odd=st.tuples(st.floats(0.0, 0.4), st.booleans(), st.floats(-0.5, 0.5), st.floats(-1.0, 39.0)),
    )  # fmt: skip
    def test_any_rig_runs_to_its_end_inside_the_water(
        self, key: str, number: int, sections: list[tuple[float, float, bool]], flies: list[tuple[int, str, float, float]],
        shot: bool, cast_m: float, count_s: float, retrieve: tuple[str, float | None], bottom: tuple[float, float],
        odd: tuple[float, bool, float, float],
    ) -> None:  # fmt: skip
        slack, loose, tip_mps, water_c = odd
        cut = tuple(LeaderSection(length, width, "nylon", greased) for length, width, greased in sections)
        leader_m = sum(section.length_m for section in cut)
        if leader_m < 0.3 or 0.3 * len(flies) > leader_m:
            return
        hardware = (Hardware("shot-1", 0.1 * leader_m),) if shot else ()
        spacing = (leader_m - 0.1) / len(flies)
        team = tuple(
            PlacedFly(Fly(name="any", hook_size=hook, dressing=dressing, extra_g=extra, foam_mm3=foam), k * spacing)
            for k, (hook, dressing, extra, foam) in enumerate(flies)
        )
        tied = Rig(line_of_class(key, number), Leader("any", cut, hardware), team)
        water = Water(water_c, ((2.0, bottom[0]), (max(cast_m, 3.0), bottom[1])))
        cast = Cast(max(cast_m, leader_m + 0.5), count_s, retrieve_named(*retrieve), slack=slack, loose=loose, tip_mps=tip_mps)
        result = simulate(tied, cast, water, mesh=QUICK)
        self.assertTrue(np.isfinite(result.thread_m).all())
        self.assertTrue(np.isfinite(result.tension_n).all())
        self.assertGreaterEqual(float(result.thread_m[:, :, 1].min()), 0.0)
        floor = np.interp(result.fly_distance_m, [2.0, max(cast_m, 3.0)], bottom)
        self.assertLess(float((result.fly_depth_m - floor).max()), 0.02)
        self.assertLess(result.stretch, LENGTHS_HOLD)
        self.assertAlmostEqual(float(result.layer_s[0].sum()), result.duration_s, delta=0.05)

    def test_fluids_of_all_waters_are_finite(self) -> None:
        self.assertTrue(all(math.isfinite(v) and v > 0.0 for t in (-1.0, 4.0, 40.0) for v in fluid_of(t)))
