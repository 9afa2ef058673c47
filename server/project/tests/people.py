"""People, waters and payloads that server tests use."""

from __future__ import annotations

import base64
import io
import uuid
from datetime import datetime, timedelta, timezone
from typing import Any

from django.test import Client, TestCase
from PIL import Image

from accounts.models import User
from accounts.services import sign_up
from box.models import Owned
from demo.lakes import BRENNHOLT_LAKE
from demo.season import BRENNHOLT, chart_lake
from waters.models import Water
from waters.services import save_water

PASSWORD = "cold-hands-warm-heart-7"
SUMMER = (18.6, 18.5, 18.4, 18.0, 16.8, 14.6, 12.5, 11.2, 10.2)
THEN = datetime(2026, 7, 14, 8, 40, tzinfo=timezone.utc)
JSON = "application/json"


def conditions(water: Water, **changes: Any) -> dict[str, Any]:
    """Return a bright July morning at this water, as a script would post it."""
    usual: dict[str, Any] = {
        "water_id": water.pk,
        "at_local": "2026-07-14T10:40",
        "readings": [{"depth_m": float(d), "water_c": t} for d, t in enumerate(SUMMER)],
        "wind_speed_mps": 4.0,
        "wind_from_deg": 225.0,
        "cloud_fraction": 0.2,
        "secchi_m": 3.5,
        "bottom_depth_m": 9.0,
    }
    return {**usual, **changes}


LEADER = {
    "name": "12 ft",
    "sections": [
        {"length_m": 1.2, "diameter_m": 0.00045, "material": "nylon"},
        {"length_m": 2.5, "diameter_m": 0.0002, "material": "fluorocarbon"},
    ],
}
FLY = {"name": "Slim olive nymph", "hook_size": 14, "wire": "fine"}
LINE = {"name": "Type 3 sinker", "class_key": "type-3", "number": 6, "sink_rate_mps": 0.0762}


CAST = {"kind": "cast", "cast_m": 18.0, "count_s": 20.0, "retrieve_key": "strip-pause"}


def presentation(action: dict[str, Any] | None = None, **changes: Any) -> dict[str, Any]:
    """Return a rig and what is done with it: another `action`, or the usual cast with a part of it changed."""
    done = action if action and "kind" in action else {**CAST, **(action or {})}
    return {"rig": {"line": LINE, "leader": LEADER, "flies": [{"fly": FLY}]}, "action": done, **changes}


class PeopleTestCase(TestCase):
    """One angler with a water, a box and a day in the log; another who owns nothing of it; and a visitor."""

    angler: User
    other: User
    water: Water

    @classmethod
    def setUpTestData(cls) -> None:
        cls.angler = sign_up(username="angler", password=PASSWORD)
        cls.other = sign_up(username="other", password=PASSWORD)
        cls.water = save_water(water=Water(owner=cls.angler), changes=dict(BRENNHOLT))

    def setUp(self) -> None:
        self.client.force_login(self.angler)
        self.day_id, self.presentation_id, self.entry_id = uuid.uuid4(), uuid.uuid4(), uuid.uuid4()

    def signed_in(self, user: User) -> Client:
        client = Client()
        client.force_login(user)
        return client

    def put(self, path: str, body: dict[str, Any]) -> Any:
        return self.client.put(path, body, content_type=JSON)

    def post(self, path: str, body: dict[str, Any]) -> Any:
        return self.client.post(path, body, content_type=JSON)

    def log_day(self) -> None:
        """Store a day, a presentation and an entry under this test's ids."""
        day = f"/api/days/{self.day_id}"
        self.assertEqual(self.put(day, conditions(self.water)).status_code, 201)
        started = presentation(started_at=THEN.isoformat())
        self.assertEqual(self.put(f"{day}/presentations/{self.presentation_id}", started).status_code, 201)
        self.assertEqual(self.put(f"{day}/entries/{self.entry_id}", self.entry()).status_code, 201)

    def chart_water(self) -> None:
        """Give the angler's water an outline, soundings and marks."""
        chart_lake(self.water, BRENNHOLT_LAKE)

    def entry(self, **changes: Any) -> dict[str, Any]:
        at = (THEN + timedelta(minutes=3)).isoformat()
        return {"presentation_id": str(self.presentation_id), "kind": "take", "at": at, "cast_elapsed_s": 30.0, **changes}

    def first(self, kind: type[Owned]) -> int:
        return int(kind._default_manager.filter(owner=self.angler).order_by("pk").values_list("pk", flat=True)[0])


def said(answer: Any) -> bytes:
    """Return what an answer says, read to its end where it is sent bit by bit."""
    return b"".join(answer.streaming_content) if answer.streaming else bytes(answer.content)


def picture(width: int = 40, height: int = 30, kind: str = "JPEG", exif: bytes = b"") -> str:
    """Return a small picture in base64."""
    out = io.BytesIO()
    Image.new("RGB", (width, height), (90, 120, 60)).save(out, kind, **({"exif": exif} if exif else {}))
    return base64.b64encode(out.getvalue()).decode()
