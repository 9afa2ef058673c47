"""Leaders to cut: sums done by hand, and what the trade says of tippets and landing. Common practice, no published source."""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.errors import BadInput
from stillthread.tackle.build import (
    Spool,
    Tied,
    build_leader,
    build_under_indicator,
    check_landing,
    from_spools,
    tippet_for,
)
from stillthread.tackle.leaders import tippet_diameter_m
from stillthread.tackle.lines import FOOT_M
from tests.effort import examples

PLAIN = tippet_for([Tied(12)], secchi_m=3.0, brightness=0.3)


class IndicatorBuildTests(unittest.TestCase):
    def test_fifteen_feet_with_seven_thin_and_two_below_the_swivel_needs_a_splice_of_six(self) -> None:
        built = build_under_indicator(15.0 * FOOT_M, (), PLAIN, thin_m=7.0 * FOOT_M, below_m=2.0 * FOOT_M)
        feet = {cut.what: round(cut.finished_m / FOOT_M, 3) for cut in built.cuts}
        self.assertEqual((feet["thin section"], feet["splice"], feet["swivel to fly"]), (7.0, 6.0, 2.0))
        self.assertAlmostEqual(built.leader.length_m - built.cuts[0].finished_m, 15.0 * FOOT_M)
        self.assertEqual([piece.kind for piece in built.leader.hardware], ["swivel"])

    def test_eight_feet_are_four_folds_of_the_last_two(self) -> None:
        hint = build_under_indicator(8.0 * FOOT_M, (), PLAIN, below_m=2.0 * FOOT_M).hints[0]
        self.assertEqual(hint.values["folds_n"], 4.0)
        self.assertIn("Fold the leader by it 4 times", hint.plain())

    def test_what_the_folds_leave_over_is_said(self) -> None:
        hint = build_under_indicator(4.5, (), PLAIN, below_m=0.6).hints[0]
        self.assertIn("7 times and 0.3 m more to mark 4.5 m", hint.plain())

    def test_three_flies_under_a_float_are_cut_at_each_dropper_and_the_splice_is_tied_at_one(self) -> None:
        built = build_under_indicator(4.5, (1.2, 2.4), PLAIN)
        # By hand: point to swivel 0.6, to the first dropper 0.6, to the second 1.2, where the splice would have been at 2.37;
        # and what is left to the float, 2.1.
        self.assertEqual(
            [(cut.what, round(cut.finished_m, 2)) for cut in built.cuts[1:]],
            [
                ("thin section to the top dropper", 2.1),
                ("splice to the next dropper", 1.2),
                ("splice", 0.6),
                ("swivel to fly", 0.6),
            ],
        )
        # A dropper's own 12 cm are in the piece above it.
        self.assertEqual([cut.cut_m for cut in built.cuts[1:]], [2.38, 1.48, 0.76, 0.76])
        self.assertIn("a dropper left long from the joining knot", built.knots)

    def test_a_swivel_near_a_dropper_is_tied_in_there(self) -> None:
        built = build_under_indicator(2.0, (0.7,), PLAIN)
        self.assertEqual([piece.above_point_m for piece in built.leader.hardware], [0.7])
        self.assertEqual([cut.what for cut in built.cuts[1:]], ["thin section to the top dropper", "swivel to fly"])

    def test_droppers_under_a_float_stand_apart_and_below_it(self) -> None:
        for droppers in ((0.2,), (1.0, 1.1), (2.95,)):
            with self.assertRaises(BadInput):
                build_under_indicator(3.0, droppers, PLAIN)

    @settings(max_examples=examples(60), deadline=None)
    @given(st.floats(1.5, 9.5), st.integers(1, 3), st.floats(0.35, 1.4))
    def test_however_many_droppers_the_pieces_make_up_the_target_and_meet_at_each(
        self, target: float, n: int, d: float
    ) -> None:
        droppers = tuple(d * k for k in range(1, n + 1) if d * k < target - 0.2)
        built = build_under_indicator(target, droppers, PLAIN)
        below = [cut.finished_m for cut in built.cuts[1:]]
        self.assertAlmostEqual(sum(below), target)
        ends = [sum(below[k:]) for k in range(1, len(below))]
        for dropper in droppers:
            self.assertLess(min(abs(end - dropper) for end in ends), 1e-9)
        self.assertTrue(all(length > 0.1 for length in below), below)

    def test_a_shallow_target_needs_no_splice(self) -> None:
        built = build_under_indicator(1.5, (), PLAIN)
        self.assertNotIn("splice", [cut.what for cut in built.cuts])
        self.assertAlmostEqual(sum(cut.finished_m for cut in built.cuts[1:]), 1.5)

    @settings(max_examples=examples(60), deadline=None)
    @given(st.floats(0.7, 9.5), st.floats(0.5, 3.0), st.floats(0.3, 1.0))
    def test_whatever_the_sections_they_make_up_the_target(self, target: float, thin: float, below: float) -> None:
        built = build_under_indicator(target, (), PLAIN, thin_m=thin, below_m=below)
        self.assertAlmostEqual(sum(cut.finished_m for cut in built.cuts[1:]), target, delta=0.021)
        self.assertTrue(all(cut.cut_m > cut.finished_m for cut in built.cuts))


class LeaderBuildTests(unittest.TestCase):
    def test_a_team_of_three_on_eighteen_feet_is_cut_by_hand_to_the_same(self) -> None:
        built = build_leader(5.4, (1.8, 3.6), PLAIN)
        self.assertEqual([round(cut.finished_m, 2) for cut in built.cuts], [0.9, 0.9, 1.8, 1.8])
        self.assertEqual(
            [cut.what for cut in built.cuts], ["butt", "to the top dropper", "to the next dropper", "to the point"]
        )
        # Two knots of 8 cm, and a dropper of 12 cm left long where one is.
        self.assertEqual([cut.cut_m for cut in built.cuts], [0.98, 1.18, 2.08, 1.96])
        self.assertAlmostEqual(built.leader.length_m, 5.4)

    def test_a_single_fly_steps_down_half_way(self) -> None:
        built = build_leader(3.7, (), PLAIN)
        self.assertEqual([round(cut.finished_m, 2) for cut in built.cuts], [0.9, 1.4, 1.4])
        self.assertGreater(built.cuts[1].diameter_m, built.cuts[2].diameter_m)

    def test_droppers_too_close_or_too_high_are_refused(self) -> None:
        for droppers in ((0.2,), (1.0, 1.1), (3.6,)):
            with self.assertRaises(BadInput):
                build_leader(3.7, droppers, PLAIN)


class ShotTests(unittest.TestCase):
    def test_a_shot_is_pinched_a_foot_above_the_point_and_said(self) -> None:
        # Common practice: split shot one foot above the flies if needed.
        plain, shot = (build_under_indicator(4.0, (), PLAIN, shot=kind) for kind in (None, "shot-6"))
        self.assertEqual(
            [(piece.kind, piece.above_point_m) for piece in shot.leader.hardware], [("swivel", 0.6), ("shot-6", 0.3)]
        )
        self.assertEqual(len(shot.hints), len(plain.hints) + 1)
        self.assertEqual(
            shot.hints[-1].plain(), "Pinch a shot number 6 on, 0.3 m above the point: it hangs sooner and steadier."
        )


class TippetTests(unittest.TestCase):
    def test_a_third_of_the_hook_finer_when_bright_stouter_in_weed_and_colour(self) -> None:
        self.assertEqual(PLAIN.x_number, 4)
        self.assertEqual(PLAIN.diameter_m, tippet_diameter_m(4))
        self.assertEqual(tippet_for([Tied(12)], secchi_m=5.0, brightness=0.8).x_number, 5)
        self.assertEqual(tippet_for([Tied(12)], secchi_m=1.0, brightness=0.8, weed_m=0.5, fish_kg=3.0).x_number, 1)
        self.assertEqual(tippet_for([Tied(24)], secchi_m=5.0, brightness=0.8).x_number, 5)

    def test_what_it_carries_and_the_season_say_how_fine_it_may_be_whatever_the_hook(self) -> None:
        # Common practice: never finer than 5X; 3X with a lure, leech or fry, 2X when that is heavy; 4X from November to April.
        def x(*team: Tied, **water: object) -> int:
            return tippet_for(team, **{"secchi_m": 3.0, "brightness": 0.3, **water}).x_number  # type: ignore[arg-type]

        self.assertEqual([x(Tied(n)) for n in (6, 10, 14, 18)], [2, 3, 5, 5])
        self.assertEqual([x(Tied(14, stout=True)), x(Tied(14, heavy=True)), x(Tied(14, stout=True, heavy=True))], [3, 3, 2])
        self.assertEqual([x(Tied(16), stout_months=True), x(Tied(10), stout_months=True)], [4, 3])
        # Of a team the fly that needs the stoutest decides, in any order.
        self.assertEqual([x(Tied(16), Tied(8, stout=True, heavy=True)), x(Tied(8, stout=True, heavy=True), Tied(16))], [2, 2])
        self.assertEqual([x(Tied(12), fish_kg=kg) for kg in (0.2, 1.0, 3.0)], [5, 4, 3])
        self.assertIn("taken hard", " ".join(tippet_for([Tied(12, stout=True)], secchi_m=3.0, brightness=0.3).why))

    def test_the_tippet_is_cut_from_a_spool_that_is_there(self) -> None:
        spools = [Spool("nylon", 0.00018), Spool("fluorocarbon", 0.00028), Spool("fluorocarbon", 0.00020)]
        cut = from_spools(PLAIN, spools)
        self.assertEqual((cut.material, cut.diameter_m, cut.x_number), ("fluorocarbon", 0.00020, 3))
        self.assertIn("the nearest spool you have", cut.why)
        # A strand a third stouter is worse than the other material.
        self.assertEqual(from_spools(PLAIN, spools[:2]).material, "nylon")
        self.assertEqual(from_spools(PLAIN, [Spool("fluorocarbon", 0.00018)]), PLAIN)
        self.assertEqual(from_spools(PLAIN, []), PLAIN)
        two = [Spool("fluorocarbon", 0.00021), Spool("fluorocarbon", 0.00020)]
        self.assertEqual(from_spools(PLAIN, two).diameter_m, 0.00020)
        # Who will have only one material is told what to buy.
        kept = from_spools(PLAIN, spools[:1], any_material=False)
        self.assertEqual((kept.material, kept.diameter_m), ("fluorocarbon", PLAIN.diameter_m))
        self.assertIn("no spool you have is near it", kept.why)

    def test_fluorocarbon_follows_the_school(self) -> None:
        found = [tippet_for([Tied(12)], secchi_m=3.0, brightness=b, fluorocarbon=f).material for b, f in ((0.0, "when-bright"), (0.5, "when-bright"), (0.0, "always"), (0.9, "never"))]  # fmt: skip
        self.assertEqual(found, ["nylon", "fluorocarbon", "fluorocarbon", "nylon"])


class LandingTests(unittest.TestCase):
    def test_twenty_feet_under_a_fixed_float_cannot_be_landed_on_a_nine_foot_rod(self) -> None:
        fixed = check_landing(20.0 * FOOT_M, 9.0 * FOOT_M, "fixed")
        self.assertFalse(fixed.ok)
        self.assertIn("can't be landed", fixed.why.plain())
        self.assertTrue(check_landing(20.0 * FOOT_M, 9.0 * FOOT_M, "quick-release").ok)
        self.assertEqual(check_landing(8.0, 3.0, "fixed").needs, "sliding")

    def test_a_rods_length_can(self) -> None:
        self.assertTrue(check_landing(3.0, 3.0, "fixed").ok)
