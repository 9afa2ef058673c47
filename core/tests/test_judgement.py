"""The judgement's numbers: within their bounds, and the docs say the same."""

from __future__ import annotations

import unittest
from dataclasses import fields
from pathlib import Path

from stillthread.judgement import Judgement, numbers
from stillthread.sourced import Sourced

DOCS = Path(__file__).resolve().parents[2] / "docs" / "judgement.md"


class NumberTests(unittest.TestCase):
    def test_every_number_lies_within_its_bounds_and_the_docs_say_the_same(self) -> None:
        said = DOCS.read_text()
        for name, value, about in numbers():
            low, high = about["bounds"]
            self.assertTrue(low <= value <= high, name)
            self.assertTrue(f"| `{name}` | {value:g} | {about['unit']} | {low:g} to {high:g} |" in said, name)
            self.assertIn(about["source"], {"ours", "common-practice"})
        self.assertEqual(len(numbers()), len(fields(Judgement)))

    def test_a_sourced_number_outside_what_its_source_gives_is_refused(self) -> None:
        self.assertEqual(float(Sourced(0.015, "1", "ours", valid=(0.01, 0.03))), 0.015)
        with self.assertRaises(ValueError):
            Sourced(0.04, "1", "ours", valid=(0.01, 0.03))
