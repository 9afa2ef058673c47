"""The demo season: invented, the same every time, and true to the physics."""

from __future__ import annotations

import uuid
from contextlib import AbstractContextManager
from datetime import date, timedelta
from unittest.mock import patch
from zoneinfo import ZoneInfo

from django.core.management import call_command
from django.test import TestCase

from accounts.models import User
from days.models import Day, Entry, Presentation
from demo.season import has_aged, load_season, season_summary
from waters.models import Water
from waters.services import rules_of

TODAY = date(2026, 11, 24)


def freeze(on: date) -> AbstractContextManager[object]:
    return patch("demo.management.commands.load_demo.timezone.localdate", return_value=on)


class SeasonTests(TestCase):
    angler: User

    @classmethod
    def setUpTestData(cls) -> None:
        cls.angler = load_season(today=TODAY)

    def test_it_holds_two_waters_and_25_days_of_the_past(self) -> None:
        names = set(Water.objects.values_list("name", flat=True))
        self.assertEqual(names, {"Brennholt Reservoir", "Laguna Trescañas"})
        self.assertEqual(Day.objects.count(), 25)
        self.assertTrue(all(day.at.date() < TODAY for day in Day.objects.all()))
        months = {water: {day.at.month for day in Day.objects.filter(water__name=water)} for water in names}
        self.assertTrue(months["Brennholt Reservoir"] <= set(range(4, 11)))
        self.assertTrue(months["Laguna Trescañas"] <= {11, 12, 1, 2, 3, 4, 5})

    def test_its_newest_day_is_of_now_at_the_water_that_is_open(self) -> None:
        newest = Day.objects.order_by("-at").first()
        assert newest is not None
        self.assertEqual((newest.water.name, newest.at.date()), ("Laguna Trescañas", TODAY - timedelta(days=1)))
        for day in Day.objects.select_related("water"):
            self.assertTrue(rules_of(day.water).open_on(day.at.astimezone(ZoneInfo(day.water.time_zone)).date()))

    def test_it_is_made_anew_when_the_year_has_gone_on_unless_somebody_logged_into_it(self) -> None:
        self.assertFalse(has_aged(today=TODAY + timedelta(days=9)))
        spring = TODAY + timedelta(days=200)
        self.assertTrue(has_aged(today=spring))
        with freeze(spring):
            call_command("load_demo", verbosity=0)
        newest = Day.objects.order_by("-at").first()
        assert newest is not None
        self.assertEqual((newest.water.name, newest.at.date()), ("Brennholt Reservoir", spring - timedelta(days=1)))
        self.assertEqual(Day.objects.count(), 25)
        newest.pk = uuid.uuid4()
        newest.save()
        later = spring + timedelta(days=100)
        self.assertFalse(has_aged(today=later))
        with freeze(later):
            call_command("load_demo", verbosity=0)
        self.assertEqual(Day.objects.count(), 26)

    def test_loading_it_again_adds_nothing_and_a_fresh_load_is_the_same(self) -> None:
        summary = season_summary(self.angler)
        before = list(Entry.objects.order_by("id").values_list("id", "kind", "depth_low_m"))
        self.assertEqual(load_season(today=TODAY), self.angler)
        self.assertEqual(Entry.objects.count(), len(before))
        for day in Day.objects.all():
            day.delete()
        User.objects.all().delete()
        again = load_season(today=TODAY)
        self.assertEqual(season_summary(again), summary)
        self.assertEqual(list(Entry.objects.order_by("id").values_list("id", "kind", "depth_low_m")), before)

    def test_every_take_came_where_its_fly_was_and_none_below_the_bottom(self) -> None:
        takes = Entry.objects.filter(kind__in=["knock", "take", "lost", "landed"]).select_related("presentation__day")
        self.assertGreater(takes.count(), 50)
        for entry in takes:
            path = entry.presentation.path_depth_m
            middle = (entry.depth_low_m + entry.depth_high_m) / 2
            self.assertTrue(min(path) - 0.2 <= middle <= max(path) + 0.2)
            self.assertLessEqual(entry.depth_low_m, entry.presentation.day.conditions["bottom_depth_m"])

    def test_some_presentations_catch_and_some_do_not(self) -> None:
        caught = Presentation.objects.filter(entries__kind="landed").distinct().count()
        self.assertTrue(10 < caught < Presentation.objects.count() - 5)
