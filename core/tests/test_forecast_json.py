"""A weather service's answer is read hour by hour, or refused with the hour at fault."""

from __future__ import annotations

import json
import unittest
from typing import Any

from stillthread.errors import BadFile
from stillthread.formats.forecast_json import read_forecast_json

HOUR = {"at": "2026-07-14T10:00:00+02:00", "wind_speed_mps": 4, "wind_from_deg": 225, "cloud_fraction": 0.3}


class ForecastJsonTests(unittest.TestCase):
    def test_hours_come_in_order_with_what_they_tell(self) -> None:
        later = HOUR | {"at": "2026-07-14T11:00:00+02:00", "air_c": 14.5, "pressure_hpa": 1013}
        found = read_forecast_json(json.dumps({"hours": [later, HOUR]}).encode())
        self.assertEqual([hour.at.hour for hour in found], [10, 11])
        self.assertEqual((found[0].air_c, found[1].air_c), (None, 14.5))

    def test_each_bad_answer_gets_its_own_sentence(self) -> None:
        def hours(**changes: Any) -> bytes:
            return json.dumps({"hours": [HOUR | changes]}).encode()

        for data, words in (
            (b"<html>", "no forecast"),
            (b'{"hours": []}', "no forecast"),
            (b'{"hours": [7]}', "Hour 1 of the forecast lacks"),
            (hours(wind_speed_mps=900), "wind_speed_mps = 900 m/s"),
            (hours(cloud_fraction=None), "Hour 1 of the forecast lacks"),
            (hours(at="2026-07-14T10:00:00"), "no time zone"),
            (hours(at="soon"), "no number"),
            (json.dumps({"hours": [HOUR] * 241}).encode(), "more than 240"),
            (b" " * 1_000_001, "larger than 1 MB"),
        ):
            with self.subTest(words), self.assertRaises(BadFile) as refused:
                read_forecast_json(data)
            self.assertIn(words, refused.exception.message)
