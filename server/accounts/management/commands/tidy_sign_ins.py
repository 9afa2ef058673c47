"""Forget sessions that have run out: for a nightly timer."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from accounts.sign_ins import tidy


class Command(BaseCommand):
    help = "Forget sessions that have run out, and where they were."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("clearsessions")
        self.stdout.write(f"{tidy()} sign-ins forgotten")
