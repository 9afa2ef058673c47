"""Instruments over a real socket: live values, lost lines, spoiled sentences, and a forecast that is late or absent."""

from __future__ import annotations

import random
import time
from collections.abc import Callable
from datetime import timedelta
from itertools import pairwise
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import DatabaseError
from django.test import TransactionTestCase, override_settings
from django.utils import timezone

from accounts.services import sign_up
from demo.lakes import BRENNHOLT_LAKE
from demo.season import BRENNHOLT, chart_lake
from instruments import listener as listening
from instruments.listener import Listener, listeners
from instruments.models import Forecast, Instrument, Measurement
from instruments.services import forecast_of
from project.tests.people import JSON, PASSWORD, PeopleTestCase, conditions
from standins.servers import ForecastService, StreamServer, sounder_stream, station_stream
from stillthread.api import sentence
from waters.models import Water
from waters.services import save_water

QUICK = (0.05, 0.05, 0.1)


def wait_for(true: Callable[[], bool], seconds: float = 8.0) -> bool:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if true():
            return True
        time.sleep(0.03)
    return False


class ListeningTests(TransactionTestCase):
    def setUp(self) -> None:
        self.angler = sign_up(username="angler", password=PASSWORD)
        self.water = save_water(water=Water(owner=self.angler), changes=dict(BRENNHOLT))
        self.client.force_login(self.angler)
        # Kept as it comes, from wherever this test serves it.
        self.allowed: list[str] = []
        for set_so in (override_settings(INSTRUMENTS=self.allowed), mock.patch.object(listening, "THIN_S", 0.0)):
            self.enterContext(set_so)
        self.servers: list[StreamServer] = []
        self.listeners: list[Listener] = []

    def tearDown(self) -> None:
        listeners.stop_all()
        for listener in self.listeners:
            listener.stop()
        for server in self.servers:
            server.stop()

    def serve(self, stream: Any, port: int = 0, **how: Any) -> StreamServer:
        server = StreamServer(port, stream, every_s=0.02, **how)
        server.start()
        self.allowed.append(f"127.0.0.1:{server.port}")
        self.servers.append(server)
        return server

    def listen(self, port: int) -> Listener:
        instrument = Instrument.objects.create(owner=self.angler, name=f"at {port}", port=port)
        listener = Listener(instrument.pk, "127.0.0.1", port, QUICK)
        self.listeners.append(listener)
        listener.start()
        return listener

    def test_the_page_shows_live_values_of_both_stand_ins_and_makes_soundings_of_them(self) -> None:
        chart_lake(self.water, BRENNHOLT_LAKE)
        sounder, station = self.serve(sounder_stream("brennholt")), self.serve(station_stream("brennholt"))
        for name, port in (("Sounder", sounder.port), ("Station", station.port)):
            made = self.client.post("/api/instruments", {"name": name, "port": port}, content_type=JSON)
            self.assertEqual(made.status_code, 201)

        def shown() -> dict[str, Any]:
            return {one["name"]: one for one in self.client.get("/api/instruments").json()["items"]}

        self.assertTrue(wait_for(lambda: len(shown()["Sounder"]["last"]) == 3 and shown()["Sounder"]["stored"] > 20))
        values = {value["kind"]: value for value in shown()["Sounder"]["last"]}
        self.assertAlmostEqual(values["position"]["a"], 61.2, delta=0.02)
        self.assertTrue(0.0 < values["depth"]["a"] < 20.0)
        self.assertEqual([value["kind"] for value in shown()["Station"]["last"]], ["wind"])
        made = self.client.post(
            f"/api/instruments/{shown()['Sounder']['id']}/surveys", {"water_id": self.water.pk}, content_type=JSON
        )
        self.assertEqual(made.status_code, 201)
        self.assertGreater(made.json()["count"], 5)
        off = self.client.put(
            f"/api/instruments/{shown()['Station']['id']}",
            {"name": "Station", "port": station.port, "on": False},
            content_type=JSON,
        )
        self.assertEqual(off.json()["state"], "off")

    def test_a_line_cut_in_mid_sentence_again_and_again_loses_no_whole_sentence(self) -> None:
        sent: list[int] = []

        def count(_: float) -> bytes:
            sent.append(len(sent))
            return sentence("YX", "MTW", [f"{sent[-1] / 10:.1f}", "C"])

        server = self.serve(count, drop_every_s=0.15)
        listener = self.listen(server.port)
        self.assertTrue(wait_for(lambda: listener.state.lost >= 3))
        listener.stop()
        stored = list(Measurement.objects.order_by("id").values_list("a", flat=True))
        self.assertEqual(stored, sorted(stored))
        # Of everything sent only what was cut in half, one a lost line, is missing; each is counted.
        missing = len(sent) - len(stored)
        self.assertLessEqual(missing, listener.state.lost + 2)
        self.assertGreaterEqual(listener.state.malformed, listener.state.lost - 1)

    def test_an_instrument_that_is_not_there_yet_is_found_when_it_comes(self) -> None:
        first = self.serve(station_stream("brennholt"))
        port = first.port
        first.stop()
        listener = self.listen(port)
        self.assertTrue(wait_for(lambda: listener.state.word == "lost"))
        self.assertIn("Nothing answers at 127.0.0.1", listener.state.why)
        self.serve(station_stream("brennholt"), port=port)
        self.assertTrue(wait_for(lambda: listener.state.word == "connected"))

    def test_spoiled_sentences_are_counted_and_the_rest_is_read(self) -> None:
        server = self.serve(sounder_stream("brennholt"), spoil=0.4, rng=random.Random(3))
        listener = self.listen(server.port)
        self.assertTrue(wait_for(lambda: listener.state.bad_checksums > 10 and "depth" in listener.state.last))

    def test_a_busy_store_keeps_the_readings_in_hand_until_it_takes_them(self) -> None:
        server = self.serve(sounder_stream("brennholt"))
        refusals = [DatabaseError("locked")] * 3
        real = Measurement.objects.bulk_create

        def busy(*args: Any, **kwargs: Any) -> Any:
            if refusals:
                raise refusals.pop()
            return real(*args, **kwargs)

        Measurement.objects.bulk_create = busy  # type: ignore[method-assign]
        before, listening.STORE_EVERY_S = listening.STORE_EVERY_S, 0.1
        try:
            with self.assertLogs("instruments.listener", "ERROR"):
                listener = self.listen(server.port)
                self.assertTrue(wait_for(lambda: not refusals and Measurement.objects.count() > 30))
            listener.stop()
        finally:
            listening.STORE_EVERY_S = before
            Measurement.objects.bulk_create = real  # type: ignore[method-assign]
        self.assertEqual(listener.in_hand, [])
        kinds = list(Measurement.objects.order_by("id").values_list("kind", flat=True))[:3]
        self.assertEqual(kinds, ["position", "depth", "water"])

    def test_a_flood_is_thinned_and_of_what_was_kept_the_oldest_goes(self) -> None:
        server = self.serve(sounder_stream("brennholt"))
        with mock.patch.multiple(listening, THIN_S=0.1, STORE_EVERY_S=0.05, MOST_KEPT=30, TIDY_EVERY=2, MOST_AT_ONCE=4):
            listener = self.listen(server.port)
            self.assertTrue(wait_for(lambda: listener.stored > 60))
            listener.stop()
            times = list(Measurement.objects.filter(kind="depth").order_by("id").values_list("at", flat=True))
            # Between two roundings of tidying there are at most a few more than are kept.
            self.assertLess(Measurement.objects.count(), 45)
        gaps = [(b - a).total_seconds() for a, b in pairwise(times)]
        self.assertGreater(min(gaps), 0.08)

    def test_no_more_are_listened_to_than_the_server_can_and_the_page_is_told(self) -> None:
        servers = [self.serve(station_stream("brennholt")) for _ in range(3)]
        with mock.patch.object(listening, "MOST_LISTENERS", 2):
            made = [
                self.client.post("/api/instruments", {"name": f"at {s.port}", "port": s.port}, content_type=JSON)
                for s in servers
            ]
        self.assertEqual([one.status_code for one in made], [201, 201, 422])
        self.assertEqual(made[2].json()["code"], "no_line_free")
        self.assertEqual(Instrument.objects.count(), 2)

    def test_an_instrument_that_the_keeper_no_longer_allows_is_not_taken_up_again(self) -> None:
        server = self.serve(station_stream("brennholt"))
        Instrument.objects.create(owner=self.angler, name="Old", port=server.port, on=True)
        self.allowed.clear()
        told = self.client.get("/api/instruments").json()["items"][0]
        self.assertEqual(told["state"], "off")

    def test_a_silent_instrument_is_said_to_be_silent(self) -> None:
        before, listening.SILENT_S = listening.SILENT_S, 0.4
        try:
            listener = self.listen(self.serve(lambda _: b"").port)
            self.assertTrue(wait_for(lambda: listener.state.word == "lost"))
        finally:
            listening.SILENT_S = before
        self.assertIn("nothing for a while", listener.state.why)


@override_settings(INSTRUMENTS=["127.0.0.1:10110"])
class RefusalTests(PeopleTestCase):
    def test_only_addresses_that_the_keeper_named_are_listened_to_and_of_others_nothing_is_told(self) -> None:
        far = {"name": "Far", "host": "10.0.0.7", "port": 80, "on": False}
        with self.settings(INSTRUMENTS=["10.0.0.7:80"]):
            for host, port in (("10.0.0.7", 81), ("127.0.0.1", 80), ("10.0.0.7.", 80), ("010.0.0.7", 80)):
                refused = self.post("/api/instruments", {**far, "host": host, "port": port})
                at = ["port"] if host == "10.0.0.7" else ["host"]
                self.assertEqual((refused.status_code, list(refused.json()["fields"])), (422, at), (host, port))
            self.assertEqual(self.post("/api/instruments", far).status_code, 201)
        with self.settings(INSTRUMENTS=[]):
            self.assertIn("nowhere yet", self.post("/api/instruments", {**far, "name": "Farther"}).json()["detail"])

    def test_a_name_twice_and_a_port_that_is_none_are_refused(self) -> None:
        one = {"name": "Sounder", "port": 10110, "on": False}
        self.assertEqual(self.post("/api/instruments", one).status_code, 201)
        self.assertEqual(self.post("/api/instruments", one).json()["code"], "name_taken")
        self.assertEqual(self.post("/api/instruments", one | {"port": 0}).status_code, 422)

    def test_a_log_gives_the_last_value_of_each_kind(self) -> None:
        log = sentence("SD", "DPT", ["4.0", "0", ""]) + sentence("SD", "DPT", ["5.0", "0", ""]) + b"$SDDPT,9,0,*00\n"
        told = self.client.post("/api/nmea-logs", {"file": SimpleUploadedFile("a.nmea", log)}).json()
        self.assertEqual((told["last"], told["good"], told["bad_checksums"]), ([{"kind": "depth", "a": 5.0, "b": None}], 2, 1))
        refused = self.client.post("/api/nmea-logs", {"file": SimpleUploadedFile("a.nmea", b"hello")})
        self.assertEqual(refused.status_code, 422)

    def test_no_soundings_are_made_of_nothing(self) -> None:
        made = self.post("/api/instruments", {"name": "Sounder", "port": 10110, "on": False}).json()
        refused = self.post(f"/api/instruments/{made['id']}/surveys", {"water_id": self.water.pk})
        self.assertEqual(refused.json()["code"], "no_soundings")


class ForecastTests(PeopleTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.service = ForecastService(0)
        self.service.start()
        self.addCleanup(self.service.stop)
        settings = override_settings(FORECAST_URL=f"http://127.0.0.1:{self.service.port}/forecast")
        settings.enable()
        self.addCleanup(settings.disable)

    def test_fresh_hours_are_shown_kept_and_drive_the_day_strip(self) -> None:
        told = self.client.get(f"/api/waters/{self.water.pk}/forecast").json()
        self.assertEqual((told["state"], len(told["hours"])), ("fresh", 54))
        # Of today there may be an hour left; tomorrow lies within the forecast whatever the clock.
        tomorrow = (timezone.now() + timedelta(days=1)).strftime("%Y-%m-%dT10:00")
        asked = {"conditions": conditions(self.water, at_local=tomorrow), "forecast": told["hours"][:48]}
        strip = self.post("/api/day-strips", asked).json()
        self.assertGreater(len({hour["wind_speed_mps"] for hour in strip["hours"]}), 2)

    def test_a_service_that_fails_leaves_the_last_forecast_and_says_how_late_it_is(self) -> None:
        now = timezone.now()
        forecast_of(self.water, now=now)
        self.service.broken = True
        self.assertEqual(forecast_of(self.water, now=now + timedelta(minutes=20))["state"], "fresh")
        late = forecast_of(self.water, now=now + timedelta(minutes=95))
        self.assertEqual(late["state"], "late")
        self.assertEqual(
            late["why"], "The weather service does not answer. The last forecast came 95 minutes ago. Use it with care."
        )
        self.assertIn("too old to plan by", forecast_of(self.water, now=now + timedelta(hours=9))["why"])
        self.service.broken = False
        self.assertEqual(forecast_of(self.water, now=now + timedelta(minutes=95))["state"], "fresh")

    def test_without_any_forecast_it_says_to_enter_wind_and_sky_by_hand(self) -> None:
        self.service.broken = True
        told = self.client.get(f"/api/waters/{self.water.pk}/forecast").json()
        self.assertEqual((told["state"], told["hours"]), ("absent", []))
        self.assertIn("Enter wind and sky by hand", told["why"])
        self.assertFalse(Forecast.objects.exists())
