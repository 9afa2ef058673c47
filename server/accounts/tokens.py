"""Tokens for scripts: hashed, of one scope, with an end, revocable."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta

from common.problems import Refused
from common.throttles import often
from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest
from django.utils import timezone

from accounts.models import Token, User

PREFIX = "still_"
RATE = "240/m"
MOST = 20
_SAFE = frozenset({"GET", "HEAD", "OPTIONS"})


def _digest(said: str) -> str:
    return hashlib.sha256(said.encode()).hexdigest()


def tokens_of(owner: User) -> QuerySet[Token]:
    return Token.objects.filter(owner=owner)


@transaction.atomic
def make(*, owner: User, name: str, scope: str, days: int) -> tuple[Token, str]:
    """Return a new token and what it says, which is shown this once."""
    User.objects.select_for_update().get(pk=owner.pk)  # two at once are counted one after the other
    if tokens_of(owner).count() >= MOST:
        raise Refused(409, "too_many", f"There are {MOST} tokens. Revoke one that is not used.")
    said = PREFIX + secrets.token_urlsafe(32)
    expires_at = timezone.now() + timedelta(days=days)
    return Token.objects.create(
        owner=owner, name=name, digest=_digest(said), begins=said[:10], scope=scope, expires_at=expires_at
    ), said


def bearer(request: HttpRequest, said: str, *, stores_nothing: bool = False) -> User:
    """Return whose token it is; refuses one that is wrong, at its end, used too often, or for reading only where the route
    changes something."""
    now = timezone.now()
    token = Token.objects.select_related("owner").filter(digest=_digest(said), expires_at__gt=now).first()
    if token is None or not token.owner.is_active:
        raise Refused(401, "bad_token", "This token is not valid: wrong, revoked, or past its end.")
    often(request, group="tokens", key=str(token.pk), rate=RATE)
    if token.scope == Token.Scope.READ and not stores_nothing and request.method not in _SAFE:
        raise Refused(403, "read_only", "This token may only read.")
    hour = now.replace(minute=0, second=0, microsecond=0)
    if token.used_at is None or token.used_at < hour:
        Token.objects.filter(pk=token.pk).update(used_at=hour)
    return token.owner
