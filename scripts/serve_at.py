"""Run a file or module of the server as if it were another time: serve_at.py 2026-07-13T09:35+00:00 manage.py migrate."""

from __future__ import annotations

import runpy
import sys
from datetime import datetime

import time_machine


def main() -> None:
    at, what, *rest = sys.argv[1:]
    sys.argv = [what, *rest]
    sys.path.insert(0, "")
    with time_machine.travel(datetime.fromisoformat(at), tick=True):
        if what.endswith(".py"):
            runpy.run_path(what, run_name="__main__")
        else:
            runpy.run_module(what, run_name="__main__")


if __name__ == "__main__":
    main()
