"""The log keeps what happened, once, with where the fly was; and takes nothing that did not."""

from __future__ import annotations

import uuid
from datetime import timedelta

from django.db import IntegrityError, transaction
from django.utils import timezone

from days.models import Day, Entry, Presentation
from project.tests.people import THEN, PeopleTestCase, conditions, presentation


class LogTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.log_day()
        self.day = f"/api/days/{self.day_id}"

    def put_entry(self, **changes: object) -> tuple[int, dict[str, object]]:
        answer = self.put(f"{self.day}/entries/{uuid.uuid4()}", self.entry(**changes))
        return answer.status_code, answer.json()

    def test_a_resend_stores_once_and_changes_nothing(self) -> None:
        for path, body in (
            (self.day, conditions(self.water, wind_speed_ms=9)),
            (f"{self.day}/presentations/{self.presentation_id}", presentation(started_at=THEN.isoformat(), count_s=5)),
            (f"{self.day}/entries/{self.entry_id}", self.entry(kind="lost")),
        ):
            self.assertEqual(self.put(path, body).status_code, 200)
        self.assertEqual((Day.objects.count(), Presentation.objects.count(), Entry.objects.count()), (1, 1, 1))
        self.assertEqual(self.client.get(self.day).json()["wind_speed_ms"], 4.0)
        self.assertEqual(Entry.objects.get().kind, "take")

    def test_an_entry_keeps_the_depth_the_fly_had_at_that_moment(self) -> None:
        stored = Presentation.objects.get()
        _, during = self.put_entry(cast_elapsed_s=stored.path_s[60])
        middle = (float(str(during["depth_low_m"])) + float(str(during["depth_high_m"]))) / 2
        self.assertAlmostEqual(middle, stored.path_depth_m[60], delta=0.03)
        _, whole = self.put_entry(cast_elapsed_s=None)
        self.assertAlmostEqual(float(str(whole["depth_low_m"])), stored.low_m, delta=0.01)
        self.assertAlmostEqual(float(str(whole["depth_high_m"])), stored.high_m, delta=0.01)

    def test_undo_takes_an_entry_from_every_list_and_twice_is_once(self) -> None:
        entry = f"{self.day}/entries/{self.entry_id}"
        self.assertEqual([self.client.delete(entry).status_code for _ in range(2)], [204, 204])
        self.assertEqual(self.client.get(f"{self.day}/entries").json(), {"items": [], "count": 0})
        self.assertEqual(self.client.get(self.day).json()["counts"]["take"], 0)
        self.assertIsNotNone(Entry.objects.get().undone_at)

    def test_a_day_totals_what_came_of_it(self) -> None:
        self.put_entry(kind="cast")
        self.put_entry(kind="landed", length_m=0.41, species="rainbow")
        day = self.client.get(self.day).json()
        self.assertEqual((day["counts"]["cast"], day["counts"]["take"], day["counts"]["landed"]), (1, 1, 1))
        self.assertEqual((day["longest_m"], len(day["take_depths"]), day["at_local"]), (0.41, 2, "2026-07-14T10:40"))

    def test_what_lies_ahead_and_what_cannot_be_is_refused_and_not_stored(self) -> None:
        later = (timezone.now() + timedelta(hours=1)).isoformat()
        ahead = (timezone.now() + timedelta(days=2)).strftime("%Y-%m-%dT%H:%M")
        self.assertEqual(self.put_entry(at=later)[0], 422)
        self.assertEqual(self.put_entry(kind="sighting")[0], 422)
        self.assertEqual(self.put_entry(at="2026-07-14T10:40")[1]["fields"], {"at": "Input should have timezone info"})
        self.assertEqual(self.put_entry(species="pike", kind="landed")[0], 422)
        status, problem = self.put_entry(kind="lost", length_m=0.4)
        self.assertEqual((status, problem["fields"]), (422, {"length_m": "Only a landed fish has a length."}))
        self.assertEqual(self.put_entry(kind="landed", length_m=3.0)[0], 422)
        self.assertEqual(self.put(f"/api/days/{uuid.uuid4()}", conditions(self.water, at_local=ahead)).status_code, 422)
        started = presentation(started_at=later)
        self.assertEqual(self.put(f"{self.day}/presentations/{uuid.uuid4()}", started).status_code, 422)
        self.assertEqual((Day.objects.count(), Presentation.objects.count(), Entry.objects.count()), (1, 1, 1))

    def test_an_entry_belongs_to_a_presentation_of_that_day(self) -> None:
        self.assertEqual(self.put_entry(presentation_id=str(uuid.uuid4()))[0], 404)

    def test_a_water_with_days_cannot_be_lost(self) -> None:
        with self.assertRaises(IntegrityError), transaction.atomic():
            self.water.delete()
        self.assertEqual(Day.objects.count(), 1)

    def test_the_store_itself_refuses_an_impossible_entry(self) -> None:
        stored = Presentation.objects.get()
        for wrong in ({"kind": "sighting"}, {"length_m": 3.0}, {"depth_low_m": 5.0, "depth_high_m": 1.0}):
            fields = {"kind": "landed", "depth_low_m": 1.0, "depth_high_m": 2.0, "at": THEN, **wrong}
            with self.subTest(**wrong), self.assertRaises(IntegrityError), transaction.atomic():
                Entry.objects.create(presentation=stored, **fields)
