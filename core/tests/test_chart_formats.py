"""GeoJSON, GPX, CSV soundings and NMEA 0183: read, refused, and round again through independent readers."""

from __future__ import annotations

import json
import unittest
from datetime import datetime, timezone
from typing import Any

import gpxpy
import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from stillthread.chart.marks import MARK_KINDS, Mark
from stillthread.errors import BadFile, BadInput, StillthreadError
from stillthread.food.catalogue import FOODS
from stillthread.formats.chart_geojson import read_chart_geojson, write_chart_geojson
from stillthread.formats.marks_gpx import read_marks_gpx, write_marks_gpx
from stillthread.formats.nmea import Measured, Reader, read_nmea_log, sentence, soundings_of
from stillthread.formats.soundings_csv import read_soundings_csv
from tests.charts import PLANE, polygon, rectangle
from tests.effort import examples

MARKS = (
    Mark(
        name="North shelf",
        kind_key="drop-off",
        latitude_deg=61.2034,
        longitude_deg=9.4021,
        depth_m=4.2,
        notes="steep, weed on top",
    ),
    Mark(name="Årvik, reeds & weed", kind_key="weed-bed", latitude_deg=61.199, longitude_deg=9.41),
)


class MarkTests(unittest.TestCase):
    def test_every_food_of_every_kind_is_in_the_catalogue(self) -> None:
        for kind in MARK_KINDS.values():
            self.assertEqual(set(kind.foods) - set(FOODS), set(), kind.key)

    def test_an_unknown_kind_or_a_place_off_the_globe_is_refused(self) -> None:
        with self.assertRaises(BadInput):
            Mark(name="x", kind_key="harbour", latitude_deg=61.0, longitude_deg=9.0)
        with self.assertRaises(StillthreadError):
            Mark(name="x", kind_key="bay", latitude_deg=91.0, longitude_deg=9.0)


class GpxTests(unittest.TestCase):
    def test_marks_come_back_and_a_general_reader_sees_the_same(self) -> None:
        written = write_marks_gpx(MARKS)
        self.assertEqual(read_marks_gpx(written), MARKS)
        seen = gpxpy.parse(written.decode())  # the independent reader
        self.assertEqual(next((w.name, w.latitude, w.longitude) for w in seen.waypoints), ("North shelf", 61.2034, 9.4021))

    def test_waypoints_of_other_programs_are_read_as_pegs(self) -> None:
        text = '<gpx version="1.0" creator="x"><wpt lat="61.2" lon="9.4"><sym>Flag</sym></wpt></gpx>'
        self.assertEqual(
            read_marks_gpx(text.encode()), (Mark(name="Waypoint 1", kind_key="peg", latitude_deg=61.2, longitude_deg=9.4),)
        )

    def test_each_bad_file_gets_its_own_sentence(self) -> None:
        for text, words in (
            ("hello", "not GPX"),
            ('<gpx version="1.1" creator="x"></gpx>', "no waypoints"),
            ('<gpx version="1.1" creator="x"><wpt lat="95" lon="9"><name>A</name></wpt></gpx>', "latitude_deg = 95"),
            ('<!DOCTYPE gpx [<!ENTITY a "b">]><gpx></gpx>', "XML entities"),
        ):
            with self.subTest(words), self.assertRaises(BadFile) as refused:
                read_marks_gpx(text.encode())
            self.assertIn(words, refused.exception.message)


class GeoJsonTests(unittest.TestCase):
    def test_outline_marks_and_soundings_come_back_and_shapely_reads_the_same(self) -> None:
        outline = polygon(rectangle(500.0, 300.0), rectangle(50.0, 50.0))
        lonlat, depth = PLANE.to_lonlat(rectangle(100.0, 100.0)), np.array([2.0, 3.5, 4.0, 6.25])
        written = write_chart_geojson(outline, MARKS, lonlat, depth)
        found = read_chart_geojson(written)
        self.assertEqual((found.outline, found.marks), (outline, MARKS))
        self.assertLess(float(np.abs(found.lonlat - lonlat).max()), 1e-6)
        self.assertEqual(found.depth_m.tolist(), depth.tolist())
        seen = shapely.from_geojson(written)  # the independent reader
        self.assertEqual([g.geom_type for g in shapely.get_parts(seen)].count("Polygon"), 1)

    def test_contours_heights_and_feet_are_soundings(self) -> None:
        def line(**properties: Any) -> dict[str, Any]:
            return {
                "type": "Feature",
                "properties": properties,
                "geometry": {"type": "LineString", "coordinates": [[9.4, 61.2], [9.41, 61.2]]},
            }

        found = read_chart_geojson(json.dumps({"type": "FeatureCollection", "features": [line(depth_ft=10)]}).encode())
        self.assertEqual([round(float(d), 3) for d in found.depth_m], [3.048, 3.048])
        high = {"type": "MultiPoint", "coordinates": [[9.4, 61.2, -3.0], [9.41, 61.2, -5.5]]}
        self.assertEqual(read_chart_geojson(json.dumps(high).encode()).depth_m.tolist(), [3.0, 5.5])

    def test_each_bad_file_gets_its_own_sentence(self) -> None:
        for text, words in (
            ("{", "no JSON"),
            ("[1, 2]", "FeatureCollection, Feature or geometry"),
            ('{"type": "FeatureCollection", "features": []}', "no polygon"),
            ('{"type": "Point", "coordinates": [9.4, 61.2]}', "no polygon"),
            ('{"type": "MultiPoint", "coordinates": [["a", 61.2, 3]]}', "can't be read"),
            ('{"type": "MultiPoint", "coordinates": [[500000, 6100000, 3]]}', "longitude first"),
        ):
            with self.subTest(words), self.assertRaises(BadFile) as refused:
                read_chart_geojson(text.encode())
            self.assertIn(words, refused.exception.message)


class SoundingsCsvTests(unittest.TestCase):
    def test_any_column_order_feet_and_rows_without_an_echo(self) -> None:
        found = read_soundings_csv(b"Depth (ft);lat;time;lon\n10;61.2;08:00;9.4\n;61.2;08:01;9.4\n20;61,21;08:02;9,41\n")
        self.assertEqual([round(float(d), 3) for d in found.depth_m], [3.048, 6.096])
        self.assertEqual((found.lonlat[1].tolist(), found.skipped), ([9.41, 61.21], 1))

    def test_projected_metres_need_the_code_of_their_grid(self) -> None:
        text = b"x,y,depth\n500000,6785000,4\n500100,6785000,5\n500000,6785100,6\n"
        with self.assertRaises(BadFile) as refused:
            read_soundings_csv(text)
        self.assertIn("Give the EPSG code", refused.exception.message)
        # The central meridian of UTM zone 32 lies at 9 E by definition.
        self.assertAlmostEqual(float(read_soundings_csv(text, epsg=32632).lonlat[0, 0]), 9.0, places=9)

    def test_each_bad_file_gets_its_own_sentence(self) -> None:
        for text, words in (
            ("", "empty"),
            ("lon,lat\n9,61\n", "three columns"),
            ("lon,lat,depth\n9,61,deep\n", "Line 2: 'deep' is not a number."),
            ("lon,lat,depth\n9,61\n", "Line 2 has 2 columns; 3 are needed."),
            ("lon,lat,depth\n9,61,\n", "no soundings"),
            ("x,y,depth\n61.2,170.5,4\n", "look swapped"),
        ):
            with self.subTest(words), self.assertRaises(BadFile) as refused:
                read_soundings_csv(text.encode())
            self.assertIn(words, refused.exception.message)
        with self.assertRaises(BadFile) as grid:
            read_soundings_csv(b"x,y,depth\n5e5,6e6,4\n", epsg=999999)
        self.assertIn("no map grid", grid.exception.message)


STREAM = b"".join(
    (
        sentence("GP", "RMC", ["083559.00", "A", "6112.0000", "N", "00924.0000", "E", "0.5", "77.5", "140726", "", "", "A"]),
        sentence("SD", "DPT", ["4.2", "0.3", ""]),
        sentence("SD", "DBT", ["13.8", "f", "", "M", "2.3", "F"]),
        sentence("YX", "MTW", ["17.2", "C"]),
        sentence("WI", "MWD", ["225.0", "T", "", "M", "9.7", "N", "5.0", "M"]),
        sentence("WI", "MWV", ["200.0", "T", "18.0", "K", "A"]),
        sentence("GP", "GGA", ["083600.00", "6112.3000", "N", "00924.0000", "W", "1", "08", "1.0", "412.0", "M", "48.0", "M", "", ""]),
    )
)  # fmt: skip


class NmeaTests(unittest.TestCase):
    def test_a_printed_sentence_has_the_printed_checksum(self) -> None:
        # A sentence much printed in texts on GPS (from memory): its checksum is 47.
        fields = ["123519", "4807.038", "N", "01131.000", "E", "1", "08", "0.9", "545.4", "M", "46.9", "M", "", ""]
        self.assertTrue(sentence("GP", "GGA", fields).endswith(b"*47\r\n"))

    def test_every_sentence_gives_its_reading_in_si(self) -> None:
        found = read_nmea_log(STREAM)
        at = datetime(2026, 7, 14, 8, 35, 59, tzinfo=timezone.utc)
        self.assertEqual(found.measured[0], Measured("position", 61.2, 9.4, at))
        kinds = [(one.kind, round(one.a, 3), one.b) for one in found.measured[1:6]]
        self.assertEqual(
            kinds,
            [("depth", 4.5, None), ("depth", 4.206, None), ("water", 17.2, None), ("wind", 5.0, 225.0), ("wind", 5.0, 200.0)],
        )
        self.assertAlmostEqual(found.measured[6].b or 0.0, -9.4)
        self.assertEqual((found.good, found.bad_checksums, found.malformed), (7, 0, 0))

    @settings(max_examples=examples(60), deadline=None)
    @given(st.lists(st.integers(1, 40), min_size=1, max_size=40))
    def test_however_the_stream_is_cut_nothing_is_lost(self, cuts: list[int]) -> None:
        reader, found, at = Reader(), [], 0
        for cut in cuts:
            found += reader.feed(STREAM[at : at + cut])
            at += cut
        found += reader.feed(STREAM[at:])
        self.assertEqual(tuple(found), read_nmea_log(STREAM).measured)

    @settings(max_examples=examples(100), deadline=None)
    @given(st.binary(max_size=300))
    def test_no_bytes_break_the_reader_and_the_next_sentence_is_read(self, noise: bytes) -> None:
        reader = Reader()
        reader.feed(noise + b"\n")
        self.assertEqual([one.kind for one in reader.feed(sentence("YX", "MTW", ["9.0", "C"]))], ["water"])

    def test_wrong_checksums_half_sentences_and_nonsense_are_counted_and_left_out(self) -> None:
        reader = Reader()
        reader.feed(b"$SDDPT,4.2,0.3,*00\r\n$SDDPT,deep,0.3,*4B\r\nnot a sentence\r\n$YXMTW,17")
        self.assertEqual((reader.good, reader.bad_checksums, reader.malformed), (0, 2, 1))
        self.assertEqual(reader.finish(), [])
        self.assertEqual(reader.malformed, 2)
        for kind, fields in (
            ("MTW", ["90.0", "C"]),
            ("DPT", ["deep", "", ""]),
            ("RMC", ["", "V"]),
            ("XDR", ["P", "1.01", "B", "x"]),
        ):
            self.assertEqual(reader.feed(sentence("II", kind, fields)), [], kind)

    def test_a_log_without_one_sentence_says_why(self) -> None:
        for data, words in ((b"hello\n", "no NMEA sentence"), (b"$SDDPT,4.2,0.3,*00\n", "1 have a wrong checksum")):
            with self.assertRaises(BadFile) as refused:
                read_nmea_log(data)
            self.assertIn(words, refused.exception.message)

    def test_depths_are_put_where_the_boat_was(self) -> None:
        found = soundings_of(read_nmea_log(STREAM).measured)
        self.assertEqual(
            [(s.latitude_deg, s.longitude_deg, round(s.depth_m, 1)) for s in found], [(61.2, 9.4, 4.5), (61.2, 9.4, 4.2)]
        )
        self.assertEqual(soundings_of([Measured("depth", 4.0)]), [])

    def test_apparent_wind_and_wind_of_a_warned_instrument_are_no_wind_of_the_lake(self) -> None:
        apparent = sentence("WI", "MWV", ["200.0", "R", "18.0", "K", "A"])
        warned = sentence("WI", "MWV", ["200.0", "T", "18.0", "K", "V"])
        found = read_nmea_log(apparent + warned + sentence("YX", "MTW", ["17.2", "C"]))
        self.assertEqual([one.kind for one in found.measured], ["water"])

    def test_a_depth_counts_from_the_surface_whether_the_offset_is_to_the_waterline_or_the_keel(self) -> None:
        depths = [
            read_nmea_log(sentence("SD", "DPT", ["4.2", offset, ""])).measured[0].a for offset in ("0.3", "", "0.0", "-0.6")
        ]
        # A negative one is from transducer to keel: it says nothing of the surface.
        self.assertEqual([round(depth, 3) for depth in depths], [4.5, 4.2, 4.2, 4.2])
