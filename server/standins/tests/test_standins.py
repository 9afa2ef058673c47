"""The stand-ins as they ship: started as a program, heard over the wire, and true to their lake."""

from __future__ import annotations

import json
import socket
import subprocess
import sys
import time
import unittest
import urllib.request
from datetime import datetime, timezone
from pathlib import Path

import numpy as np
import shapely

from demo.lakes import BRENNHOLT_LAKE, TRESCANAS_LAKE
from standins.sea import Boat, Weather
from stillthread.api import read_forecast_json, read_nmea_log

NOW = datetime(2026, 7, 14, 9, 0, tzinfo=timezone.utc)
SERVER = Path(__file__).resolve().parents[2]


class ProgramTests(unittest.TestCase):
    def test_it_starts_speaks_and_stops(self) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            first = probe.getsockname()[1]
        environment = {"PYTHONPATH": str(SERVER), "PATH": ""}
        command = [sys.executable, "-m", "standins", "--first-port", str(first), "--lake", "trescanas"]
        program = subprocess.Popen(command, cwd=SERVER, env=environment, stdout=subprocess.PIPE, text=True)
        try:
            assert program.stdout is not None
            self.assertIn(f"127.0.0.1:{first}", program.stdout.readline())
            heard = {}
            for port in (first, first + 1):
                with socket.create_connection(("127.0.0.1", port), timeout=5) as line:
                    time.sleep(0.3)
                    heard[port] = {one.kind for one in read_nmea_log(line.recv(4096)).measured}
            self.assertEqual(heard, {first: {"position", "depth", "water"}, first + 1: {"wind"}})
            with urllib.request.urlopen(f"http://127.0.0.1:{first + 2}/forecast?lat=-41.3&lon=-71.2", timeout=5) as answer:
                self.assertEqual(len(read_forecast_json(answer.read())), 54)
        finally:
            program.terminate()
            self.assertEqual(program.wait(10), 0)
            if program.stdout:
                program.stdout.close()


class SeaTests(unittest.TestCase):
    def test_the_boat_stays_in_the_lake_and_sounds_its_true_depth(self) -> None:
        for lake in (BRENNHOLT_LAKE, TRESCANAS_LAKE):
            boat = Boat(lake)
            for seconds in range(0, 3600, 97):
                self.assertTrue(lake.water.contains(shapely.Point(boat.place_xy(float(seconds)))))
            log = read_nmea_log(boat.sentences(500.0, NOW))
            depth, position = log.latest("depth"), log.latest("position")
            assert depth is not None
            assert position is not None
            xy = lake.plane.to_xy([position.b or 0.0, position.a])
            self.assertAlmostEqual(depth.a, float(lake.depth_m(xy)[0]), delta=0.05)
            self.assertEqual((log.bad_checksums, log.malformed), (0, 0))

    def test_the_forecast_says_the_same_whenever_it_is_asked_and_can_be_read(self) -> None:
        weather = Weather(61.2)
        self.assertEqual(weather.hour(NOW), weather.hour(NOW))
        hours = read_forecast_json(json.dumps(weather.forecast(NOW)).encode())
        self.assertTrue(all(0.0 <= hour.wind_speed_mps < 12.0 for hour in hours))
        self.assertGreater(len({hour.wind_from_deg for hour in hours}), 5)

    def test_the_lakes_have_a_shelf_a_drop_off_and_a_deep(self) -> None:
        for lake in (BRENNHOLT_LAKE, TRESCANAS_LAKE):
            track, depth = lake.soundings(3)
            self.assertGreater(len(track), 1500)
            sound = depth[depth < 60.0]
            self.assertLess(len(depth) - len(sound), 0.01 * len(depth))
            self.assertGreater(float(sound.max()), 0.85 * lake.deep_m)
            self.assertTrue(np.quantile(sound, 0.1) < lake.shelf_m < np.quantile(sound, 0.6))
            for name, _, x, y, _ in lake.marks:
                near = lake.water.distance(shapely.Point(x, y))
                self.assertLess(near, 60.0, name)
