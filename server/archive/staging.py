"""Rows on their way in: nobody's until all of them are here, and swept where they never were."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from django.db import connection
from django.db.models import Model
from django.utils import timezone

from accounts.models import User
from archive.exporting import BOX
from days.models import Day, DayFacts, Stretch
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
    kinds: tuple[Any, ...] = (Water, Day, DayFacts, Stretch, Instrument, *BOX.values())
    for kind in kinds:
        kind._default_manager.filter(owner=somebody).update(owner=owner)


class TakenIds:
    """Ids that rows on their way in are to have, and that rows which are about to go have still."""

    def __init__(self) -> None:
        self._meanwhile: dict[type[Model], dict[uuid.UUID, uuid.UUID]] = defaultdict(dict)

    def meanwhile(self, kind: type[Model], wanted: uuid.UUID) -> uuid.UUID:
        """Return the id that the row has until `swap`: always the same one."""
        return self._meanwhile[kind].setdefault(wanted, uuid.uuid4())

    def swap(self) -> None:
        """Give each row the id it is to have, within a transaction; who has it gets another, and what names them follows."""
        for kind, ids in self._meanwhile.items():
            _rename(kind, ((wanted, uuid.uuid4()) for wanted in ids))
            _rename(kind, ((now, wanted) for wanted, now in ids.items()))


def _rename(kind: type[Model], ids: Iterable[tuple[uuid.UUID, uuid.UUID]]) -> None:
    # Thousands of rows in the time that a log entry may wait: the store's own statement, many times over.
    key: Any = kind._meta.pk
    pairs = [tuple(key.get_db_prep_value(one, connection) for one in (after, before)) for before, after in ids]
    columns = [(kind, key.column), *((one.related_model, one.field.column) for one in kind._meta.related_objects)]
    with connection.cursor() as cursor:
        for model, column in columns:
            quoted = connection.ops.quote_name(column)
            table = connection.ops.quote_name(model._meta.db_table)
            cursor.executemany(f"UPDATE {table} SET {quoted} = %s WHERE {quoted} = %s", pairs)  # noqa: S608 - names of our own


def sweep() -> int:
    """Let go what a broken-off import left; return of how many."""
    old = User.objects.filter(username__startswith=_CALLED, date_joined__lt=timezone.now() - LONGEST)
    found = list(old)
    for somebody in found:
        _sweep(somebody)
    return len(found)


def _sweep(somebody: User) -> None:
    # One by one: each is a short transaction, and nobody's log waits for it. No question stays open meanwhile: SQLite lets
    # nobody write who still reads what was there before another wrote.
    for day_id in list(Day.objects.filter(owner=somebody).values_list("pk", flat=True)):
        Day.objects.filter(pk=day_id).delete()
    for instrument in Instrument.objects.filter(owner=somebody):
        remove_instrument(instrument)
    for water in Water.objects.filter(owner=somebody):
        water.delete()
    somebody.delete()
