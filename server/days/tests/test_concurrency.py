"""Two phones, two taps, one log: whatever arrives at once is stored once, and nothing is lost."""

from __future__ import annotations

import threading
import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

from django.db import connections
from django.test import Client, TransactionTestCase

from accounts.services import sign_up
from days.models import Day, Entry, Presentation
from demo.season import BRENNHOLT
from project.tests.people import JSON, PASSWORD, THEN, conditions, presentation
from waters.models import Water
from waters.services import save_water


class AtOnceTests(TransactionTestCase):
    def setUp(self) -> None:
        self.angler = sign_up(username="angler", password=PASSWORD)
        self.water = save_water(water=Water(owner=self.angler), changes=dict(BRENNHOLT))
        self.day, self.started = f"/api/days/{uuid.uuid4()}", uuid.uuid4()

    def at_once(self, requests: list[tuple[str, dict[str, object]]]) -> list[int]:
        """Send all requests from threads that start together; return their statuses."""
        gate = threading.Barrier(len(requests))

        def send(request: tuple[str, dict[str, object]]) -> int:
            client = Client()
            client.force_login(self.angler)
            gate.wait(10)
            try:
                return client.put(request[0], request[1], content_type=JSON).status_code
            finally:
                connections.close_all()

        with ThreadPoolExecutor(len(requests)) as pool:
            return list(pool.map(send, requests))

    def entry(self, minutes: int = 1) -> dict[str, object]:
        at = (THEN + timedelta(minutes=minutes)).isoformat()
        return {"presentation_id": str(self.started), "kind": "take", "at": at, "cast_elapsed_s": 20.0}

    def test_the_same_day_sent_four_times_at_once_is_one_day(self) -> None:
        statuses = self.at_once([(self.day, conditions(self.water))] * 4)
        self.assertEqual(sorted(statuses), [200, 200, 200, 201])
        self.assertEqual(Day.objects.count(), 1)

    def test_the_same_entry_twice_is_one_and_different_entries_are_all_kept(self) -> None:
        self.at_once([(self.day, conditions(self.water))])
        began = presentation(started_at=THEN.isoformat())
        self.assertEqual(sorted(self.at_once([(f"{self.day}/presentations/{self.started}", began)] * 2)), [200, 201])
        self.assertEqual(Presentation.objects.count(), 1)
        same = f"{self.day}/entries/{uuid.uuid4()}"
        different = [(f"{self.day}/entries/{uuid.uuid4()}", self.entry(k)) for k in range(6)]
        statuses = self.at_once([(same, self.entry()), (same, self.entry()), *different])
        self.assertEqual(sorted(statuses), [200] + [201] * 7)
        self.assertEqual(Entry.objects.count(), 7)
