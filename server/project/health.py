"""Whether the server can do its work: for whoever keeps it, and for a proxy in front."""

from __future__ import annotations

import logging
from functools import cache
from pathlib import Path
from typing import Any, Literal

from archive.backups import copy_is_late, newest_copy_h
from common.problems import Problem, Refused
from common.throttles import AtMost
from django.conf import settings
from django.core.cache import cache as kept
from django.db import DatabaseError, connection
from django.db.migrations.loader import MigrationLoader
from django.http import HttpRequest
from ninja import Router, Schema

from project.observing import is_keeper

router = Router(tags=["health"])
log = logging.getLogger(__name__)
SAID_AGAIN_S = 3600


class LiveOut(Schema):
    state: Literal["alive"]


class HealthOut(Schema):
    """`newest_copy_h`: how old the newest copy of the store is [h], told to the keeper."""

    state: Literal["well", "copy_old"]
    newest_copy_h: float | None = None


@router.get("/live", auth=None, operation_id="get_live", response=LiveOut)
def get_live(request: HttpRequest) -> dict[str, str]:
    """Say that the process answers; of the store it says nothing."""
    return {"state": "alive"}


@router.get(
    "/health",
    auth=None,
    operation_id="get_health",
    throttle=AtMost("60/m", group="health", by="ip"),
    response={200: HealthOut, 503: Problem},
    exclude_none=True,
)
def get_health(request: HttpRequest) -> dict[str, Any]:
    """Say whether the store is there and of this version. To the keeper, by his token, also whether it is whole, and how old
    the newest copy is."""
    keeper = is_keeper(request)
    try:
        if keeper:
            _look_deep()
        applied = MigrationLoader(connection).applied_migrations
    except DatabaseError:
        raise _broken("The store can't be read. Restore it from a copy.") from None
    if not applied:
        raise Refused(503, "store_missing", "There is no store where the server looks for it, or an empty one.")
    if _known() - set(applied):
        raise Refused(503, "store_old", "The store is of an older version. Migrate it first.")
    old_h = newest_copy_h(Path(settings.BACKUP_DIR))
    late = copy_is_late(old_h)
    if late and kept.add("copy-is-late", True, SAID_AGAIN_S):
        log.warning("the newest copy of the store is %s", "not there" if old_h is None else f"{old_h:.0f} h old")
    if not keeper:
        return {"state": "well"}
    return {"state": "copy_old" if late else "well", "newest_copy_h": old_h}


def _look_deep() -> None:
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA quick_check(1)" if connection.vendor == "sqlite" else "SELECT 'ok'")
        (said,) = cursor.fetchone()
    if said != "ok":
        raise _broken("The store is damaged. Restore it from a copy.")


def _broken(text: str) -> Refused:
    return Refused(503, "store_broken", text)


@cache
def _known() -> frozenset[tuple[str, str]]:
    """Return every migration of this version; squashed ones are none of ours."""
    return frozenset(MigrationLoader(None).disk_migrations)
