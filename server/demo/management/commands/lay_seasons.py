"""`manage.py lay_seasons 20 --username keeper --password …`: a person with a log of so many seasons, to measure with."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from accounts.services import sign_up
from days.models import Entry, Stretch
from demo.many import lay_seasons
from demo.season import BRENNHOLT, TRESCANAS
from stillthread.api import FISH
from waters.models import Water
from waters.services import save_water


class Command(BaseCommand):
    help = "Make a person with two waters and a log of so many seasons, for measuring."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("seasons", type=int)
        parser.add_argument("--username", required=True)
        parser.add_argument("--password", required=True)

    def handle(self, *args: Any, **options: Any) -> None:
        keeper = sign_up(username=options["username"], password=options["password"])
        waters = [save_water(water=Water(owner=keeper), changes=dict(fields)) for fields in (BRENNHOLT, TRESCANAS)]
        days = lay_seasons(keeper, waters, options["seasons"])
        casts = Entry.objects.filter(kind="cast", presentation__day__owner=keeper).count()
        fish = Entry.objects.filter(kind__in=FISH, presentation__day__owner=keeper).count()
        stretches = Stretch.objects.filter(owner=keeper).count()
        self.stdout.write(f"{days} days, {casts} casts, {fish} fish, {stretches} stretches")
