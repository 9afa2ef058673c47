"""People, and the units and look they chose."""

from __future__ import annotations

import unicodedata
from typing import Any

from django.contrib.auth.models import AbstractUser
from django.db import models


def name_key(name: str) -> str:
    """Return a name as names are compared: by what they look like, so that no twin of one can sign up.

    >>> name_key("TROUT") == name_key("trout")
    True
    """
    return unicodedata.normalize("NFKC", unicodedata.normalize("NFKC", name).casefold())


class User(AbstractUser):
    """A person who signs in with a name and a password."""

    name_key = models.CharField(max_length=400, unique=True, editable=False, help_text="the name as names are compared")

    def save(self, *args: Any, **kwargs: Any) -> None:
        self.name_key = name_key(self.username)
        fields = kwargs.get("update_fields")
        if fields is not None and "username" in fields:
            kwargs["update_fields"] = {*fields, "name_key"}
        super().save(*args, **kwargs)


class Preferences(models.Model):
    """Units per quantity and the theme, kept with the person. Inside, all is SI."""

    class Depth(models.TextChoices):
        METRES = "m"
        FEET = "ft"

    class Temperature(models.TextChoices):
        CELSIUS = "C"
        FAHRENHEIT = "F"

    class LineSpeed(models.TextChoices):
        CENTIMETRES = "cm/s"
        INCHES = "in/s"

    class Wind(models.TextChoices):
        METRES = "m/s"
        MILES = "mph"
        KNOTS = "kn"
        BEAUFORT = "Bft"

    class FishLength(models.TextChoices):
        CENTIMETRES = "cm"
        INCHES = "in"

    class Mass(models.TextChoices):
        KILOGRAMS = "kg"
        POUNDS = "lb"

    class Theme(models.TextChoices):
        LIGHT = "light"
        DUSK = "dusk"

    user = models.OneToOneField(User, on_delete=models.CASCADE, related_name="preferences", primary_key=True)
    depth_unit = models.CharField(max_length=4, choices=Depth.choices, default=Depth.METRES)
    temperature_unit = models.CharField(max_length=4, choices=Temperature.choices, default=Temperature.CELSIUS)
    line_speed_unit = models.CharField(max_length=4, choices=LineSpeed.choices, default=LineSpeed.CENTIMETRES)
    wind_unit = models.CharField(max_length=4, choices=Wind.choices, default=Wind.METRES)
    fish_length_unit = models.CharField(max_length=4, choices=FishLength.choices, default=FishLength.CENTIMETRES)
    mass_unit = models.CharField(max_length=4, choices=Mass.choices, default=Mass.KILOGRAMS)
    theme = models.CharField(max_length=8, choices=Theme.choices, default=Theme.LIGHT)
    sound_on = models.BooleanField(default=True)
    beat_on = models.BooleanField(default=False)
    left_handed = models.BooleanField(default=False)
    uses_log = models.BooleanField(default=True, help_text="whether days like this one lean the belief")

    def __str__(self) -> str:
        return f"preferences of {self.user}"


class SignIn(models.Model):
    """Where somebody is signed in: what browser it is, and since when. Neither address nor place is kept."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="sign_ins")
    session_key = models.CharField(max_length=40, unique=True)
    device = models.CharField(max_length=80, help_text="browser and system, by what it says of itself")
    began_at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField(help_text="to the hour")

    class Meta:
        ordering = ["-seen_at", "-id"]

    def __str__(self) -> str:
        return f"{self.user} on {self.device}"


class Token(models.Model):
    """Lets a script ask in somebody's name. Only a digest of it is kept: what is lost can't be shown again."""

    class Scope(models.TextChoices):
        READ = "read"
        WRITE = "write"

    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="tokens")
    name = models.CharField(max_length=80)
    digest = models.CharField(max_length=64, unique=True, help_text="SHA-256: the token itself is random enough")
    begins = models.CharField(max_length=12, help_text="its first letters, to know it by")
    scope = models.CharField(max_length=5, choices=Scope.choices)
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True, help_text="last, to the hour")

    class Meta:
        ordering = ["-made_at", "-id"]

    def __str__(self) -> str:
        return f"{self.begins}… ({self.scope}) of {self.owner}"


class ResetAsked(models.Model):
    """That somebody asked for a link to a new password: mailed by another than who answers, so that an answer takes as long
    whether there is such a person or not."""

    user = models.ForeignKey(User, on_delete=models.CASCADE, null=True, related_name="+", help_text="none: nobody is called so")
    asked_at = models.DateTimeField(auto_now_add=True)
    sent_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["asked_at", "id"]

    def __str__(self) -> str:
        return f"asked at {self.asked_at}"
