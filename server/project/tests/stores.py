"""Stores for servers that tests start: migrated once for a whole run, since that takes as long as many a test."""

from __future__ import annotations

import os
import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path

from django.conf import settings
from django.db import connection


def lay_store(path: Path) -> None:
    """Write an empty store of today's shape to `path`: a copy of the tests' own, or where that is no file one made anew."""
    if connection.vendor == "sqlite":
        with closing(sqlite3.connect(connection.settings_dict["NAME"])) as ours, closing(sqlite3.connect(path)) as copy:
            ours.backup(copy)
        return
    command = [sys.executable, "manage.py", "migrate", "-v0", "--skip-checks"]
    how = {**os.environ, "STILLTHREAD_LOCAL": "1", "STILLTHREAD_DB": str(path), "DATABASE_URL": ""}
    subprocess.run(command, cwd=settings.SERVER_DIR, env=how, check=True)
