"""Where a person is signed in, and how it is ended."""

from __future__ import annotations

from datetime import datetime, timezone
from typing import Any

from django.contrib.auth import logout
from django.contrib.auth.signals import user_logged_in
from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import QuerySet
from django.dispatch import receiver
from django.http import HttpRequest
from django.utils import timezone as clock
from ua_parser import parse

from accounts.models import SignIn, User

_SEEN = "seen"
EVERY_S = 3600.0


def device_of(user_agent: str) -> str:
    """Return browser and system in words, as a browser tells of itself.

    >>> device_of("curl/8.5.0")
    'curl'
    """
    said = parse(user_agent[:400])
    parts = [part.family for part in (said.user_agent, said.os) if part and part.family != "Other"]
    return " on ".join(parts)[:80] or "Something that does not say what it is"


def _hour(now: datetime) -> datetime:
    return now.astimezone(timezone.utc).replace(minute=0, second=0, microsecond=0)


def note(request: HttpRequest, user: object) -> None:
    """Keep that this session was seen, once an hour: what is asked often must not be written often."""
    key, now = request.session.session_key, clock.now()
    if not isinstance(user, User) or key is None or now.timestamp() < request.session.get(_SEEN, 0.0) + EVERY_S:
        return
    device = device_of(request.META.get("HTTP_USER_AGENT", ""))
    SignIn.objects.update_or_create(session_key=key, defaults={"user": user, "device": device, "seen_at": _hour(now)})
    request.session[_SEEN] = now.timestamp()


def note_anew(request: HttpRequest, user: User) -> None:
    """Keep this session under the key that it has by now."""
    request.session.pop(_SEEN, None)
    if request.session.session_key is None:  # of one who signs in where another was signed in
        request.session.create()
    note(request, user)


@receiver(user_logged_in)
def _began(request: HttpRequest, user: User, **_: Any) -> None:
    note_anew(request, user)


def sign_ins_of(user: User) -> QuerySet[SignIn]:
    live = Session.objects.filter(expire_date__gt=clock.now()).values("session_key")
    return SignIn.objects.filter(user=user, session_key__in=live)


def end(sign_ins: QuerySet[SignIn]) -> None:
    """Sign out wherever these are."""
    with transaction.atomic():
        Session.objects.filter(session_key__in=list(sign_ins.values_list("session_key", flat=True))).delete()
        sign_ins.delete()


def end_others(request: HttpRequest, user: User) -> None:
    """Sign out everywhere but here."""
    end(SignIn.objects.filter(user=user).exclude(session_key=request.session.session_key))


def end_this(request: HttpRequest) -> None:
    SignIn.objects.filter(session_key=request.session.session_key).delete()
    logout(request)


def tidy() -> int:
    """Forget sign-ins whose session has run out; return how many."""
    gone, _ = SignIn.objects.exclude(session_key__in=Session.objects.values("session_key")).delete()
    return gone
