"""Copy the whole store while it is written to."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from archive.backups import DAYS, MONTHS, NoCopy, back_up


class Command(BaseCommand):
    help = f"Copy the store; the newest copy of {DAYS} days and of {MONTHS} months is kept."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--into", type=Path, help="folder of the copies, in place of STILLTHREAD_BACKUPS")

    def handle(self, *args: Any, into: Path | None = None, **options: Any) -> None:
        try:
            copy = back_up(into or Path(settings.BACKUP_DIR))
        except NoCopy as why:
            raise CommandError(str(why)) from None
        self.stdout.write(f"{copy} ({copy.stat().st_size / 1e6:.1f} MB), whole")
