"""What guards the application as a whole: headers, settings for production, the store's own safety."""

from __future__ import annotations

import contextlib
import os
import re
import subprocess
import sys
import tempfile
from datetime import datetime, timezone
from pathlib import Path
from unittest import skipUnless

from django.db import connection
from django.test import TestCase, TransactionTestCase

from project import settings as project_settings

SERVER = Path(__file__).resolve().parents[2]


def run_production(*command: str, **environment: str) -> subprocess.CompletedProcess[str]:
    kept = {name: value for name, value in os.environ.items() if not name.startswith("STILLTHREAD_")}
    return subprocess.run(
        [sys.executable, "manage.py", *command], cwd=SERVER, env={**kept, **environment}, capture_output=True, text=True,
        check=False,
    )  # fmt: skip


class HeaderTests(TestCase):
    def test_pages_allow_no_script_but_their_own_and_no_frame(self) -> None:
        page = self.client.get("/rig")
        policy = dict(part.strip().split(" ", 1) for part in page["Content-Security-Policy"].split(";"))
        self.assertEqual(policy["script-src"], "'self' 'wasm-unsafe-eval'")
        self.assertEqual((policy["frame-ancestors"], policy["object-src"]), ("'none'", "'none'"))
        self.assertEqual((page["X-Frame-Options"], page["X-Content-Type-Options"]), ("DENY", "nosniff"))
        self.assertNotRegex(page.content.decode(), re.compile(r"<script(?![^>]*\bsrc=)|\son\w+=", re.IGNORECASE))

    def test_the_contract_is_served_with_the_application(self) -> None:
        contract = self.client.get("/api/openapi.json").json()
        self.assertIn("/api/simulations", contract["paths"])
        self.assertEqual(self.client.get("/api/no-such-thing").status_code, 404)

    def test_the_apis_page_is_served_with_the_application_and_asks_no_other_host(self) -> None:
        page = self.client.get("/api/docs").content.decode()
        asked = re.findall(r"(?:src|href)=\"([^\"]+)\"", page)
        self.assertGreater(len(asked), 2)
        for path in asked:
            self.assertTrue(path.startswith("/static/"), path)
            with contextlib.closing(self.client.get(path)) as answer:
                self.assertEqual(answer.status_code, 200, path)
        self.assertEqual(self.client.get("/static/no-such-thing.js").status_code, 404)


class ProductionTests(TestCase):
    def test_the_deployment_check_finds_nothing(self) -> None:
        secret, check = "long-and-random-" * 5, ("check", "--deploy", "--fail-level", "INFO")
        with tempfile.TemporaryDirectory() as folder:
            late = run_production(*check, STILLTHREAD_SECRET_KEY=secret, STILLTHREAD_BACKUPS=folder)
            if connection.vendor == "sqlite":  # another is copied by tools of its own
                self.assertIn("There is no copy of the store", late.stderr)
            (Path(folder) / f"still-thread-{datetime.now(timezone.utc):%Y%m%dT%H%M%SZ}.sqlite3").touch()
            done = run_production(*check, STILLTHREAD_SECRET_KEY=secret, STILLTHREAD_BACKUPS=folder)
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("no issues", done.stdout)

    def test_without_a_secret_it_does_not_start(self) -> None:
        done = run_production("check")
        self.assertNotEqual(done.returncode, 0)
        self.assertIn("Set STILLTHREAD_SECRET_KEY", done.stderr)


@skipUnless(connection.vendor == "sqlite", "of the file that is the store unless told otherwise")
class StoreTests(TransactionTestCase):
    def test_writers_queue_and_acknowledged_entries_are_on_the_disk(self) -> None:
        # The tests' own store does without; this is what every other is opened with.
        with connection.cursor() as cursor:
            for pragma in project_settings.WRITTEN_BEFORE_ACKNOWLEDGED.split("; "):
                cursor.execute(pragma)
            answers = {}
            for pragma in ("journal_mode", "synchronous", "foreign_keys", "busy_timeout"):
                cursor.execute(f"PRAGMA {pragma}")
                answers[pragma] = cursor.fetchone()[0]
            cursor.execute("PRAGMA synchronous=OFF")
        self.assertEqual(answers, {"journal_mode": "wal", "synchronous": 2, "foreign_keys": 1, "busy_timeout": 20000})
        self.assertEqual(connection.settings_dict["OPTIONS"]["transaction_mode"], "IMMEDIATE")
