"""The lake that a water's weather makes."""

from __future__ import annotations

from django.apps import AppConfig


class LakeConfig(AppConfig):
    name = "lake"
