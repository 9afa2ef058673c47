"""The log: days, what was fished in them, and what happened. Ids come from the device, so a resend stores once."""

from __future__ import annotations

import uuid
from datetime import datetime

from common.kept import Kept
from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils import timezone

from stillthread.api import ENTRY_KINDS, is_odd
from waters.models import Water

KINDS = [(kind.key, kind.key.capitalize()) for kind in ENTRY_KINDS.values()]


class Timed(models.Model):
    """What a device logged: when it happened, put right; what the device's own clock said; and when the server got it."""

    device_at = models.DateTimeField(null=True, help_text="by the device's clock; none for what was logged before it was kept")
    received_at = models.DateTimeField(null=True)

    class Meta:
        abstract = True

    def happened_at(self) -> datetime:
        raise NotImplementedError

    @property
    def odd_time(self) -> bool:
        """Whether the time can't be true, as the log has it."""
        return self.received_at is not None and is_odd(self.happened_at(), self.received_at)


class Day(Timed):
    """A day's fishing at one water. `conditions` are those it began under, as checked by the API's `ConditionsIn`; beside them
    stand only the columns that are asked for."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="days")
    water = models.ForeignKey(Water, on_delete=models.PROTECT, related_name="days")
    at = models.DateTimeField()
    conditions = models.JSONField(help_text="as sent, with the species named")
    notes = models.TextField(max_length=4000, blank=True)
    tallied = models.BooleanField(default=False, help_text="whether its facts are of all that is logged")

    class Meta:
        ordering = ["-at", "id"]
        indexes = [
            models.Index(fields=["owner", "-at"]),
            models.Index(fields=["owner"], condition=Q(tallied=False), name="day_untallied"),
        ]

    def __str__(self) -> str:
        return f"{self.water} {self.at:%Y-%m-%d}"

    def happened_at(self) -> datetime:
        return self.at


class Presentation(Timed):
    """What was fished: rig, count and retrieve as they were, and where the simulation put the point fly."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="presentations")
    started_at = models.DateTimeField()
    conditions = models.JSONField(help_text="as sent, when this was begun")
    line = models.JSONField()
    leader = models.JSONField()
    flies = models.JSONField()
    action = models.JSONField(help_text="what was done: a cast, a float that hangs or a tow, by its `kind`")
    low_m = models.FloatField()
    high_m = models.FloatField()
    path_s = models.JSONField()
    path_depth_m = models.JSONField()
    path_spread_m = models.JSONField()
    told = models.JSONField(null=True, help_text="what the picture of then says of the water; worked out when first needed")
    advice = models.JSONField(null=True, help_text="what the plan promised of it, where it was the plan's")

    class Meta:
        ordering = ["started_at", "id"]
        constraints = [
            models.CheckConstraint(condition=Q(action__kind__in=["cast", "hang", "tow"]), name="cast_hung_or_towed"),
        ]

    def __str__(self) -> str:
        action = self.action
        if action.get("set_depth_m") is not None:
            return f"float at {action['set_depth_m']:g} m"
        return f"{self.line['name']}, " + (
            f"count {action['count_s']:g}" if "count_s" in action else f"{action['out_m']:g} m out"
        )

    def happened_at(self) -> datetime:
        return self.started_at


class Entry(Timed):
    """Something that happened at a cast, or was seen or told meanwhile. Undoing keeps the row and its time."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    presentation = models.ForeignKey(Presentation, on_delete=models.CASCADE, related_name="entries")
    kind = models.CharField(max_length=8, choices=KINDS)
    at = models.DateTimeField()
    cast_elapsed_s = models.FloatField(null=True, blank=True)
    depth_low_m = models.FloatField()
    depth_high_m = models.FloatField()
    species = models.CharField(max_length=20, blank=True)
    length_m = models.FloatField(null=True, blank=True)
    weight_kg = models.FloatField(null=True, blank=True, help_text="weighed; an estimate is never kept")
    kept = models.BooleanField(null=True, blank=True)
    played_s = models.FloatField(null=True, blank=True)
    toward = models.SmallIntegerField(null=True, blank=True, help_text="where a cast went: -2 hard left to 2 hard right")
    far = models.BooleanField(null=True, blank=True)
    fly = models.SmallIntegerField(null=True, blank=True, help_text="to which fly it came, the point 0; empty: nobody knows")
    phase = models.CharField(max_length=4, blank=True, help_text="of the cast: drop, pull, stop, hang, lift, rest")
    fly_class = models.SmallIntegerField(null=True, blank=True, help_text="of the fly that another's fish took")
    colour = models.CharField(max_length=80, blank=True, help_text="of the same")
    hook_size = models.SmallIntegerField(null=True, blank=True, help_text="of the same")
    pace = models.CharField(max_length=5, blank=True, help_text="of the same: still, slow, quick")
    undone_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ["at", "id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(kind__in=list(ENTRY_KINDS)),
                name="entry_kind",
            ),
            models.CheckConstraint(condition=Q(length_m=None) | Q(length_m__range=(0.02, 1.5)), name="entry_length_in_range"),
            models.CheckConstraint(
                condition=Q(weight_kg=None) | Q(weight_kg__range=(0.005, 30.0)), name="entry_weight_in_range"
            ),
            models.CheckConstraint(condition=Q(depth_low_m__lte=models.F("depth_high_m")), name="entry_depths_in_order"),
        ]

    def __str__(self) -> str:
        return f"{self.kind} at {self.at:%H:%M}"

    def happened_at(self) -> datetime:
        return self.at


class Photo(models.Model):
    """A picture of a fish, as small as it is shown and without a word of where it was taken."""

    entry = models.OneToOneField(Entry, on_delete=models.CASCADE, related_name="photo", primary_key=True)
    jpeg = models.BinaryField()
    width_px = models.PositiveIntegerField()
    height_px = models.PositiveIntegerField()
    kept_at = models.DateTimeField(default=timezone.now)

    def __str__(self) -> str:
        return f"photo of {self.entry}"


class DayFacts(models.Model):
    """What is asked of a day again and again: derived from what is logged, and made anew when that changes."""

    day = models.OneToOneField(Day, on_delete=models.CASCADE, related_name="facts", primary_key=True)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    water = models.ForeignKey(Water, on_delete=models.CASCADE, related_name="+")
    at = models.DateTimeField()
    on = models.DateField(help_text="the date there")
    northern_day = models.FloatField()
    surface_c = models.FloatField()
    light = models.FloatField()
    wind_mps = models.FloatField()
    secchi_m = models.FloatField()
    bottom_m = models.FloatField()
    thermocline_m = models.FloatField(null=True)
    hours = models.FloatField()
    casts = models.PositiveIntegerField()
    takes = models.PositiveIntegerField()
    landed = models.PositiveIntegerField()
    longest_m = models.FloatField(null=True)
    counts = models.JSONField()
    take_depths = models.JSONField()
    foods = models.JSONField(help_text="food keys that signs or a sample told of, each with how much")
    words = models.TextField(help_text="ways, lines, flies, spots and notes, to be searched")

    class Meta:
        indexes = [models.Index(fields=["owner", "-at"]), models.Index(fields=["owner", "water", "-at"])]

    def __str__(self) -> str:
        return f"facts of {self.day}"


class Stretch(models.Model):
    """A presentation within one hour of the clock, with how long its fly was where: derived like the day's facts.

    `layers` are the seconds below the surface, the takes and the landed there, then the same above the bottom: six rows
    of float32, one column to a layer.
    """

    presentation = models.ForeignKey(Presentation, on_delete=models.CASCADE, related_name="+")
    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="+")
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    water = models.ForeignKey(Water, on_delete=models.CASCADE, related_name="+")
    on = models.DateField()
    month = models.PositiveSmallIntegerField()
    hour = models.PositiveSmallIntegerField()
    way = models.CharField(max_length=20)
    line = models.CharField(max_length=80)
    by_fly = models.JSONField(default=list, help_text="name, takes and landed of each fly of the team, the point first")
    retrieve = models.CharField(max_length=24, blank=True)
    spot = models.CharField(max_length=80, blank=True)
    surface_c = models.FloatField()
    light = models.FloatField()
    wind_mps = models.FloatField()
    hours = models.FloatField()
    takes = models.PositiveIntegerField()
    landed = models.PositiveIntegerField()
    layers = models.BinaryField()

    class Meta:
        indexes = [models.Index(fields=["owner", "on"]), models.Index(fields=["owner", "water", "on"])]

    def __str__(self) -> str:
        return f"{self.presentation_id} at {self.hour}"


class Change(Kept):
    """What was changed in the log afterwards: as it was before, and as it was then. Kept for good."""

    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="changes")
    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, null=True, related_name="changes")
    at = models.DateTimeField(default=timezone.now)
    before = models.JSONField()
    after = models.JSONField()

    class Meta:
        ordering = ["-at", "-id"]

    def __str__(self) -> str:
        return f"{', '.join(self.after)} of {self.entry or self.day}"


class Catch(models.Model):
    """Fish from another log: what it tells of them, and nothing of where a fly was or for how long.

    They count as caught that day, and never towards a rate: nobody knows the hours.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="catches")
    at = models.DateTimeField()
    timed = models.BooleanField(default=False, help_text="whether the clock time was told, or is noon for want of one")
    count = models.PositiveSmallIntegerField(default=1)
    species = models.CharField(max_length=40, blank=True, help_text="in the other log's words")
    length_m = models.FloatField(null=True, blank=True)
    weight_kg = models.FloatField(null=True, blank=True)
    depth_m = models.FloatField(null=True, blank=True)
    kept = models.BooleanField(null=True, blank=True)
    fly = models.CharField(max_length=80, blank=True)
    method = models.CharField(max_length=80, blank=True)
    notes = models.TextField(max_length=2000, blank=True)

    class Meta:
        ordering = ["at", "id"]
        constraints = [
            models.CheckConstraint(condition=Q(count__range=(1, 500)), name="catch_count_in_range"),
            models.CheckConstraint(condition=Q(length_m=None) | Q(length_m__range=(0.02, 1.5)), name="catch_length_in_range"),
            models.CheckConstraint(condition=Q(weight_kg=None) | Q(weight_kg__range=(0.005, 30.0)), name="catch_weight"),
        ]

    def __str__(self) -> str:
        return f"{self.count} {self.species or 'fish'}, {self.at:%Y-%m-%d}"
