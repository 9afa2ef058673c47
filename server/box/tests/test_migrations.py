"""A box of an earlier making is read on."""

from __future__ import annotations

from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase

from accounts.services import sign_up
from box.models import Line
from project.tests.people import PASSWORD

BEFORE = [("box", "0004_foods_of_old_flies")]


class MigrationTests(TransactionTestCase):
    def tearDown(self) -> None:
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def test_lines_are_called_by_what_they_are_and_one_s_own_names_stay(self) -> None:
        owner = sign_up(username="angler", password=PASSWORD)
        executor = MigrationExecutor(connection)
        executor.migrate(BEFORE)
        old = MigrationExecutor(connection).loader.project_state(BEFORE).apps.get_model("box", "Line")
        old.objects.all().delete()
        for name, key in (
            ("Hover", "hover"),
            ("Midge tip, 6 ft", "midge-tip"),
            ("The grey one", "sweep-5"),
            ("Floating", "floating"),
        ):
            old.objects.create(owner_id=owner.pk, name=name, class_key=key, number=6, sink_rate_mps=0.0)
        self.tearDown()
        self.assertEqual(
            set(Line.objects.values_list("name", "class_key")),
            {
                ("Very slow sinker", "very-slow"), ("Short slow tip, 6 ft", "short-slow-tip"), ("The grey one", "fast-belly-5"),
                ("Floating", "floating"),
            },
        )  # fmt: skip
