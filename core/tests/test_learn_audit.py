"""Promised against come, what was changed, and what a way to fish is called."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from stillthread.learn.audit import Promise, correction_of, reliability
from stillthread.learn.ways import WAYS, Setup, changed, changed_words, way_of
from stillthread.tackle.lines import LINE_CLASSES, Stretch, line_of_class


def promises(factor: float, days: int, seed: int = 4) -> list[Promise]:
    rng = np.random.default_rng(seed)
    said = rng.uniform(0.5, 3.0, days)
    takes = rng.poisson(factor * said * 2.0 * rng.gamma(4.0, 0.25, days))
    return [
        Promise(day=str(i), said_ph=s, low_ph=0.5 * s, high_ph=1.6 * s, hours=2.0, takes=int(t))
        for i, (s, t) in enumerate(zip(said, takes, strict=True))
    ]


class AuditTest(unittest.TestCase):
    def test_advice_that_promises_twice_too_much_is_offered_half(self) -> None:
        found = correction_of(promises(0.5, 40, seed=5))
        self.assertTrue(found.offered)
        self.assertAlmostEqual(found.factor, 0.5, delta=0.12)
        self.assertTrue(found.low < 0.5 < found.high)
        self.assertIn("promises too much", found.words.plain())

    def test_right_advice_and_few_fish_change_nothing(self) -> None:
        self.assertFalse(correction_of(promises(1.0, 40)).offered)
        few = correction_of([Promise(day="a", said_ph=1.0, low_ph=0.5, high_ph=2.0, hours=1.5, takes=0)])
        self.assertFalse(few.offered)
        self.assertIn("no reason to correct", few.words.plain())
        self.assertFalse(correction_of([]).offered)

    def test_a_log_that_is_off_by_more_than_five_times_is_not_taken_for_one_of_promises(self) -> None:
        found = correction_of(
            [Promise(day=str(i), said_ph=0.05, low_ph=0.02, high_ph=0.1, hours=4.0, takes=20) for i in range(30)]
        )
        self.assertGreater(found.low, 5.0)
        self.assertFalse(found.offered)

    def test_bins_hold_as_many_each_and_say_what_came(self) -> None:
        bins = reliability(promises(0.5, 60))
        self.assertEqual([one.came.outings for one in bins], [15] * 4)
        self.assertEqual([one.said_ph for one in bins], sorted(one.said_ph for one in bins))
        for one in bins:
            self.assertTrue(one.least_ph <= one.said_ph <= one.most_ph)
            self.assertTrue(one.came.low_ph < one.said_ph)
        self.assertEqual(len(reliability(promises(1.0, 2))), 1)
        self.assertEqual(reliability([]), ())

    def test_within_is_counted_in_whole_fish(self) -> None:
        told = Promise(day="a", said_ph=1.0, low_ph=0.6, high_ph=1.4, hours=2.0, takes=1)
        self.assertTrue(told.within)
        self.assertTrue(replace(told, takes=3).within)
        self.assertFalse(replace(told, takes=4).within)


class WayTest(unittest.TestCase):
    def test_every_line_has_a_way(self) -> None:
        for key in LINE_CLASSES:
            if key != "own":
                self.assertIn(way_of(line_of_class(key), "cast"), WAYS)
        looped = replace(line_of_class("floating"), looped=Stretch(3.0, 0.1))
        self.assertEqual(way_of(looped, "cast"), "Sink tip")
        self.assertEqual(way_of(line_of_class("fast-intermediate"), "cast"), "Intermediate")
        self.assertEqual(way_of(line_of_class("type-6"), "tow"), "Tow")

    def test_what_was_changed(self) -> None:
        was = Setup(
            line="Type 3", leader="4 m", flies=("olive nymph",), kind="cast", retrieve="slow-twist", pace_mps=0.05, count_s=20.0
        )
        cases = [
            (was, ()),
            (replace(was, count_s=21.0), ()),
            (replace(was, count_s=40.0), ("count",)),
            (replace(was, flies=("black leech",)), ("fly",)),
            (replace(was, flies=("black leech", "olive nymph")), ("flies",)),
            (replace(was, line="Type 6", count_s=9.0), ("line",)),
            (replace(was, pace_mps=0.2), ("pace",)),
            (replace(was, line="Type 6", flies=("black leech",), retrieve="strip-pause"), ("line", "fly", "retrieve")),
        ]
        for now, what in cases:
            self.assertEqual(changed(was, now), what)
        hung = Setup(line="Floating", leader="4 m", flies=("olive nymph",), kind="hang", set_depth_m=3.0)
        self.assertEqual(changed(hung, replace(hung, set_depth_m=2.0)), ("depth of the float",))
        self.assertEqual(changed(was, hung), ("method", "line"))

    def test_three_things_at_once_are_said_so(self) -> None:
        self.assertIsNone(changed_words(()))
        self.assertEqual(str(changed_words(("line",)).plain()), "Changed: line.")  # type: ignore[union-attr]
        said = changed_words(("line", "fly", "retrieve"))
        assert said is not None
        self.assertTrue(said.plain().startswith("Three things changed at once: line, fly and retrieve."))
