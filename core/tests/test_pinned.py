"""Today's own output: it guards tables, formulas and words of the judgement against drift, and proves nothing."""

from __future__ import annotations

import json
import unittest

from tests.marks import pinned
from tests.pinning import KEPT, KEYS, told


class PinnedTests(unittest.TestCase):
    @pinned("a number changed by a slip of the hand in any table of food, season or judgement is seen at once")
    def test_what_is_made_of_a_dozen_situations_is_what_was_made_of_them(self) -> None:
        now, then = told(), json.loads(KEPT.read_text())
        self.assertEqual(set(then["situations"]), set(KEYS))
        self.maxDiff = 2000
        for key in KEYS:
            with self.subTest(key):
                self.assertEqual(now["situations"][key], then["situations"][key])
        self.assertEqual(now["methods"], then["methods"])
        for part in ("days", "starts", "plans"):
            for key in then[part]:
                with self.subTest(part, situation=key):
                    self.assertEqual(now[part][key], then[part][key])
