"""What one request may cost: about a second of processor with the largest body it takes, or a place among the long work."""

from __future__ import annotations

import base64
import io
import json
import math
import random
import time
from collections.abc import Callable
from typing import Any
from unittest import mock

from common.job_limiter import JobLimiter
from common.problems import Refused
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import Client, override_settings
from PIL import Image

from project.tests.people import JSON, conditions, presentation, said
from project.tests.test_endpoints import TABLE, AskedTestCase, Row

MOST_S = 1.0
SHARED = 3.0
"""So many times as long the processor may take where others work on the same machine: what is over a second when it is quiet is
in the benchmarks; what is caught here is what takes many."""


def _photo() -> str:
    out = io.BytesIO()
    noise = random.Random(1).randbytes(700 * 660 * 3)
    Image.frombytes("RGB", (700, 660), noise).save(out, "JPEG", quality=95)
    return base64.b64encode(out.getvalue()).decode()


def _table(head: str, row: str, rows: int = 250) -> bytes:
    return (head + "".join(row.format(i=i) for i in range(rows))).encode()


@override_settings(INSTRUMENTS=["127.0.0.1:10110"])
class CostTests(AskedTestCase):
    """The same requests as the table of endpoints makes, each as large as it may be."""

    def setUp(self) -> None:
        super().setUp()
        readings = [{"depth_m": i / 250.0, "water_c": 18.0 - (i * 7 % 11)} for i in range(2000)]
        earlier = [{"at_local": f"2026-07-{day:02d}T10:40", "readings": readings} for day in range(2, 14)]
        oxygen = [{"depth_m": i / 25.0, "oxygen_mgl": 9.0 - i / 40.0} for i in range(200)]
        self.read = conditions(self.water, readings=readings, earlier=earlier, oxygen=oxygen)
        one_day = conditions(self.water, readings=readings, oxygen=oxygen)
        sections = [{"length_m": 0.6, "diameter_m": 0.0002, "material": "nylon"}] * 12
        self.fished = presentation()
        self.fished["rig"] = {**self.fished["rig"], "leader": {"name": "Long", "sections": sections}}
        ring = [[900.0 * turn(2.0 * math.pi * i / 2000) for turn in (math.cos, math.sin)] for i in range(2000)]
        csv = "date,fish,water\n" + "".join(f"2023-07-{1 + i % 28:02d},trout,Water {i % 40}\n" for i in range(19_000))
        wide = ",".join(f"c{i}" for i in range(500)) + "\n" + (",".join("1" * 500) + "\n") * 1900
        self.large: dict[str, Any] = {
            "conditions": one_day,
            "strip": {"conditions": self.read},
            "weighing": {"choices": {"conditions": self.read}, "method_key": "sinker", "fished": self.fished},
            "simulation": {"conditions": self.read, "fished": self.fished},
            "run": {"bottom": [{"distance_m": i / 4.0, "depth_m": 9.0 + i % 3} for i in range(200)], "fished": self.fished},
            "shot": self.fished,
            "practice cast": {"kind": "cast", **self.fished},
            "started": {**self.fished, "started_at": self.read["at_local"] + ":00Z", "conditions": one_day},
            "outline": {"ring_m": ring},
            "photo": {"image": _photo()},
            "other log": {"text": wide},
            "bring": {"text": csv, "mapping": {"date": 0, "species": 1}, "water_id": self.water.pk},
            "notes": {"notes": "They came up. " * 140},
        }
        self.files = {
            "file": _table("depth_m,water_c\n", "{i:04d}e-2,15\n", 2000),
            "flies": _table("name,hook_size\n", "Mine {i},12\n"),
            "lines": _table("name,class_key\n", "Mine {i},type-3\n"),
            "leaders": _table("leader,length_m,diameter_mm\n", "Mine {i},3.0,0.2\n"),
            "part": b"P" * 900,
            "weather": _table("time,air_c\n", "2026-07-14T10:{i},14.2\n", 100),
            "log": b"$SDDPT,4.2,0.3,*7E\r\n" * 400_000,
            "chart file": _table("lon,lat,depth_m\n", "9.4{i},61.2{i},8\n", 40_000),
        }
        self.bare = {"/pictures", "/worths", "/starts", "/alike"}

    def ask(self, client: Client, row: Row) -> Any:
        path = "/api" + row.path.format(**self.ids())
        if row.body in self.files:
            return client.post(path, {"file": SimpleUploadedFile("file.csv", self.files[row.body])})
        body = self.read if row.path in self.bare else self.large.get(row.body or "", self.body(row.body))
        assert len(json.dumps(body)) < 2_500_000, row.path
        return getattr(client, row.method)(path, body, content_type=JSON)

    def test_each_operation_costs_a_second_at_most_or_takes_a_place(self) -> None:
        def take_a_place(_: JobLimiter, work: Callable[[], Any]) -> Any:
            raise Refused(503, "busy", "It has taken a place.")

        dear: dict[str, float] = {}
        with mock.patch.object(JobLimiter, "_worked", take_a_place):
            for row in TABLE:
                if row.owner >= 400 or row.path == "/session":
                    continue
                seconds = self.cost_s(row)
                if seconds > MOST_S:  # the first may compile
                    dear[f"{row.method} {row.path}"] = min(self.cost_s(row) for _ in range(2))
        self.assertEqual({key: s for key, s in dear.items() if s > SHARED * MOST_S}, {})

    def cost_s(self, row: Row) -> float:
        """Ask as the owner, and return the processor's seconds; none where it waits among the long work."""
        mark = transaction.savepoint()
        client = self.signed_in(self.angler)
        began = time.process_time()
        answer = self.ask(client, row)
        b"".join(answer.streaming_content) if answer.streaming else answer.content
        spent_s = time.process_time() - began
        transaction.savepoint_rollback(mark)
        if answer.status_code == 503:
            return 0.0
        self.assertEqual(answer.status_code, row.owner, (row.path, said(answer)[:300]))
        return spent_s
