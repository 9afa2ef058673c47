"""Notes that a session is in use."""

from __future__ import annotations

import contextlib
from collections.abc import Callable

from django.conf import settings
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse

from accounts.sign_ins import note


class NoteSignIns:
    """Keeps the hour in which each session was last seen; sessions from before this was kept come in by it too."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self._answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        # Where the store fails, what was asked fails by itself, and says so in the API's own shape.
        with contextlib.suppress(DatabaseError):
            if settings.SESSION_COOKIE_NAME in request.COOKIES and request.user.is_authenticated:
                note(request, request.user)
        return self._answer(request)
