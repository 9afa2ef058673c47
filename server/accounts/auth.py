"""Who a request is from: the session says it, and the page may say who it thinks it is."""

from __future__ import annotations

from typing import Any
from urllib.parse import unquote

from common.problems import Refused
from django.http import HttpRequest
from ninja.security import SessionAuth

MEANT = "X-Angler"  # percent-encoded: names may hold any letter


class AnglersOwn(SessionAuth):
    """A session, and the angler whose page it is, where the page says so.

    What one person logged with no signal waits on the device, and another may sign in there before it is sent: it must not go
    out under the other's name, nor be given up.
    """

    def authenticate(self, request: HttpRequest, key: str | None) -> Any | None:
        user = super().authenticate(request, key)
        meant = request.headers.get(MEANT)
        if user is not None and meant is not None and unquote(meant) != user.get_username():
            raise Refused(409, "another_person", f"{user.get_username()} is signed in here now, and this is another's.")
        return user
