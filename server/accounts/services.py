"""Sign up, sign in, preferences, password, and the way out for good."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable, Mapping
from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from common.problems import Refused
from common.throttles import often
from django.contrib.auth import authenticate
from django.contrib.auth.password_validation import validate_password
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import IntegrityError, transaction
from django.http import HttpRequest

from accounts.models import Preferences, SignIn, Token, User, name_key
from accounts.sign_ins import end
from accounts.signals import leaving, signed_up

DEMO_USERNAME = "demo-angler"
TRIES_AT_A_NAME = "120/h"  # from wherever: who guesses from many addresses guesses slowly


def sign_up(*, username: str, password: str) -> User:
    """Create a person with preferences, and tell `signed_up`; or refuse a taken name or a weak password."""
    username = unicodedata.normalize("NFKC", username)
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
    """Return the person, or refuse; too many wrong tries lock that name from that address for a while, and from everywhere
    after many more. A name is what it looks like: nobody has to write it as he did when he signed up."""
    key = name_key(username)
    often(request, group="tries at a name", key=key, rate=TRIES_AT_A_NAME)
    username = User.objects.filter(name_key=key).values_list("username", flat=True).first() or username
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


def confirm(user: User, password: str) -> None:
    """Refuse whoever holds an open device and does not know the password."""
    if not user.check_password(password):
        raise Refused(422, "wrong_password", "That is not your password.", {"password": "That is not your password."})


def change_password(*, user: User, password: str, new_password: str) -> None:
    """Give the person another password; whoever is signed in elsewhere is not any more, and no token is good."""
    own_only(user)
    confirm(user, password)
    validated("new_password", "weak_password", lambda: validate_password(new_password, user))
    user.set_password(new_password)
    with transaction.atomic():
        user.save(update_fields=["password"])
        user.tokens.all().delete()


def change_email(*, user: User, password: str, email: str) -> User:
    own_only(user)
    confirm(user, password)
    if email:
        validated("email", "invalid", lambda: validate_email(email))
    user.email = email
    user.save(update_fields=["email"])
    return user


def remove(*, user: User, password: str) -> None:
    """Delete the person and all that is theirs, for good."""
    own_only(user)
    confirm(user, password)
    with transaction.atomic():
        end(user.sign_ins.all())
        leaving.send(User, user=user)
        user.delete()


def as_they_are_now(people: Mapping[tuple[int, str], str] | None) -> tuple[int, int]:
    """After the store went back to a copy, have accounts be as they were until then: who had gone is gone, a password that was
    changed is changed, and what lets anybody in without one lets nobody in. Return how many of each. Where nobody knows how
    they were (none), accounts stay as the copy has them."""
    removed = changed = 0
    with transaction.atomic():
        Session.objects.all().delete()
        SignIn.objects.all().delete()
        Token.objects.all().delete()
        for user in User.objects.all() if people is not None else ():
            assert people is not None
            password = people.get((user.pk, user.username))
            if password is None:
                leaving.send(User, user=user)
                user.delete()
                removed += 1
            elif password != user.password:
                User.objects.filter(pk=user.pk).update(password=password)
                changed += 1
    return removed, changed
