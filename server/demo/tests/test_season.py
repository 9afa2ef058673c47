"""The demo season: invented, the same every time, and true to the physics."""

from __future__ import annotations

from datetime import date

from django.test import TestCase

from accounts.models import User
from days.models import Day, Entry, Presentation
from demo.season import load_season, season_summary
from waters.models import Water

TODAY = date(2026, 11, 24)


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
        self.assertTrue(months["Brennholt Reservoir"] <= set(range(5, 11)))
        self.assertTrue(months["Laguna Trescañas"] <= {11, 12, 1, 2, 3, 4})

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
