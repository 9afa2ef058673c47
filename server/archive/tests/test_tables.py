"""The log as tables for a spreadsheet, and other people's logs in: guessed, looked at, brought once."""

from __future__ import annotations

import csv
import io
import uuid
from collections.abc import Callable
from typing import Any
from unittest.mock import patch

import gpxpy
from common.job_limiter import jobs
from icalendar import Calendar

from archive.tests.accounts import unpacked
from archive.tests.on_the_way import written
from days.models import Catch, Day
from days.tally import tally
from project.tests.people import JSON, PeopleTestCase, conditions
from waters.models import Water

NOTEBOOK = """Date,Lake,Species,Length (in),Number,Fly used,Water temp (F),Notes
14/07/2023,Brennholt Reservoir,rainbow,16,1,olive nymph,64,
14/07/2023,Brennholt Reservoir,rainbow,16,1,olive nymph,,
15/07/2023,Brennholt Reservoir,,,0,,,Nothing stirred.
16/07/2023,Nameless Tarn,brown,14,2,=cmd,,
"""
MAPPING = {"date": 0, "water": 1, "species": 2, "length": 3, "count": 4, "fly": 5, "water_c": 6, "notes": 7}
UNITS = {"length": "in", "water_c": "F"}


class TablesTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.log_day()
        self.chart_water()

    def test_two_files_at_once_are_two_questions_and_one_of_them_sent_again_is_the_same(self) -> None:
        """Long work is shared by its question: a write must never answer for another file, nor for other options."""
        body = {"text": NOTEBOOK, "mapping": MAPPING, "units": UNITS, "water_id": self.water.pk, "leave_out": True}
        other = {**body, "text": NOTEBOOK.replace("2023", "2022")}
        asked: list[Any] = []

        def told(who: object, question: object, work: Callable[[], Any]) -> Any:
            asked.append(question)
            return work()

        with patch.object(jobs, "do", told):
            for one in (body, other, {**body, "leave_out": False}, {**body, "units": {}}, body):
                self.post("/api/other-logs/takes", one)
                self.post("/api/other-logs/previews", {name: value for name, value in one.items() if name != "leave_out"})
        takes, previews = asked[::2], asked[1::2]
        self.assertEqual(takes[0], takes[4])
        self.assertEqual(len(set(takes)), 4)
        self.assertEqual(len(set(previews)), 3)
        self.assertFalse(set(takes) & set(previews))

    def rows(self, name: str) -> list[dict[str, str]]:
        answer = self.client.get(f"/api/{name}")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "text/csv; charset=utf-8"))
        return list(csv.DictReader(io.StringIO(answer.content.decode())))

    def add(self, kind: str, **more: Any) -> None:
        path = f"/api/days/{self.day_id}/entries/{uuid.uuid4()}"
        self.assertEqual(self.put(path, self.entry(kind=kind, **more)).status_code, 201)

    def test_a_row_to_a_day_a_cast_a_fish_and_a_reading(self) -> None:
        self.add("cast", at="2026-07-14T08:41:00Z", cast_elapsed_s=None)
        self.add("landed", at="2026-07-14T08:43:30Z", species="brown", length_m=0.44, weight_kg=0.9, kept=False)
        (day,) = self.rows("days.csv")
        self.assertEqual((day["water"], day["surface_c"], day["casts"], day["landed"]), (self.water.name, "18.6", "1", "1"))
        (cast,) = self.rows("casts.csv")
        self.assertEqual((cast["line"], cast["cast_m"], cast["point_fly"]), ("Type 3 sinker", "18.0", "Slim olive nymph"))
        fish = self.rows("catches.csv")
        self.assertIn(("landed", "0.44", "0.9", "False"), [(f["what"], f["length_m"], f["weight_kg"], f["kept"]) for f in fish])
        self.assertEqual(len(self.rows("readings.csv")), 9)

    def test_what_nobody_read_is_empty_and_a_formula_is_only_text(self) -> None:
        self.water.name = "=HYPERLINK(1)"
        self.water.save()
        other = conditions(self.water, at_local="2026-07-15T09:00", assumed=["surface_c", "secchi_m"])
        other["readings"] = [{"depth_m": 0.0, "water_c": 10.0}]
        self.put(f"/api/days/{uuid.uuid4()}", other)
        first, second = self.rows("days.csv")
        self.assertEqual((first["water"], first["secchi_m"]), ("'=HYPERLINK(1)", "3.5"))
        self.assertEqual((second["surface_c"], second["secchi_m"], second["bottom_depth_m"]), ("", "", "9.0"))
        self.assertEqual({row["day_id"] for row in self.rows("readings.csv")}, {str(self.day_id)})

    def test_places_and_days_for_maps_and_calendars(self) -> None:
        there = conditions(self.water, at_local="2026-07-15T09:00", place={"latitude_deg": 61.2, "longitude_deg": 9.4})
        self.put(f"/api/days/{uuid.uuid4()}", there)
        gpx = gpxpy.parse(self.client.get("/api/places.gpx").content.decode())
        self.assertEqual(len(gpx.waypoints), self.water.marks.count() + 1)
        calendar = Calendar.from_ical(self.client.get("/api/days.ics").content)
        self.assertEqual(len(calendar.walk("VEVENT")), 2)


class OtherLogTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.tarn = Water.objects.create(owner=self.angler, name="High tarn", latitude_deg=61.3, longitude_deg=9.5)
        self.body: dict[str, Any] = {
            "text": NOTEBOOK,
            "mapping": MAPPING,
            "units": UNITS,
            "waters": {"Nameless Tarn": self.tarn.pk},
        }

    def take(self, path: str = "takes", **changes: Any) -> Any:
        return self.post(f"/api/other-logs/{path}", {**self.body, **changes})

    def test_its_columns_are_guessed(self) -> None:
        found = self.post("/api/other-logs/looks", {"text": NOTEBOOK}).json()
        self.assertEqual({one["guess"]: i for i, one in enumerate(found["columns"])}, MAPPING)
        self.assertEqual((found["rows"], found["units"]["length"]), (4, ["cm", "in", "mm", "m"]))

    def test_it_is_looked_at_first_then_brought_and_twice_is_once(self) -> None:
        looked = self.take("previews").json()
        self.assertEqual((looked["days_new"], looked["fish_new"], looked["refused"], Day.objects.count()), (3, 4, 0, 0))
        self.assertEqual(self.take().json(), looked)
        self.assertEqual((Day.objects.count(), Catch.objects.count()), (3, 3))
        again = self.take().json()
        self.assertEqual((again["days_new"], again["days_here"], again["fish_new"], again["fish_here"]), (0, 3, 0, 4))
        # A season later the file is longer: only what is new comes in.
        longer = NOTEBOOK + "14/07/2023,Brennholt Reservoir,rainbow,16,1,olive nymph,64,\n"
        self.assertEqual(self.take(text=longer).json()["fish_new"], 1)
        self.assertEqual((Day.objects.count(), Catch.objects.count()), (3, 4))

    def test_what_was_read_is_kept_and_of_the_rest_that_nobody_read_it(self) -> None:
        self.take()
        day = Day.objects.get(at__date="2023-07-14")
        self.assertEqual(day.conditions["readings"], [{"depth_m": 0.0, "water_c": 17.7778, "trusted": False}])
        self.assertEqual(set(day.conditions["assumed"]) >= {"wind_speed_mps", "secchi_m", "bottom_depth_m"}, True)
        self.assertNotIn("surface_c", day.conditions["assumed"])
        self.assertEqual(Day.objects.get(at__date="2023-07-15").notes, "Nothing stirred.")

    def test_its_fish_count_in_the_day_and_never_in_a_rate(self) -> None:
        self.take()
        self.assertEqual(tally(self.angler), 0)
        listed = {day["conditions"]["at_local"][:10]: day for day in self.client.get("/api/days").json()["items"]}
        self.assertEqual((listed["2023-07-14"]["counts"]["brought"], listed["2023-07-14"]["longest_m"]), (2, 0.4064))
        self.assertEqual(self.client.get("/api/days", {"text": "olive nymph"}).json()["count"], 1)
        self.assertEqual(self.client.get("/api/rates?by=fly").json()["ways"], [])
        day_id = listed["2023-07-14"]["id"]
        fish = self.client.get(f"/api/days/{day_id}/catches").json()["items"]
        self.assertEqual([one["species"] for one in fish], ["rainbow", "rainbow"])
        self.assertEqual(self.client.delete(f"/api/days/{day_id}").status_code, 409)
        for one in fish:
            self.assertEqual(self.client.delete(f"/api/days/{day_id}/catches/{one['id']}").status_code, 204)
        self.assertEqual(self.client.delete(f"/api/days/{day_id}").status_code, 204)

    def test_it_joins_the_day_that_is_there_and_goes_along_in_the_archive(self) -> None:
        self.put(f"/api/days/{self.day_id}", conditions(self.water, at_local="2023-07-14T09:00"))
        self.take()
        self.assertEqual(Catch.objects.filter(day_id=self.day_id).count(), 2)
        self.assertEqual(unpacked(written(self.angler))["archive.json"]["counts"]["catches"], 3)

    def test_bad_rows_are_told_and_taken_only_without_them(self) -> None:
        text = (
            NOTEBOOK
            + "never,Brennholt Reservoir,rainbow,16,1,,,\n17/07/2023,Nowhere,rainbow,16,1,,,\n17/07/2023,,rainbow,16,1,,,\n"
        )
        looked = self.take("previews", text=text).json()
        self.assertEqual((looked["refused"], looked["unknown_waters"]), (3, ["Nowhere"]))
        self.assertEqual([fault["line"] for fault in looked["faults"]], [6, 7, 8])
        refusal = self.take(text=text)
        self.assertEqual((refusal.status_code, refusal.json()["code"], Day.objects.count()), (409, "rows_refused", 0))
        self.assertEqual(self.take(text=text, leave_out=True).json()["fish_new"], 4)

    def test_anothers_water_is_no_water_of_ones_own(self) -> None:
        answer = self.signed_in(self.other).post(
            "/api/other-logs/previews", {**self.body, "water_id": self.water.pk}, content_type=JSON
        )
        self.assertEqual((answer.json()["days_new"], answer.json()["refused"]), (0, 4))
