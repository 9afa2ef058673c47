"""What the angler owns: lines, leaders, flies."""

from __future__ import annotations

from common.kept import Kept
from django.conf import settings
from django.db import models
from django.db.models import Q


class Owned(Kept):
    """Something of one person's, under a name."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=80)

    class Meta:
        abstract = True
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name


class Line(Owned):
    """A fly line; `sink_rate_mps` is its label until it is calibrated, then `label_mps` keeps that."""

    class_key = models.CharField(max_length=24)
    number = models.PositiveSmallIntegerField(default=6)
    sink_rate_mps = models.FloatField()
    calibrated = models.BooleanField(default=False)
    rate_spread = models.FloatField(null=True, blank=True, help_text="one standard deviation as a share, once timed")
    label_mps = models.FloatField(null=True, blank=True)
    tip_m = models.FloatField(null=True, blank=True)
    stretches = models.JSONField(default=list, blank=True)
    looped = models.JSONField(null=True, blank=True)

    class Meta(Owned.Meta):
        constraints = [models.CheckConstraint(condition=Q(sink_rate_mps__range=(0, 0.3)), name="line_sink_rate_in_range")]


class Leader(Owned):
    """A leader: sections from the line to the point [{length_m, diameter_m, material, greased}], and the swivels, rings
    and shot along it [{kind, above_point_m}]."""

    sections = models.JSONField()
    hardware = models.JSONField(default=list, blank=True)


class Fly(Owned):
    """A fly: what it looks like, and what sets its sinking."""

    imitates = models.CharField(max_length=60, blank=True)
    foods = models.JSONField(default=list, blank=True, help_text="keys of the foods it imitates")
    style = models.CharField(max_length=10, default="natural")
    left = models.PositiveSmallIntegerField(default=2, help_text="how many are left")
    colour = models.CharField(max_length=30, blank=True)
    hook_size = models.PositiveSmallIntegerField()
    dressing = models.CharField(max_length=10, default="medium")
    wire = models.CharField(max_length=10, default="standard")
    bead = models.CharField(max_length=10, default="none")
    bead_mm = models.FloatField(default=0.0)
    foam_mm3 = models.FloatField(default=0.0)
    extra_g = models.FloatField(default=0.0)
    wetted = models.BooleanField(default=True)
    measured_sink_mps = models.FloatField(null=True, blank=True)


class Rod(Owned):
    """A rod by its length, and the line number it is built for."""

    length_m = models.FloatField()
    number = models.PositiveSmallIntegerField(default=6)


class Float(Owned):
    """An indicator: how it is held, and its size, which says what it carries."""

    kind = models.CharField(max_length=14)
    diameter_m = models.FloatField(default=0.019)


class Spool(Owned):
    """Leader material: what it is and how thick."""

    material = models.CharField(max_length=14)
    diameter_m = models.FloatField()
