"""What the keeper of a server sees of it, and who listens to instruments where several processes serve."""

from __future__ import annotations

import json
import logging
import os
import signal
import subprocess
import sys
import tempfile
import time
from datetime import datetime, timedelta, timezone
from io import StringIO
from pathlib import Path
from unittest import mock, skipUnless

from archive.checks import last_nights_copy
from django.conf import settings
from django.core.cache import cache
from django.db import DatabaseError, connection
from django.test import SimpleTestCase, TransactionTestCase, override_settings
from pythonjsonlogger.json import JsonFormatter

from accounts.services import sign_up
from instruments import hearing
from instruments.listener import Listener, Listeners, State
from instruments.models import Instrument
from instruments.services import show_instrument
from project.observing import NoPaths
from project.tests.people import PASSWORD, PeopleTestCase
from project.tests.stores import lay_store

ADDRESS = "127.0.0.1:10110"


class ObservingTests(PeopleTestCase):
    def test_a_line_to_a_request_tells_its_route_and_nothing_of_who_asked(self) -> None:
        said = StringIO()
        handler = logging.StreamHandler(said)
        handler.setFormatter(JsonFormatter("%(message)s"))
        logger = logging.getLogger("still.access")
        logger.addHandler(handler)
        self.addCleanup(logger.removeHandler, handler)
        logger.setLevel(logging.INFO)
        logger.propagate = False
        self.addCleanup(setattr, logger, "propagate", True)
        self.addCleanup(logger.setLevel, logging.WARNING)
        answer = self.client.get(f"/api/waters/{self.water.pk}?secret=angler", headers={"x-forwarded-for": "10.9.8.7"})
        (line,) = [json.loads(one) for one in said.getvalue().splitlines()]
        self.assertEqual((line["route"], line["status"]), ("/api/waters/<water_id>", 200))
        self.assertEqual(line["request"], answer["X-Request-ID"])
        for private in ("angler", "10.9.8.7", f"/{self.water.pk}", "secret"):
            self.assertNotIn(private, said.getvalue())

    def test_counts_are_given_to_whoever_has_the_token_and_to_nobody_else(self) -> None:
        self.assertEqual(self.client.get("/metrics").status_code, 404)
        with override_settings(METRICS_TOKEN="keepers-own"):
            self.assertEqual(self.client.get("/metrics", headers={"authorization": "Bearer wrong"}).status_code, 404)
            self.client.get("/api/waters")
            answer = self.client.get("/metrics", headers={"authorization": "Bearer keepers-own"})
        self.assertIn('still_requests_total{method="GET",route="/api/waters",status="200"}', answer.content.decode())

    def test_it_is_alive_even_without_its_store_and_well_only_with_it(self) -> None:
        with mock.patch("project.health.MigrationLoader", side_effect=DatabaseError):
            self.assertEqual(self.client.get("/api/live").json(), {"state": "alive"})
            self.assertEqual(self.client.get("/api/health").status_code, 503)

    @skipUnless(connection.vendor == "sqlite", "another store is copied by tools of its own")
    def test_a_stranger_is_told_little_and_costs_little_and_the_keeper_how_old_the_newest_copy_is(self) -> None:
        keeper = {"authorization": "Bearer keepers-own"}
        with tempfile.TemporaryDirectory() as folder, override_settings(
            METRICS_TOKEN="keepers-own", BACKUP_DIR=folder, LOCAL=False
        ):  # fmt: skip
            with mock.patch("project.health._look_deep") as deep:
                self.assertEqual(self.client.get("/api/health", secure=True).json(), {"state": "well"})
                deep.assert_not_called()
            self.assertEqual(self.client.get("/api/health", headers=keeper, secure=True).json()["state"], "copy_old")
            self.assertEqual([one.id for one in last_nights_copy()], ["archive.W001"])
            for hours, state in ((40, "copy_old"), (2, "well")):
                at = datetime.now(timezone.utc) - timedelta(hours=hours)
                (Path(folder) / f"still-thread-{at:%Y%m%dT%H%M%SZ}.sqlite3").touch()
                told = self.client.get("/api/health", headers=keeper, secure=True).json()
                self.assertEqual(told["state"], state)
                self.assertAlmostEqual(told["newest_copy_h"], hours, delta=0.2)
            self.assertEqual(last_nights_copy(), [])

    def test_what_the_api_answers_is_kept_by_nobody_on_the_way(self) -> None:
        for path in ("/api/days", "/api/waters", "/api/session", "/api/no-such-thing", "/api/health"):
            self.assertEqual(self.client.get(path)["Cache-Control"], "no-store", path)

    def test_a_failure_is_logged_by_its_route(self) -> None:
        own = "0b3f7e1a-1111-4222-8333-444455556666"
        said = StringIO()
        logger, handler = logging.getLogger("django.request"), logging.StreamHandler(said)
        handler.addFilter(NoPaths())
        logger.addHandler(handler)
        self.addCleanup(logger.removeHandler, handler)
        self.addCleanup(logger.setLevel, logger.level)
        logger.setLevel(logging.ERROR)
        self.client.raise_request_exception = False
        with mock.patch("days.services.day_of", side_effect=RuntimeError("it broke")):
            self.assertEqual(self.client.get(f"/api/days/{own}?text=secret+bay").status_code, 500)
        self.assertIn("/api/days/<day_id>", said.getvalue())
        self.assertIn("it broke", said.getvalue())
        for private in (own, "secret"):
            self.assertNotIn(private, said.getvalue())

    def test_the_examples_secret_and_a_short_one_are_refused_at_the_start(self) -> None:
        for key in ("replace-this-with-the-output-of:-openssl-rand-base64-48", "short"):
            environment = {**os.environ, "STILLTHREAD_SECRET_KEY": key, "STILLTHREAD_LOCAL": ""}
            began = subprocess.run(
                [sys.executable, "-c", "import project.settings"], cwd=settings.SERVER_DIR, env=environment, check=False,
                capture_output=True, text=True,
            )  # fmt: skip
            self.assertIn("openssl rand", began.stderr, key)


@override_settings(LISTENS_APART=True, INSTRUMENTS=[ADDRESS])
class ListensApartTests(TransactionTestCase):
    """Two processes that serve and one that listens, played by their parts."""

    def setUp(self) -> None:
        cache.clear()
        self.addCleanup(cache.clear)
        self.angler = sign_up(username="angler", password=PASSWORD)
        self.sounder = Instrument.objects.create(owner=self.angler, name="Sounder", port=10110, on=True)
        self.started: list[int] = []

    def own(self) -> Listeners:
        def make(instrument_id: int, host: str, port: int) -> Listener:
            self.started.append(instrument_id)
            listener = Listener(instrument_id, host, port)
            listener.start = lambda: None  # type: ignore[method-assign]
            listener.is_alive = lambda: True  # type: ignore[method-assign]
            listener.stop = lambda: None  # type: ignore[method-assign]
            listener.state.turn("connected")
            return listener

        return Listeners(make)

    def test_who_serves_tells_what_the_listener_hears_and_never_listens_itself(self) -> None:
        own = self.own()
        self.assertEqual(hearing.listen_once(own), 1)
        self.assertEqual(hearing.listen_once(own), 1)
        self.assertEqual(self.started, [self.sounder.pk])
        self.assertEqual(show_instrument(self.sounder)["state"], "connected")
        Instrument.objects.update(on=False)
        self.assertEqual((hearing.listen_once(own), own.known()), (0, set()))
        self.assertEqual(show_instrument(Instrument.objects.get())["state"], "off")

    def test_what_is_not_allowed_is_not_listened_to(self) -> None:
        Instrument.objects.update(host="10.0.0.1")
        self.assertEqual((hearing.listen_once(self.own()), self.started), (0, []))

    def test_a_listener_that_is_down_is_told(self) -> None:
        self.assertIn("does not run", show_instrument(self.sounder)["why"])
        hearing.listen_once(self.own())
        with mock.patch("instruments.hearing.time.time", return_value=time.time() + 30):
            shown = show_instrument(self.sounder)
        self.assertEqual((shown["state"], "does not run" in shown["why"]), ("lost", True))

    def test_one_that_has_just_come_to_be_is_connecting(self) -> None:
        cache.set("heard:all", time.time())
        self.assertEqual(show_instrument(self.sounder)["state"], State().word)


class ListenerProcessTests(SimpleTestCase):
    def run_listener(self, folder: str) -> subprocess.Popen[str]:
        environment = {**os.environ, "STILLTHREAD_LOCAL": "1", "STILLTHREAD_DB": f"{folder}/log.sqlite3"}
        environment |= {"DATABASE_URL": "", "STILLTHREAD_SHARED": f"{folder}/shared", "STILLTHREAD_LISTENER": "apart"}
        command = [sys.executable, "manage.py"]
        where = Path(settings.ROOT_DIR) / "server"
        return subprocess.Popen(
            [*command, "listen"], cwd=where, env=environment, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
        )

    def test_it_runs_until_it_is_told_to_stop_and_there_is_only_one(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            lay_store(Path(folder) / "log.sqlite3")
            first = self.run_listener(folder)
            assert first.stdout is not None
            self.assertEqual(first.stdout.readline(), "listening\n")
            second = self.run_listener(folder)
            _, why = second.communicate(timeout=60)
            self.assertIn("Another process listens already.", why)
            first.send_signal(signal.SIGTERM)
            first.communicate(timeout=60)
            self.assertEqual((first.returncode, second.returncode), (0, 1))
