"""Load the invented season, once."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction
from django.utils import timezone

from accounts.models import User


class Command(BaseCommand):
    help = "Load the demo angler with two invented waters and a season of days; does nothing when they are there."
    requires_system_checks: list[str] = []

    def handle(self, *args: Any, **options: Any) -> None:
        # Looked at before the simulator is imported, so that a second start is quick.
        if User.objects.filter(username="demo-angler").exists():
            self.stdout.write("demo: the season is there")
            return
        from demo.season import load_season, season_summary

        with transaction.atomic():
            angler = load_season(today=timezone.localdate())
        if options["verbosity"]:
            self.stdout.write(f"demo: {season_summary(angler)}")
