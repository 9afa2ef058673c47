"""Whether the server can do its work: for whoever keeps it, and for a proxy in front."""

from __future__ import annotations

from typing import Literal

from common.problems import Problem, Refused
from common.throttles import AtMost
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor
from django.http import HttpRequest
from ninja import Router, Schema

router = Router(tags=["health"])


class LiveOut(Schema):
    state: Literal["alive"]


class HealthOut(Schema):
    state: Literal["well"]


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
)
def get_health(request: HttpRequest) -> dict[str, str]:
    """Say whether the store is there, whole and of this version."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA quick_check(1)" if connection.vendor == "sqlite" else "SELECT 'ok'")
            (said,) = cursor.fetchone()
        if said != "ok":
            raise Refused(503, "store_broken", "The store is damaged. Restore it from a copy.")
        executor = MigrationExecutor(connection)
        if not executor.loader.applied_migrations:
            raise Refused(503, "store_missing", "There is no store where the server looks for it, or an empty one.")
        if executor.migration_plan(executor.loader.graph.leaf_nodes()):
            raise Refused(503, "store_old", "The store is of an older version. Migrate it first.")
    except DatabaseError:
        raise Refused(503, "store_broken", "The store can't be read. Restore it from a copy.") from None
    return {"state": "well"}
