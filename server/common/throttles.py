"""How often one person, or one address, may ask."""

from __future__ import annotations

import threading

from django.http import HttpRequest
from django_ratelimit.core import get_usage
from ninja.throttling import BaseThrottle

from common.problems import Refused


class AtMost(BaseThrottle):
    """Refuses a route with 429 and when to come back, once one `by` ("user" or "ip") has asked at a `rate` such as "60/m".

    Routes of the same `group` are counted together.
    """

    def __init__(self, rate: str, *, group: str, by: str = "user") -> None:
        self.rate, self.group, self.by = rate, group, by
        self._this = threading.local()

    def allow_request(self, request: HttpRequest) -> bool:
        used = get_usage(request, group=self.group, key=self.by, rate=self.rate, increment=True)
        self._this.wait_s = max(1, int(used["time_left"])) if used else 1
        return not (used and used["should_limit"])

    def wait(self) -> float | None:
        return float(self._this.wait_s)


def often(request: HttpRequest, *, group: str, key: str, rate: str) -> None:
    """Count one more of `group` for `key`, and refuse with 429 beyond `rate`."""
    used = get_usage(request, group=group, key=lambda *_: key, rate=rate, increment=True)
    if used and used["should_limit"]:
        wait_s = max(1, int(used["time_left"]))
        raise Refused(429, "too_many", f"Too many requests. Try again in {wait_s} s.", retry_after_s=wait_s)
