"""Input that was made to break it is answered as any other that is wrong: a problem with its code, and nothing stored."""

from __future__ import annotations

import json
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, OperationalError

from days import services
from days.models import Day
from project.tests.people import JSON, PeopleTestCase, conditions
from waters.models import Mark, Survey


def nested(depth: int, inner: Any = None) -> Any:
    for _ in range(depth):
        inner = [inner]
    return inner


class HostileTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.client.raise_request_exception = False

    def assert_problem(self, answer: Any, status: int) -> None:
        self.assertEqual(answer.status_code, status, answer.content[:300])
        told = json.loads(answer.content)
        self.assertEqual(set(told), {"code", "detail", "fields"})
        self.assertNotIn("Traceback", told["detail"])

    def test_a_text_that_no_store_can_hold_is_refused_at_every_door_and_one_that_only_looks_so_is_not(self) -> None:
        day = conditions(self.water)
        bodies: tuple[tuple[str, str, Any], ...] = (
            ("/api/flies", '{"name": "a\\u0000b", "hook_size": 12}', "name"),
            ("/api/flies", '{"name": "a\\ud800b", "hook_size": 12}', "name"),
            ("/api/other-logs/looks", '{"text": "date,lake\\n1,\\u0000"}', "text"),
            ("/api/session", '{"username": "a\\u0000", "password": "x"}', "username"),
            ("/api/flies", '{"a\\u0000": 1}', None),
        )
        for path, body, field in bodies:
            with self.subTest(path, body=body):
                answer = self.client.post(path, body, content_type=JSON)
                self.assert_problem(answer, 422)
                self.assertEqual(
                    (answer.json()["code"], list(answer.json()["fields"])), ("unstorable_text", [field] if field else [])
                )
        for path in ("/api/days?text=a%00b", "/api/days/%00"):
            self.assert_problem(self.client.get(path), 422)
        good = '{"name": "a\\\\u0000 pair \\ud83d\\udc1f", "hook_size": 12}'
        made = self.client.post("/api/flies", good, content_type=JSON)
        self.assertEqual((made.status_code, made.json()["name"]), (201, "a\\u0000 pair \U0001f41f"))
        self.assertEqual(self.post("/api/pictures", day).status_code, 200)

    def test_outlines_that_are_none(self) -> None:
        square = [[[9.4, 61.2], [9.41, 61.2], [9.41, 61.21], [9.4, 61.2]]]
        outlines: tuple[dict[str, Any], ...] = (
            {"type": ["Polygon"], "coordinates": square},
            {"coordinates": square},
            {"type": "Polygon"},
            {"l": []},
            {"type": {"a": 1}, "coordinates": square},
            {"type": "Polygon", "coordinates": [[[int("9" * 400), 61.2], [9.41, 61.2], [9.41, 61.21], [9.4, 61.2]]]},
            {"type": "Polygon", "coordinates": nested(800, 9.4)},
            {"type": "P" * 5000, "coordinates": square},
        )
        for geometry in outlines:
            with self.subTest(str(geometry)[:60]):
                answer = self.put(f"/api/waters/{self.water.pk}/outline", {"geometry": geometry})
                self.assert_problem(answer, 422)

    def test_chart_files_that_are_none(self) -> None:
        for content in (
            json.dumps({"type": ["Feature"], "geometry": None}),
            json.dumps(
                {"type": "Feature", "geometry": {"type": ["Point"], "coordinates": [9, 61]}, "properties": {"depth": 3}}
            ),
            json.dumps({"type": "MultiPoint", "coordinates": nested(800, 1.0)}),
            '{"type": "Point", "coordinates": [' + "9" * 400 + ", 61, 3]}",
            '{"type": "Point", "coordinates": ' + "[" * 5000 + "]" * 5000 + "}",
        ):
            with self.subTest(content[:60]):
                file = SimpleUploadedFile("lake.geojson", content.encode(), content_type="application/geo+json")
                answer = self.client.post(f"/api/waters/{self.water.pk}/chart-files", {"file": file})
                self.assert_problem(answer, 422)
        self.assertEqual((Survey.objects.count(), Mark.objects.filter(water=self.water).count()), (0, 0))

    def test_years_at_the_ends_of_time(self) -> None:
        for at in ("0001-01-01T00:00:00+14:00", "0001-01-01T00:00", "9999-12-31T23:59:00-12:00"):
            with self.subTest(at):
                self.assert_problem(self.post("/api/pictures", conditions(self.water, at_local=at)), 422)

    def test_a_body_over_the_limit_and_one_that_is_no_json(self) -> None:
        self.assert_problem(self.client.post("/api/pictures", b"[" + b"1," * 1_400_000 + b"1]", content_type=JSON), 413)
        self.assertIn(self.client.post("/api/pictures", b"{", content_type=JSON).status_code, {400, 422})

    def test_a_busy_store_says_when_to_try_again_and_a_full_disk_that_nothing_was_stored(self) -> None:
        for said, status in (("database is locked", 503), ("database or disk is full", 507)):
            with self.subTest(said), mock.patch.object(services, "read_water", side_effect=OperationalError(said)):
                answer = self.put(f"/api/days/{self.day_id}", conditions(self.water))
                self.assert_problem(answer, status)
                self.assertEqual(answer.get("Retry-After"), "2" if status == 503 else None)
        self.assertEqual(Day.objects.count(), 0)

    def test_a_fault_of_the_server_is_told_in_the_same_shape(self) -> None:
        with (
            mock.patch.object(services, "read_water", side_effect=ZeroDivisionError("inside")),
            self.assertLogs("django.request"),
        ):
            answer = self.put(f"/api/days/{self.day_id}", conditions(self.water))
        self.assert_problem(answer, 500)
        self.assertNotIn("inside", answer.content.decode())

    def test_a_full_disk_keeps_nobody_from_reading_and_another_fault_is_told(self) -> None:
        self.log_day()
        for said, status in (("database or disk is full", 200), ("database is locked", 503)):
            with mock.patch("days.tally._kept", side_effect=OperationalError(said)):
                answer = self.client.get(f"/api/days/{self.day_id}")
            self.assertEqual(answer.status_code, status, said)
            if status == 200:
                self.assertEqual(answer.json()["counts"]["take"], 1)

    def test_a_resend_that_came_between_the_look_and_the_writing_is_found(self) -> None:
        store = mock.Mock(side_effect=[IntegrityError, ("stored", False)])
        self.assertEqual(services.stored_once(store), ("stored", False))
        with self.assertRaises(IntegrityError):
            services.stored_once(mock.Mock(side_effect=IntegrityError))
