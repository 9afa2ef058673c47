"""Where to start, and what the chart says of a standing place: common practice as tests, no published source."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from datetime import datetime

import numpy as np

from stillthread.chart.marks import Mark
from stillthread.chart.soundings import depth_grid_of
from stillthread.chart.standing import drift_along_s, exposure_at, stand
from stillthread.depth.picture import Conditions
from stillthread.depth.where_to_start import where_to_start
from stillthread.errors import BadInput, OnIce
from stillthread.water.reading import Reading
from stillthread.weather.effects import boat_drift_mps
from stillthread.weather.wind import Wind
from tests.charts import PLANE, lake, ledge_lake, rectangle
from tests.rigs import SUMMER_TIME, conditions

LAKE = lake(rectangle(640.0, 440.0))
GRID = depth_grid_of(*ledge_lake(20_000), LAKE)


def mark(name: str, kind: str, x: float, y: float, depth_m: float | None = None) -> Mark:
    lon, lat = PLANE.to_lonlat([[x, y]])[0]
    return Mark(name=name, kind_key=kind, latitude_deg=float(lat), longitude_deg=float(lon), depth_m=depth_m)


def names(given: Conditions, *marks: Mark) -> list[str]:
    return [start.mark.name for start in where_to_start(given, marks, LAKE, GRID)]


class StandingTests(unittest.TestCase):
    def test_a_place_on_the_lip_knows_its_depth_its_wind_and_both_casts(self) -> None:
        found = stand(LAKE, GRID, np.array([-30.0, 0.0]), Wind(5.0, 180.0), 40.0)
        self.assertAlmostEqual(found.depth_m or 0.0, 3.0, delta=0.6)
        self.assertAlmostEqual(found.now.fetch_m, 220.0, delta=5.0)
        # The wind is from the south: across it lie west, over the shelf, and east, over the deep.
        self.assertEqual([cast.bearing_deg for cast in found.casts], [270.0, 90.0])
        self.assertAlmostEqual(found.casts[0].far_depth_m or 0.0, 3.0, delta=0.4)
        self.assertGreater(found.casts[1].far_depth_m or 0.0, 8.0)
        self.assertAlmostEqual(found.drift_s or 0.0, 220.0 / boat_drift_mps(Wind(5.0, 180.0), drogue=False), delta=3.0)
        self.assertGreater(found.drogue_s or 0.0, 1.2 * (found.drift_s or 0.0))

    def test_the_word_follows_the_wind_round(self) -> None:
        south_bank = np.array([0.0, -215.0])
        words = {deg: exposure_at(LAKE, south_bank, Wind(5.0, deg)).word for deg in (0.0, 90.0, 180.0)}
        self.assertEqual(words, {0.0: "blown onto", 90.0: "wind along the shore", 180.0: "sheltered"})
        self.assertEqual(exposure_at(LAKE, np.array([0.0, 0.0]), Wind(5.0, 0.0)).word, "open water")

    def test_without_wind_or_chart_nothing_is_made_up(self) -> None:
        found = stand(LAKE, None, np.array([0.0, 0.0]), Wind(0.0, 0.0), 20.0)
        self.assertEqual((found.depth_m, found.drift_s, found.casts[0].far_depth_m), (None, None, None))

    def test_a_stretch_drifts_with_the_wind_and_not_against_it(self) -> None:
        start, end, wind = np.array([0.0, 0.0]), np.array([0.0, 300.0]), Wind(4.0, 180.0)
        speed = boat_drift_mps(wind, drogue=True)
        self.assertAlmostEqual(drift_along_s(start, end, wind, drogue=True) or 0.0, 300.0 / speed, places=6)
        slant = np.array([300.0 * math.tan(math.radians(30.0)), 300.0])
        self.assertAlmostEqual(drift_along_s(start, slant, wind, drogue=True) or 0.0, float(np.hypot(*slant)) / (speed * math.cos(math.radians(30.0))), places=6)  # fmt: skip
        self.assertIsNone(drift_along_s(end, start, wind, drogue=True))


class WhereToStartTests(unittest.TestCase):
    def test_in_hot_bright_layered_water_the_drop_off_beats_the_shelf(self) -> None:
        hot = conditions(readings=tuple(
            Reading(float(d), t) for d, t in enumerate((22.0, 21.8, 21.5, 21.0, 18.0, 14.5, 12.0, 11.0, 10.0))
        ))  # fmt: skip
        order = names(hot, mark("Shelf", "bank", -250.0, 0.0), mark("Lip", "drop-off", 5.0, 0.0))
        self.assertEqual(order, ["Lip", "Shelf"])

    def test_early_in_the_year_the_edge_beats_the_deep(self) -> None:
        april = datetime(2026, 4, 20, 11, 0, tzinfo=SUMMER_TIME)
        cold = conditions(at=april, wind=Wind(0.5, 0.0), readings=(Reading(0.0, 6.5), Reading(3.0, 6.2), Reading(9.0, 5.2)))
        starts = where_to_start(cold, [mark("Edge", "bank", -250.0, 0.0), mark("Deep", "bank", 200.0, 0.0)], LAKE, GRID)
        self.assertEqual([s.mark.name for s in starts], ["Edge", "Deep"])
        self.assertIn("edge warms first", " ".join(why.plain() for why in starts[0].reasons))
        late = where_to_start(replace(cold, at=cold.at.replace(month=11)), [mark("Edge", "bank", -250.0, 0.0)], LAKE, GRID)
        self.assertNotIn("edge warms first", " ".join(why.plain() for start in late for why in start.reasons))

    def test_a_mark_names_the_food_that_it_holds_most_of(self) -> None:
        # Common practice: damsels and shrimps live in weed.
        june = conditions(at=datetime(2026, 6, 20, 12, 0, tzinfo=SUMMER_TIME), signs=("damsels-about",), wind=Wind(0.5, 0.0),
                          readings=(Reading(0.0, 17.0), Reading(3.0, 16.5)))  # fmt: skip
        start = where_to_start(june, [mark("Bed", "weed-bed", -200.0, 0.0, 2.0)], LAKE, GRID)[0]
        self.assertIn("a place for damselfly nymph", " ".join(why.plain() for why in start.reasons))

    def test_duns_hatch_in_peace_so_the_sheltered_bank_comes_first(self) -> None:
        # Common practice, no published source.
        north, south = mark("North", "bank", -200.0, 212.0, 3.0), mark("South", "bank", -200.0, -212.0, 3.0)
        at = datetime(2026, 6, 10, 14, 0, tzinfo=SUMMER_TIME)
        mild = conditions(at=at, wind=Wind(5.0, 180.0), readings=(Reading(0.0, 14.0), Reading(3.0, 13.5)), cloud_fraction=0.7)
        self.assertEqual(names(mild, north, south), ["North", "South"])  # food is blown onto it
        hatching = where_to_start(replace(mild, signs=("upwings",)), (north, south), LAKE, GRID)
        self.assertEqual([start.mark.name for start in hatching], ["South", "North"])
        self.assertIn("duns hatch in peace", " ".join(why.plain() for why in hatching[0].reasons))

    def test_with_food_on_top_the_shore_that_is_blown_onto_comes_first_and_turns_with_the_wind(self) -> None:
        north, south = mark("North", "bank", -200.0, 212.0, 3.0), mark("South", "bank", -200.0, -212.0, 3.0)
        blown = conditions(signs=("blown-insects", "sips"), wind=Wind(5.0, 180.0))
        self.assertEqual(names(blown, north, south), ["North", "South"])
        self.assertEqual(names(replace(blown, wind=Wind(5.0, 0.0)), north, south), ["South", "North"])

    def test_a_shore_too_rough_to_fish_falls_behind_a_sheltered_one(self) -> None:
        gale = conditions(signs=("blown-insects", "sips"), wind=Wind(16.0, 180.0))
        big = lake(rectangle(8000.0, 8000.0))
        north, south = mark("North", "bank", 0.0, 3990.0, 3.0), mark("South", "bank", 0.0, -3990.0, 3.0)
        starts = where_to_start(gale, [north, south], big)
        self.assertEqual([s.mark.name for s in starts], ["South", "North"])
        self.assertIn("care in a boat", " ".join(why.plain() for why in starts[1].reasons))

    def test_damsels_seen_send_one_to_the_weed(self) -> None:
        seen = conditions(signs=("damsels-about",))
        order = names(seen, mark("Open", "open", -200.0, 0.0, 3.0), mark("Weed", "weed-bed", -210.0, 0.0, 3.0))
        self.assertEqual(order[0], "Weed")

    def test_an_unknown_depth_is_said_and_the_launch_is_no_place_to_fish(self) -> None:
        starts = where_to_start(conditions(), [mark("Bay", "bay", 0.0, 0.0), mark("Slip", "launch", 0.0, 0.0)])
        self.assertEqual([s.mark.name for s in starts], ["Bay"])
        self.assertIn("Its depth is not known: taken as 9.0 m.", starts[0].reasons[-1].plain())
        self.assertEqual(starts[0].score, 1.0)

    def test_refusals(self) -> None:
        with self.assertRaises(OnIce):
            where_to_start(conditions(ice=True), [mark("Bay", "bay", 0.0, 0.0)])
        with self.assertRaises(BadInput):
            where_to_start(conditions(), [mark("Bay", "bay", 0.0, 0.0)] * 201)
