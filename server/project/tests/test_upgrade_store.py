"""The oldest store that was ever kept is brought up to date in one go, and nothing of it is lost."""

from __future__ import annotations

import json
import os
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from pathlib import Path
from typing import Any

from django.conf import settings
from django.test import SimpleTestCase

OLDEST = Path(__file__).with_name("oldest.sql")
LOOK = """
import json, io
from accounts.models import User
from archive.exporting import write_archive
from days.tally import tally
from archive.tests.accounts import unpacked
owner = User.objects.get()
left = tally(owner)
file = io.BytesIO(); write_archive(owner, file); file.seek(0)
from archive.reading import Archive
from archive.importing import ArchiveImport
refused = ArchiveImport(owner, Archive(file), "replace").take(leave_out=False).refused; file.seek(0)
files = {name: content for name, content in unpacked(file).items() if name.endswith(".json") and name != "schema.json"}
print(json.dumps({"left": left, "files": files, "refused": refused}))
"""


class UpgradeTests(SimpleTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.store = Path(folder.name) / "log.sqlite3"
        with closing(sqlite3.connect(self.store)) as store:
            store.executescript(OLDEST.read_text())
        self.environment = {
            **os.environ, "STILLTHREAD_LOCAL": "1", "STILLTHREAD_DB": str(self.store), "DATABASE_URL": "",
            "STILLTHREAD_BACKUPS": str(Path(folder.name) / "copies"),
        }  # fmt: skip

    def manage(self, *command: str) -> str:
        where = Path(settings.ROOT_DIR) / "server"
        run = [sys.executable, "manage.py", *command]
        done = subprocess.run(run, cwd=where, env=self.environment, capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])
        return done.stdout

    def test_every_row_is_there_in_todays_shape_and_a_copy_of_before_takes_it_back(self) -> None:
        copy = self.manage("backup").split(" (")[0]
        self.manage("migrate", "-v0")
        told: dict[str, Any] = json.loads(self.manage("shell", "-v0", "-c", LOOK).splitlines()[-1])
        self.assertEqual((told["left"], told["refused"]), (0, 0))
        files, counts = told["files"], told["files"]["archive.json"]["counts"]
        expected = {"waters": 2, "box": 3, "instruments": 1, "days": 1, "entries": 5}
        self.assertEqual({name: counts[name] for name in expected}, expected)
        (day,) = (content for name, content in files.items() if name.startswith("days/"))
        self.assertEqual([one["water_c"] for one in day["conditions"]["readings"]], [16.0, 14.5, 11.0])
        (fished,) = day["presentations"]
        self.assertEqual(
            (fished["action"]["kind"], fished["action"]["count_s"], fished["line"]["name"]), ("cast", 20.0, "Type 3 sinker")
        )
        self.assertEqual([one["kind"] for one in fished["entries"]], ["cast", "nothing", "cast", "take", "landed"])
        self.assertEqual(fished["entries"][-1]["length_m"], 0.41)
        self.assertEqual(files["archive.json"]["preferences"]["depth_unit"], "ft")
        uids = [content["uid"] for name, content in files.items() if name.startswith("waters/")]
        self.assertEqual(len(set(uids)), 2)
        # The way back is the copy: it is brought up to date again as it comes in.
        self.manage("restore", copy)
        self.assertEqual(
            json.loads(self.manage("shell", "-v0", "-c", LOOK).splitlines()[-1])["files"].keys() >= {"box.json"}, True
        )
