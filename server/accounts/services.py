"""Sign up, sign in, preferences, password, and the way out for good."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from common.problems import Refused
from django.contrib.auth import authenticate
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import IntegrityError, transaction
from django.http import HttpRequest

from accounts.models import Preferences, User
from accounts.sign_ins import end
from accounts.signals import leaving, signed_up

DEMO_USERNAME = "demo-angler"


def sign_up(*, username: str, password: str) -> User:
    """Create a person with preferences, and tell `signed_up`; or refuse a taken name or a weak password."""
    user = User(username=username)
    validated("username", "invalid", lambda: User.username_validator(username))
    validated("password", "weak_password", lambda: validate_password(password, user))
    user.set_password(password)
    try:
        with transaction.atomic():
            user.save()
            Preferences.objects.create(user=user)
            signed_up.send(User, user=user)
    except IntegrityError:
        raise Refused(409, "name_taken", "That name is taken.", {"username": "That name is taken."}) from None
    return user


def validated(field: str, code: str, check: Callable[[], object]) -> None:
    """Run a check of Django's on a field, and refuse with all that it has against it."""
    try:
        check()
    except ValidationError as error:
        said = " ".join(error.messages)
        raise Refused(422, code, said, {field: said}) from None


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


def own_only(user: User) -> None:
    """Refuse what would shut others out: the demo angler is everybody's."""
    if user.username == DEMO_USERNAME:
        raise Refused(403, "demo", "The demo angler is everybody's. Sign up to have an account of your own.")


def _checked(user: User, password: str) -> None:
    if not user.check_password(password):
        raise Refused(422, "wrong_password", "That is not your password.", {"password": "That is not your password."})


def change_password(*, user: User, password: str, new_password: str) -> None:
    """Give the person another password; whoever is signed in elsewhere is not any more."""
    own_only(user)
    _checked(user, password)
    validated("new_password", "weak_password", lambda: validate_password(new_password, user))
    user.set_password(new_password)
    user.save(update_fields=["password"])


def change_email(*, user: User, password: str, email: str) -> User:
    own_only(user)
    _checked(user, password)
    if email:
        validated("email", "invalid", lambda: validate_email(email))
    user.email = email
    user.save(update_fields=["email"])
    return user


def remove(*, user: User, password: str) -> None:
    """Delete the person and all that is theirs, for good."""
    own_only(user)
    _checked(user, password)
    with transaction.atomic():
        end(user.sign_ins.all())
        leaving.send(User, user=user)
        user.delete()
