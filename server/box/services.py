"""Keep the box, and turn stored tackle into the core's."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict
from typing import Any, TypeVar

from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404

from accounts.models import User
from box.models import Float, Fly, Leader, Line, Owned, Rod, Spool
from box.starter import STARTER_FLIES, STARTER_FLOATS, STARTER_LEADERS, STARTER_LINES, STARTER_SPOOLS
from stillthread.api import (
    CALIBRATED_SPREAD,
    FOODS,
    BadInput,
    BoxFly,
    BoxLine,
    read_flies_csv,
    read_leaders_csv,
    read_lines_csv,
    write_flies_csv,
    write_leaders_csv,
    write_lines_csv,
)
from stillthread.api import Fly as CoreFly
from stillthread.api import Hardware as CoreHardware
from stillthread.api import Leader as CoreLeader
from stillthread.api import LeaderSection as CoreLeaderSection
from stillthread.api import Line as CoreLine
from stillthread.api import Stretch as CoreStretch

Item = TypeVar("Item", bound=Owned)


def items_of(kind: type[Item], owner: User) -> QuerySet[Item]:
    return kind._default_manager.filter(owner=owner)


def item_of(kind: type[Item], owner: User, item_id: int) -> Item:
    """Return the owner's line, leader or fly, or 404."""
    return get_object_or_404(items_of(kind, owner), pk=item_id)


def core_line(fields: dict[str, Any]) -> CoreLine:
    return CoreLine(
        fields["name"],
        fields["class_key"],
        fields["number"],
        fields["sink_rate_mps"],
        tip_m=fields.get("tip_m"),
        stretches=tuple(_stretch(s) for s in fields.get("stretches") or ()),
        looped=_stretch(fields["looped"]) if fields.get("looped") else None,
        rate_spread=fields.get("rate_spread"),
    )


def _stretch(fields: dict[str, Any]) -> CoreStretch:
    return CoreStretch(fields["length_m"], fields["sink_rate_mps"])


def core_leader(fields: dict[str, Any]) -> CoreLeader:
    sections = tuple(
        CoreLeaderSection(s["length_m"], s["diameter_m"], s.get("material", "fluorocarbon"), s.get("greased", False))
        for s in fields["sections"]
    )
    hardware = tuple(CoreHardware(h["kind"], h["above_point_m"]) for h in fields.get("hardware") or ())
    return CoreLeader(fields["name"], sections, hardware)


def core_fly(fields: dict[str, Any]) -> CoreFly:
    return CoreFly(
        name=fields["name"],
        hook_size=fields["hook_size"],
        dressing=fields.get("dressing", "medium"),
        wire=fields.get("wire", "standard"),
        bead=fields.get("bead", "none"),
        bead_mm=fields.get("bead_mm", 0.0),
        foam_mm3=fields.get("foam_mm3", 0.0),
        extra_g=fields.get("extra_g", 0.0),
        wetted=fields.get("wetted", True),
        measured_sink_mps=fields.get("measured_sink_mps"),
    )


def core_box_fly(fields: dict[str, Any]) -> BoxFly:
    return BoxFly(
        core_fly(fields),
        tuple(fields.get("foods") or ()),
        fields.get("style", "natural"),
        fields.get("colour", ""),
        fields.get("left", 2),
    )


# What the core has to accept before it is stored; a rod, a float or a spool is a plain fact.
_AS_CORE: dict[type[Owned], Any] = {Line: core_line, Leader: core_leader, Fly: core_box_fly}
MOST_OF_A_KIND = 400


def save_item(*, item: Item, fields: dict[str, Any]) -> Item:
    """Store a new or changed item once the core accepts it."""
    if isinstance(item, Line):
        fields = _as_measured(fields)
    check = _AS_CORE.get(type(item))
    if check is not None:
        check(fields)
    if item.pk is None and items_of(type(item), item.owner).count() >= MOST_OF_A_KIND:
        raise BadInput(f"A box holds {MOST_OF_A_KIND} of a kind.", field="name")
    for name, value in fields.items():
        setattr(item, name, value)
    item.save()
    return item


def _as_measured(fields: dict[str, Any]) -> dict[str, Any]:
    """Return a line with how well its rate is known: as timed, or as one takes it that was measured by hand."""
    measured = fields.get("calibrated", False)
    spread = fields.get("rate_spread") or float(CALIBRATED_SPREAD)
    return {**fields, "rate_spread": spread} if measured else {**fields, "rate_spread": None, "label_mps": None}


def flies_csv(owner: User) -> bytes:
    return write_flies_csv([core_box_fly(vars(fly)) for fly in items_of(Fly, owner)])


def lines_csv(owner: User) -> bytes:
    return write_lines_csv([BoxLine(core_line(vars(line)), line.calibrated) for line in items_of(Line, owner)])


def leaders_csv(owner: User) -> bytes:
    return write_leaders_csv([core_leader(vars(leader)) for leader in items_of(Leader, owner)])


def take_flies(*, owner: User, data: bytes) -> dict[str, int]:
    """Add or change the flies of a CSV, all of them or none."""

    def fields(one: BoxFly) -> dict[str, Any]:
        imitates = FOODS[one.foods[0]].name.lower() if one.foods else "searching"
        use = {"foods": list(one.foods), "style": one.style, "colour": one.colour, "left": one.left, "imitates": imitates}
        return {**asdict(one.fly), **use}

    return _take(Fly, owner, map(fields, read_flies_csv(data)))


def take_lines(*, owner: User, data: bytes) -> dict[str, int]:
    """Add or change the lines of a CSV, all of them or none."""
    return _take(Line, owner, ({**asdict(one.line), "calibrated": one.calibrated} for one in read_lines_csv(data)))


def take_leaders(*, owner: User, data: bytes) -> dict[str, int]:
    """Add or change the leaders of a CSV, all of them or none."""
    return _take(Leader, owner, map(asdict, read_leaders_csv(data)))


@transaction.atomic
def _take(kind: type[Owned], owner: User, read: Iterable[dict[str, Any]]) -> dict[str, int]:
    told = {"added": 0, "changed": 0}
    for fields in read:
        known = items_of(kind, owner).filter(name=fields["name"]).first()
        save_item(item=known or kind(owner=owner), fields=fields)
        told["changed" if known else "added"] += 1
    return told


@transaction.atomic
def give_starter_box(*, owner: User) -> None:
    Line.objects.bulk_create(Line(owner=owner, **fields) for fields in STARTER_LINES)
    Leader.objects.bulk_create(Leader(owner=owner, **fields) for fields in STARTER_LEADERS)
    Fly.objects.bulk_create(Fly(owner=owner, **fields) for fields in STARTER_FLIES)
    Rod.objects.create(owner=owner, name="10 ft, number 6", length_m=3.05, number=6)
    Float.objects.bulk_create(Float(owner=owner, name=kind.capitalize(), kind=kind) for kind in STARTER_FLOATS)
    Spool.objects.bulk_create(Spool(owner=owner, **fields) for fields in STARTER_SPOOLS)
