"""Load the invented season, once."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction
from django.utils import timezone

from accounts.models import User


class Command(BaseCommand):
    help = "Load the demo angler with two invented waters and a year of days; a year that has aged is made anew, unless used."
    requires_system_checks: list[str] = []

    def handle(self, *args: Any, **options: Any) -> None:
        today = timezone.localdate()
        there = User.objects.filter(username="demo-angler")
        # Looked at before the simulator is imported, so that a second start is quick.
        newest = there.order_by("-days__at").values_list("days__at", flat=True).first()
        if newest is not None and today - newest.date() <= timedelta(days=10):
            self.stdout.write("demo: the season is there")
            return
        from demo.season import clear_season, has_aged, load_season, season_summary
        from demo.weather import keep_weather

        with transaction.atomic():
            if has_aged(today=today):
                clear_season()
            angler = load_season(today=today)
            for water in angler.waters.all():
                keep_weather(water)
        if options["verbosity"]:
            self.stdout.write(f"demo: {season_summary(angler)}")
