"""Print a link by which somebody sets a new password: no mail is needed, only the operator's hand."""

from __future__ import annotations

from typing import Any

from common.problems import Refused
from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from accounts.models import User
from accounts.resets import link_for


class Command(BaseCommand):
    help = "Print a link, good for once, by which NAME sets a new password."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name")

    def handle(self, *args: Any, name: str, **options: Any) -> None:
        user = User.objects.filter(username=name).first()
        if user is None:
            raise CommandError(f"Nobody here is called {name}.")
        try:
            link = link_for(user)
        except Refused as refused:
            raise CommandError(refused.detail) from None
        hours = settings.PASSWORD_RESET_TIMEOUT // 3600
        self.stdout.write(f"Give this to {name} in person or by a message you trust. It works once, for {hours} hours:")
        self.stdout.write(link)
