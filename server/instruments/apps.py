"""Instruments: what they measure of a water's warmth, its lake is told."""

from __future__ import annotations

from django.apps import AppConfig


class InstrumentsConfig(AppConfig):
    name = "instruments"

    def ready(self) -> None:
        from lake.heard import heard_from

        from instruments.lake_readings import heard_by_instruments

        heard_from(heard_by_instruments)
