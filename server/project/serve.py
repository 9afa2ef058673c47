"""Serve the application: python -m project.serve. Requests are read whole before a thread takes them, so slow ones keep none.

STILLTHREAD_LISTEN    address and port, 127.0.0.1:8000 unless set
STILLTHREAD_PROXY     address of the one proxy in front, if any: what it says of a visitor's address and scheme is believed,
                      and of nobody else
"""

from __future__ import annotations

import gc
import os
import sys
from typing import Any

import waitress
from django.conf import settings

# Two of them may plan at a time and ten more wait for it (common.job_limiter): the others stay free for the log.
THREADS = 24
MOST_CONNECTIONS = 1000
SILENT_S = 20
LARGEST_BODY = 26_000_000
_in_use: list[object] = []
"""Held for as long as the process runs."""


def options() -> dict[str, Any]:
    """Return how to serve, as the environment says."""
    listen = os.environ.get("STILLTHREAD_LISTEN", "127.0.0.1:8000")
    proxy = os.environ.get("STILLTHREAD_PROXY")
    behind = {
        "trusted_proxy": proxy,
        "trusted_proxy_count": 1,
        "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto"},
    }
    return {
        "listen": listen,
        "threads": THREADS,
        "connection_limit": MOST_CONNECTIONS,
        "channel_timeout": SILENT_S,
        "cleanup_interval": SILENT_S,
        "max_request_body_size": LARGEST_BODY,
        "asyncore_use_poll": True,
        "clear_untrusted_proxy_headers": True,
        "ident": None,
        **(behind if proxy else {}),
    }


def _beside() -> None:
    """Begin what goes on beside the answers."""
    from common.in_use import work_with_store

    from accounts.resets import keep_sending

    _in_use.append(work_with_store())
    if settings.MAILS:
        keep_sending()


def main() -> None:
    from project.wsgi import application  # settings and applications are there from here on

    _beside()
    # Many threads that plan would else keep a short request waiting for 5 ms at every step.
    sys.setswitchinterval(0.001)
    # What is loaded by now stays: looked through again by every collection, it cost a chart of a long log half as much again.
    gc.collect()
    gc.freeze()
    waitress.serve(application, **options())


if __name__ == "__main__":
    main()
