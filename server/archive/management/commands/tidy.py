"""Let go what has run out: for a nightly timer."""

from __future__ import annotations

from typing import Any

from axes.models import AccessAttempt, AccessLog
from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.utils import timezone

from accounts import sign_ins
from archive import services, staging


class Command(BaseCommand):
    help = "Forget sessions that have run out, wrong tries at passwords, and archives that nobody took in."

    def handle(self, *args: Any, **options: Any) -> None:
        call_command("clearsessions")
        before = timezone.now() - settings.AXES_COOLOFF_TIME
        AccessAttempt.objects.filter(attempt_time__lt=before).delete()
        AccessLog.objects.all().delete()  # of before they were no longer kept
        gone = services.tidy() + staging.sweep()
        self.stdout.write(f"{sign_ins.tidy()} sign-ins and {gone} archives let go")
