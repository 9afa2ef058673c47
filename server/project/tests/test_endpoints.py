"""Every endpoint, asked by a visitor, by its owner and by someone else: one table, and nothing left out of it."""

from __future__ import annotations

import re
import uuid
from dataclasses import dataclass
from typing import Any

from archive.models import Restore
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, override_settings
from lookback.models import Trial
from ninja import Schema
from practice.models import Drill, PracticeDay

from accounts.models import User
from accounts.resets import link_for
from accounts.tokens import make as make_token
from box.models import Float, Fly, Leader, Line, Rod, Spool
from days.models import Day
from demo.lakes import BRENNHOLT_LAKE
from instruments.models import Instrument
from project.api import api
from project.tests.people import (
    FLY,
    JSON,
    LEADER,
    LINE,
    PASSWORD,
    THEN,
    PeopleTestCase,
    conditions,
    picture,
    presentation,
    said,
)

WATER_BODY = {"name": "Second water", "latitude_deg": 61.21, "longitude_deg": 9.41}
FILES = {
    "file": b"depth_m,water_c\n0,15\n4,12\n",
    "flies": b"name,hook_size\nMine,12\n",
    "lines": b"name,class_key\nMine,type-3\n",
    "leaders": b"leader,length_m,diameter_mm\nMine,3.0,0.2\n",
    "part": b"PK",
    "log": b"$SDDPT,4.2,0.3,*7E\r\n",
    "weather": b"time,air_c,wind_mps\n2026-07-14T10:00,14.2,3.5\n2026-07-14T11:00,15.0,4.5\n",
    "chart file": b"lon,lat,depth_m\n9.4,61.2,8\n9.401,61.2,9\n9.4,61.201,7\n",
}
SMALL_TABLE = {
    "grid": {"centres_m": [1.0, 2.0], "reaches_m": [0.5, 0.9, 1.6], "stated": [0.5, 0.5], "wanted": [1.0]},
    "classes": ["any"],
    "options": [
        {"key": "a", "method": "indicator", "line": "floating", "flies": [{"name": "a", "fly_class": 1}], "minutes": 3.0,
         "time_s": [0.0, 120.0], "depth_m": [[2.0, 2.0]]},
    ],
}  # fmt: skip
TRIAL = {"at": "2026-05-01T10:00:00Z", "depth_m": 4.0, "elapsed_s": 52.0, "water_c": 12.0, "known_by": "sounder"}
SOMEONE = {"username": "newcomer", "password": PASSWORD}


@dataclass(frozen=True)
class Row:
    """What a request answers to each role; `body` names a payload, `path` may hold ids in braces."""

    method: str
    path: str
    visitor: int
    owner: int
    other: int
    body: str | None = None


TABLE = (
    Row("get", "/health", 200, 200, 200),
    Row("get", "/live", 200, 200, 200),
    Row("get", "/session", 200, 200, 200),
    Row("post", "/session", 200, 200, 200, "credentials"),
    Row("delete", "/session", 401, 204, 204),
    Row("post", "/demo-sessions", 404, 404, 404, "nothing"),
    Row("post", "/people", 201, 201, 201, "newcomer"),
    Row("patch", "/preferences", 401, 200, 200, "preferences"),
    Row("get", "/account", 401, 200, 200),
    Row("patch", "/account", 401, 200, 200, "email"),
    Row("put", "/account/password", 401, 204, 204, "new password"),
    Row("post", "/account/removal", 401, 204, 204, "password"),
    Row("get", "/sign-ins", 401, 200, 200),
    Row("delete", "/sign-ins/{sign_in}", 401, 204, 404),
    Row("delete", "/sign-ins", 401, 204, 204),
    Row("get", "/tokens", 401, 200, 200),
    Row("post", "/tokens", 401, 201, 201, "token"),
    Row("delete", "/tokens/{token}", 401, 204, 404),
    Row("post", "/password-resets", 202, 202, 202, "name"),
    Row("post", "/password-resets/{uid}/{reset}", 204, 204, 204, "password"),
    Row("get", "/place?text=61.2,8.5", 401, 200, 200),
    Row("get", "/waters", 401, 200, 200),
    Row("post", "/waters", 401, 201, 201, "water"),
    Row("get", "/waters/{water}", 401, 200, 404),
    Row("put", "/waters/{water}", 401, 200, 404, "water"),
    Row("get", "/waters/{water}/chart", 401, 200, 404),
    Row("put", "/waters/{water}/outline", 401, 200, 404, "outline"),
    Row("post", "/waters/{water}/chart-files", 401, 200, 404, "chart file"),
    Row("get", "/waters/{water}/chart.geojson", 401, 200, 404),
    Row("get", "/waters/{water}/marks.gpx", 401, 200, 404),
    Row("get", "/waters/{water}/surveys", 401, 200, 404),
    Row("delete", "/waters/{water}/surveys/{survey}", 401, 204, 404),
    Row("get", "/waters/{water}/marks", 401, 200, 404),
    Row("post", "/waters/{water}/marks", 401, 201, 404, "mark"),
    Row("put", "/waters/{water}/marks/{mark}", 401, 200, 404, "mark"),
    Row("delete", "/waters/{water}/marks/{mark}", 401, 204, 404),
    Row("post", "/waters/{water}/shores", 401, 200, 404, "wind"),
    Row("post", "/waters/{water}/standings", 401, 200, 404, "standing"),
    Row("post", "/waters/{water}/sections", 401, 200, 404, "section"),
    Row("get", "/instruments", 401, 200, 200),
    Row("post", "/instruments", 401, 201, 201, "instrument"),
    Row("put", "/instruments/{instrument}", 401, 200, 404, "instrument"),
    Row("delete", "/instruments/{instrument}", 401, 204, 404),
    Row("get", "/instruments/{instrument}/measurements", 401, 200, 404),
    Row("post", "/instruments/{instrument}/surveys", 401, 201, 404, "survey of"),
    Row("post", "/nmea-logs", 401, 200, 200, "log"),
    Row("get", "/waters/{water}/forecast", 401, 200, 404),
    Row("post", "/waters/{water}/lake", 401, 200, 404),
    Row("get", "/waters/{water}/lake-year", 401, 200, 404),
    Row("post", "/waters/{water}/weather-files", 401, 200, 404, "weather"),
    Row("get", "/lines", 401, 200, 200),
    Row("post", "/lines", 401, 201, 201, "line"),
    Row("put", "/lines/{line}", 401, 200, 404, "line"),
    Row("delete", "/lines/{line}", 401, 204, 404),
    Row("get", "/leaders", 401, 200, 200),
    Row("post", "/leaders", 401, 201, 201, "leader"),
    Row("delete", "/leaders/{leader}", 401, 204, 404),
    Row("get", "/rods", 401, 200, 200),
    Row("post", "/rods", 401, 201, 201, "rod"),
    Row("delete", "/rods/{rod}", 401, 204, 404),
    Row("get", "/floats", 401, 200, 200),
    Row("post", "/floats", 401, 201, 201, "float"),
    Row("delete", "/floats/{float}", 401, 204, 404),
    Row("get", "/spools", 401, 200, 200),
    Row("post", "/spools", 401, 201, 201, "spool"),
    Row("delete", "/spools/{spool}", 401, 204, 404),
    Row("get", "/flies", 401, 200, 200),
    Row("post", "/flies", 401, 201, 201, "fly"),
    Row("delete", "/flies/{fly}", 401, 204, 404),
    Row("put", "/flies/{fly}", 401, 200, 404, "fly"),
    Row("get", "/flies.csv", 401, 200, 200),
    Row("post", "/fly-files", 401, 200, 200, "flies"),
    Row("get", "/lines.csv", 401, 200, 200),
    Row("post", "/line-files", 401, 200, 200, "lines"),
    Row("get", "/leaders.csv", 401, 200, 200),
    Row("post", "/leader-files", 401, 200, 200, "leaders"),
    Row("get", "/days/{day}/catches", 401, 200, 404),
    Row("delete", "/days/{day}/catches/{catch}", 401, 204, 404),
    Row("get", "/days.csv", 401, 200, 200),
    Row("get", "/casts.csv", 401, 200, 200),
    Row("get", "/catches.csv", 401, 200, 200),
    Row("get", "/readings.csv", 401, 200, 200),
    Row("get", "/places.gpx", 401, 200, 200),
    Row("get", "/days.ics", 401, 200, 200),
    Row("post", "/other-logs/looks", 401, 200, 200, "other log"),
    Row("post", "/other-logs/previews", 401, 200, 200, "bring"),
    Row("post", "/other-logs/takes", 401, 200, 409, "bring"),
    Row("get", "/archive.zip", 401, 200, 200),
    Row("get", "/archive.schema.json", 200, 200, 200),
    Row("post", "/restores", 401, 201, 201, "size"),
    Row("get", "/restores/{restore}", 401, 200, 404),
    Row("post", "/restores/{restore}/parts?offset=0", 401, 200, 404, "part"),
    Row("post", "/restores/{restore}/looks", 401, 409, 404, "nothing"),
    Row("post", "/restores/{restore}/takes", 401, 409, 404, "nothing"),
    Row("delete", "/restores/{restore}", 401, 204, 404),
    Row("get", "/days", 401, 200, 200),
    Row("get", "/days/{day}", 401, 200, 404),
    Row("put", "/days/{new}", 401, 201, 404, "conditions"),
    Row("put", "/days/{day}", 401, 200, 409, "conditions"),
    Row("get", "/days/{day}/presentations", 401, 200, 404),
    Row("put", "/days/{day}/presentations/{new}", 401, 201, 404, "started"),
    Row("get", "/days/{day}/entries", 401, 200, 404),
    Row("put", "/days/{day}/entries/{new}", 401, 201, 404, "entry"),
    Row("put", "/days/{day}/entries/{entry}", 401, 200, 409, "entry"),
    Row("delete", "/days/{day}/entries/{entry}", 401, 204, 404),
    Row("get", "/days/{day}/entries/{landed}/photo", 401, 200, 404),
    Row("put", "/days/{day}/entries/{landed}/photo", 401, 200, 404, "photo"),
    Row("delete", "/days/{day}/entries/{landed}/photo", 401, 204, 404),
    Row("patch", "/days/{day}", 401, 200, 404, "notes"),
    Row("delete", "/days/{day}", 401, 409, 404),
    Row("get", "/days/{day}/changes", 401, 200, 404),
    Row("patch", "/days/{day}/entries/{landed}", 401, 200, 404, "longer"),
    Row("get", "/in-short", 401, 200, 200),
    Row("get", "/rates?by=depth", 401, 200, 200),
    Row("post", "/alike", 401, 200, 404, "conditions"),
    Row("get", "/audit", 401, 200, 200),
    Row("put", "/waters/{water}/correction", 401, 409, 404),
    Row("delete", "/waters/{water}/correction", 401, 204, 404),
    Row("get", "/waters/{water}/year", 401, 200, 404),
    Row("get", "/lines/{line}/trials", 401, 200, 404),
    Row("put", "/lines/{line}/trials/{new}", 401, 201, 404, "trial"),
    Row("delete", "/lines/{line}/trials/{trial}", 401, 204, 404),
    Row("get", "/lines/{line}/rate", 401, 200, 404),
    Row("put", "/lines/{line}/rate", 401, 409, 404),
    Row("delete", "/lines/{line}/rate", 401, 204, 404),
    Row("get", "/trade", 401, 200, 200),
    Row("post", "/pictures", 401, 200, 404, "conditions"),
    Row("post", "/worths", 401, 200, 404, "conditions"),
    Row("post", "/day-strips", 401, 200, 404, "strip"),
    Row("post", "/starts", 401, 200, 404, "conditions"),
    Row("post", "/choices", 401, 200, 404, "strip"),
    Row("post", "/weighings", 401, 200, 404, "weighing"),
    Row("post", "/searches", 401, 200, 404, "strip"),
    Row("post", "/days/{day}/moves", 401, 200, 404, "moves"),
    Row("post", "/days/{day}/own-changes", 401, 200, 404, "moves"),
    Row("post", "/leader-builds", 401, 200, 200, "build"),
    Row("post", "/calendars", 401, 200, 404, "strip"),
    Row("post", "/simulations", 401, 200, 404, "simulation"),
    Row("post", "/runs", 401, 200, 200, "run"),
    Row("post", "/profile-files", 401, 200, 200, "file"),
    Row("get", "/practice-days", 401, 200, 200),
    Row("put", "/practice-days/{new}", 401, 201, 201, "level"),
    Row("put", "/practice-days/{practice}", 401, 200, 409, "level"),
    Row("get", "/practice-days/{practice}", 401, 200, 404),
    Row("delete", "/practice-days/{practice}", 401, 204, 404),
    Row("put", "/practice-days/{practice}/acts/{first}", 401, 200, 404, "practice cast"),
    Row("post", "/practice-days/{practice}/pack", 401, 200, 404),
    Row("post", "/practice-days/{practice}/shots", 401, 409, 404, "shot"),
    Row("get", "/practice-days/{practice}/plan", 401, 200, 404),
    Row("get", "/practice-days/{practice}/advice", 401, 200, 404),
    Row("get", "/practice-days/{practice}/schools/{school}", 401, 409, 404),
    Row("get", "/drills", 401, 200, 200),
    Row("post", "/drills", 401, 201, 201, "drill"),
    Row("post", "/drills/{drill}/answer", 401, 200, 404, "answer"),
)
LISTS = tuple(row.path for row in TABLE if row.method == "get" and re.search(r"(?<!\.ic)s$", row.path))


class AskedTestCase(PeopleTestCase):
    """One of everything that a request can name, and a body for each request."""

    def setUp(self) -> None:
        super().setUp()
        self.log_day()
        self.chart_water()
        self.landed_id = uuid.uuid4()
        landed = f"/api/days/{self.day_id}/entries/{self.landed_id}"
        self.assertEqual(self.put(landed, self.entry(kind="landed")).status_code, 201)
        self.assertEqual(self.put(f"{landed}/photo", {"image": picture()}).status_code, 201)
        self.sinker = Line.objects.filter(owner=self.angler, sink_rate_mps__gt=0)[0]
        self.trial = Trial.objects.create(line=self.sinker, **TRIAL)
        self.token, _ = make_token(owner=self.angler, name="Mine", scope="read", days=1)
        self.caught = Day.objects.get(pk=self.day_id).catches.create(at=THEN)
        self.practice = PracticeDay.objects.create(owner=self.angler, seed="BCDFGH", level="easy")
        self.drill = Drill.objects.create(owner=self.angler, kind="float", seed="BCDFGH")
        self.restore = Restore.objects.create(owner=self.angler, size=1000)
        self.sounder = Instrument.objects.create(owner=self.angler, name="Sounder", port=9)
        for i in range(4):
            self.sounder.measurements.create(at=THEN, kind="position", a=61.2 + i / 2000.0, b=9.4 + i * i / 5000.0)
            self.sounder.measurements.create(at=THEN, kind="depth", a=8.0 + i)

    def body(self, name: str | None) -> dict[str, Any]:
        read = conditions(self.water)
        bodies: dict[str, Any] = {
            "nothing": {},
            "level": {"level": "easy", "seed": "BCDFGH"},
            "practice cast": {"kind": "cast", **presentation()},
            "shot": presentation(),
            "drill": {"kind": "float"},
            "answer": {"answer": 2.5},
            "notes": {"notes": "They came up at dusk."},
            "longer": {"length_m": 0.44},
            "trial": TRIAL,
            "credentials": {"username": "angler", "password": PASSWORD},
            "newcomer": SOMEONE,
            "preferences": {"depth_unit": "ft"},
            "size": {"size": 1000},
            "other log": {"text": "date,fish\n2023-07-14,trout\n"},
            "bring": {"text": "date,fish\n2023-07-14,trout\n", "mapping": {"date": 0, "species": 1}, "water_id": self.water.pk},
            "email": {"email": "angler@still.example", "password": PASSWORD},
            "password": {"password": PASSWORD},
            "new password": {"password": PASSWORD, "new_password": "warm-hands-cold-heart-8"},
            "name": {"username": "angler"},
            "token": {"password": PASSWORD, "name": "A script", "scope": "read"},
            "water": WATER_BODY,
            "outline": {"geometry": BRENNHOLT_LAKE.geometry()},
            "mark": {"name": "Far bank", "kind_key": "bank", "latitude_deg": 61.2, "longitude_deg": 9.401},
            "wind": {"wind_speed_mps": 5.0, "wind_from_deg": 180.0},
            "instrument": {"name": "Second sounder", "port": 10110, "on": False},
            "survey of": {"water_id": self.water.pk},
            "standing": {"x_m": 100.0, "y_m": 0.0},
            "section": {"start": [-300.0, 0.0], "end": [300.0, 0.0]},
            "line": LINE,
            "leader": LEADER,
            "fly": FLY,
            "build": {"length_m": 4.57, "under_indicator": True},
            "rod": {"name": "9 ft", "length_m": 2.75},
            "float": {"name": "Cork", "kind": "sliding"},
            "spool": {"name": "5X", "diameter_m": 0.00015},
            "conditions": read,
            "started": presentation(started_at=read["at_local"] + ":00Z"),
            "entry": self.entry(),
            "photo": {"image": picture()},
            "strip": {"conditions": read},
            "moves": {"table": SMALL_TABLE, "log": {}},
            "weighing": {"choices": {"conditions": read}, "method_key": "sinker", "fished": presentation()},
            "run": {"bottom": [{"distance_m": 0, "depth_m": 9}], "fished": presentation()},
            "simulation": {"conditions": read, "fished": presentation()},
        }
        return dict(bodies[name]) if name else {}

    def ids(self) -> dict[str, Any]:
        uid, reset = link_for(User.objects.get(pk=self.angler.pk)).split("/")[-2:]
        return {
            "water": self.water.pk,
            "mark": self.water.marks.values_list("pk", flat=True)[0],
            "instrument": self.sounder.pk,
            "survey": self.water.surveys.values_list("pk", flat=True)[0],
            "line": self.sinker.pk,
            "trial": self.trial.pk,
            "leader": self.first(Leader),
            "fly": self.first(Fly),
            "rod": self.first(Rod),
            "float": self.first(Float),
            "spool": self.first(Spool),
            "day": self.day_id,
            "entry": self.entry_id,
            "landed": self.landed_id,
            "new": uuid.uuid4(),
            "restore": self.restore.pk,
            "practice": self.practice.pk,
            "first": 0,
            "drill": self.drill.pk,
            "school": "static",
            "catch": self.caught.pk,
            "sign_in": self.angler.sign_ins.values_list("pk", flat=True)[0],
            "token": self.token.pk,
            "uid": uid,
            "reset": reset,
        }

    def ask(self, client: Client, row: Row) -> Any:
        path = "/api" + row.path.format(**self.ids())
        if row.body in FILES:
            return client.post(path, {"file": SimpleUploadedFile("file.csv", FILES[row.body])})
        send = getattr(client, row.method)
        return send(path) if row.body is None else send(path, self.body(row.body), content_type=JSON)


@override_settings(INSTRUMENTS=["127.0.0.1:10110"])
class EndpointTableTests(AskedTestCase):
    def check(self, row: Row, client: Client, expected: int, role: str) -> None:
        with self.subTest(f"{row.method.upper()} {row.path} as {role}"):
            answer = self.ask(client, row)
            self.assertEqual(answer.status_code, expected, said(answer)[:300])
            if answer.status_code >= 400:
                self.assertEqual(set(answer.json()), {"code", "detail", "fields"})

    def test_each_endpoint_answers_each_role_as_the_table_says(self) -> None:
        from django.db import transaction

        for row in TABLE:
            for role in ("visitor", "owner", "other"):
                # Each request starts from the same store.
                mark = transaction.savepoint()
                client = Client() if role == "visitor" else self.signed_in(self.angler if role == "owner" else self.other)
                self.check(row, client, getattr(row, role), role)
                transaction.savepoint_rollback(mark)

    def test_the_table_holds_every_operation_of_the_contract(self) -> None:
        contract = {
            (method, re.sub(r"\{[^}]*\}", "{}", path.removeprefix("/api")))
            for path, operations in api.get_openapi_schema()["paths"].items()
            for method in operations
        }
        self.assertEqual({(row.method, re.sub(r"\{[^}]*\}", "{}", row.path.split("?")[0])) for row in TABLE}, contract)

    def test_no_two_shapes_of_the_contract_share_a_name(self) -> None:
        # The contract would silently keep one of them.
        def below(kind: type[Schema]) -> list[type[Schema]]:
            return [one for sub in kind.__subclasses__() for one in (sub, *below(sub))]

        names = [kind.__name__ for kind in set(below(Schema)) if not kind.__name__.startswith("Ninja")]
        self.assertGreater(len(names), 80)
        self.assertEqual({name for name in names if names.count(name) > 1}, set())

    def test_no_list_gives_more_than_a_page_and_each_refuses_to(self) -> None:
        for path in LISTS:
            if path in {"/session"}:
                continue
            with self.subTest(path):
                address = "/api" + path.format(**self.ids())
                page = self.client.get(address, {"limit": 1}).json()
                self.assertEqual(set(page), {"items", "count"})
                self.assertLessEqual(len(page["items"]), 1)
                refusal = self.client.get(address, {"limit": 1000})
                self.assertEqual((refusal.status_code, list(refusal.json()["fields"])), (422, ["limit"]))

    def test_lists_ask_the_store_a_fixed_number_of_questions(self) -> None:
        for i in range(3):
            self.put(f"/api/days/{uuid.uuid4()}", conditions(self.water, at_local=f"2026-07-1{i}T10:00"))
        self.client.get("/api/days")  # works out what was logged since, once
        asked = {
            "/waters": 2, "/lines": 2, "/leaders": 2, "/flies": 2, "/days": 2,
            "/days/{day}/entries": 3, "/days/{day}/presentations": 4,
        }  # fmt: skip
        asked |= {
            "/waters/{water}/marks": 3,
            "/waters/{water}/surveys": 3,
            "/instruments": 3,
            "/instruments/{instrument}/measurements": 3,
        }
        for path, questions in asked.items():
            address = "/api" + path.format(**self.ids())
            with self.subTest(path), self.assertNumQueries(questions + 2):  # and the session and the person
                self.client.get(address)
