"""Logs out as tables, and the logs of others in: columns guessed, units brought to SI, bad rows named and the rest kept."""

from __future__ import annotations

import csv
import io
import unittest
from datetime import date, time

from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.errors import BadFile
from stillthread.formats.log_csv import ASKED, look_at_log, read_other_log, write_table
from tests.effort import examples

NOTEBOOK = """Date,Time,Lake,Species,Length (in),Weight lbs,Water temp °F,Fly used,Notes
14/07/2023,6:30 pm,Brennholt,rainbow,16,1.5,64,olive nymph,"calm, warm"
15/07/2023,,Brennholt,,,,,,blank
02/08/2023,07:15,Laguna,brown,"15,5",,,=HYPERLINK("x"),
"""
MAPPED = {"date": 0, "time": 1, "water": 2, "species": 3, "length": 4, "weight": 5, "water_c": 6, "fly": 7, "notes": 8}
UNITS = {"length": "in", "weight": "lb", "water_c": "F"}


def one(header: str, row: str, mapping: dict[str, int], **how: object) -> object:
    good, bad = read_other_log(f"{header}\n{row}\n".encode(), mapping, **how)  # type: ignore[arg-type]
    return good[0] if good else bad[0][1]


class LookTests(unittest.TestCase):
    def test_no_notebook_is_as_wide_nor_as_long_as_to_keep_others_waiting(self) -> None:
        wide = ",".join(f"c{i}" for i in range(501))
        with self.assertRaisesRegex(BadFile, "501 columns. The most is 500"):
            look_at_log(f"{wide}\n{wide}\n".encode())
        days = "\n".join(f"{date.fromordinal(700_000 + i)},Mere" for i in range(5_001))
        with self.assertRaisesRegex(BadFile, "5001 days. The most is 5000"):
            read_other_log(f"date,lake\n{days}\n".encode(), {"date": 0, "water": 1})
        lakes = "\n".join(f"2023-07-14,Mere {i}" for i in range(5_001))
        with self.assertRaisesRegex(BadFile, "5001 days"):
            read_other_log(f"date,lake\n{lakes}\n".encode(), {"date": 0, "water": 1})

    def test_columns_are_known_by_their_headers_and_units(self) -> None:
        found = look_at_log(NOTEBOOK.encode())
        self.assertEqual([c.guess for c in found.columns], list(MAPPED))
        self.assertEqual([c.unit for c in found.columns if c.unit], ["in", "lb", "F"])
        self.assertEqual((found.count, found.day_first), (3, True))
        self.assertEqual(found.columns[2].samples, ("Brennholt", "Laguna"))

    def test_a_month_that_can_only_come_first_says_so(self) -> None:
        for said, day_first in (("07/14/2023", False), ("14.7.2023", True), ("3/4/2023", True), ("2023-07-14", True)):
            self.assertEqual(look_at_log(f"date,fish\n{said},trout\n".encode()).day_first, day_first, said)

    def test_no_two_columns_are_taken_for_one_thing(self) -> None:
        found = look_at_log(b"date,water,water temp,date,colour\n2023-07-14,a,14,x,red\n")
        self.assertEqual([c.guess for c in found.columns], ["date", "water", "water_c", None, None])

    def test_what_is_no_table_is_refused(self) -> None:
        for data in (b"", b"date,fish\n", b"one column\n2023\n", b"\xff\xfe", b"x" * 2_000_001, b"a,b\n" + b"1,2\n" * 20_001):
            with self.assertRaises(BadFile):
                look_at_log(data)


class ReadTests(unittest.TestCase):
    def test_a_notebook_is_read_in_si_units(self) -> None:
        good, bad = read_other_log(NOTEBOOK.encode(), MAPPED, UNITS)
        self.assertEqual(bad, [])
        first, blank, last = good
        self.assertEqual((first.on, first.at, first.water, first.count), (date(2023, 7, 14), time(18, 30), "Brennholt", 1))
        # 16 in, 1.5 lb and 64 F, worked by hand from the units' definitions.
        self.assertEqual((first.length_m, first.weight_kg, first.water_c), (0.4064, 0.6804, 17.7778))
        self.assertEqual((blank.count, blank.at, blank.notes), (0, None, "blank"))
        self.assertEqual((last.on, last.length_m, last.fly), (date(2023, 8, 2), 0.3937, '=HYPERLINK("x")'))

    def test_a_unit_in_the_cell_counts_before_the_columns(self) -> None:
        for said, metres in (("40", 0.4), ("40 cm", 0.4), ("16in", 0.4064), ('16"', 0.4064), ("400 mm", 0.4)):
            found = one("date;size", f"2023-07-14;{said}", {"date": 0, "length": 1})
            self.assertEqual(getattr(found, "length_m", found), metres, said)

    def test_how_many_fish_a_row_tells_of(self) -> None:
        for row, count in (("2023-07-14,3,", 3), ("2023-07-14,0,", 0), ("2023-07-14,,brown", 1), ("2023-07-14,,", 0)):
            self.assertEqual(getattr(one("date,n,kind", row, {"date": 0, "count": 1, "species": 2}), "count", None), count, row)
        self.assertEqual(getattr(one("date,fly", "2023-07-14,x", {"date": 0, "fly": 1}), "count", None), 1)

    def test_dates_as_people_write_them(self) -> None:
        for said, on in (
            ("14 July 2023", date(2023, 7, 14)), ("July 14, 2023", date(2023, 7, 14)), ("2023-07-04 18:05", date(2023, 7, 4)),
            ("4/7/2023", date(2023, 7, 4)), ("20230704", None), ("soon", None), ("2023", None), ("31/02/2023", None),
            ("1/1/0003", None), ("99/99/2023", None),
        ):  # fmt: skip
            found = one("date;x", f"{said};1", {"date": 0})
            self.assertEqual(getattr(found, "on", None), on, said)
        self.assertEqual(getattr(one("d,x", "7/4/2023,1", {"date": 0}, day_first=False), "on", None), date(2023, 7, 4))
        self.assertEqual(getattr(one("d,x", "2023-07-04 18:05,1", {"date": 0}), "at", None), time(18, 5))

    def test_a_bad_row_is_named_with_its_line_and_the_others_stay(self) -> None:
        text = "date,length,count\n2023-07-14,40,1\nnever,40,1\n2023-07-15,900,1\n2023-07-16,40,many\n2023-07-17,long,1\n"
        good, bad = read_other_log(text.encode(), {"date": 0, "length": 1, "count": 2})
        self.assertEqual(([row.line for row in good], [line for line, _ in bad]), ([2], [3, 4, 5, 6]))
        self.assertTrue(all(why.endswith(".") for _, why in bad))

    def test_a_mapping_that_cant_be_is_refused(self) -> None:
        for mapping, units in (
            ({}, {}), ({"date": 9}, {}), ({"date": 0, "fly": 0}, {}), ({"date": 0, "nonsense": 1}, {}),
            ({"date": 0, "length": 4}, {"length": "miles"}),
        ):  # fmt: skip
            with self.assertRaises(BadFile):
                read_other_log(NOTEBOOK.encode(), mapping, units)

    @settings(max_examples=examples(80), deadline=None, derandomize=True)
    @given(st.lists(st.lists(st.text(max_size=12), min_size=3, max_size=3), min_size=1, max_size=6))
    def test_no_text_brings_it_down(self, cells: list[list[str]]) -> None:
        data = write_table(("date", "length", "fly"), cells)
        try:
            good, bad = read_other_log(data, {"date": 0, "length": 1, "fly": 2})
        except BadFile:
            return
        self.assertLessEqual(len(good) + len(bad), len(cells))


class WriteTests(unittest.TestCase):
    def test_formulas_are_defused_and_read_back_as_they_were(self) -> None:
        cells = ["=1+1", "+cmd", "-2.5", "@x", "plain", "'=1"]
        data = write_table(("date", "fly"), [("2023-07-14", cell) for cell in cells])
        stand = [row[1] for row in list(csv.reader(io.StringIO(data.decode())))[1:]]
        self.assertEqual(stand, ["'=1+1", "'+cmd", "-2.5", "'@x", "plain", "''=1"])
        good, _ = read_other_log(data, {"date": 0, "fly": 1})
        self.assertEqual([row.fly for row in good], cells)

    def test_every_unit_makes_si_of_what_it_should(self) -> None:
        # One of each, by definition of the unit.
        expected = {"cm": 0.4, "in": 0.4, "mm": 0.4, "m": 0.4, "kg": 2.0, "g": 2.0, "lb": 2.0, "oz": 2.0, "ft": 3.0,
                    "C": 10.0, "F": 10.0, "m/s": 5.0, "km/h": 5.0, "mph": 5.0, "kn": 5.0}  # fmt: skip
        said = {"cm": 40, "in": 15.748, "mm": 400, "m": 0.4, "kg": 2, "g": 2000, "lb": 4.40925, "oz": 70.548, "ft": 9.8425,
                "C": 10, "F": 50, "m/s": 5, "km/h": 18, "mph": 11.1847, "kn": 9.71922}  # fmt: skip
        of = {"length": "length_m", "weight": "weight_kg", "depth": "depth_m", "water_c": "water_c", "wind": "wind_mps"}
        for key, name in of.items():
            for unit in ASKED[key].units:
                want, cell = (3.0, 3) if (key, unit) == ("depth", "m") else (expected[unit], said[unit])
                found = one("date;v", f"2023-07-14;{cell}", {"date": 0, key: 1}, units={key: unit})
                self.assertAlmostEqual(getattr(found, name), want, delta=2e-4, msg=f"{key} in {unit}")
