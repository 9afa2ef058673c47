"""The box as CSV: round again the same, and every refusal with its line."""

from __future__ import annotations

import contextlib
import csv
import io
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.errors import BadFile
from stillthread.formats.box_csv import (
    FLY_COLUMNS,
    LEADER_COLUMNS,
    LINE_COLUMNS,
    BoxLine,
    read_flies_csv,
    read_leaders_csv,
    read_lines_csv,
    write_flies_csv,
    write_leaders_csv,
    write_lines_csv,
)
from stillthread.tackle.flies import Fly
from stillthread.tackle.flybox import BoxFly
from stillthread.tackle.leaders import Hardware, Leader, LeaderSection, tapered_leader
from stillthread.tackle.lines import Line, Stretch
from stillthread.tackle.starter import STARTER_FLIES, starter_lines
from tests.effort import examples


class BoxCsvTests(unittest.TestCase):
    def test_the_starter_box_goes_round_and_a_general_reader_sees_its_columns(self) -> None:
        written = write_flies_csv(STARTER_FLIES)
        self.assertEqual(read_flies_csv(written), STARTER_FLIES)
        table = list(csv.DictReader(io.StringIO(written.decode())))  # the independent reader
        self.assertEqual((tuple(table[0]), len(table)), (FLY_COLUMNS, 60))

    def test_a_name_that_a_spreadsheet_would_run_is_defused_and_comes_back_as_it_was(self) -> None:
        names = ('=HYPERLINK("http://x";"y")', "+1+1", "-nymph", "@sum", "'quoted", "'=both", "plain = fly", "\tx")
        flies = tuple(BoxFly(Fly(name=name, hook_size=12)) for name in names)
        written = write_flies_csv(flies)
        for row in csv.DictReader(io.StringIO(written.decode(), newline="")):  # the independent reader
            self.assertFalse(row["name"].startswith(("=", "+", "-", "@", "\t")), row["name"])
        self.assertEqual([one.name for one in read_flies_csv(written)], [*names[:-1], "\tx"])

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


def sections(*lengths: float) -> tuple[LeaderSection, ...]:
    return tuple(LeaderSection(length, 0.00023, "nylon", greased=length > 1.0) for length in lengths)


class LineCsvTests(unittest.TestCase):
    OWN = Line("Mine", "own", 7, 0.12, stretches=(Stretch(3.0, 0.05), Stretch(7.5, 0.12), Stretch(30.0, 0.0)))
    LOOPED = Line("Floater with a sinking leader", "floating", 5, 0.0, looped=Stretch(1.5, 0.1016))
    TIP = Line("Short tip", "fast-tip", 6, 0.15, tip_m=2.4)

    def test_every_kind_of_line_goes_round_with_whether_it_was_counted_down(self) -> None:
        told = [BoxLine(line) for line in starter_lines()]
        told += [BoxLine(self.OWN, calibrated=True), BoxLine(self.LOOPED), BoxLine(self.TIP, calibrated=True)]
        written = write_lines_csv(told)
        self.assertEqual(read_lines_csv(written), tuple(told))
        table = list(csv.DictReader(io.StringIO(written.decode())))  # the independent reader
        self.assertEqual((tuple(table[0]), len(table)), (LINE_COLUMNS, 17))

    def test_a_name_and_a_class_are_enough_and_bring_the_usual_rate(self) -> None:
        (one,) = read_lines_csv(b"class_key;name\ntype-3;Deep\n")
        self.assertEqual((one.line.number, one.calibrated), (6, False))
        self.assertAlmostEqual(one.line.sink_rate_mps, 3 * 0.0254)
        (own,) = read_lines_csv(b"name,class_key,calibrated,stretches\nA,own,no,3.0@0.05 7.5@0.12 30@0\n")
        self.assertEqual((own.line.sink_rate_mps, own.calibrated), (0.12, False))  # its fastest stretch

    def test_each_bad_file_gets_its_own_sentence(self) -> None:
        for text, words in (
            ("name,number\nA,6\n", "at least: name,class_key"),
            ("name,class_key\nA,rope\n", "Line 2: line class 'rope' is not known."),
            ("name,class_key,number\nA,type-3,six\n", "Line 2: 'six' in number is not a number."),
            ("name,class_key,number\nA,type-3,12\n", "Line 2: number = 12"),
            ("name,class_key,stretches\nA,own,3.0\n", "Line 2: '3.0' in stretches is not a length and a rate"),
            ("name,class_key\nA,own\n", "Line 2: A profile of your own"),
            ("name,class_key\n,type-3\n", "Line 2: a line needs a name."),
        ):
            with self.subTest(words), self.assertRaises(BadFile) as refused:
                read_lines_csv(text.encode())
            self.assertIn(words, refused.exception.message)


class LeaderCsvTests(unittest.TestCase):
    def test_leaders_go_round_section_by_section_with_their_hardware(self) -> None:
        leaders = (
            Leader("Three parts", sections(1.2, 1.5, 0.95), (Hardware("swivel", 0.6), Hardware("shot-8", 0.3))),
            Leader("Plain, with a comma", sections(2.7)),
            tapered_leader(2.7, 4),
        )
        written = write_leaders_csv(leaders)
        back = read_leaders_csv(written)
        self.assertEqual(back[:2], leaders[:2])
        for cut, again in zip(leaders[2].sections, back[2].sections, strict=True):
            self.assertAlmostEqual(cut.diameter_m, again.diameter_m, delta=1e-9)
        table = list(csv.DictReader(io.StringIO(written.decode())))
        self.assertEqual((tuple(table[0]), len(table)), (LEADER_COLUMNS, 3 + 2 + 1 + 5))

    def test_three_columns_are_enough(self) -> None:
        (one,) = read_leaders_csv(b"leader,length_m,diameter_mm\nA,1.2,0.45\nA,2.0,0.2\n")
        self.assertEqual([(s.length_m, s.diameter_m, s.material) for s in one.sections], [(1.2, 0.00045, "fluorocarbon"), (2.0, 0.0002, "fluorocarbon")])  # fmt: skip

    def test_each_bad_file_gets_its_own_sentence_and_line(self) -> None:
        header = "leader,part,length_m,diameter_mm,material,above_point_m\n"
        for rows, words, line in (
            (",section,1,0.2,nylon,\n", "Line 2: a part needs the name of its leader.", 2),
            ("A,section,1,0.2,wire,\n", "Line 2: material 'wire' is not known.", 2),
            ("A,section,1,0.2,nylon,\nA,section,,0.2,nylon,\n", "Line 3: length_m is missing.", 3),
            ("A,section,1,0.2,nylon,\nA,anchor,,,,0.3\n", "Line 3: hardware 'anchor' is not known.", 3),
            ("A,section,1,0.2,nylon,\nA,swivel,,,,1.5\n", "Line 2: Swivels, rings and shot sit on the leader", 2),
            ("A,section,1,2.2,nylon,\n", "Line 2: diameter_m = 0.0022 m lies outside", 2),
            ("A,swivel,,,,0.5\n", "Line 2: A leader has 1 to 12 sections.", 2),
        ):
            with self.subTest(words), self.assertRaises(BadFile) as refused:
                read_leaders_csv((header + rows).encode())
            self.assertIn(words, refused.exception.message)
            self.assertEqual(refused.exception.line, line)


class OddBytesTests(unittest.TestCase):
    GOOD = (
        (read_flies_csv, write_flies_csv(STARTER_FLIES[:5])),
        (read_lines_csv, write_lines_csv([BoxLine(line) for line in (*starter_lines(), LineCsvTests.OWN)])),
        (read_leaders_csv, write_leaders_csv([tapered_leader(2.7, 4)])),
    )

    @settings(max_examples=examples(300), deadline=None)
    @given(st.data())
    def test_whatever_a_file_holds_is_read_or_refused_as_a_file(self, data: st.DataObject) -> None:
        reader, good = data.draw(st.sampled_from(self.GOOD))
        spoiled = bytearray(good)
        odd = st.sampled_from((b"", b"\r", b"\n", b'"', b",", b"@", b"nan", b"-1", b"1e400", b"\xff", b"\x00")) | st.binary(
            max_size=4
        )
        for _ in range(data.draw(st.integers(1, 4))):
            at = data.draw(st.integers(0, len(spoiled)))
            spoiled[at : at + data.draw(st.integers(0, 5))] = data.draw(odd)
        with contextlib.suppress(BadFile):
            reader(bytes(spoiled))
