"""Let go what has run out: for a nightly timer."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from accounts import sign_ins
from keeping import services


class Command(BaseCommand):
    help = "Forget sessions that have run out and where they were, and archives that nobody took in."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("clearsessions")
        self.stdout.write(f"{sign_ins.tidy()} sign-ins and {services.tidy()} archives let go")
