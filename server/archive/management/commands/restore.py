"""Put a copy in the place of what the store holds."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser

from accounts.services import as_they_are_now
from archive.backups import NoCopy, bring_back


class Command(BaseCommand):
    help = "Put a copy in the place of what the store holds; that is copied first."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("copy", type=Path)

    def handle(self, *args: Any, copy: Path, **options: Any) -> None:
        try:
            before, people = bring_back(copy, Path(settings.BACKUP_DIR))
        except NoCopy as why:
            raise CommandError(str(why)) from None
        call_command("migrate", verbosity=0)
        removed, changed = as_they_are_now(people)
        self.stdout.write(
            f"The store holds what {copy.name} holds. What it held before: {before}\n"
            f"Everybody is signed out and no token is good. Accounts removed since stay so: {removed};"
            f" passwords changed since stay so: {changed}"
        )
