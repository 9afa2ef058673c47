"""CSV profiles as people and loggers write them, and every refusal."""

from __future__ import annotations

import unittest

from stillthread.errors import BadFile
from stillthread.formats.profile_csv import read_profile_csv


class ReadableFilesTests(unittest.TestCase):
    def assert_reads(self, text: str, expected: list[tuple[float, float]], **choice: str) -> None:
        found = read_profile_csv(text.encode(), **choice)  # type: ignore[arg-type]
        self.assertEqual([(round(r.depth_m, 4), round(r.water_c, 4)) for r in found.readings], expected)

    def test_plain_metres_and_celsius(self) -> None:
        self.assert_reads("depth_m,water_c\n0,18.6\n2,18.2\n", [(0.0, 18.6), (2.0, 18.2)])

    def test_semicolons_with_decimal_commas(self) -> None:
        self.assert_reads("Tiefe (m);Temperatur (C)\n0,5;18,6\n2,0;18,2\n", [(0.5, 18.6), (2.0, 18.2)])

    def test_feet_and_fahrenheit_by_header(self) -> None:
        self.assert_reads("Depth (ft),Temp [F]\n0,68\n10,50\n", [(0.0, 20.0), (3.048, 10.0)])
        self.assert_reads("depth ft\twater °F\n0\t32\n", [(0.0, 0.0)])

    def test_feet_and_fahrenheit_by_choice(self) -> None:
        self.assert_reads("depth,temp\n0,68\n10,50\n", [(0.0, 20.0), (3.048, 10.0)], depth_unit="ft", temperature_unit="F")

    def test_columns_in_the_other_order_and_further_columns(self) -> None:
        self.assert_reads("time,temperature_c,depth_m\n08:00,18.6,0\n08:01,17.0,3\n", [(0.0, 18.6), (3.0, 17.0)])

    def test_byte_order_mark_blank_lines_and_windows_line_ends(self) -> None:
        self.assert_reads("\ufeffdepth,temp\r\n\r\n0,12\r\n1,11.5\r\n", [(0.0, 12.0), (1.0, 11.5)])
        self.assert_reads("depth,temp\r0,12\r1,11.5\r", [(0.0, 12.0), (1.0, 11.5)])

    def test_an_oxygen_column_is_read_where_it_is_filled(self) -> None:
        found = read_profile_csv(b"depth_m,DO (mg/L),temp\n0,9.1,18\n4,,15\n8,3.2,9\n")
        self.assertEqual([(o.depth_m, o.oxygen_mgl) for o in found.oxygen], [(0.0, 9.1), (8.0, 3.2)])

    def test_of_a_loggers_ups_and_downs_the_last_way_down_is_taken(self) -> None:
        # Held in the air, dipped to 1 m and up again, then lowered to 6 m and hauled: the haul reads warm, as loggers do.
        depths = [-0.1, 0.0, 0.5, 1.0, 0.5, 0.0, 0.0] + [0.1 * i for i in range(61)] + [0.2 * i for i in range(30, -1, -1)]
        temps = [20.0] * 7 + [18.0 - 0.1 * i for i in range(61)] + [19.0] * 31
        rows = [f"10:00:{i:03d},{d:.2f},{t:.2f}" for i, (d, t) in enumerate(zip(depths, temps, strict=True))]
        found = read_profile_csv(("time,depth_m,temp_c\n" + "\n".join(rows)).encode())
        self.assertEqual([found.readings[i].depth_m for i in (0, 1, -1)], [0.05, 0.25, 5.95])
        for reading in found.readings:
            self.assertAlmostEqual(reading.water_c, 18.0 - reading.depth_m, delta=0.06)
        self.assertIn("Of 99 rows the way down", found.notes[0])


class RefusedFilesTests(unittest.TestCase):
    def assert_refused(self, data: bytes | str, message: str) -> None:
        with self.assertRaises(BadFile) as refused:
            read_profile_csv(data.encode() if isinstance(data, str) else data)
        self.assertEqual(refused.exception.message, message)

    def test_each_bad_file_gets_its_own_sentence(self) -> None:
        cases = (
            ("", "The file is empty."),
            ("  \n ", "The file is empty."),
            ("depth\n0\n", "The file has one column. Two are needed: depth and temperature."),
            ("0,18\n1,17\n", "The first line must be a header such as: depth_m,water_c"),
            ("depth,temp\n", "The file has a header but no readings."),
            ("depth,temp\n0,warm\n", "Line 2: 'warm' is not a temperature."),
            ("depth,temp\n0,nan\n", "Line 2: 'nan' is not a temperature."),
            ("depth,temp\nzero,18\n", "Line 2: 'zero' is not a depth."),
            ("depth,temp\n0,18\n3,15\n2,16\n", "Line 4: depth goes up (2). List readings from the surface down."),
            ("depth,temp\n0,18\n0,17\n", "Line 3: depth repeats (0). List readings from the surface down."),
            ("depth,temp\n0,66\n", "Line 2: water_c = 66 C lies outside -1 to 40 C. Is it in Fahrenheit?"),
            ("depth,temp\n-1,12\n", "Line 2: depth_m = -1 m lies outside 0 to 100 m."),
            ("depth,temp\n0\n", "Line 2 has 1 columns; a depth and a temperature are needed."),
            (
                "depth,temp\n0,5,18,6\n",
                "Line 2 has 4 columns, the header 2. With decimal commas, separate by semicolons.",
            ),
            (f'depth,temp\n0,18\n1,"{"7" * 140_000}\n', "Line 3: this is not a row of cells. Is a quote left open?"),
            ("a,b\n1,2\n", "The header must name a depth and a temperature column, such as: depth_m,water_c"),
        )
        for text, message in cases:
            with self.subTest(text=text):
                self.assert_refused(text, message)

    def test_wrong_encoding_is_named(self) -> None:
        message = "The file is not UTF-8 text. Save it as CSV (UTF-8) and try again."
        self.assert_refused("depth,temp °C\n0,18\n".encode("latin-1"), message)
        self.assert_refused("depth,temp\n0,18\n".encode("utf-16"), message)

    def test_ten_thousand_rows_are_too_many(self) -> None:
        text = "depth,temp\n" + "".join(f"{i / 1000},10\n" for i in range(10_000))
        self.assert_refused(text, "The file has more than 2000 rows. Send one cast of readings.")

    def test_twenty_megabytes_are_refused_unread(self) -> None:
        self.assert_refused(b"x" * 20_000_000, "The file is larger than 1 MB. Send one cast of readings.")
