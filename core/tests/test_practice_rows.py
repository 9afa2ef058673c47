"""One test a situation of practice, with its sentence. All of it is common practice, no published source (`practice/rows.py`)."""

from __future__ import annotations

import unittest
from functools import cache
from typing import Any

from tests.practice.asking import Asked, Row, ask, holds, told_truly
from tests.practice.rows import DEEPER, ROWS, TAKES_RATIOS


@cache
def answer(key: str) -> Asked:
    return ask(next(row for row in ROWS if row.key == key))


def _test_of(row: Row) -> Any:
    def test(self: unittest.TestCase) -> None:
        asked = answer(row.key)
        broken = [check for check in row.checks if not holds(asked, check)]
        first = asked.plan.ranked[0].option
        told = f"{row.says} The plan: {first.method.name}, {first.rig.line.name}, {[fly.name for fly in first.flies]}"
        self.assertEqual(broken, [], told)
        self.assertTrue(told_truly(asked), told)

    test.__doc__ = row.says
    return test


class PracticeRowTests(unittest.TestCase):
    """Filled below, one test a row."""

    def test_there_are_forty_rows_and_more_each_asked_once(self) -> None:
        self.assertGreaterEqual(len(ROWS), 40)
        self.assertEqual(len({row.key for row in ROWS}), len(ROWS))

    def test_how_much_is_promised_follows_the_warmth_of_the_water(self) -> None:
        for one, other, least, most in TAKES_RATIOS:
            ratio = answer(one).of("first").takes_ph / answer(other).of("first").takes_ph
            self.assertTrue(least <= ratio <= most, (one, other, ratio))

    def test_what_is_seen_moves_the_belief_the_way_it_points(self) -> None:
        for one, other, by_m in DEEPER:
            lies = [answer(key).picture.belief.mean_m for key in (one, other)]
            self.assertGreaterEqual(lies[0] - lies[1], by_m, (one, other))

    def test_no_method_and_no_fly_is_the_answer_to_everything(self) -> None:
        firsts = [answer(row.key).plan.ranked[0].option for row in ROWS]
        methods = [option.method.key for option in firsts]
        self.assertLessEqual(max(methods.count(key) for key in methods), 0.3 * len(ROWS))
        self.assertGreaterEqual(len(set(methods)), 8)
        flies = [fly.name for option in firsts for fly in option.flies]
        self.assertLessEqual(max(flies.count(name) for name in flies), 0.3 * len(ROWS))
        shown = {fly.name for row in ROWS for one in answer(row.key).plan.ranked[:3] for fly in one.option.flies}
        self.assertGreaterEqual(len(shown), 36)


for _row in ROWS:
    setattr(PracticeRowTests, f"test_{_row.key.replace('-', '_')}", _test_of(_row))
