"""Whatever the contract allows, and much that it does not, is asked of every route: none fails, none answers what is not declared."""

from __future__ import annotations

import json
import os
import time
import warnings
from typing import Any
from urllib.parse import urlencode

import schemathesis
from django.db import transaction
from django.test import override_settings
from hypothesis import HealthCheck, Phase, given, seed, settings
from schemathesis import GenerationMode
from schemathesis.core.result import Ok

from project.api import api
from project.tests.people import PeopleTestCase, said

LONG = os.environ.get("STILLTHREAD_TESTS") == "long"
EXAMPLES, MOST_S = (25, 600.0) if LONG else (4, 25.0)


@override_settings(INSTRUMENTS=[])
class ContractTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.log_day()
        self.chart_water()
        self.client.raise_request_exception = False
        self.asked = 0
        self.statuses: dict[int, int] = {}

    # What ids stand for here, so that a question gets past the door as often as not.
    def known(self) -> dict[str, Any]:
        return {"water_id": self.water.pk, "day_id": self.day_id, "presentation_id": self.presentation_id}

    def ask(self, case: Any, operation: Any, known: bool) -> None:
        """Send one question, take back what it did, and look at the answer."""
        names = {**(case.path_parameters or {})}
        body = case.body if isinstance(case.body, dict | list) else None
        if known:
            names.update({name: value for name, value in self.known().items() if name in names})
            if isinstance(body, dict):
                body = {**body, **{name: value for name, value in self.known().items() if name in body}}
                if isinstance(body.get("conditions"), dict):
                    body["conditions"] = {**body["conditions"], "water_id": self.water.pk}
        path = operation.full_path
        for name, value in names.items():
            path = path.replace("{" + name + "}", str(value).replace("/", "%2F").replace("\\", "%5C") or "%20")
        headers = {
            n: v for n, v in (case.headers or {}).items() if str(v).isascii() and "\n" not in str(v) and "\r" not in str(v)
        }
        if known:  # a made-up token would be turned away at the door
            headers.pop("Authorization", None)
        json_body = isinstance(case.media_type, str) and "json" in case.media_type
        with transaction.atomic():
            answer = self.client.generic(
                case.method, path.split("?")[0], _bytes(body) if json_body else b"",
                content_type="application/json" if json_body else "application/octet-stream",
                QUERY_STRING=_query(case.query or {}), headers={n: str(v) for n, v in headers.items()},
            )  # fmt: skip
            transaction.set_rollback(True)
        self.asked += 1
        self.statuses[answer.status_code] = self.statuses.get(answer.status_code, 0) + 1
        told = f"{case.method} {path} {str(body)[:400]} -> {answer.status_code} {said(answer)[:300]!r}"
        self.assertLess(answer.status_code, 500, told)
        # Only what lies outside of every route of the API is answered by nobody.
        declared = {int(status) for status in operation.definition.raw["responses"]}
        self.assertIn(answer.status_code, declared | {404, 405}, told)
        if answer.status_code >= 400 and answer["Content-Type"].startswith("application/json"):
            self.assertEqual(set(answer.json()), {"code", "detail", "fields"}, told)

    def ask_every_way(self, operation: Any, mode: GenerationMode, until: float) -> None:
        @seed(11)
        @settings(
            max_examples=EXAMPLES, deadline=None, database=None, phases=(Phase.generate,),
            suppress_health_check=list(HealthCheck),
        )  # fmt: skip
        @given(case=operation.as_strategy(generation_mode=mode))
        def every(case: Any) -> None:
            # On a busy machine fewer are asked of each route, but all of them are asked.
            if time.monotonic() < until or self.asked_of == 0:
                self.ask(case, operation, known=self.asked % 2 == 0)
                self.asked_of += 1

        self.asked_of = 0
        every()

    def test_no_question_brings_a_route_down_or_gets_an_answer_that_is_not_declared(self) -> None:
        schema = schemathesis.openapi.from_dict(dict(api.get_openapi_schema(path_prefix="/api/")))
        found = list(schema.get_all_operations())
        operations: list[Any] = [one.ok() for one in found if isinstance(one, Ok)]
        self.assertEqual(len(operations), len(found))
        self.assertGreater(len(operations), 60)
        until = time.monotonic() + MOST_S
        done = 0
        for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
            for operation in operations:
                if operation.method == "delete" and operation.path.endswith("/session"):
                    continue  # it would end the session of all that follow
                if mode is GenerationMode.NEGATIVE and not (operation.body or operation.query or operation.path_parameters):
                    continue

                with self.subTest(f"{mode.name.lower()} {operation.method} {operation.path}"), warnings.catch_warnings():
                    warnings.simplefilter("ignore")
                    self.ask_every_way(operation, mode, until)
                done += 1
        self.assertGreater(done, 100)
        self.assertGreaterEqual(len(self.statuses), 5)
        print(f"contract: {self.asked} questions, {dict(sorted(self.statuses.items()))}")  # noqa: T201 - for docs/reliability.md


def _bytes(body: Any) -> bytes:
    return json.dumps(body, default=str).encode("utf-8", "surrogatepass") if body is not None else b"null"


def _query(query: dict[str, Any]) -> str:
    return urlencode({name: str(value).encode("utf-8", "surrogatepass") for name, value in query.items()})
