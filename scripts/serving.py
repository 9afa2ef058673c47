"""Run the application on a store of its own, for scripts that look at it or time it."""

from __future__ import annotations

import contextlib
import os
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

SERVE_AT = Path(__file__).with_name("serve_at.py")
SERVER = Path(__file__).resolve().parents[1] / "server"


@dataclass(frozen=True)
class Served:
    """A running application: its address and the process that serves it."""

    url: str
    pid: int


@contextlib.contextmanager
def served(now: datetime | None = None, also: Sequence[Sequence[str]] = ()) -> Iterator[Served]:
    """Serve the demo season on a free port until the block ends, by the clock or as if it began at `now`.

    `also` are further commands of manage.py that lay something into the store before.
    """
    run = [sys.executable] if now is None else [sys.executable, str(SERVE_AT), now.isoformat()]
    with socket.socket() as probe, tempfile.TemporaryDirectory() as folder:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
        probe.close()
        store = str(Path(folder) / "demo.sqlite3")
        environment = {
            **os.environ,
            "STILLTHREAD_LOCAL": "1",
            "STILLTHREAD_DEMO": "1",
            "STILLTHREAD_DB": store,
            "DATABASE_URL": "",
        }
        for command in (["migrate"], ["load_demo"], *also):
            subprocess.run([*run, "manage.py", *command, "-v0"], cwd=SERVER, env=environment, check=True)
        environment["STILLTHREAD_LISTEN"] = f"127.0.0.1:{port}"
        module = ["-m", "project.serve"] if now is None else ["project.serve"]
        server = subprocess.Popen([*run, *module], cwd=SERVER, env=environment)
        try:
            url = f"http://127.0.0.1:{port}"
            _wait_for(url)
            yield Served(url, server.pid)
        finally:
            server.terminate()
            server.wait(10)


def _wait_for(url: str) -> None:
    for _ in range(200):
        with contextlib.suppress(OSError), urllib.request.urlopen(url + "/api/session") as answer:
            if answer.status == 200:
                return
        time.sleep(0.1)
    raise RuntimeError("the server did not start")
