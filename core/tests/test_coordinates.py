"""A place as people write it, and what must be refused rather than guessed."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from stillthread.chart.coordinates import WrittenPlace, read_place, written
from stillthread.errors import BadInput

PLACE = (61.2, 8.5)
TAKEN = (
    "61.2, 8.5",
    " 61.2 8.5 ",
    "+61.2;+8.5",
    "61,2 8,5",
    "61,2; 8,5",
    "(61.2, 8.5)",
    "61.2 N 8.5 E",
    "61.2°n, 8.5°e",
    "N61.2 E8.5",
    "8.5 E 61.2 N",
    "E8.5 N61.2",
    "61° 12′ N, 8° 30′ E",
    "61°12'00\"N 8°30'0\"E",
    "N 61° 12.000 E 008° 30.000",
    "N 61 12.000 E 8 30.000",
    "61 12 8 30",
    "61 12 0 8 30 0",
    "61d12'N 8d30'E",
    "61:12:00 N 8:30:00 E",
    "geo:61.2,8.5",
    "GEO:61.2,8.5;u=35",
    "geo:61.2,8.5?z=12",
    "lat 61.2 lon 8.5",
    "Latitude: 61.2, Longitude: 8.5",
)
REFUSED = (
    "",
    "north of the mill",
    "61.2",
    "61.2, 8.5, 412",  # an altitude, or degrees and minutes?
    "N 61.2 N 8.5",
    "61.2 N 8.5",
    "-61.2 S 8.5 E",
    "61.5 12 8.5 30",  # a fraction of a degree, and minutes
    "61 75 N 8 30 E",
    "61 -12 8 30",
    "91, 8",
    "8.5, 181",
    "120, 8.5",
    "lon 8.5 lat 61.2",
    "8.5 O 61.2 N",  # east in one language, west in another
    "geo:61.2",
    "geo:61.2,8.5,1,2",
    "1" * 500,
    "61.2, 8.5 <script>",
    "nan, nan",
    "1e2, 3",
)


class CoordinatesTests(unittest.TestCase):
    def test_every_usual_way_to_write_one_place_is_read_as_that_place(self) -> None:
        for text in TAKEN:
            with self.subTest(text):
                place = read_place(text)
                self.assertAlmostEqual(place.latitude_deg, PLACE[0], places=9)
                self.assertAlmostEqual(place.longitude_deg, PLACE[1], places=9)

    def test_what_is_no_place_or_could_be_two_is_refused_with_how_to_write_one(self) -> None:
        for text in REFUSED:
            with self.subTest(text), self.assertRaises(BadInput) as refused:
                read_place(text)
            self.assertEqual(refused.exception.field, "text")

    def test_the_south_and_west_are_negative_however_they_are_said(self) -> None:
        for text in ("-41.3, -71.2", "41.3 S 71.2 W", "S 41 18 W 71 12", "41°18'S 71°12'W", "geo:-41.3,-71.2", "-41 18 -71 12"):
            with self.subTest(text):
                self.assertAlmostEqual(read_place(text).latitude_deg, -41.3, places=9)
                self.assertAlmostEqual(read_place(text).longitude_deg, -71.2, places=9)

    def test_a_geo_address_may_tell_the_altitude(self) -> None:
        # RFC 5870, 3.3: "geo:48.2010,16.3695,183".
        self.assertEqual(read_place("geo:48.2010,16.3695,183"), WrittenPlace(48.2010, 16.3695, 183.0))
        self.assertIsNone(read_place("geo:48.2,16.3,90000").altitude_m)

    @given(st.floats(-90, 90), st.floats(-180, 180))
    def test_what_is_written_is_read_back_to_two_metres(self, latitude_deg: float, longitude_deg: float) -> None:
        again = read_place(written(WrittenPlace(latitude_deg, longitude_deg)))
        self.assertAlmostEqual(again.latitude_deg, latitude_deg, delta=0.0005 / 60.0 + 1e-9)
        self.assertAlmostEqual(again.longitude_deg, longitude_deg, delta=0.0005 / 60.0 + 1e-9)

    @given(st.text(max_size=60))
    def test_any_text_is_a_place_or_refused(self, text: str) -> None:
        try:
            place = read_place(text)
        except BadInput:
            return
        self.assertLessEqual(abs(place.latitude_deg), 90.0)
        self.assertLessEqual(abs(place.longitude_deg), 180.0)


if __name__ == "__main__":
    unittest.main()
