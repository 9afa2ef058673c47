"""Rows on their way in: nobody's until all of them are here, and swept where they never were."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any

from django.db import connection
from django.db.models import Model
from django.utils import timezone
from lookback.models import Trial

from accounts.models import User
from archive.exporting import BOX
from days.models import Catch, Change, Day, DayFacts, Entry, Photo, Presentation, Stretch
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


class TakenIds:
    """Ids that rows on their way in are to have, and that rows which are about to go have still."""

    def __init__(self) -> None:
        self._meanwhile: dict[type[Model], dict[uuid.UUID, uuid.UUID]] = defaultdict(dict)

    def meanwhile(self, kind: type[Model], wanted: uuid.UUID) -> uuid.UUID:
        """Return the id that the row has until `give`: always the same one."""
        return self._meanwhile[kind].setdefault(wanted, uuid.uuid4())

    def give(self) -> None:
        """Give each row the id it is to have, within a transaction; what names it follows."""
        with connection.cursor() as cursor:
            for kind, ids in self._meanwhile.items():
                key: Any = kind._meta.pk
                pairs = [tuple(key.get_db_prep_value(one, connection) for one in (wanted, now)) for wanted, now in ids.items()]
                children = [(one.related_model, one.field.column) for one in kind._meta.related_objects]
                columns: list[tuple[Any, str]] = [(kind, key.column), *children]
                for model, column in columns:
                    table = connection.ops.quote_name(model._meta.db_table)
                    name = connection.ops.quote_name(column)
                    # Thousands of rows in the time that another's entry may wait: the store's own statement, many times over.
                    cursor.executemany(f"UPDATE {table} SET {name} = %s WHERE {name} = %s", pairs)  # noqa: S608 - our own names


def clear_log(owner: User) -> None:
    """Delete a person's days and trials, which have the ids of what replaces them, within a transaction."""
    whose = {
        Photo: "entry__presentation__day__owner", Change: "day__owner", Entry: "presentation__day__owner", Stretch: "owner",
        Presentation: "day__owner", Catch: "day__owner", DayFacts: "owner", Day: "owner", Trial: "line__owner",
    }  # fmt: skip
    for kind, path in whose.items():
        # Children come before parents, so nothing has to be looked for one by one while others wait.
        rows: Any = kind._default_manager.filter(**{path: owner})
        rows._raw_delete(rows.db)


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
