"""Carry every water's lake on, so that nobody waits for it in the morning."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.core.management.base import BaseCommand
from django.db.models import Max
from django.utils import timezone

from lake.services import bring_up
from waters.models import Water

FISHED_WITHIN = timedelta(days=60)


class Command(BaseCommand):
    help = "Fetch the weather that is new, and carry on the lakes that were fished or looked at within two months."

    def handle(self, *args: Any, **options: Any) -> None:
        now = timezone.now()
        late = Water.objects.annotate(last=Max("days__at"), looked=Max("weather_asked__at"))
        done = 0
        for water in late:
            if any(at is not None and now - at < FISHED_WITHIN for at in (water.last, water.looked)):
                done += bring_up(water, now=now)["state"] == "fresh"
        if options["verbosity"]:
            self.stdout.write(f"{done} lakes are carried on")
