"""Stores for servers that tests start: migrated once for a whole run, since that takes as long as many a test."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
from collections.abc import Mapping
from contextlib import closing
from pathlib import Path

from django.conf import settings
from django.db import connection


def lay_store(path: Path, environment: Mapping[str, str]) -> None:
    """Write an empty store of today's shape to `path`: a copy of the tests' own, or where that is no file one made anew."""
    if connection.vendor == "sqlite":
        with closing(sqlite3.connect(connection.settings_dict["NAME"])) as ours, closing(sqlite3.connect(path)) as copy:
            ours.backup(copy)
        return
    command = [sys.executable, "manage.py", "migrate", "-v0", "--skip-checks"]
    subprocess.run(command, cwd=settings.SERVER_DIR, env=dict(environment), check=True)
