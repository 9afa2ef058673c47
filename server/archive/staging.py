"""Rows on their way in: nobody's until all of them are here, and swept where they never were."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from django.utils import timezone

from accounts.models import User
from archive.exporting import BOX
from days.models import Day
from instruments.models import Instrument
from instruments.services import remove_instrument
from waters.models import Water

_CALLED = "~on the way in "
"""How the one is called whose they are meanwhile: no name that anybody can sign up with, and without a password."""
LONGEST = timedelta(days=1)


@contextmanager
def stage() -> Iterator[User]:
    """Give somebody whose rows nobody sees; whatever is still his in the end goes."""
    somebody = User(username=f"{_CALLED}{uuid.uuid4().hex}", is_active=False)
    somebody.set_unusable_password()
    somebody.save()
    try:
        yield somebody
    finally:
        _sweep(somebody)


def hand_over(somebody: User, owner: User) -> None:
    """Make all of it the owner's, within a transaction: seen as a whole or not at all."""
    kinds: tuple[Any, ...] = (Water, Day, Instrument, *BOX.values())
    for kind in kinds:
        kind._default_manager.filter(owner=somebody).update(owner=owner)


def sweep() -> int:
    """Let go what a broken-off import left; return of how many."""
    old = User.objects.filter(username__startswith=_CALLED, date_joined__lt=timezone.now() - LONGEST)
    found = list(old)
    for somebody in found:
        _sweep(somebody)
    return len(found)


def _sweep(somebody: User) -> None:
    # One by one: each is a short transaction, and nobody's log waits for it.
    for day in Day.objects.filter(owner=somebody).iterator(chunk_size=200):
        day.delete()
    for instrument in Instrument.objects.filter(owner=somebody):
        remove_instrument(instrument)
    for water in Water.objects.filter(owner=somebody):
        water.delete()
    somebody.delete()
