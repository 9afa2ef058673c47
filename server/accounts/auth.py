"""Who a request is from: the session or a token says it, and the page may say who it thinks it is."""

from __future__ import annotations

from typing import Any
from urllib.parse import unquote

from common.problems import Refused
from django.http import HttpRequest
from ninja.security import HttpBearer, SessionAuth

from accounts import tokens

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


class AnglersToken(HttpBearer):
    """A token in the Authorization header: Bearer still_…. It may do what its scope allows, and nothing with the account.

    `stores_nothing`: the routes only answer, whatever their method, so that a token for reading may ask them.
    """

    def __init__(self, *, stores_nothing: bool = False) -> None:
        super().__init__()
        self.stores_nothing = stores_nothing

    def authenticate(self, request: HttpRequest, token: str) -> Any | None:
        request.user = tokens.bearer(request, token, stores_nothing=self.stores_nothing)
        return request.user
