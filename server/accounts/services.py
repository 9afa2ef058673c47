"""Sign up, sign in, preferences."""

from __future__ import annotations

from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from django.contrib.auth import authenticate
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.http import HttpRequest

from accounts.models import Preferences, User
from box.services import give_starter_box
from project.problems import Refused

DEMO_USERNAME = "demo-angler"


def sign_up(*, username: str, password: str) -> User:
    """Create a person with preferences and a starter box, or refuse a taken name or a weak password."""
    user = User(username=username)
    try:
        User.username_validator(username)
        validate_password(password, user)
    except ValidationError as error:
        field = "username" if "username" in str(error.messages[0]) and "similar" not in error.messages[0] else "password"
        raise Refused(422, "weak_password" if field == "password" else "invalid", " ".join(error.messages), {
            field: " ".join(error.messages)
        }) from None  # fmt: skip
    user.set_password(password)
    try:
        with transaction.atomic():
            user.save()
            Preferences.objects.create(user=user)
            give_starter_box(owner=user)
    except IntegrityError:
        raise Refused(409, "name_taken", "That name is taken.", {"username": "That name is taken."}) from None
    return user


def check_credentials(request: HttpRequest, *, username: str, password: str) -> User:
    """Return the person, or refuse; too many wrong tries lock that name from that address for a while."""
    user = authenticate(request, username=username, password=password)
    if isinstance(user, User):
        return user
    if AxesProxyHandler.is_locked(request, {"username": username}):
        raise Refused(429, "too_many_tries", "Too many wrong tries. Wait a quarter of an hour.")
    raise Refused(401, "wrong_password", "Name or password is wrong.", {"password": "Name or password is wrong."})


def change_preferences(*, user: User, changes: dict[str, Any]) -> Preferences:
    preferences, _ = Preferences.objects.get_or_create(user=user)
    for name, value in changes.items():
        setattr(preferences, name, value)
    preferences.save()
    return preferences
