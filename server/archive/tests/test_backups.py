"""The store is copied while it is written to, and a copy brings it back."""

from __future__ import annotations

import io
import sqlite3
import tempfile
import threading
from contextlib import closing
from datetime import datetime, timedelta, timezone
from pathlib import Path
from unittest import mock, skipUnless

from common.in_use import work_with_store
from django.core.management import CommandError, call_command
from django.db import connection, connections
from django.test import Client, SimpleTestCase, TransactionTestCase, override_settings

from accounts.models import User
from accounts.services import change_password, remove, sign_up
from accounts.tokens import make
from archive.backups import back_up, too_old
from archive.exporting import write_archive
from archive.tests.accounts import fill, unpacked
from days.models import Day
from project.tests.people import JSON, PASSWORD
from waters.models import Mark, Water

NOW = datetime(2026, 7, 14, 3, tzinfo=timezone.utc)


def counted(path: Path, table: str) -> int:
    with closing(sqlite3.connect(path)) as copy:
        return int(copy.execute(f"SELECT count(*) FROM {table}").fetchone()[0])


@skipUnless(connection.vendor == "sqlite", "another store has tools of its own")
class BackupTests(TransactionTestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        kept = override_settings(BACKUP_DIR=self.folder)
        kept.enable()
        self.addCleanup(kept.disable)
        self.angler = sign_up(username="angler", password=PASSWORD)
        fill(self.angler, 5, least_days=3)

    def archive(self) -> dict[str, object]:
        file = io.BytesIO()
        write_archive(self.angler, file)
        file.seek(0)
        return unpacked(file)

    def test_a_copy_made_amid_writing_is_whole_and_has_all_that_was_stored_before(self) -> None:
        water = Water.objects.all()[0]
        stop, stored = threading.Event(), [0]

        def write() -> None:
            while not stop.is_set():
                Mark.objects.create(water=water, name=f"mark {stored[0]}", latitude_deg=1.0, longitude_deg=1.0)
                stored[0] += 1
            connections.close_all()

        before = Mark.objects.count()
        writer = threading.Thread(target=write)
        writer.start()
        try:
            for i in range(4):
                least = before + stored[0]
                copy = back_up(self.folder, NOW + timedelta(days=i))
                self.assertGreaterEqual(counted(copy, "waters_mark"), least)
                self.assertEqual(copy.stat().st_mode & 0o077, 0)
        finally:
            stop.set()
            writer.join()
        self.assertGreater(stored[0], 4)
        self.assertEqual([path.name for path in self.folder.glob(".*")], [])

    def test_a_copy_brings_everything_back_and_what_stood_there_is_copied_first(self) -> None:
        before = self.archive()
        said = io.StringIO()
        call_command("backup", stdout=said)
        copy = Path(said.getvalue().split(" (")[0])
        Day.objects.all().delete()
        call_command("restore", str(copy), stdout=io.StringIO())
        self.assertEqual(self.archive(), before)
        (safe,) = (self.folder / "before-restore").glob("*.sqlite3")
        self.assertEqual(counted(safe, "days_day"), 0)

    def test_while_a_server_works_with_it_nothing_is_brought_back_and_how_to_stop_it_is_said(self) -> None:
        copy = back_up(self.folder, NOW)
        Day.objects.all().delete()
        working = work_with_store()
        assert working is not None
        with working, self.assertRaisesMessage(CommandError, "systemctl stop"):
            call_command("restore", str(copy))
        self.assertEqual(Day.objects.count(), 0)
        call_command("restore", str(copy), stdout=io.StringIO())
        self.assertGreater(Day.objects.count(), 0)

    def test_what_was_ended_changed_or_removed_since_the_copy_stays_so(self) -> None:
        gone, changes = sign_up(username="gone", password=PASSWORD), sign_up(username="changes", password=PASSWORD)
        fill(gone, 6, least_days=1)
        signed_in = Client()
        signed_in.force_login(self.angler)
        _, token = make(owner=self.angler, name="script", scope="read", days=9)
        script = Client(headers={"authorization": f"Bearer {token}"})
        self.assertEqual((signed_in.get("/api/days").status_code, script.get("/api/days").status_code), (200, 200))
        copy = back_up(self.folder, NOW)
        remove(user=gone, password=PASSWORD)
        change_password(user=changes, password=PASSWORD, new_password="another-one-entirely-7")
        said = io.StringIO()
        call_command("restore", str(copy), stdout=said)
        self.assertIn("Accounts removed since stay so: 1; passwords changed since stay so: 1", said.getvalue())
        self.assertEqual((signed_in.get("/api/days").status_code, script.get("/api/days").status_code), (401, 401))
        self.assertEqual(set(User.objects.values_list("username", flat=True)), {"angler", "changes"})
        self.assertFalse(Day.objects.exclude(owner=self.angler).exists())
        entered = [
            Client().post("/api/session", {"username": "changes", "password": password}, content_type=JSON).status_code
            for password in (PASSWORD, "another-one-entirely-7")
        ]
        self.assertEqual(entered, [401, 200])

    def test_on_a_store_laid_anew_after_the_first_was_lost_everybody_is_brought_back(self) -> None:
        copy = back_up(self.folder, NOW)
        with connection.cursor() as cursor:
            cursor.execute("UPDATE django_migrations SET applied = '2031-01-01 00:00:00'")
        remove(user=self.angler, password=PASSWORD)
        call_command("restore", str(copy), stdout=io.StringIO())
        self.assertEqual(set(User.objects.values_list("username", flat=True)), {"angler"})
        self.assertTrue(Day.objects.exists())

    def test_what_is_no_copy_a_damaged_one_and_one_of_a_newer_version_change_nothing(self) -> None:
        before = self.archive()
        copy = back_up(self.folder, NOW)
        newer, damaged, text = (self.folder / name for name in ("newer.sqlite3", "damaged.sqlite3", "text.sqlite3"))
        newer.write_bytes(copy.read_bytes())
        with closing(sqlite3.connect(newer)) as store:
            store.execute("INSERT INTO django_migrations (app, name, applied) VALUES ('days', '9999_later', '2030-01-01')")
            store.commit()
        data = bytearray(copy.read_bytes())
        data[8192:12288] = b"x" * 4096
        damaged.write_bytes(data)
        text.write_text("hello")
        for path in (newer, damaged, text, self.folder / "nothing.sqlite3"):
            with self.subTest(path.name), self.assertRaises(CommandError):
                call_command("restore", str(path))
        self.assertEqual(self.archive(), before)

    def test_where_it_cant_be_written_that_is_said_and_nothing_half_made_is_left(self) -> None:
        full = mock.patch("archive.backups._check_whole", side_effect=OSError("No space left on device"))
        with full, self.assertRaisesMessage(CommandError, "No space left"):
            call_command("backup", stdout=io.StringIO())
        self.assertEqual(list(self.folder.iterdir()), [])


class RetentionTests(SimpleTestCase):
    def test_the_newest_of_fourteen_days_and_of_twelve_months_stay(self) -> None:
        at = [NOW - timedelta(hours=12 * i) for i in range(2 * 500)]
        names = [f"still-thread-{one:%Y%m%dT%H%M%SZ}.sqlite3" for one in at]
        gone = set(too_old([*names, "notes.txt", "still-thread-x.sqlite3"]))
        left = [name for name in names if name not in gone]
        newest = {name[13:21]: name for name in reversed(names)}
        self.assertEqual(left[:14], sorted(newest.values(), reverse=True)[:14])
        self.assertEqual(len({name[13:19] for name in left}), 12)
        self.assertEqual(len(left), 14 + 11)
        self.assertEqual(too_old(left), [])
