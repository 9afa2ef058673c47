"""What a change costs this angler, by his own log."""

from __future__ import annotations

import random
import unittest

from stillthread.search.changing import Change, Tackle, change_between, learnt
from stillthread.search.presentation import Costs


class OwnMinutes(unittest.TestCase):
    def test_without_a_log_it_is_what_is_usual(self) -> None:
        self.assertEqual(learnt([]), Costs())

    def test_few_changes_move_it_little_and_many_take_over(self) -> None:
        """By hand: four of the usual 2.5 min and twelve of 5 min on a log scale: 2.5^(4/16) * 5^(12/16) = 4.20 min."""
        one, many = learnt([Change("fly", 1, 5.0)]), learnt([Change("fly", 1, 5.0)] * 12)
        self.assertAlmostEqual(one.fly_min, 2.5 * 2 ** (1 / 5), delta=0.01)
        self.assertAlmostEqual(many.fly_min, 4.20, delta=0.01)
        self.assertEqual((many.line_min, many.float_min), (Costs().line_min, Costs().float_min))

    def test_two_flies_at_once_take_twice_as_long_as_one(self) -> None:
        self.assertEqual(learnt([Change("fly", 2, 8.0)] * 6), learnt([Change("fly", 1, 4.0)] * 6))

    def test_lunch_is_no_change_and_a_tangle_is_one(self) -> None:
        usual = [Change("line", 1, 6.0)] * 10
        self.assertEqual(learnt([*usual, Change("line", 1, 70.0)]), learnt(usual))
        self.assertLess(learnt([*usual, Change("line", 1, 24.0)]).line_min, 6.8)

    def test_only_what_was_changed_alone_tells_how_long_it_takes(self) -> None:
        now = Tackle("type 3", ("a", "b"))
        for after, what in (
            (Tackle("type 5", ("a", "b")), ("line", 1)), (Tackle("type 3", ("c", "b")), ("fly", 1)),
            (Tackle("type 3", ("b", "a")), ("fly", 2)), (Tackle("type 5", ("c", "b")), None), (now, None),
        ):  # fmt: skip
            change = change_between(now, after, 3.0)
            self.assertEqual(change and (change.what, change.times), what)
        hung = Tackle("floating", ("a",), 2.0)
        self.assertEqual(change_between(hung, Tackle("floating", ("a",), 3.0), 1.0), Change("float", 1, 1.0))
        self.assertIsNone(change_between(hung, Tackle("floating", ("b",), 3.0), 1.0))

    def test_a_known_hand_is_found_again(self) -> None:
        rng = random.Random(3)
        log = [Change("line", 1, rng.lognormvariate(2.3, 0.3)) for _ in range(60)]  # about ten minutes
        self.assertAlmostEqual(learnt(log).line_min, 10.0, delta=0.8)
