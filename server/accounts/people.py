"""The signed-in person of a request."""

from __future__ import annotations

from django.http import HttpRequest

from accounts.models import User


def person(request: HttpRequest) -> User:
    """Return who is signed in; routes behind `AnglersOwn` always have one."""
    assert isinstance(request.user, User)
    return request.user
