"""What the keeper of a server sees of it: a line to a request and counts by route, with nothing of who asked."""

from __future__ import annotations

import hmac
import logging
import time
import uuid
from collections.abc import Callable

from common.job_limiter import jobs
from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from prometheus_client import CONTENT_TYPE_LATEST, Counter, Gauge, Histogram, generate_latest

access = logging.getLogger("still.access")
REQUESTS = Counter("still_requests_total", "Requests answered.", ("method", "route", "status"))
SECONDS = Histogram(
    "still_request_seconds", "Time to answer.", ("route",), buckets=(0.01, 0.03, 0.1, 0.3, 1.0, 3.0, 10.0, 30.0)
)
WORKS = Gauge("still_works", "Long work that runs or waits.")
WORKS.set_function(jobs.asked)


def _route(request: HttpRequest) -> str:
    """Return the route and not the path: ids and words that were searched for stay out of the log."""
    match = request.resolver_match
    return "none" if match is None else f"/{match.route}"[:120]


class Observe:
    """Tells of each request its route, how it was answered and for how long; names it, so that one can ask after it."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        began = time.perf_counter()
        answer = self._answer(request)
        took_s = time.perf_counter() - began
        route, name = _route(request), uuid.uuid4().hex[:16]
        answer["X-Request-ID"] = name
        method = request.method if request.method in {"GET", "POST", "PUT", "PATCH", "DELETE", "HEAD", "OPTIONS"} else "other"
        REQUESTS.labels(method, route, answer.status_code).inc()
        SECONDS.labels(route).observe(took_s)
        told = {
            "request": name,
            "method": method,
            "route": route,
            "status": answer.status_code,
            "ms": round(1000.0 * took_s, 1),
        }
        access.info("answered", extra=told)
        return answer


class NoPaths(logging.Filter):
    """Has a failure logged by its route: a path holds ids and words that were searched for."""

    def filter(self, record: logging.LogRecord) -> bool:
        request = getattr(record, "request", None)
        if isinstance(request, HttpRequest) and isinstance(record.args, tuple):
            paths = {request.path, request.get_full_path()}
            record.args = tuple(_route(request) if one in paths else one for one in record.args)
        record.__dict__.pop("request", None)  # a formatter that writes all it is given would write it, too
        return True


class NoStore:
    """Has nobody on the way keep what the API answers: it is one person's."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        answer = self._answer(request)
        if request.path.startswith("/api/"):
            answer.setdefault("Cache-Control", "no-store")
        return answer


def is_keeper(request: HttpRequest) -> bool:
    """Return whether a request has the token of whoever keeps the server; without one set nobody has."""
    wanted = settings.METRICS_TOKEN
    said = request.headers.get("Authorization", "").removeprefix("Bearer ")
    return bool(wanted) and hmac.compare_digest(said.encode(), wanted.encode())


def metrics(request: HttpRequest) -> HttpResponse:
    """Give counts to whoever has the keeper's token; without one set there are none to be had."""
    if not is_keeper(request):
        raise Http404
    return HttpResponse(generate_latest(), content_type=CONTENT_TYPE_LATEST)
