"""A device that fished with an earlier version goes on where it was, and all that it kept is sent."""

from __future__ import annotations

import json
import uuid
from typing import Any

from common.speeds import in_ms
from playwright.sync_api import expect

from days.models import Entry, Presentation
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from project.tests.people import FLY, JSON, LEADER, LINE, conditions, presentation

# The store as version 2 made it: what was done lay flat beside its nulls, and a float called itself a still cast.
MAKE = """async ([fishing, waiting, kept]) => {
  await new Promise(done => { indexedDB.deleteDatabase('still-thread').onsuccess = done })
  const opening = indexedDB.open('still-thread', 20)
  opening.onupgradeneeded = () => {
    const made = opening.result
    made.createObjectStore('fishing', { keyPath: 'key' })
    made.createObjectStore('entries', { keyPath: 'id' }).createIndex('dayId', 'dayId')
    made.createObjectStore('outbox', { keyPath: 'seq', autoIncrement: true }).createIndex('username', 'username')
    const answers = made.createObjectStore('kept', { keyPath: 'id' })
    answers.createIndex('kind', 'kind')
    answers.createIndex('[kind+at]', ['kind', 'at'])
  }
  await new Promise(done => { opening.onsuccess = done })
  const write = opening.result.transaction(['fishing', 'outbox', 'kept'], 'readwrite')
  write.objectStore('fishing').put(fishing)
  for (const row of waiting) write.objectStore('outbox').add(row)
  for (const row of kept) write.objectStore('kept').add(row)
  await new Promise(done => { write.oncomplete = done })
  opening.result.close()
}"""

KEPT = """new Promise(done => { indexedDB.open('still-thread').onsuccess = ({ target }) => {
  target.result.transaction('kept').objectStore('kept').getAllKeys().onsuccess = e => done(e.target.result) } })"""


class UpgradeTests(AnglerTestCase):
    def test_a_float_fished_with_an_earlier_version_goes_on_and_its_log_arrives_whole(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        day, fished, entry = (str(uuid.uuid4()) for _ in range(3))
        read, rig = conditions(self.water), {"line": LINE, "leader": LEADER, "flies": [{"fly": FLY}]}
        at = "2026-07-14T09:00:00Z"
        hang = {"set_depth_m": 3.0, "indicator": "sliding", "drift_s": 90, "twitch_every_s": None}
        flat = {
            "line": {"name": LINE["name"]}, "count_s": 0, "retrieve_name": None, "retrieve_rhythm": None, "retrieve_mps": None,
            "out_m": None, "tow_mps": None, "ladder": [], "fly_names": [FLY["name"]], **hang,
        }  # fmt: skip
        asked = {"bottom": [{"distance_m": 0, "depth_m": 9}], "fished": presentation({"kind": "hang", "set_depth_m": 3.0})}
        self.client.force_login(self.angler)
        run = self.client.post("/api/runs", asked, content_type=JSON).json()
        fishing = {
            "key": "now", "username": "angler", "dayId": day, "presentationId": fished, "conditions": read, "doing": flat,
            "run": run, "picture": None, "castAt": None, "landing": None,
        }  # fmt: skip
        old = {"rig": rig, "cast_m": 9, "count_s": 0, "retrieve_key": "static", "slack": 0, "loose": False, "tip_mps": 0,
               "hang": hang, "started_at": at, "long_leader_ok": True}  # fmt: skip
        took = {"presentation_id": fished, "kind": "take", "at": "2026-07-14T09:04:00Z", "cast_elapsed_s": 60}

        def row(path: str, body: dict[str, Any]) -> dict[str, Any]:
            # An old page that was still open has sent them in its own shape, and been refused.
            return {"username": "angler", "method": "PUT", "path": path, "body": body, "refused": "Field required"}

        presented = f"/api/days/{day}/presentations/{fished}"
        waiting = [row(f"/api/days/{day}", read), row(presented, old), row(f"/api/days/{day}/entries/{entry}", took)]
        page.goto("/api/session")  # of this place, and without the application's own store open
        who = {
            "id": '["session"]',
            "kind": "list",
            "at": 0,
            "answer": {"username": "angler", "demo": True, "preferences": None},
        }
        flies = {"id": '["flies"]', "kind": "list", "at": 0, "answer": {"items": [], "count": 0}}
        page.evaluate(MAKE, [in_ms(fishing), in_ms(waiting), [who, flies]])
        page.goto("/fish")
        expect(page.get_by_role("heading", level=1)).to_contain_text("Sliding float at 3.00 m")
        expect(page.get_by_role("timer", name="Count")).to_contain_text("as the float lands")
        expect(page.get_by_text("all sent")).to_be_visible()
        self.assertEqual(Entry.objects.get().kind, "take")
        named = json.dumps(["get", "/api/flies", {"params": {"query": {"limit": 200}}}], separators=(",", ":"))
        self.assertIn(named, page.evaluate(KEPT))
        action = Presentation.objects.get().action
        self.assertEqual({name: action[name] for name in hang}, hang)
        self.assertEqual((action["kind"], action["distance_m"]), ("hang", 9.0))
        self.assert_no_faults()

    def test_an_outing_kept_with_a_name_for_each_condition_is_read_on(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        kept = {
            "waterId": self.water.pk, "timeZone": "Europe/Oslo", "atLocal": "2026-07-14T10:40", "surfaceC": 17.3,
            "deeper": [{"depth_m": 5, "water_c": 11.0, "trusted": False}], "windMs": 6, "windFromDeg": 90, "cloudFraction": 1,
            "secchiM": 2.5, "bottomM": 7.5, "farBottomM": 9, "weedM": 0.5, "signs": ["sips"], "sample": None,
            "species": "brown", "leaderId": None, "flyId": None, "droppers": [], "castM": 20, "longLeaderOk": False,
            "rigView": "method", "boat": True, "chosen": None,
        }  # fmt: skip
        page.goto("/api/session")  # the page of the signing in must not ask, or keep, anything more
        page.evaluate("kept => localStorage.setItem('outing:angler', JSON.stringify(kept))", kept)
        with page.expect_request("**/api/pictures") as asked:
            page.goto("/read")
        sent = asked.value.post_data_json or {}
        self.assertEqual([r["water_c"] for r in sent["readings"]], [17.3, 11.0])
        self.assertEqual((sent["bottom_depth_m"], sent["far_bottom_depth_m"], sent["weed_m"]), (7.5, 9, 0.5))
        self.assertEqual((sent["wind_from_deg"], sent["signs"], sent["species"]), (90, ["sips"], "brown"))
        self.unfold(page)
        expect(page.get_by_label("Surface temperature")).to_have_value("17.3")
        expect(page.get_by_label("Trout")).to_have_value("brown")
        page.get_by_label("Wind", exact=True).fill("3")
        self.wait_for(lambda: page.evaluate("JSON.parse(localStorage.getItem('outing:angler')).conditions.wind_speed_mps") == 3)
        self.assertEqual(page.evaluate("JSON.parse(localStorage.getItem('outing:angler')).castM"), 20)
        self.assert_no_faults()
