"""The chart: outlines, fetch, exposure, soundings, drop-offs and sections, against geometry done by hand and by shapely."""

from __future__ import annotations

import math
import subprocess
import sys
import time
import unittest
from pathlib import Path
from typing import Any

import numpy as np
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from pyproj import Geod

from stillthread.chart.fetch import fetch_m, fetch_rose, longest_fetch_m, ray_fetch_m, shore_exposure
from stillthread.chart.outline import Outline, read_outline
from stillthread.chart.plane import Plane
from stillthread.chart.shapes import drop_offs, section
from stillthread.chart.soundings import _wet, check_soundings, depth_grid_of, thin
from stillthread.errors import BadInput
from tests.charts import PLANE, circle, lake, ledge_lake, polygon, rectangle
from tests.effort import examples


class PlaneTests(unittest.TestCase):
    def test_there_and_back_is_the_same_place(self) -> None:
        lonlat = np.array([[9.40, 61.21], [9.43, 61.19], [9.2, 61.3]])
        self.assertLess(float(np.abs(PLANE.to_lonlat(PLANE.to_xy(lonlat)) - lonlat).max()), 1e-9)

    def test_distances_are_those_of_the_ellipsoid(self) -> None:
        # pyproj's geodesic as the independent measure, from the middle and between two points off it.
        geod = Geod(ellps="WGS84")
        a, b = (9.41, 61.22), (9.45, 61.18)
        xy = PLANE.to_xy([a, b])
        self.assertAlmostEqual(float(np.linalg.norm(xy[0])), geod.inv(9.4, 61.2, *a)[2], delta=0.001)
        self.assertAlmostEqual(float(np.linalg.norm(xy[1] - xy[0])), geod.inv(*a, *b)[2], delta=0.05)


class OutlineTests(unittest.TestCase):
    def test_area_and_round_trip(self) -> None:
        outline = lake(rectangle(1000.0, 400.0), rectangle(100.0, 100.0))
        self.assertAlmostEqual(outline.area_m2, 390_000.0, delta=5.0)
        again = read_outline(outline.to_geojson(), PLANE)
        self.assertLess(float(again.water.symmetric_difference(outline.water).area), 0.01)

    def assert_refused(self, geometry: dict[str, Any], words: str, near: Plane = PLANE) -> None:
        with self.assertRaises(BadInput) as refused:
            read_outline(geometry, near)
        self.assertIn(words, refused.exception.message)
        self.assertEqual(refused.exception.field, "outline")

    def test_each_bad_outline_gets_its_own_sentence(self) -> None:
        bow_tie = np.array([[0.0, 0.0], [300.0, 300.0], [300.0, 0.0], [0.0, 300.0]])
        self.assert_refused(polygon(bow_tie), "crosses itself near 61.2")
        swapped = {"type": "Polygon", "coordinates": [[[y, x] for x, y in polygon(rectangle(500.0, 500.0))["coordinates"][0]]]}
        self.assert_refused(swapped, "look swapped: GeoJSON gives longitude first")
        continent = {"type": "Polygon", "coordinates": [[[0, 40], [30, 40], [30, 65], [0, 65], [0, 40]]]}
        self.assert_refused(continent, "km2 is too large")
        self.assert_refused(polygon(rectangle(5.0, 5.0)), "too small for a lake")
        self.assert_refused({"type": "Point", "coordinates": [9, 61]}, "outline is a Point")
        self.assert_refused({"type": "Polygon", "coordinates": [[[9.4, 61.2], [9.5, 61.2]]]}, "four points or more")
        self.assert_refused({"type": "Polygon", "coordinates": []}, "outline is empty")
        self.assert_refused(polygon(rectangle(500.0, 500.0)), "km from the place given", Plane(60.0, 9.4))
        metres = {"type": "Polygon", "coordinates": [[[5e5, 6e6], [5e5, 7e6], [6e5, 7e6], [5e5, 6e6]]]}
        self.assert_refused(metres, "not in degrees")
        self.assert_refused(polygon(circle(500.0, 50_001)), "50000 are the most")

    def test_a_point_on_the_bank_is_put_in_the_water_and_one_in_the_hills_refused(self) -> None:
        outline = lake(rectangle(1000.0, 400.0))
        wet = outline.in_water(np.array([520.0, 10.0]))
        self.assertTrue(outline.water.contains(shapely.Point(wet)))
        self.assertLess(float(np.linalg.norm(wet - (500.0, 10.0))), 5.0)
        with self.assertRaises(BadInput) as far:
            outline.in_water(np.array([3000.0, 0.0]))
        self.assertEqual(far.exception.message, "This point lies 2500 m from the water.")


def by_shapely(outline: Outline, xy: tuple[float, float], bearing: float) -> float:
    """Return the fetch as shapely finds it: the part of a long ray that lies in the water and begins at the point."""
    angle = math.radians(bearing)
    ray = shapely.LineString([xy, (xy[0] + 1e5 * math.sin(angle), xy[1] + 1e5 * math.cos(angle))])
    pieces = shapely.get_parts(ray.intersection(outline.water))
    start = shapely.Point(xy)
    return float(min(pieces, key=lambda piece: piece.distance(start)).length)


class FetchTests(unittest.TestCase):
    def test_from_the_middle_of_a_circle_it_is_the_radius(self) -> None:
        _, rose = fetch_rose(lake(circle(800.0)), (0.0, 0.0))
        self.assertLess(float(np.abs(rose - 800.0).max()), 0.02)

    def test_in_a_rectangle_it_is_what_the_hand_works_out(self) -> None:
        outline = lake(rectangle(1000.0, 400.0))
        found = ray_fetch_m(outline, [[-100.0, 50.0]], [0.0, 90.0, 180.0, 270.0, 45.0])[0]
        for got, wanted in zip(found, (150.0, 600.0, 250.0, 400.0, 150.0 * math.sqrt(2.0)), strict=True):
            self.assertAlmostEqual(float(got), wanted, delta=0.02)

    def test_an_island_cuts_it_short_and_a_bay_round_the_corner_is_not_seen(self) -> None:
        with_island = lake(rectangle(1000.0, 400.0), rectangle(100.0, 100.0, x=200.0))
        self.assertAlmostEqual(float(ray_fetch_m(with_island, [[0.0, 0.0]], [90.0])[0, 0]), 150.0, delta=0.02)
        # An L: the bay to the north-east is open only to one who looks past the corner at (0, 0).
        bay = lake(np.array([[-300.0, -300], [300, -300], [300, 300], [0, 300], [0, 0], [-300, 0]], dtype=float))
        found = ray_fetch_m(bay, [[-150.0, -150.0]], [0.0, 60.0, 30.0])[0]
        self.assertAlmostEqual(float(found[0]), 150.0, delta=0.02)
        self.assertAlmostEqual(float(found[1]), 450.0 / math.sin(math.radians(60.0)), delta=0.05)
        self.assertAlmostEqual(float(found[2]), 150.0 / math.cos(math.radians(30.0)), delta=0.05)

    @settings(max_examples=examples(80), deadline=None)
    @given(st.floats(-240.0, 240.0), st.floats(-90.0, 90.0), st.floats(0.0, 359.9), st.integers(0, 20))
    def test_everywhere_it_is_what_shapely_finds(self, x: float, y: float, bearing: float, seed: int) -> None:
        rng = np.random.default_rng(seed)
        angle = np.sort(rng.uniform(0.0, 2.0 * np.pi, 90))
        radius = rng.uniform(320.0, 600.0, 90)
        outline = lake(radius[:, None] * np.column_stack((np.cos(angle), np.sin(angle))))
        if not outline.water.contains(shapely.Point(x, y)):
            return
        found = float(ray_fetch_m(outline, [[x, y]], [bearing])[0, 0])
        self.assertAlmostEqual(found, by_shapely(outline, (x, y), bearing), delta=0.01)

    def test_the_fetch_of_a_wind_is_the_mean_of_nine_rays(self) -> None:
        # spm-1984. In a long strip 200 m wide, looking along it from the middle of one end: by hand, ray by ray.
        outline = lake(rectangle(200.0, 4000.0))
        rays = [2000.0 / math.cos(math.radians(3.0 * k)) for k in range(5)]
        wide = [min(ray, 100.0 / math.sin(math.radians(3.0 * k)) if k else ray) for k, ray in enumerate(rays)]
        self.assertAlmostEqual(float(fetch_m(outline, [[0.0, 0.0]], 0.0)[0]), (wide[0] + 2.0 * sum(wide[1:])) / 9.0, delta=0.1)

    def test_from_land_there_is_no_fetch(self) -> None:
        outline = lake(rectangle(1000.0, 400.0), rectangle(100.0, 100.0))
        self.assertEqual(ray_fetch_m(outline, [[0.0, 0.0], [0.0, 900.0]], [0.0, 180.0]).tolist(), [[0.0, 0.0], [0.0, 0.0]])

    def test_the_longest_stretch_of_a_rectangle_is_its_diagonal(self) -> None:
        self.assertAlmostEqual(longest_fetch_m(lake(rectangle(1000.0, 400.0))), math.hypot(1000.0, 400.0), delta=40.0)

    def test_the_wind_blows_onto_one_shore_and_off_the_other(self) -> None:
        shores = shore_exposure(lake(rectangle(1000.0, 400.0)), 8.0, 180.0)  # from the south
        north = [s for s in shores if s.xy[1] > 190.0]
        south = [s for s in shores if s.xy[1] < -190.0]
        self.assertEqual({s.kind for s in north}, {"onto"})
        self.assertEqual({s.kind for s in south}, {"off"})
        self.assertGreater(min(s.waves.high_m for s in north), 3.0 * max(s.waves.high_m for s in south))

    def test_an_islands_shores_are_exposed_too(self) -> None:
        shores = shore_exposure(lake(rectangle(1000.0, 800.0), rectangle(200.0, 200.0)), 8.0, 180.0)
        facing = [s for s in shores if abs(s.xy[0]) < 90.0 and -110.0 < s.xy[1] < -95.0]
        self.assertTrue(facing)
        self.assertEqual({s.kind for s in facing}, {"onto"})


class SoundingTests(unittest.TestCase):
    def test_a_plane_bottom_comes_back_as_the_plane(self) -> None:
        xy = np.random.default_rng(3).uniform(-200.0, 200.0, (2500, 2))
        grid = depth_grid_of(xy, 6.0 + 0.01 * xy[:, 0] + 0.005 * xy[:, 1], None)
        at = np.array([[0.0, 0.0], [150.0, -100.0], [-120.0, 80.0]])
        self.assertLess(float(np.abs(grid.at(at) - (6.0 + 0.01 * at[:, 0] + 0.005 * at[:, 1])).max()), 0.06)

    def test_the_shore_is_at_zero_and_land_is_not_known(self) -> None:
        grid = depth_grid_of(*ledge_lake(), lake(rectangle(640.0, 440.0), rectangle(60.0, 60.0, x=150.0)))
        self.assertLess(float(grid.at([[-318.0, 0.0]])[0]), 1.0)
        self.assertTrue(np.isnan(grid.at([[150.0, 0.0]])[0]))

    def test_lost_echoes_are_not_followed_and_counted(self) -> None:
        xy, depth = ledge_lake()
        depth[::100] = 88.0
        depth[50::100] = 0.0
        grid = depth_grid_of(xy, depth, None)
        self.assertGreaterEqual(grid.spikes, 40)
        self.assertLess(float(np.nanmax(grid.depth_m)), 13.0)

    def test_two_hundred_thousand_are_thinned_and_keep_the_shape(self) -> None:
        xy, depth = ledge_lake(200_000)
        points, values, _ = thin(xy, depth)
        self.assertLessEqual(len(points), 5_200)
        grid = depth_grid_of(xy, depth, None)
        self.assertAlmostEqual(float(grid.at([[-150.0, 0.0]])[0]), 3.0, delta=0.05)
        self.assertAlmostEqual(float(grid.at([[150.0, 0.0]])[0]), 12.0, delta=0.05)
        self.assertEqual(len(values), len(points))

    def test_depths_that_cannot_be_are_refused(self) -> None:
        for depth, words in (
            ([], "no soundings"),
            ([3.0, -2.0], "heights of the land"),
            ([3.0, 1200.0], "Is it in feet?"),
        ):
            with self.subTest(words), self.assertRaises(BadInput) as refused:
                check_soundings(np.array(depth, dtype=float))
            self.assertIn(words, refused.exception.message)
        self.assertEqual(check_soundings(np.array([-3.0, -5.0])).tolist(), [3.0, 5.0])
        line = np.column_stack((np.arange(9.0) * 20.0, np.zeros(9)))
        with self.assertRaises(BadInput) as straight:
            depth_grid_of(line, np.full(9, 4.0), None)
        self.assertIn("not all in one line", straight.exception.message)
        with self.assertRaises(BadInput) as elsewhere:
            depth_grid_of(line + 9000.0, np.full(9, 4.0), lake(rectangle(500.0, 500.0)))
        self.assertIn("None of the soundings lies in this water", elsewhere.exception.message)


COMB = """import resource
import numpy as np
from stillthread.chart.soundings import depth_grid_of
from tests.charts import lake
n, random = 3000, np.random.default_rng(1)
angle = np.linspace(0.0, 2.0 * np.pi, n, endpoint=False)
far = 1500.0 - 800.0 * (np.arange(n) % 2)
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
grid = depth_grid_of(random.uniform(-1600.0, 1600.0, (20000, 2)), random.uniform(1.0, 9.0, 20000),
                     lake(np.column_stack((far * np.cos(angle), far * np.sin(angle)))))
print((resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) // 1024, np.nanmax(grid.depth_m) <= 9.0)
"""


class RaggedShoreTests(unittest.TestCase):
    def test_a_shore_of_three_thousand_teeth_takes_no_more_room_than_any_other(self) -> None:
        """Half a minute and a gigabyte went into a margin about such a shore before."""
        done = subprocess.run(
            [sys.executable, "-c", COMB], cwd=Path(__file__).parents[1], capture_output=True, text=True, check=True
        )
        megabytes, sound = done.stdout.split()
        self.assertEqual(sound, "True")
        self.assertLess(int(megabytes), 100)

    def test_soundings_just_outside_a_shore_are_taken_and_those_far_off_are_not(self) -> None:
        square = lake(rectangle(400.0, 400.0))
        inside = np.array([[-100.0, -100.0], [100.0, -90.0], [0.0, 120.0]])
        grid = depth_grid_of(np.vstack((inside, [[230.0, 0.0], [900.0, 900.0]])), np.array([3.0, 4.0, 5.0, 9.0, 300.0]), square)
        self.assertLess(float(np.nanmax(grid.depth_m)), 9.1)
        with self.assertRaises(BadInput):
            depth_grid_of(np.array([[900.0, 900.0], [910.0, 900.0], [900.0, 930.0]]), np.array([3.0, 4.0, 5.0]), square)


class CrowdedShoreTests(unittest.TestCase):
    def comb(self, teeth: int) -> Outline:
        """Return a lake of as many narrow inlets side by side: the worst for whoever asks what lies within it."""
        x = np.linspace(-1000.0, 1000.0, 2 * teeth + 1)
        top = np.column_stack((x[::-1], np.where(np.arange(len(x)) % 2 == 0, 500.0, -480.0)))
        return lake(np.concatenate(([[-1000.0, -500.0], [1000.0, -500.0]], top)))

    def test_a_shore_of_the_most_corners_is_drawn_and_measured_in_a_moment(self) -> None:
        outline, rng = self.comb(24_000), np.random.default_rng(1)
        xy = np.column_stack((rng.uniform(-1000.0, 1000.0, 200_000), rng.uniform(-500.0, 500.0, 200_000)))
        begun = time.thread_time()
        grid = depth_grid_of(xy, rng.uniform(1.0, 9.0, len(xy)), outline)
        longest = longest_fetch_m(outline)
        # Processor time, several times what was measured (3.3 s); asking each point of the whole shore took over 50 s.
        self.assertLess(time.thread_time() - begun, 15.0)
        self.assertTrue(np.isfinite(grid.depth_m).any())
        self.assertGreater(longest, 500.0)

    def test_what_lies_in_the_water_row_by_row_is_what_geometry_says(self) -> None:
        hole = lake(circle(300.0), circle(80.0, 50), rectangle(60.0, 90.0, -180.0, 20.0))
        for outline in (hole, self.comb(40), lake(rectangle(400.0, 200.0))):
            xy = np.random.default_rng(3).uniform(-350.0, 350.0, (4000, 2))
            grid = depth_grid_of(xy, np.full(len(xy), 4.0), outline)
            x, y = np.meshgrid(grid.x_m, grid.y_m)
            # The net of soundings reaches not everywhere in the comb; nowhere is there depth on land.
            dry = ~shapely.contains_xy(outline.water, x, y)
            self.assertFalse(np.isfinite(grid.depth_m[dry]).any())
        x, y = np.meshgrid(*(np.arange(-310.3, 311.0, 3.7),) * 2)
        wet = _wet(hole, x[0], y[:, 0])
        self.assertEqual(int((wet != shapely.contains_xy(hole.water, x, y)).sum()), 0)

    def test_a_plainer_outline_keeps_the_lake(self) -> None:
        outline = lake(circle(300.0, 5000))
        plain = outline.plainer(500)
        self.assertLessEqual(sum(len(ring) for ring in plain.rings), 500)
        self.assertAlmostEqual(plain.area_m2 / outline.area_m2, 1.0, delta=0.01)
        self.assertIs(plain.plainer(500), plain)


class BottomShapeTests(unittest.TestCase):
    def test_the_drop_off_is_found_where_it_is(self) -> None:
        lines = drop_offs(depth_grid_of(*ledge_lake(20_000), None))
        self.assertGreaterEqual(len(lines), 1)
        longest = lines[0]
        self.assertLess(float(np.abs(longest[:, 0] + 20.0).max()), 12.0)
        self.assertGreater(float(np.ptp(longest[:, 1])), 250.0)
        self.assertEqual(
            drop_offs(depth_grid_of(np.random.default_rng(1).uniform(0, 300, (900, 2)), np.full(900, 5.0), None)), []
        )

    def test_a_section_runs_from_shelf_to_deep(self) -> None:
        along, depth = section(depth_grid_of(*ledge_lake(20_000), None), np.array([-200.0, 0.0]), np.array([200.0, 0.0]))
        self.assertAlmostEqual(float(along[-1]), 400.0)
        self.assertAlmostEqual(float(depth[10]), 3.0, delta=0.1)
        self.assertAlmostEqual(float(depth[-10]), 12.0, delta=0.1)
        self.assertAlmostEqual(float(np.interp(200.0, along, depth)), 7.5, delta=0.8)
        with self.assertRaises(BadInput):
            section(depth_grid_of(*ledge_lake(), None), np.zeros(2), np.zeros(2))
