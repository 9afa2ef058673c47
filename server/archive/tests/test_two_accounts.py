"""What one person takes out holds nothing of another's, whatever the other has."""

from __future__ import annotations

import io
import re
import zipfile
from typing import Any

from django.test import Client, TestCase

from accounts.models import User
from accounts.services import sign_up
from archive.tests.accounts import fill
from box.models import Fly, Line
from days.models import Day
from project.api import api
from project.tests.people import PASSWORD
from waters.models import Water

OTHERS = "BELONGS-TO-ANOTHER"
BY_THE_CLOCK = re.compile(r'"written_at":\s*"[^"]*"|DTSTAMP:[^\r\n]*')


def text_of(answer: Any) -> str:
    """Return all that an answer says, a zip file by file."""
    data = b"".join(answer.streaming_content) if answer.streaming else answer.content
    if data[:2] == b"PK":
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            data = b"\n".join(name.encode() + packed.read(name) for name in sorted(packed.namelist()))
    return BY_THE_CLOCK.sub("", data.decode("utf-8", "replace"))


class TwoAccountTests(TestCase):
    def setUp(self) -> None:
        self.owner = sign_up(username="owner", password=PASSWORD)
        fill(self.owner, 11, least_days=3)
        self.client = Client()
        self.client.force_login(self.owner)

    def another(self) -> User:
        """Return another person with an account as full, every word of which says whose it is."""
        other = sign_up(username="other", password=PASSWORD)
        fill(other, 12, least_days=3)
        for kind in (Water, Line, Fly):
            for row in kind.objects.filter(owner=other):
                row.name = f"{OTHERS} {row.pk}"
                row.save()
        Day.objects.filter(owner=other).update(notes=OTHERS)
        return other

    def everything(self) -> dict[str, str]:
        """Return what every route answers that is asked with no more than a sign-in or an own water or day."""
        water, day = Water.objects.filter(owner=self.owner)[0], Day.objects.filter(owner=self.owner)[0]
        own = {"{water_id}": str(water.pk), "{day_id}": str(day.pk)}
        found = {}
        for path, operations in api.get_openapi_schema(path_prefix="/api/")["paths"].items():
            asked = path
            for name, value in own.items():
                asked = asked.replace(name, value)
            if "get" in operations and "{" not in asked:
                found[path] = text_of(self.client.get(asked))
        return found

    def test_no_route_out_says_anything_of_another_or_changes_with_what_he_has(self) -> None:
        self.everything()  # what is worked out once is worked out
        before = self.everything()
        self.assertGreater(len(before), 25)
        exports = {
            "/api/archive.zip",
            "/api/days.csv",
            "/api/casts.csv",
            "/api/catches.csv",
            "/api/readings.csv",
            "/api/days.ics",
        }
        self.assertEqual(exports - set(before), set())
        self.another()
        after = self.everything()
        for path, text in after.items():
            with self.subTest(path):
                self.assertNotIn(OTHERS, text)
                if "health" not in path and "metrics" not in path:
                    self.assertEqual(text, before[path])
