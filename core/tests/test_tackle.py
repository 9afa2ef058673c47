"""Tackle: what a line, a leader, a fly and a rig are made of, and what they may not be."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import replace

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.drag.laws import thread_sink_rate_mps
from stillthread.errors import BadInput, OutOfRange
from stillthread.sinking.retrieves import RETRIEVES, retrieve_named
from stillthread.sinking.spread import at_rate_share, doubted_line
from stillthread.sinking.thread import FINE, QUICK, thread_of
from stillthread.tackle.flies import BEADS, DRESSINGS, WIRES, Fly
from stillthread.tackle.leaders import HARDWARE, Hardware, Leader, LeaderSection, tapered_leader
from stillthread.tackle.lines import (
    CALLED_BEFORE,
    FOOT_M,
    INCH_M,
    LINE_CLASSES,
    Line,
    Stretch,
    label_note,
    line_of_class,
    own_line,
    plain_sum_m,
)
from stillthread.tackle.making import DENSEST_KGM3, FIRST_M, GRAIN_KG, HEAVIEST, LINE_MASS_GRAINS, make_of
from stillthread.tackle.rig import PlacedFly, Rig
from stillthread.water.properties import water_density_kgm3, water_viscosity_pas
from tests.effort import examples
from tests.rigs import HEAVY_NYMPH, LEADER, LIGHT_NYMPH

DENSITY, VISCOSITY = float(water_density_kgm3(10.0)), float(water_viscosity_pas(10.0))
SECTION = LeaderSection(1.0, 0.0002)
# What a 6 weight can do at most.
FASTEST_SIX_MPS = make_of(6, 0.25).rate_mps


class LineTests(unittest.TestCase):
    def test_every_class_sinks_at_its_label_or_at_what_can_be(self) -> None:
        for key, kind in LINE_CLASSES.items():
            if key in {"own", "floating"}:
                continue
            line = line_of_class(key)
            for stretch, section in zip(line.profile, line.sections(30.0), strict=False):
                if stretch.sink_rate_mps > 0.0:
                    rate = thread_sink_rate_mps(section.weight_npm, section.diameter_m, DENSITY, VISCOSITY)
                    able = min(stretch.sink_rate_mps, FASTEST_SIX_MPS)
                    self.assertAlmostEqual(rate, able, delta=2e-4, msg=kind.name)
                else:
                    self.assertLess(section.weight_npm, 0.0)

    def test_a_line_is_no_denser_than_a_coating_and_little_heavier_than_its_number(self) -> None:
        for number, grains in LINE_MASS_GRAINS.items():
            for rate in (0.4, 1.5, 3.0, 5.0, 7.0, 9.0):
                made = make_of(number, rate * INCH_M)
                self.assertLessEqual(made.density_kgm3, float(DENSEST_KGM3) + 1.0)
                share = made.mass_kgpm * FIRST_M / GRAIN_KG / grains
                self.assertTrue(1.0 - 1e-9 <= share <= float(HEAVIEST) + 1e-9, (number, rate, share))
                self.assertLessEqual(made.rate_mps, rate * INCH_M + 1e-6)

    def test_a_label_that_cannot_be_is_told_and_timing_settles_it(self) -> None:
        # By hand: 6 weight, 1.4 x 160 grains over 9.144 m at 3 000 kg/m3 is 0.82 mm; it falls at some 5.2 in/s, not 7.
        fast = line_of_class("type-7", 6)
        self.assertTrue(fast.too_fast_a_label)
        self.assertAlmostEqual(fast.likely_mps / INCH_M, 5.2, delta=0.15)
        note = label_note(fast)
        assert note is not None
        self.assertIn("until you time it", note.text)
        timed = replace(fast, rate_spread=0.04)
        self.assertIsNone(label_note(timed))
        self.assertAlmostEqual(timed.likely_mps, fast.sink_rate_mps, delta=1e-5)
        self.assertIsNone(label_note(line_of_class("type-3", 6)))
        self.assertLess(line_of_class("type-9", 4).likely_mps, line_of_class("type-9", 8).likely_mps)

    def test_its_spread_leans_to_the_slow_side(self) -> None:
        fast = line_of_class("type-9", 4)
        slow, quick = (doubted_line(fast, x, 0.0).sink_rate_mps / fast.likely_mps for x in (-1.0, 1.0))
        self.assertGreater(1.0 - slow, 2.0 * (quick - 1.0))

    def test_the_sum_takes_the_rate_of_what_leads_the_flies_down(self) -> None:
        looped = replace(line_of_class("floating"), looped=Stretch(3.0, 0.1))
        self.assertAlmostEqual(plain_sum_m(looped, 20.0), 2.0)
        mine = own_line("mine", 6, (Stretch(3.0, 0.04), Stretch(10.0, 0.1)))
        self.assertAlmostEqual(plain_sum_m(mine, 20.0), 0.8)

    def test_type_n_is_n_inches_a_second(self) -> None:
        # Common practice, no published source.
        for n in range(2, 10):
            self.assertAlmostEqual(line_of_class(f"type-{n}").sink_rate_mps / INCH_M, n, delta=1e-9)

    def test_the_first_thirty_feet_weigh_what_the_standard_says(self) -> None:
        # Fly-line mass standard, from memory: 6 weight 160 grains, 8 weight 210.
        for number, grains in LINE_MASS_GRAINS.items():
            made = make_of(number, 1.5 * INCH_M)
            mass = made.density_kgm3 * np.pi / 4.0 * made.diameter_m**2 * 30.0 * FOOT_M
            self.assertAlmostEqual(mass / GRAIN_KG, grains, delta=0.01)
        self.assertEqual((LINE_MASS_GRAINS[6], LINE_MASS_GRAINS[8]), (160.0, 210.0))

    def test_faster_lines_of_one_number_are_thinner(self) -> None:
        widths = [make_of(6, rate * INCH_M).diameter_m for rate in (0.4, 1.0, 1.5, 2.0, 3.0, 4.0)]
        self.assertEqual(widths, sorted(widths, reverse=True))

    def test_weight_lays_a_dressing_back(self) -> None:
        # By hand: 0.5 g of wire on a size 10 hook of 57 mg is 8.8 hooks; six lay half of it back, so 6 / 14.8 of it stands.
        light, heavy = (
            Fly(name="light", hook_size=10, dressing="bulky"),
            Fly(name="heavy", hook_size=10, dressing="bulky", extra_g=0.5),
        )
        self.assertAlmostEqual(light.drag_diameter_m, 3.0 * 0.013, places=6)
        stands = 1.0 / (1.0 + 500.0 / 57.0 / 6.0)
        self.assertAlmostEqual(heavy.drag_diameter_m, 0.013 * (1.1 + 1.9 * stands), places=6)
        # A tank test says what it weighs as it stands.
        self.assertEqual(replace(heavy, measured_sink_mps=0.2).drag_diameter_m, light.drag_diameter_m)

    def test_sections_add_up_to_what_is_out(self) -> None:
        for key in set(LINE_CLASSES) - {"own"}:
            for out in (0.5, 2.0, 9.0, 40.0):
                self.assertAlmostEqual(sum(s.length_m for s in line_of_class(key).sections(out)), out, delta=1e-6)

    def test_a_tip_may_be_shorter_than_its_class_and_a_loop_goes_in_front(self) -> None:
        tip = replace(line_of_class("fast-tip"), tip_m=2.0)
        self.assertAlmostEqual(tip.sections(10.0)[0].length_m, 2.0)
        looped = replace(line_of_class("floating"), looped=Stretch(3.0, 0.1))
        self.assertGreater(looped.sections(10.0)[0].weight_npm, 0.0)
        self.assertLess(looped.sections(10.0)[1].weight_npm, 0.0)

    def test_a_line_kept_under_an_earlier_name_of_its_class_is_the_same_line(self) -> None:
        for before, now in CALLED_BEFORE.items():
            with self.subTest(before):
                self.assertEqual(line_of_class(before), line_of_class(now))
                kept = Line("My own name for it", before, 6, line_of_class(now).sink_rate_mps)
                self.assertEqual((kept.class_key, kept.name), (now, "My own name for it"))
                self.assertEqual(kept.sections(12.0), line_of_class(now).sections(12.0))

    def test_varying_a_rate_varies_every_sinking_stretch_and_leaves_floaters_alone(self) -> None:
        mixed = own_line("mine", 6, (Stretch(3.0, 0.1), Stretch(10.0, 0.0), Stretch(5.0, 0.05)))
        varied = at_rate_share(mixed, 1.2)
        self.assertEqual([round(s.sink_rate_mps, 3) for s in varied.stretches], [0.12, 0.0, 0.06])
        self.assertAlmostEqual(varied.sink_rate_mps, 0.12, places=4)
        self.assertEqual(at_rate_share(line_of_class("floating"), 1.2).sink_rate_mps, 0.0)

    def test_lines_that_cannot_be_are_refused(self) -> None:
        make: tuple[Callable[[], object], ...] = (
            lambda: own_line("empty", 6, ()),
            lambda: Line("stretches on a full line", "type-3", 6, 0.07, stretches=(Stretch(3.0, 0.07),)),
            lambda: Line("no stretches", "own", 6, 0.1),
            lambda: Line("wrong rate", "own", 6, 0.2, stretches=(Stretch(3.0, 0.1),)),
            lambda: Line("tip on a full line", "type-3", 6, 0.07, tip_m=2.0),
            lambda: Line("thirteen", "own", 6, 0.1, stretches=(Stretch(1.0, 0.1),) * 13),
            lambda: Stretch(3.0, 0.0005),
            lambda: line_of_class("own"),
        )
        for broken in make:
            with self.assertRaises(BadInput):
                broken()
        with self.assertRaises(OutOfRange):
            Stretch(0.0, 0.1)
        with self.assertRaises(OutOfRange):
            Line("twelve weight", "type-3", 12, 0.07)


class LeaderTests(unittest.TestCase):
    def test_fluorocarbon_sinks_nylon_hardly_and_a_greased_section_floats(self) -> None:
        fluoro, nylon = (LeaderSection(1.0, 0.0002, m).weight_npm(DENSITY) for m in ("fluorocarbon", "nylon"))
        self.assertGreater(fluoro, 5.0 * nylon)
        self.assertGreater(nylon, 0.0)
        self.assertLess(LeaderSection(1.0, 0.0002, "nylon", greased=True).weight_npm(DENSITY), 0.0)

    def test_a_tapered_leader_is_half_butt_and_thins_to_its_tippet(self) -> None:
        leader = tapered_leader(3.0, 3)
        self.assertAlmostEqual(leader.length_m, 3.0)
        widths = [s.diameter_m for s in leader.sections]
        self.assertEqual(widths, sorted(widths, reverse=True))
        self.assertAlmostEqual(leader.sections[0].length_m, 1.5)
        self.assertAlmostEqual(widths[-1], 8 * 0.0254e-3)

    def test_hardware_weighs_and_must_sit_on_the_leader(self) -> None:
        for kind in HARDWARE:
            self.assertGreater(Hardware(kind, 0.5).weight_n(DENSITY), 0.0)
        for broken in (
            lambda: Hardware("anchor", 0.5),
            lambda: Leader("short", (SECTION,), (Hardware("swivel", 1.5),)),
            lambda: Leader("many", (SECTION,), (Hardware("shot-10", 0.5),) * 9),
            lambda: Leader("none", ()),
            lambda: LeaderSection(1.0, 0.0002, "horsehair"),
        ):
            with self.assertRaises(BadInput):
                broken()
        with self.assertRaises(OutOfRange):
            LeaderSection(0.0, 0.0002)
        with self.assertRaises(OutOfRange):
            LeaderSection(1.0, 0.00001)


class FlyTests(unittest.TestCase):
    @settings(max_examples=examples(80), deadline=None, derandomize=True)
    @given(
        hook=st.sampled_from(range(2, 26, 2)),
        dressing=st.sampled_from(sorted(DRESSINGS)),
        wire=st.sampled_from(sorted(WIRES)),
        bead=st.sampled_from(sorted(BEADS)),
        extra_g=st.floats(0.0, 9.0),
    )
    def test_more_metal_sinks_faster_and_more_foam_slower(
        self, hook: int, dressing: str, wire: str, bead: str, extra_g: float
    ) -> None:
        fly = Fly(name="any", hook_size=hook, dressing=dressing, wire=wire, bead=bead, bead_mm=2.5, extra_g=extra_g)
        rate = fly.sink_rate_mps()
        self.assertGreater(replace(fly, extra_g=extra_g + 0.5).sink_rate_mps(), rate)
        self.assertLessEqual(replace(fly, foam_mm3=300.0).sink_rate_mps(), rate)
        self.assertTrue(-1.0 < rate < 8.0)

    def test_beads_come_in_the_order_of_their_metals(self) -> None:
        rates = [
            Fly(name="any", hook_size=10, dressing="slim", bead=bead, bead_mm=3.0).sink_rate_mps()
            for bead in ("none", "glass", "brass", "tungsten")
        ]
        self.assertEqual(rates, sorted(rates))

    def test_flies_that_cannot_be_are_refused(self) -> None:
        breaks: tuple[Callable[[], Fly], ...] = (
            lambda: Fly(name="odd", hook_size=11), lambda: Fly(name="x", hook_size=10, dressing="fluffy"), lambda: Fly(name="x", hook_size=10, wire="rope"),
            lambda: Fly(name="x", hook_size=10, bead="gold"),
        )  # fmt: skip
        for broken in breaks:
            with self.assertRaises(BadInput):
                broken()
        outs: tuple[Callable[[], Fly], ...] = (
            lambda: Fly(name="x", hook_size=10, bead="brass", bead_mm=0.2), lambda: Fly(name="x", hook_size=10, foam_mm3=5000.0),
            lambda: Fly(name="x", hook_size=10, extra_g=11.0), lambda: Fly(name="x", hook_size=10, measured_sink_mps=3.0),
        )  # fmt: skip
        for out in outs:
            with self.assertRaises(OutOfRange):
                out()


class RigTests(unittest.TestCase):
    def test_the_cut_thread_keeps_length_weight_and_places(self) -> None:
        team = (PlacedFly(HEAVY_NYMPH), PlacedFly(LIGHT_NYMPH, 1.2), PlacedFly(LIGHT_NYMPH, 2.4))
        leader = replace(LEADER, hardware=(Hardware("swivel", 0.6),))
        tied = Rig(line_of_class("fast-tip"), leader, team)
        for mesh in (FINE, QUICK):
            thread = thread_of(tied, 20.0, 10.0, mesh)
            self.assertAlmostEqual(float(thread.rest_m.sum()), 20.0, delta=1e-6)
            from_point = 20.0 - np.cumsum(thread.rest_m)
            self.assertLess(float(np.abs(from_point[thread.flies] - [0.0, 1.2, 2.4]).max()), 1e-6)
            self.assertAlmostEqual(float(from_point[thread.line_node]), leader.length_m, delta=1e-6)
            bodies = sum(p.fly.weight_n(DENSITY) for p in team) + leader.hardware[0].weight_n(DENSITY)
            self.assertAlmostEqual(float(thread.point_weight_n.sum()), bodies, delta=1e-9)
            own = sum(s.length_m * s.weight_npm for s in tied.line.sections(20.0 - leader.length_m))
            own += sum(s.length_m * s.weight_npm(DENSITY) for s in leader.sections)
            self.assertAlmostEqual(float((thread.weight_npm * thread.rest_m).sum()), own, delta=1e-6)

    def test_rigs_that_cannot_be_tied_are_refused(self) -> None:
        line = line_of_class("type-3")
        point = PlacedFly(LIGHT_NYMPH)
        for flies in (
            (), (PlacedFly(LIGHT_NYMPH, 0.5),), (point, PlacedFly(LIGHT_NYMPH, 0.1)), (point, PlacedFly(LIGHT_NYMPH, 3.65)),
            (point, *(PlacedFly(LIGHT_NYMPH, 0.5 * k) for k in range(1, 6))),
        ):  # fmt: skip
            with self.assertRaises(BadInput) as refused:
                Rig(line, LEADER, flies)
            self.assertEqual(refused.exception.field, "flies")


class RetrieveTests(unittest.TestCase):
    def test_every_rhythm_keeps_its_mean_speed(self) -> None:
        for retrieve in RETRIEVES.values():
            seconds = sum(s for s, _ in retrieve.pulls)
            self.assertAlmostEqual(sum(s * v for s, v in retrieve.pulls) / seconds, retrieve.mean_mps, delta=1e-12)
            twice = retrieve_named(retrieve.key, min(2.0 * retrieve.mean_mps, 3.0))
            self.assertEqual(
                (twice.pull_s, twice.pause_s, twice.longest_s), (retrieve.pull_s, retrieve.pause_s, retrieve.longest_s)
            )
