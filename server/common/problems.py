"""One shape for every refusal: {code, detail, fields}."""

from __future__ import annotations

import logging
import math
from typing import Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, Throttled, ValidationError

from stillthread.api import StillthreadError

TRY_AGAIN_S = 2
# What a store says that can't be used, SQLite or PostgreSQL.
_STORE_BROKEN = (
    "malformed", "not a database", "no such table", "unable to open", "disk I/O", "connection failed", "connection refused",
    "server closed the connection", "does not exist", "too many clients", "shutting down", "starting up",
)  # fmt: skip
log = logging.getLogger(__name__)


class Problem(Schema):
    """Why a request was refused. `fields` maps a field's name to its own message, where one is at fault."""

    code: str
    detail: str
    fields: dict[str, str] = {}


class Refused(Exception):
    """A refusal by a service: an HTTP status with a stable code."""

    def __init__(
        self, status: int, code: str, detail: str, fields: dict[str, str] | None = None, retry_after_s: int | None = None
    ) -> None:
        super().__init__(detail)
        self.status, self.code, self.detail, self.fields = status, code, detail, fields or {}
        self.retry_after_s = TRY_AGAIN_S if status == 503 and retry_after_s is None else retry_after_s


def problem(
    status: int, code: str, detail: str, fields: dict[str, str] | None = None, retry_after_s: int | None = None
) -> JsonResponse:
    headers = {} if retry_after_s is None else {"Retry-After": str(retry_after_s)}
    return JsonResponse({"code": code, "detail": detail, "fields": fields or {}}, status=status, headers=headers)


def csrf_failure(request: HttpRequest, reason: str = "") -> HttpResponse:
    """Answer a request whose CSRF token is missing or wrong, in the API's own shape."""
    return problem(403, "csrf", "The page is out of date. Reload it and try again.")


_STATUS_CODES = {401: "signed_out", 403: "forbidden", 404: "not_found", 405: "method_not_allowed", 429: "too_many_tries"}


def _validation_fields(errors: list[dict[str, Any]]) -> dict[str, str]:
    """Return the first message of each field, its path without the framework's outer names."""
    fields: dict[str, str] = {}
    for error in errors:
        path = [str(part) for part in error["loc"] if part not in {"body", "payload", "query", "path", "form", "file"}]
        message = str(error["msg"]).removeprefix("Value error, ")
        fields.setdefault(".".join(path) or "body", message)
    return fields


def busy() -> HttpResponse:
    """Answer where the store is at another's work for too long."""
    return problem(503, "busy", "Too much is being written just now. Try again in a moment.", retry_after_s=TRY_AGAIN_S)


def locked_out(request: HttpRequest, *_: object) -> HttpResponse:
    """Answer who has tried a name too often, in the API's own shape."""
    wait_s = int(settings.AXES_COOLOFF_TIME.total_seconds())
    return problem(429, "too_many_tries", "Too many wrong tries. Wait a quarter of an hour.", retry_after_s=wait_s)


def unreadable(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """Answer a request that cannot be read at all, in the API's own shape."""
    return problem(400, "unreadable", "The request can't be read.")


def server_error(request: HttpRequest) -> HttpResponse:
    """Answer when the server itself fails, in the API's own shape; what failed is in its log."""
    return problem(500, "server", "The server failed at this. It is not your input's fault; nothing was stored.")


def install(api: NinjaAPI) -> None:
    """Give `api` one handler per kind of refusal."""

    @api.exception_handler(Refused)
    def refused(request: HttpRequest, error: Refused) -> HttpResponse:
        return problem(error.status, error.code, error.detail, error.fields, error.retry_after_s)

    @api.exception_handler(StillthreadError)
    def core_refused(request: HttpRequest, error: StillthreadError) -> HttpResponse:
        return problem(422, error.code, error.message, {error.field: error.message} if error.field else {})

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        fields = _validation_fields(error.errors)
        name, message = next(iter(fields.items()), ("body", "not readable"))
        return problem(422, "invalid", f"{name}: {message}", fields)

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return problem(401, "signed_out", "Sign in first.")

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return problem(404, "not_found", "There is no such thing here.")

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return problem(413, "too_big", "The request is too large. Send less at a time.")

    @api.exception_handler(DatabaseError)
    def store_says_no(request: HttpRequest, error: DatabaseError) -> HttpResponse:
        said = str(error)
        if any(words in said for words in _STORE_BROKEN):
            log.error("the store can't be used: %s", said)
            return problem(503, "store_broken", "The server's store can't be used. Tell its keeper.", retry_after_s=60)
        if "disk is full" in said or "No space left" in said:
            return problem(507, "disk_full", "The server's disk is full: nothing was stored. Tell its keeper.")
        if any(words in said for words in ("locked", "busy", "deadlock detected", "could not serialize")):
            return busy()
        raise error

    @api.exception_handler(Throttled)
    def too_often(request: HttpRequest, error: Throttled) -> HttpResponse:
        wait_s = math.ceil(error.wait or TRY_AGAIN_S)
        return problem(429, "too_many", f"Too many requests. Try again in {wait_s} s.", retry_after_s=wait_s)

    @api.exception_handler(HttpError)
    def other(request: HttpRequest, error: HttpError) -> HttpResponse:
        return problem(error.status_code, _STATUS_CODES.get(error.status_code, "refused"), str(error))
