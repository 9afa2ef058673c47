"""A lake carried on by its weather: what must hold of any lake, and of any ensemble of lakes."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, datetime, timedelta, timezone

import numpy as np

from stillthread.errors import BadInput, FloatArray
from stillthread.formats.weather_json import WEATHER_LIMITS
from stillthread.lake.change import DayOf, lake_changed
from stillthread.lake.ensemble import (
    MEMBERS,
    LakeState,
    LakeWater,
    begin_lake,
    carry_lake_on,
    lake_begins_at,
    tell_lake,
    usual_member,
)
from stillthread.lake.heat import ICE_JM3, WATER_HEAT_JM3K, density, vapour_hpa
from stillthread.lake.layers import edges_m, shape_of
from stillthread.lake.model import INFLOW, MEMBER_N, MUD_JM3K, MUD_M, OUTLET, SHELTER, VAPOUR, _holds_mgl, carry
from stillthread.lake.weather import Weather, filled_hours, hour_angles, standing, stream_c, sunlight_wm2, weather_of
from stillthread.water.hypsography import Hypsography
from stillthread.water.oxygen import oxygen_saturation_mgl, standard_pressure_atm
from stillthread.water.properties import water_density_kgm3
from stillthread.water.reading import Reading
from stillthread.water.seasonal import Lake
from stillthread.water.stratification import find_layers
from stillthread.weather.sun import Place, sun_elevation_deg

SPRING = datetime(2026, 4, 25, tzinfo=timezone.utc)
DEPTHS = np.arange(0.5, 20.0, 0.5)


def a_water(*, latitude: float = 52.0, secchi_m: float = 3.5, fetch_km: float = 1.5, altitude: float = 200.0) -> LakeWater:
    return LakeWater(place=Place(latitude, 9.0), lake=Lake(latitude, altitude, fetch_km), deepest_m=20.0, secchi_m=secchi_m)


def some_weather(start: datetime, days: int, *, wind: float = 3.5, seed: int = 1) -> Weather:
    """Weather that comes and goes over days; the air is left to the season."""
    rng = np.random.default_rng(seed)
    hours = 24 * days
    gusts = np.repeat(rng.gamma(4.0, 0.25, days), 24)
    cloud = np.repeat(rng.uniform(0.0, 1.0, days), 24)
    return Weather(start=start, columns={"wind_mps": wind * gusts, "cloud": cloud, "air_c": np.full(hours, np.nan)})


def carried(water: LakeWater, days: int = 90, start: datetime = SPRING, *, wind: float = 3.5) -> LakeState:
    state = begin_lake(water, start, seed=1)
    return carry_lake_on(state, water, some_weather(start, days, wind=wind))[0]


def thermocline_m(state: LakeState) -> float:
    found = find_layers(DEPTHS, state.column().at_c(DEPTHS).mean(axis=0)).thermocline_m
    assert found is not None
    return found


class LayersTests(unittest.TestCase):
    def test_layers_fill_a_lake_of_any_depth(self) -> None:
        for deepest in (0.3, 0.7, 3.0, 6.0, 6.1, 18.3, 47.0, 100.0):
            edge = edges_m(deepest)
            self.assertEqual((edge[0], edge[-1]), (0.0, deepest))
            self.assertTrue((np.diff(edge) > 0.0).all(), edge)
            self.assertLess(len(edge), 70)
            shape = shape_of(deepest_m=deepest, surface_m2=1e6)
            self.assertTrue((np.diff(shape.area_m2) <= 0.0).all() and (shape.volume_m3 > 0.0).all())


class WeatherTests(unittest.TestCase):
    def test_the_suns_height_is_an_almanacs_within_a_degree(self) -> None:
        for latitude in (61.2, 5.0, -41.3):
            place, start = Place(latitude, -71.5), datetime(2026, 3, 5, tzinfo=timezone.utc)
            height, _ = hour_angles(place, start, 24 * 300)
            for hour in range(0, 24 * 300, 157):
                at = start + timedelta(hours=hour + 0.5)
                true = sun_elevation_deg(place, at)
                if true > 2.0:  # refraction counts below
                    self.assertAlmostEqual(float(np.degrees(np.arcsin(height[hour]))), true, delta=1.0)

    def test_no_sky_lets_down_more_than_the_sun_brings_and_a_covered_one_a_quarter(self) -> None:
        height = np.linspace(-1.0, 1.0, 41)
        clear = sunlight_wm2(height, np.zeros(41))
        self.assertTrue((clear <= 1361.0 * np.maximum(height, 0.0) + 1e-9).all())
        np.testing.assert_allclose(sunlight_wm2(height, np.ones(41)), 0.25 * clear)

    def test_short_gaps_are_bridged_long_ones_are_usual_and_doubted(self) -> None:
        air = np.full(72, 10.0)
        air[5:8] = np.nan
        air[20:50] = np.nan
        hours, doubt = filled_hours(Weather(start=SPRING, columns={"air_c": air}), a_water().lake, a_water().place)
        self.assertFalse(np.isnan(np.delete(hours, 1, axis=1)).any())
        self.assertEqual(set(hours[5:8, 2]), {10.0})
        self.assertGreater(doubt[30], 3.0 * doubt[6])

    def test_air_that_holds_no_more_has_the_vapour_of_the_lakes_own_formula(self) -> None:
        told = Weather(start=SPRING, columns={"air_c": np.array([-10.0, 0.0, 25.0]), "humidity": np.ones(3)})
        hours, _ = filled_hours(told, a_water().lake, a_water().place)
        np.testing.assert_allclose(hours[:, VAPOUR], [vapour_hpa(t) for t in (-10.0, 0.0, 25.0)])

    def test_rows_come_in_any_order_and_the_later_of_an_hour_wins(self) -> None:
        rows: list[tuple[datetime, dict[str, float | None]]] = [
            (SPRING + timedelta(hours=h), {"air_c": float(h), "cloud": None}) for h in (3, 1, 0)
        ]
        found = weather_of([*rows, (SPRING + timedelta(hours=1), {"air_c": 9.0})])
        self.assertEqual(found.start, SPRING)
        np.testing.assert_array_equal(found.columns["air_c"], [0.0, 9.0, np.nan, 3.0])
        cut = found.between(SPRING - timedelta(hours=2), SPRING + timedelta(hours=2))
        np.testing.assert_array_equal(cut.columns["air_c"], [np.nan, np.nan, 0.0, 9.0])
        with self.assertRaises(BadInput):
            Weather(start=datetime(2026, 4, 1))
        with self.assertRaises(BadInput):
            weather_of([])


class FormulasTests(unittest.TestCase):
    """What the compiled loop has of its own for speed is what the core has elsewhere."""

    def test_density_and_what_water_holds_are_those_of_the_core(self) -> None:
        for water_c in (0.0, 4.0, 12.0, 25.0):
            self.assertAlmostEqual(density(water_c), float(water_density_kgm3(water_c)), places=9)
            for altitude_m in (0.0, 400.0, 1500.0):
                ours = _holds_mgl(water_c, 1013.25 * standard_pressure_atm(altitude_m))
                self.assertAlmostEqual(ours / oxygen_saturation_mgl(water_c, altitude_m), 1.0, delta=0.02)

    def test_the_hardest_weather_that_a_file_may_tell_leaves_every_number_finite(self) -> None:
        water = a_water(fetch_km=100.0)
        for end in ("low", "high"):
            columns = {name: np.full(24 * 30, getattr(limit, end)) for name, limit in WEATHER_LIMITS.items()}
            after, _ = carry_lake_on(begin_lake(water, SPRING), water, Weather(start=SPRING, columns=columns))
            self.assertTrue(np.isfinite(after.water_c).all() and np.isfinite(after.oxygen_mgl).all(), end)
            self.assertTrue(np.isfinite(after.ice_m).all(), end)


class CarriedTests(unittest.TestCase):
    def test_heat_is_neither_made_nor_lost_through_a_year_with_its_ice_and_what_flows_through(self) -> None:
        for outlet_m in (0.0, 12.0):
            for inflow_m3s in (0.0, 4.0):
                with self.subTest(outlet_m=outlet_m, inflow_m3s=inflow_m3s):
                    self.year(outlet_m, inflow_m3s)

    def year(self, outlet_m: float, inflow_m3s: float) -> None:
        water = a_water(latitude=61.0, altitude=400.0)
        shape = shape_of(deepest_m=20.0, surface_m2=2e6)
        n, hours = len(shape.middle_m), 24 * 400
        weather, doubt = filled_hours(some_weather(SPRING, 400), water.lake, water.place)
        weather[:, INFLOW], weather[:, OUTLET] = inflow_m3s, outlet_m
        c, o, mud = np.full((1, n), 4.0), np.full((1, n), 11.0), np.full((1, n), 5.0)
        ice, gained = np.zeros(1), np.zeros(1)
        area, volume = shape.area_m2, shape.volume_m3
        bed = np.append(area[:-2] - area[1:-1], area[-2])

        def held() -> float:
            heat = WATER_HEAT_JM3K * float(volume @ c[0]) + MUD_M * MUD_JM3K * float(bed @ mud[0])
            return heat - ICE_JM3 * float(area[0] * ice[0])

        before, kept = held(), np.zeros((hours // 24, 1, n))
        kept_ice = np.zeros((hours // 24, 1))
        carry(
            c, o, mud, ice, gained, usual_member(water)[None, :], weather, shape.middle_m, area[None, :], volume[None, :], doubt,
            1500.0, 0.004, 0, kept, np.zeros_like(kept), kept_ice, 24,
        )  # fmt: skip
        self.assertGreater(float(kept_ice.max()), 0.2)
        self.assertLess(abs(held() - before - gained[0]) / float(np.abs(kept).max() * WATER_HEAT_JM3K * volume.sum()), 1e-9)
        if inflow_m3s:
            return
        # In autumn it is mixed on its way through the densest: never under it at the top while the bottom is well above.
        cold = kept[:, 0, 0] < 3.5
        self.assertTrue((kept[cold, 0, -1] < 6.0).all())
        self.assertTrue((np.diff(water_density_kgm3(kept[:, 0]), axis=1) > -1e-6).all())

    def test_a_windier_a_clearer_a_higher_and_a_smaller_lake_differ_as_lakes_do(self) -> None:
        usual = carried(a_water())
        self.assertGreater(thermocline_m(carried(a_water(), wind=5.5)), thermocline_m(usual) + 0.5)
        clear = carried(a_water(secchi_m=8.0))
        self.assertGreater(clear.column().at_c(np.array([8.0])).mean(), usual.column().at_c(np.array([8.0])).mean() + 0.5)
        high = carried(a_water(altitude=1500.0))
        self.assertLess(high.column().band_c(0.5)[0], usual.column().band_c(0.5)[0] - 2.0)
        self.assertLess(thermocline_m(carried(a_water(fetch_km=0.2))), thermocline_m(carried(a_water(fetch_km=8.0))))

    def test_what_flows_through_and_a_level_that_falls_change_it_as_they_change_reservoirs(self) -> None:
        water, told = a_water(fetch_km=3.0), some_weather(SPRING, 100)

        def after(**flows: float) -> LakeState:
            columns = {**told.columns, **{name: np.full(len(told), value) for name, value in flows.items()}}
            return carry_lake_on(begin_lake(water, SPRING), water, Weather(start=SPRING, columns=columns))[0]

        still, over = after(), after(inflow_m3s=6.0, inflow_c=6.0)
        deep = after(inflow_m3s=6.0, inflow_c=16.0, outlet_m=15.0)
        at_12 = [float(state.column().at_c(np.array([12.0])).mean()) for state in (over, still, deep)]
        # A cold stream dives and keeps the deep cold; what leaves by a deep outlet lets warm water down.
        self.assertLess(at_12[0], at_12[1] - 0.3)
        self.assertGreater(at_12[2], at_12[1] + 1.5)
        low = after(drawn_down_m=9.0)
        self.assertGreater(float(low.column().at_c(np.array([9.0])).mean()), at_12[1])
        self.assertGreater(*(float(s.column().at_c(np.array([10.0])).mean()) for s in (low, still)))

    def test_a_stream_is_as_warm_as_its_air_has_it_between_ice_and_high_summer(self) -> None:
        warm = stream_c(np.array([-20.0, 0.0, 13.3, 25.0, 40.0]))
        self.assertTrue((np.diff(warm) > 0.0).all() and warm[0] > 0.0 and warm[-1] < 27.0, warm)

    def test_a_level_stays_as_it_was_told_and_the_warmth_of_a_stream_does_not(self) -> None:
        told = Weather(
            start=SPRING,
            columns={name: np.array([np.nan, 2.0, np.nan, np.nan, 3.0, np.nan]) for name in ("drawn_down_m", "inflow_c")},
        )
        held = standing(told).columns
        np.testing.assert_array_equal(held["drawn_down_m"], [np.nan, 2.0, 2.0, 2.0, 3.0, 3.0])
        np.testing.assert_array_equal(held["inflow_c"], told.columns["inflow_c"])

    def test_the_hemispheres_are_alike_half_a_year_apart(self) -> None:
        north = carried(a_water())
        south = carried(a_water(latitude=-52.0), start=SPRING + timedelta(days=182.5))
        for depth in (1.0, 6.0, 15.0):
            self.assertAlmostEqual(north.column().band_c(depth)[0], south.column().band_c(depth)[0], delta=1.3)

    def test_a_year_without_any_weather_still_answers_and_doubts_more(self) -> None:
        water = a_water()
        untold = carry_lake_on(
            begin_lake(water, SPRING), water, Weather(start=SPRING, columns={"air_c": np.full(24 * 365, np.nan)})
        )[0]
        self.assertTrue(np.isfinite(untold.water_c).all() and np.isfinite(untold.oxygen_mgl).all())
        told_air = some_weather(SPRING, 90)
        air = np.full(len(told_air), 14.0)
        known = carry_lake_on(begin_lake(water, SPRING), water, replace(told_air, columns={**told_air.columns, "air_c": air}))[
            0
        ]
        guessed = carry_lake_on(begin_lake(water, SPRING), water, told_air)[0]
        self.assertGreater(guessed.water_c[:, 0].std(), 1.5 * known.water_c[:, 0].std())

    def test_oxygen_is_held_by_the_air_at_the_top_and_used_up_below(self) -> None:
        rich, poor = carried(a_water(secchi_m=1.5), 120), carried(a_water(secchi_m=6.0), 120)
        for state in (rich, poor):
            mean, _ = state.column().oxygen_at(np.array([0.5, 18.0]))
            self.assertTrue(7.0 < mean[0] < 12.0, mean)
        self.assertLess(rich.column().oxygen_at(np.array([18.0]))[0][0], poor.column().oxygen_at(np.array([18.0]))[0][0] - 2.0)

    def test_a_chart_drawn_since_or_another_depth_leaves_the_layers_of_a_state_as_they_are(self) -> None:
        water = a_water()
        state = begin_lake(water, SPRING)
        deeper = Hypsography((0.0, 10.0, 45.0), (9e5, 5e5, 0.0))
        for changed in (replace(water, deepest_m=60.0), replace(water, hypsography=deeper), replace(water, deepest_m=2.0)):
            after, _ = carry_lake_on(state, changed, some_weather(SPRING, 3))
            after = tell_lake(after, changed, [Reading(3.0, 5.0), Reading(40.0, 4.5)])
            self.assertEqual(after.water_c.shape, state.water_c.shape)
            self.assertTrue(np.isfinite(after.water_c).all() and (np.abs(after.water_c) < 30.0).all())

    def test_it_begins_when_such_a_lake_was_last_mixed(self) -> None:
        for latitude, asked, month in (
            (61.2, SPRING + timedelta(days=90), 4),
            (-41.3, datetime(2026, 1, 20, tzinfo=timezone.utc), 9),
        ):
            begun = lake_begins_at(Lake(latitude, 412.0, 2.0), asked)
            self.assertEqual(begun.month, month)
            self.assertTrue(timedelta(0) <= asked - begun < timedelta(days=367))


class ReadTests(unittest.TestCase):
    """Twins: one hidden member is the truth, and what is read of it is all that the ensemble is told."""

    def twin(self, seed: int, readings: int) -> tuple[LakeState, FloatArray, float]:
        water = a_water()
        hidden, state = begin_lake(water, SPRING, seed=100 + seed), begin_lake(water, SPRING, seed=seed)
        pick = seed % MEMBERS
        rng = np.random.default_rng(seed)
        weather = some_weather(SPRING, 120)
        untold = state
        for k in range(readings):
            part = weather.between(state.at, state.at + timedelta(hours=48))
            hidden, _ = carry_lake_on(hidden, water, part)
            state, _ = carry_lake_on(state, water, part)
            untold, _ = carry_lake_on(untold, water, part)
            depth = float((0.0, 3.0, 6.0, 9.0)[k % 4])
            true = float(np.interp(depth, hidden.middle_m, hidden.water_c[pick]))
            state = tell_lake(state, water, [Reading(depth, round(true + 0.2 * rng.standard_normal(), 1))])
        truth = np.interp(DEPTHS, hidden.middle_m, hidden.water_c[pick])
        before = np.abs(untold.column().at_c(DEPTHS).mean(axis=0) - truth).mean()
        return state, truth, float(before)

    def test_readings_find_the_hidden_lake_and_the_band_holds_it(self) -> None:
        inside, better = [], []
        for seed in range(12):
            state, truth, before = self.twin(seed, 20)
            curves = state.column().at_c(DEPTHS)
            bands = np.array([state.column().band_c(float(d)) for d in DEPTHS])
            inside.append(((truth >= bands[:, 1]) & (truth <= bands[:, 2])).mean())
            better.append(np.abs(curves.mean(axis=0) - truth).mean() < before)
        self.assertTrue(0.75 <= np.mean(inside) <= 0.99, inside)
        self.assertGreaterEqual(sum(better), 9)

    def test_it_never_collapses_however_often_it_is_read(self) -> None:
        state, _, _ = self.twin(3, 60)
        self.assertGreater(state.water_c[:, 10].std(), 0.05)
        self.assertGreater(np.log(state.member[:, SHELTER]).std(), 0.02)
        self.assertEqual(state.member.shape, (MEMBERS, MEMBER_N))
        self.assertTrue(np.isfinite(state.water_c).all())

    def test_forty_readings_at_one_moment_leave_it_some_doubt(self) -> None:
        # Without the spread that is given back 0.04 C would be left: surer than any thermometer.
        state = carried(a_water())
        for _ in range(40):
            state = tell_lake(state, a_water(), [Reading(3.0, round(state.column().band_c(3.0)[0], 1))])
        self.assertGreater(float(state.water_c[:, 6].std()), 0.08)

    def test_what_is_read_at_the_top_says_little_of_what_lies_deep(self) -> None:
        state = carried(a_water())
        top, deep = state.column().band_c(0.0)[0], state.column().band_c(15.0)[0]
        after = tell_lake(state, a_water(), [Reading(0.0, top + 2.0)]).column()
        self.assertGreater(after.band_c(0.0)[0], top + 1.2)
        self.assertAlmostEqual(after.band_c(15.0)[0], deep, delta=0.3)

    def test_what_was_learnt_of_a_water_stays_with_it_by_half(self) -> None:
        water = a_water()
        learnt = begin_lake(water, SPRING).member.copy()
        learnt[:, SHELTER] *= 0.6
        fresh, after = begin_lake(water, SPRING), begin_lake(water, SPRING, learnt=learnt)
        self.assertAlmostEqual(float(np.median(after.member[:, SHELTER] / fresh.member[:, SHELTER])), 0.6**0.5, delta=0.02)


class ChangedTests(unittest.TestCase):
    TODAY = date(2026, 7, 14)  # a Tuesday

    def said(self, *days: tuple[float | None, float, float] | tuple[float | None, float, float, bool]) -> str:
        first = self.TODAY - timedelta(days=len(days) - 1)
        told = lake_changed([DayOf(first + timedelta(days=i), *one) for i, one in enumerate(days)], self.TODAY)
        return "" if told is None else told.plain()

    def test_what_the_wind_or_the_calm_did_is_said_with_its_day(self) -> None:
        mixed = self.said((4.0, 18.0, 3.0), (4.2, 18.0, 9.0), (5.4, 16.5, 4.0))
        self.assertEqual(
            mixed, "The wind of Monday mixed it to 5.4 m: the thermocline lies 1.4 m deeper than 2 days ago, and so may they."
        )
        self.assertIn("Wind and cool nights", self.said((4.0, 18.0, 3.0), (5.4, 16.5, 4.0)))
        self.assertIn("new step at 3.0 m", self.said((5.0, 16.0, 2.0), (3.0, 19.0, 1.0)))
        self.assertIn("to the bottom", self.said((5.0, 16.0, 2.0), (None, 12.0, 12.0)))
        self.assertIn("has layered", self.said((None, 8.0, 2.0), (3.0, 11.0, 1.0)))
        self.assertIn("from 16.0 C to 18.0 C", self.said((5.0, 16.0, 2.0), (5.2, 18.0, 1.0)))

    def test_little_is_not_worth_a_word_and_what_a_reading_put_right_is_no_weathers_doing(self) -> None:
        self.assertEqual(self.said((5.0, 16.0, 2.0), (5.3, 16.5, 7.0)), "")
        self.assertEqual(self.said((5.0, 16.0, 2.0)), "")
        self.assertEqual(self.said((5.0, 16.0, 2.0), (3.0, 19.0, 1.0, True), (3.1, 19.2, 1.0)), "")
