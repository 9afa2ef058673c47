"""A water's lake over the API: weather from the service and from a station, carried on, pulled by the log, shown."""

from __future__ import annotations

import math
import uuid
from datetime import date, datetime, timedelta, timezone
from typing import Any
from unittest import mock
from zoneinfo import ZoneInfo

from archive.shapes import WeatherDayRow
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings
from pydantic import ValidationError

from demo.weather import keep_weather
from instruments.models import Instrument, Measurement
from lake import services
from lake.heard import heard
from lake.models import Asked, LakeDay, WeatherDay
from lake.weather import weather_over
from project.tests.people import PeopleTestCase, conditions
from standins.servers import ForecastService
from stillthread.api import Reading

NOW = datetime(2026, 7, 20, 9, 30, tzinfo=timezone.utc)


class LakeTestCase(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        clock = mock.patch("django.utils.timezone.now", return_value=NOW)
        clock.start()
        self.addCleanup(clock.stop)
        keep_weather(self.water, now=NOW)
        self.zone = ZoneInfo(self.water.time_zone)

    def bring_up(self) -> dict[str, Any]:
        answer = self.post(f"/api/waters/{self.water.pk}/lake", {})
        self.assertEqual(answer.status_code, 200, answer.content)
        return dict(answer.json())

    def year(self) -> dict[str, Any]:
        return dict(self.client.get(f"/api/waters/{self.water.pk}/lake-year").json())

    def picture(self, **changes: Any) -> dict[str, Any]:
        answer = self.post("/api/pictures", conditions(self.water, at_local="2026-07-20T11:30", **changes))
        self.assertEqual(answer.status_code, 200, answer.content)
        return dict(answer.json())

    def send(self, text: str | bytes) -> Any:
        data = text.encode() if isinstance(text, str) else text
        return self.client.post(f"/api/waters/{self.water.pk}/weather-files", {"file": SimpleUploadedFile("log.csv", data)})


class CarriedTests(LakeTestCase):
    def test_the_year_is_carried_from_the_last_mixing_to_the_last_day_that_is_forecast(self) -> None:
        self.assertEqual(self.bring_up(), {"state": "fresh", "why": ""})
        year = self.year()
        self.assertEqual(year["days"][0]["on"][:7], "2026-04")
        self.assertEqual(year["days"][-1]["on"], "2026-07-29")
        self.assertEqual(sum(day["ahead"] for day in year["days"]), 9)
        today = next(day for day in year["days"] if day["on"] == "2026-07-20")
        self.assertTrue(12.0 < today["water_c"][0] < 26.0, today["water_c"])
        self.assertLess(today["water_c"][-1], today["water_c"][0] - 3.0)
        self.assertEqual(len(today["water_c"]), len(year["depth_m"]))
        # Asked again nothing is made anew.
        with mock.patch.object(services, "carry_lake_on", side_effect=AssertionError("carried again")):
            self.bring_up()

    def test_a_column_stands_before_anything_is_read_and_a_reading_pulls_it(self) -> None:
        blind = {"readings": [{"depth_m": 0, "water_c": 10}], "assumed": ["surface_c"]}
        usual = self.picture(**blind)
        self.bring_up()
        worked_out = self.picture(**blind)
        why = next(one for one in worked_out["unread"] if one["name"] == "surface_c")
        self.assertIn("weather", str(why))
        self.assertLess(why["high"] - why["low"], 0.6 * _of(usual, "surface_c"))
        # The step is where the lake has it, not where such lakes do.
        today = next(day for day in self.year()["days"] if day["on"] == "2026-07-20")
        self.assertAlmostEqual(worked_out["layers"]["thermocline_m"], today["thermocline_m"], delta=1.2)
        top = worked_out["profile"]["water_c"][0]
        told = self.picture(readings=[{"depth_m": 0, "water_c": top + 1.5}])
        self.assertAlmostEqual(told["profile"]["water_c"][0], top + 1.5, delta=0.3)
        self.assertAlmostEqual(told["profile"]["water_c"][-1], worked_out["profile"]["water_c"][-1], delta=0.5)

    def test_what_the_log_read_pulls_the_days_after_and_only_they_are_made_anew(self) -> None:
        self.bring_up()
        before = {day["on"]: day["water_c"][0] for day in self.year()["days"]}
        marks = dict(LakeDay.objects.values_list("on", "made_of"))
        top = before["2026-07-10"]
        read = conditions(self.water, at_local="2026-07-11T10:00", readings=[{"depth_m": 0, "water_c": round(top - 3.0, 1)}])
        self.assertEqual(self.put(f"/api/days/{uuid.uuid4()}", read).status_code, 201)
        self.bring_up()
        after = {day["on"]: day["water_c"][0] for day in self.year()["days"]}
        self.assertEqual(before["2026-07-09"], after["2026-07-09"])
        self.assertLess(after["2026-07-11"], before["2026-07-11"] - 0.8)
        kept = dict(LakeDay.objects.values_list("on", "made_of"))
        self.assertEqual([on for on in marks if marks[on] != kept[on]], [on for on in sorted(marks) if str(on) >= "2026-07-11"])
        self.assertEqual([(r["depth_m"], r["water_c"]) for r in self.year()["readings"]], [(0.0, round(top - 3.0, 1))])

    def test_the_strip_goes_by_the_hours_own_column(self) -> None:
        self.bring_up()
        noon = {"depth_m": 0, "water_c": self.picture()["profile"]["water_c"][0]}
        asked = {"conditions": conditions(self.water, at_local="2026-07-20T12:00", readings=[noon])}
        hours = {hour["clock"]: hour["surface_c"] for hour in self.post("/api/day-strips", asked).json()["hours"]}
        made = {
            clock: services.column_at(self.water, datetime.fromisoformat(f"2026-07-20T{clock}").replace(tzinfo=self.zone))
            for clock in ("05:00", "12:00", "16:00")
        }
        tops = {clock: column.band_c(0.0)[0] for clock, column in made.items() if column is not None}
        for clock in ("05:00", "16:00"):
            self.assertAlmostEqual(hours[clock] - hours["12:00"], tops[clock] - tops["12:00"], delta=0.11)
        self.assertGreater(len(set(hours.values())), 1)

    def test_what_was_only_assumed_is_no_reading(self) -> None:
        read = conditions(
            self.water, at_local="2026-07-11T10:00", readings=[{"depth_m": 0, "water_c": 4.0}], assumed=["surface_c"]
        )
        self.assertEqual(self.put(f"/api/days/{uuid.uuid4()}", read).status_code, 201)
        self.bring_up()
        self.assertEqual(self.year()["readings"], [])

    def test_a_water_without_weather_has_no_lake_and_is_read_as_before(self) -> None:
        WeatherDay.objects.all().delete()
        self.assertEqual(self.bring_up()["state"], "absent")
        self.assertEqual((self.year()["days"], self.year()["changed"]), ([], None))
        self.assertGreater(self.picture()["profile"]["water_c"][0], 0.0)

    def test_another_size_or_clarity_makes_another_lake(self) -> None:
        self.bring_up()
        before = self.year()["days"][-1]["water_c"]
        self.water.usual_secchi_m = 9.0
        self.water.save()
        self.bring_up()
        self.assertNotEqual(self.year()["days"][-1]["water_c"], before)


def _of(picture: dict[str, Any], name: str) -> float:
    one = next(one for one in picture["unread"] if one["name"] == name)
    return float(one["high"] - one["low"])


class ServiceTests(LakeTestCase):
    def setUp(self) -> None:
        super().setUp()
        WeatherDay.objects.all().delete()
        Asked.objects.all().delete()
        self.service = ForecastService(0)
        self.service.start()
        self.addCleanup(self.service.stop)
        address = override_settings(WEATHER_URL=f"http://127.0.0.1:{self.service.port}/weather")
        address.enable()
        self.addCleanup(address.disable)

    def test_the_service_is_asked_once_an_hour_and_then_for_what_is_new(self) -> None:
        self.assertEqual(self.bring_up(), {"state": "fresh", "why": ""})
        days = WeatherDay.objects.count()
        self.bring_up()
        self.assertEqual(self.service.asked, 1)
        Asked.objects.update(at=NOW - timedelta(hours=2))
        self.bring_up()
        self.assertEqual((self.service.asked, WeatherDay.objects.count()), (2, days))

    def test_a_silent_service_is_told_of_and_what_is_stored_stays(self) -> None:
        self.bring_up()
        self.service.broken = True
        Asked.objects.update(at=NOW - timedelta(hours=2))
        self.assertEqual(self.bring_up(), {"state": "fresh", "why": "The weather service does not answer."})
        self.assertGreater(len(self.year()["days"]), 80)


class StationTests(LakeTestCase):
    def test_a_stations_log_wins_over_the_service_and_counts_in_its_own_units(self) -> None:
        rows = "".join(f"2026-07-10 {h:02d}:{m:02d},{50 + h},{18 + m / 10},270,60\n" for h in range(24) for m in (0, 30))
        answer = self.send(f"time,air temp (F),wind_kmh,wind direction,humidity %\n{rows}")
        self.assertEqual(answer.status_code, 200, answer.content)
        told = answer.json()
        self.assertEqual((told["days"], told["quantities"], told["notes"]), (2, ["air_c", "humidity", "wind_mps"], []))
        begin = datetime(2026, 7, 10, 12, tzinfo=ZoneInfo(self.water.time_zone)).astimezone(timezone.utc)
        weather, _ = weather_over(self.water, begin.date(), begin.date() + timedelta(days=1))
        self.assertAlmostEqual(weather.columns["air_c"][begin.hour], (62 - 32) / 1.8, places=2)
        self.assertAlmostEqual(weather.columns["wind_mps"][begin.hour], 19.5 / 3.6, places=2)
        self.assertFalse(any(v != v for v in weather.columns["pressure_hpa"]))  # the service's, which the station does not tell

    def test_a_reservoirs_level_and_stream_come_in_a_file_and_hold_until_told_anew(self) -> None:
        self.bring_up()
        before = self.year()["days"][-1]["water_c"]
        gauges = "date;inflow l/s;inflow temp (C);outlet depth m;drawn down cm\n2026-06-01T12:00Z;9000;16,5;20;150\n"
        told = self.send(gauges).json()
        self.assertEqual(told["quantities"], ["inflow_m3s", "inflow_c", "outlet_m", "drawn_down_m"])
        weather, _ = weather_over(self.water, date(2026, 7, 5), date(2026, 7, 6))
        held = {name: weather.columns[name][12] for name in told["quantities"]}
        self.assertEqual((held["inflow_m3s"], held["outlet_m"], held["drawn_down_m"]), (9.0, 20.0, 1.5))
        self.assertTrue(math.isnan(held["inflow_c"]))
        self.bring_up()
        self.assertGreater(max(abs(a - b) for a, b in zip(before, self.year()["days"][-1]["water_c"], strict=True)), 0.3)

    def test_a_boats_thermometer_is_heard_where_the_boat_was_on_this_water(self) -> None:
        boat = Instrument.objects.create(owner=self.angler, name="Boat", host="127.0.0.1", port=10110)
        at = datetime(2026, 7, 10, 9, 10, tzinfo=timezone.utc)
        latitude, longitude = self.water.latitude_deg, self.water.longitude_deg
        for hours, place, warm_c in ((0, latitude, 15.0), (1, latitude, 16.0), (30, latitude + 2.0, 25.0)):
            for second in range(30):
                when = at + timedelta(hours=hours, seconds=second)
                Measurement.objects.create(instrument=boat, at=when, kind="water", a=warm_c)
                Measurement.objects.create(instrument=boat, at=when, kind="position", a=place, b=longitude)
        (one,) = heard(self.water, at - timedelta(days=9), at + timedelta(days=9))
        self.assertEqual((one.at, one.readings), (at + timedelta(minutes=20), (Reading(0.4, 15.0),)))

    def test_a_bad_file_is_told_of_and_nothing_is_stored(self) -> None:
        stored = list(WeatherDay.objects.values_list("on", "source"))
        for text, why in (
            ("", "empty"),
            (b"\xff\xfe\x00t", "UTF-8"),
            ("air_c,wind_mps\n12,3\n", "no column of time"),
            ("time,air\n2026-07-10T10:00,12\n", "does not say its unit"),
            ("time,air_furlongs\n2026-07-10T10:00,12\n", "does not say its unit"),
            ("time,fish\n2026-07-10T10:00,12\n", "no column of weather"),
            ("time,air_c\nnever,12\n", "No row"),
            ("time,air_c\n2199-01-01T00:00,12\n", "No row"),
            ("time,air_c\n0001-01-01T00:00,12\n", "No row"),
            ("time,air_c\n2026-07-10T10:00,nan\n2026-07-10T10:00,1e9\n", None),
            ("time,air_c\n2020-01-01T10:00,12\n2026-07-10T10:00,12\n", "Split it"),
        ):
            answer = self.send(text)
            if why is None:
                self.assertEqual(answer.status_code, 200, answer.content)
                stored = list(WeatherDay.objects.values_list("on", "source"))
                continue
            self.assertEqual((answer.status_code, answer.json()["code"]), (422, "bad_file"), text)
            self.assertIn(why, answer.json()["detail"])
            self.assertEqual(list(WeatherDay.objects.values_list("on", "source")), stored)

    def test_what_a_station_told_years_ago_stays(self) -> None:
        self.assertEqual(self.send("time,air_c\n2019-07-10T10:00Z,12.5\n").status_code, 200)
        self.send("time,air_c\n2026-07-10T10:00Z,12.5\n")
        self.assertEqual(WeatherDay.objects.filter(source="station").count(), 2)

    def test_rows_that_cannot_be_are_left_out_and_told_of(self) -> None:
        answer = self.send("time;air_c;wind_kn\n2026-07-10T10:00Z;12,5;8\n2026-07-10T10:00Z;13;8\n2026-07-10T11:00Z;99;8\n")
        told = answer.json()
        self.assertEqual(
            [note.split(":")[0] for note in told["notes"]], ["Line 3 comes twice", "Line 4 has air_c = 99, which can't be"]
        )
        self.assertEqual(WeatherDay.objects.get(source="station").hours["air_c"][10], 12.5)


class ArchivedTests(LakeTestCase):
    def test_what_a_station_told_leaves_and_comes_back_with_the_water(self) -> None:
        self.send("time,air_c,wind_kn\n2026-07-10T10:00Z,12.5,8\n2026-07-11T10:00Z,13.5,9\n")
        told = list(WeatherDay.objects.filter(source="station").values_list("on", "hours"))
        archive = b"".join(self.client.get("/api/archive.zip").streaming_content)  # type: ignore[attr-defined]
        WeatherDay.objects.filter(source="station").delete()
        for mode in ("merge", "replace"):
            begun = self.post("/api/restores", {"size": len(archive)}).json()["id"]
            part = {"file": SimpleUploadedFile("part", archive)}
            self.assertEqual(self.client.post(f"/api/restores/{begun}/parts?offset=0", part).status_code, 200)
            taken = self.post(f"/api/restores/{begun}/takes", {"mode": mode, "leave_out": False})
            self.assertEqual(taken.status_code, 200, taken.content)
            self.assertEqual(list(WeatherDay.objects.filter(source="station").values_list("on", "hours")), told, mode)


class SeasonsTests(LakeTestCase):
    def test_the_winter_is_carried_into_the_next_season_with_what_was_learnt_and_old_years_go(self) -> None:
        self.bring_up()
        learnt = services._unpacked(LakeDay.objects.filter(state__isnull=False).order_by("-on")[0])
        for now in (datetime(2027, 4, 20, tzinfo=timezone.utc), datetime(2027, 6, 1, tzinfo=timezone.utc)):
            keep_weather(self.water, now=now)
            services.bring_up(self.water, now=now)  # first through the winter, still of the season before; then the next
        winter = LakeDay.objects.get(on="2027-04-25")
        year = services.year_of(self.water, now=now)
        self.assertEqual(str(year["days"][0]["on"]), "2027-04-26")
        self.assertAlmostEqual(year["days"][0]["water_c"][5], winter.shown["water_c"][5], delta=1.0)
        after = services._unpacked(LakeDay.objects.filter(on__gte="2027-04-26", state__isnull=False).order_by("on")[0])
        self.assertEqual(after.member.shape, learnt.member.shape)

    def test_a_slip_of_the_pen_pulls_little(self) -> None:
        self.bring_up()
        before = next(day for day in self.year()["days"] if day["on"] == "2026-07-11")["water_c"][0]
        read = conditions(self.water, at_local="2026-07-11T10:00", readings=[{"depth_m": 0, "water_c": 38.0}])
        self.assertEqual(self.put(f"/api/days/{uuid.uuid4()}", read).status_code, 201)
        self.bring_up()
        after = next(day for day in self.year()["days"] if day["on"] == "2026-07-11")["water_c"][0]
        self.assertLess(after - before, 3.0)

    def test_an_archive_brings_no_weather_that_cannot_be(self) -> None:
        row = {"on": "2026-07-10", "hours": {"air_c": [1400.0] + [None] * 23}}
        with self.assertRaisesRegex(ValidationError, "can't be"):
            WeatherDayRow.model_validate(row)
        WeatherDayRow.model_validate({**row, "hours": {"air_c": [14.0] + [None] * 23}})
