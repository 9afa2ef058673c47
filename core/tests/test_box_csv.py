"""The fly box as CSV: round again the same, and every refusal with its line."""

from __future__ import annotations

import csv
import io
import unittest

from stillthread.errors import BadFile
from stillthread.formats.box_csv import COLUMNS, read_flies_csv, write_flies_csv
from stillthread.tackle.starter import STARTER_FLIES


class BoxCsvTests(unittest.TestCase):
    def test_the_starter_box_goes_round_and_a_general_reader_sees_its_columns(self) -> None:
        written = write_flies_csv(STARTER_FLIES)
        self.assertEqual(read_flies_csv(written), STARTER_FLIES)
        table = list(csv.DictReader(io.StringIO(written.decode())))  # the independent reader
        self.assertEqual((tuple(table[0]), len(table)), (COLUMNS, 60))

    def test_two_columns_are_enough_in_any_order(self) -> None:
        (one,) = read_flies_csv(b"hook_size;name\n12;My nymph\n")
        self.assertEqual((one.name, one.fly.hook_size, one.style, one.left), ("My nymph", 12, "natural", 2))

    def test_each_bad_file_gets_its_own_sentence(self) -> None:
        for text, words in (
            ("", "empty"),
            ("name,colour\nA,red\n", "at least: name,hook_size"),
            ("name,hook_size\n,12\n", "Line 2: a fly needs a name."),
            ("name,hook_size\nA,11\n", "Line 2: hook size 11 is not known."),
            ("name,hook_size\nA,big\n", "Line 2: 'big' in hook_size is not a number."),
            ("name,hook_size\nA,12\nA,12\n", "Line 3: 'A' stands twice."),
            ("name,hook_size,foods\nA,12,bread\n", "Line 2: food 'bread' is not known."),
            ("name,hook_size,style\nA,12,bait\n", "Line 2: style 'bait' is not known."),
            ("name,hook_size\n", "no flies"),
        ):
            with self.subTest(words), self.assertRaises(BadFile) as refused:
                read_flies_csv(text.encode())
            self.assertIn(words, refused.exception.message)
