"""Signing up, in and out; what guards the door; and preferences that stay with the person."""

from __future__ import annotations

from django.test import Client, TestCase, override_settings

from accounts.models import User
from accounts.services import DEMO_USERNAME, sign_up
from box.models import Fly, Leader, Line
from project.tests.people import JSON, PASSWORD

DOOR = {"username": "angler", "password": PASSWORD}


class SignUpTests(TestCase):
    def post(self, path: str, body: dict[str, str]) -> tuple[int, dict[str, object]]:
        answer = self.client.post(path, body, content_type=JSON)
        return answer.status_code, answer.json()

    def test_a_newcomer_is_signed_in_with_a_box_and_metric_units(self) -> None:
        status, session = self.post("/api/people", DOOR)
        self.assertEqual((status, session["username"]), (201, "angler"))
        self.assertEqual(self.client.get("/api/session").json()["preferences"]["depth_unit"], "m")
        user = User.objects.get(username="angler")
        for kind, least in ((Line, 6), (Leader, 3), (Fly, 8)):
            self.assertGreaterEqual(kind.objects.filter(owner=user).count(), least)

    def test_a_taken_name_and_a_weak_password_are_answered_at_their_field(self) -> None:
        sign_up(username="angler", password=PASSWORD)
        self.assertEqual(self.post("/api/people", DOOR)[0], 409)
        for password in ("short-1", "12345678901", "password", "newcomer1"):
            status, problem = self.post("/api/people", {"username": "newcomer", "password": password})
            self.assertEqual((status, list(problem["fields"])), (422, ["password"]), password)  # type: ignore[call-overload]
        status, problem = self.post("/api/people", {"username": "new comer!", "password": PASSWORD})
        self.assertEqual((status, list(problem["fields"])), (422, ["username"]))  # type: ignore[call-overload]
        self.assertEqual(User.objects.count(), 1)


class SignInTests(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        sign_up(username="angler", password=PASSWORD)

    def sign_in(self, password: str, client: Client | None = None) -> int:
        body = {"username": "angler", "password": password}
        return (client or self.client).post("/api/session", body, content_type=JSON).status_code

    def test_the_right_password_opens_and_signing_out_closes(self) -> None:
        self.assertEqual(self.sign_in(PASSWORD), 200)
        self.assertEqual(self.client.get("/api/waters").status_code, 200)
        self.assertEqual(self.client.delete("/api/session").status_code, 204)
        self.assertEqual(self.client.get("/api/waters").status_code, 401)

    def test_after_eight_wrong_tries_even_the_right_password_waits(self) -> None:
        tries = [self.sign_in("wrong-password-1") for _ in range(8)]
        self.assertEqual(tries[:7], [401] * 7)
        self.assertEqual(self.sign_in(PASSWORD), 429)
        # Another name from the same address is not locked out with it.
        sign_up(username="other", password=PASSWORD)
        answer = self.client.post("/api/session", {"username": "other", "password": PASSWORD}, content_type=JSON)
        self.assertEqual(answer.status_code, 200)

    def test_a_write_without_the_csrf_token_is_refused_in_the_one_shape(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        self.assertEqual(self.sign_in(PASSWORD, strict), 403)
        strict.get("/api/session")
        token = {"X-CSRFToken": strict.cookies["csrftoken"].value}
        body = {"username": "angler", "password": PASSWORD}
        self.assertEqual(strict.post("/api/session", body, content_type=JSON, headers=token).status_code, 200)
        refused = strict.patch("/api/preferences", {"theme": "dusk"}, content_type=JSON)
        self.assertEqual((refused.status_code, set(refused.json())), (403, {"code", "detail", "fields"}))
        token = {"X-CSRFToken": strict.cookies["csrftoken"].value}
        self.assertEqual(strict.patch("/api/preferences", {"theme": "dusk"}, content_type=JSON, headers=token).status_code, 200)


class DemoDoorTests(TestCase):
    def test_the_demo_button_works_in_demo_mode_only(self) -> None:
        demo = sign_up(username=DEMO_USERNAME, password=PASSWORD)
        demo.set_unusable_password()
        demo.save()
        self.assertEqual(self.client.post("/api/demo-sessions", {}, content_type=JSON).status_code, 404)
        with override_settings(DEMO=True):
            self.assertEqual(self.client.post("/api/demo-sessions", {}, content_type=JSON).status_code, 200)
            self.assertEqual(self.client.get("/api/session").json()["username"], DEMO_USERNAME)


class PreferenceTests(TestCase):
    def test_units_are_kept_with_the_person_and_unknown_units_refused(self) -> None:
        self.client.post("/api/people", DOOR, content_type=JSON)
        changes = {
            "depth_unit": "ft", "temperature_unit": "F", "line_speed_unit": "in/s", "wind_unit": "Bft",
            "fish_length_unit": "in", "mass_unit": "lb", "theme": "dusk", "sound_on": False, "beat_on": True,
            "left_handed": True, "uses_log": False,
        }  # fmt: skip
        for name, value in changes.items():
            self.client.patch("/api/preferences", {name: value}, content_type=JSON)
        self.client.delete("/api/session")
        self.client.post("/api/session", DOOR, content_type=JSON)
        self.assertEqual(self.client.get("/api/session").json()["preferences"], changes)
        refused = self.client.patch("/api/preferences", {"depth_unit": "fathom"}, content_type=JSON)
        self.assertEqual((refused.status_code, list(refused.json()["fields"])), (422, ["depth_unit"]))
