"""An archive comes in by short steps: nobody sees a part of it, and nobody waits for it."""

from __future__ import annotations

from datetime import timedelta
from unittest import mock

from django.db import connection
from django.utils import timezone
from lookback.models import Trial

from accounts.models import User
from accounts.services import sign_up
from archive import staging
from archive.importing import ArchiveImport
from archive.reading import Archive
from archive.tests.accounts import fill, unpacked
from archive.tests.on_the_way import taken, written
from box.models import Line
from days.models import Catch, Day, Entry, Presentation
from instruments.models import Instrument
from project.tests.people import PASSWORD, PeopleTestCase
from waters.models import Mark, Water


class StagedTests(PeopleTestCase):
    """What is added comes in by short steps and is seen as a whole."""

    def setUp(self) -> None:
        super().setUp()
        fill(self.angler, 7, least_days=3)
        self.file = written(self.angler)
        self.newcomer = sign_up(username="newcomer", password=PASSWORD)
        # Ids are the archive's: the account that it is of makes room for the one that takes it.
        Day.objects.all().delete()
        Instrument.objects.all().delete()
        Trial.objects.all().delete()
        self.empty = self.rows()

    def rows(self) -> dict[str, int]:
        kinds = (Day, Entry, Presentation, Catch, Water, Mark, Instrument, Line, User)
        return {kind.__name__: kind._default_manager.count() for kind in kinds}

    def test_between_its_files_no_transaction_is_open_and_nothing_of_it_is_seen(self) -> None:
        base, seen, depths = len(connection.savepoint_ids), [], []

        def tick(done: int, of: int) -> None:
            depths.append(len(connection.savepoint_ids))
            seen.append(Day.objects.filter(owner=self.newcomer).count() + Water.objects.filter(owner=self.newcomer).count())
            self.assertFalse(Instrument.objects.filter(on=True).exists())

        found = ArchiveImport(self.newcomer, Archive(self.file), "merge", tick).take(leave_out=False)
        self.assertGreater(len(seen), 4)
        self.assertEqual((set(seen), set(depths)), ({0}, {base}))
        self.assertEqual(Day.objects.filter(owner=self.newcomer).count(), found.new["days"])
        self.assertEqual(User.objects.count(), self.empty["User"])
        for name, files in unpacked(written(self.newcomer)).items():
            if name.startswith(("days/", "waters/", "instruments/")):
                self.assertEqual(files, unpacked(self.file)[name], name)

    def test_what_is_broken_off_leaves_nothing_and_what_a_killed_one_left_is_swept(self) -> None:
        broken = mock.patch("archive.importing.hand_over", side_effect=RuntimeError("the power went"))
        with broken, self.assertRaises(RuntimeError):
            taken(self.newcomer, self.file, "merge")
        self.assertEqual(self.rows(), self.empty)
        with broken, mock.patch("archive.staging._sweep"), self.assertRaises(RuntimeError):
            taken(self.newcomer, self.file, "merge")
        self.assertGreater(Day.objects.count(), 0)
        self.assertEqual(staging.sweep(), 0)  # it may be on its way still
        User.objects.filter(is_active=False).update(date_joined=timezone.now() - timedelta(days=2))
        self.assertEqual(staging.sweep(), 1)
        self.assertEqual(self.rows(), self.empty)

    def test_what_is_added_to_a_day_that_is_here_comes_with_all_the_rest(self) -> None:
        taken(self.newcomer, self.file, "merge")
        day = Day.objects.filter(owner=self.newcomer, presentations__entries__isnull=False).first()
        assert day is not None
        entries = Entry.objects.filter(presentation__day=day)
        kept = entries.count()
        entries.delete()
        with mock.patch("archive.importing.hand_over", side_effect=RuntimeError), self.assertRaises(RuntimeError):
            taken(self.newcomer, self.file, "merge")
        self.assertEqual(entries.count(), 0)
        found = taken(self.newcomer, self.file, "merge")
        self.assertEqual((found.new["entries"], entries.count()), (kept, kept))


class ReplacedTests(PeopleTestCase):
    """What replaces an account comes in by short steps, too: until all of it is here, the log is as it was."""

    def setUp(self) -> None:
        super().setUp()
        fill(self.angler, 11, least_days=3)
        self.file = written(self.angler)
        self.days = set(Day.objects.values_list("pk", flat=True))
        # Since then the log went on: a note, one entry less, one day more.
        Day.objects.update(notes="since then")
        Entry.objects.filter(pk__in=list(Entry.objects.values_list("pk", flat=True)[:1])).delete()
        first = Day.objects.all()[0]
        self.added = Day.objects.create(owner=self.angler, water=first.water, at=first.at, conditions=first.conditions)
        self.people = User.objects.count()
        self.since = unpacked(written(self.angler))

    def test_until_all_is_here_the_log_is_as_it_was_and_then_it_is_the_archives(self) -> None:
        base, seen, depths = len(connection.savepoint_ids), [], []

        def tick(done: int, of: int) -> None:
            depths.append(len(connection.savepoint_ids))
            seen.append(set(Day.objects.filter(owner=self.angler).values_list("notes", flat=True)) | {""})

        ArchiveImport(self.angler, Archive(self.file), "replace", tick).take(leave_out=False)
        self.assertGreater(len(seen), 4)
        self.assertTrue(all(one == {"since then", ""} for one in seen))
        self.assertEqual(set(depths), {base})
        now = unpacked(written(self.angler))
        for name, data in unpacked(self.file).items():
            if name not in {"archive.json", "README.txt"}:
                self.assertEqual(now[name], data, name)
        self.assertEqual((set(Day.objects.values_list("pk", flat=True)), User.objects.count()), (self.days, self.people))

    def test_what_is_broken_off_leaves_the_log_as_it_was(self) -> None:
        broken = mock.patch("archive.importing.TakenIds.give", side_effect=RuntimeError("the power went"))
        with broken, self.assertRaises(RuntimeError):
            taken(self.angler, self.file, "replace")
        now = unpacked(written(self.angler))
        for name, data in self.since.items():
            if name not in {"archive.json", "README.txt"}:
                self.assertEqual(now[name], data, name)
        self.assertEqual(User.objects.count(), self.people)
