"""What `manage.py check --deploy` says of copies of the store."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.checks import Warning as Remark
from django.core.checks import register

from archive.backups import copy_is_late, newest_copy_h


@register(deploy=True)
def last_nights_copy(**_: Any) -> list[Remark]:
    """Say whether last night's copy is there."""
    old_h = newest_copy_h(Path(settings.BACKUP_DIR))
    if not copy_is_late(old_h):
        return []
    said = "There is no copy of the store." if old_h is None else f"The newest copy of the store is {old_h:.0f} h old."
    return [Remark(said, hint="See whether still-thread-nightly.timer runs: docs/hosting.md.", id="archive.W001")]
