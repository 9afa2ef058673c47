"""One's own account: the password, where one is signed in, tokens for scripts, and the way out for good."""

from __future__ import annotations

import io
import re
from datetime import timedelta
from typing import Any
from unittest import mock

import time_machine
from common.problems import Refused
from django.core import mail
from django.core.cache import cache
from django.core.management import CommandError, call_command
from django.test import Client, RequestFactory, TestCase, override_settings
from django.utils import timezone

from accounts.models import SignIn, Token, User
from accounts.resets import ask, send_due
from accounts.services import DEMO_USERNAME, sign_up
from accounts.sign_ins import device_of
from days.models import Day
from project.tests.people import JSON, PASSWORD, PeopleTestCase, presentation

NEW = "warm-hands-cold-heart-8"
BROWSER = "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0.0.0 Safari/537.36"


class SignedInTests(TestCase):
    """Two browsers of one person."""

    def setUp(self) -> None:
        self.angler = sign_up(username="angler", password=PASSWORD)
        self.here, self.there = self.enter(), self.enter()

    def enter(self, password: str = PASSWORD, expected: int = 200) -> Client:
        client = Client(headers={"user-agent": BROWSER})
        answer = client.post("/api/session", {"username": "angler", "password": password}, content_type=JSON)
        self.assertEqual(answer.status_code, expected)
        return client

    def change(self, password: str, new: str) -> Any:
        body = {"password": password, "new_password": new}
        return self.here.put("/api/account/password", body, content_type=JSON)

    def status(self, client: Client) -> int:
        return client.get("/api/account").status_code

    def test_another_password_ends_every_other_sign_in_and_only_it_opens(self) -> None:
        self.assertEqual(self.change(PASSWORD, NEW).status_code, 204)
        self.assertEqual(SignIn.objects.count(), 1)  # ended at once, not when the other asks next
        self.assertEqual((self.status(self.here), self.status(self.there)), (200, 401))
        self.enter(PASSWORD, expected=401)
        self.enter(NEW)
        listed = self.here.get("/api/sign-ins").json()
        self.assertEqual([one["here"] for one in listed["items"]].count(True), 1)
        self.assertEqual(listed["count"], 2)

    def test_a_wrong_or_weak_password_changes_nothing(self) -> None:
        for password, new, field in (("wrong-password-1", NEW, "password"), (PASSWORD, "short", "new_password")):
            answer = self.change(password, new)
            self.assertEqual((answer.status_code, list(answer.json()["fields"])), (422, [field]))
        self.enter(PASSWORD)

    def test_sign_ins_are_named_by_their_device_and_ended_one_by_one_or_all_others(self) -> None:
        items = self.here.get("/api/sign-ins").json()["items"]
        self.assertEqual({one["device"] for one in items}, {"Chrome on Linux"})
        other = next(one for one in items if not one["here"])
        self.assertEqual(self.here.delete(f"/api/sign-ins/{other['id']}").status_code, 204)
        self.assertEqual((self.status(self.here), self.status(self.there)), (200, 401))
        self.enter()
        self.assertEqual(self.here.delete("/api/sign-ins").status_code, 204)
        self.assertEqual([one["here"] for one in self.here.get("/api/sign-ins").json()["items"]], [True])

    def test_one_who_signs_in_where_another_was_is_on_the_list_at_once(self) -> None:
        sign_up(username="other", password=PASSWORD)
        self.there.post("/api/session", {"username": "other", "password": PASSWORD}, content_type=JSON)
        self.assertEqual(SignIn.objects.filter(user__username="other").count(), 1)

    def test_signing_out_takes_it_off_the_list(self) -> None:
        self.there.delete("/api/session")
        self.assertEqual(self.here.get("/api/sign-ins").json()["count"], 1)

    def test_when_it_was_seen_is_kept_to_the_hour_and_forgotten_with_its_session(self) -> None:
        with time_machine.travel(timezone.now() + timedelta(hours=3), tick=False):
            self.here.get("/api/account")
            seen = {one["here"]: one["seen_at"] for one in self.here.get("/api/sign-ins").json()["items"]}
        self.assertGreater(seen[True], seen[False])
        with time_machine.travel(timezone.now() + timedelta(days=200), tick=False):
            call_command("tidy", stdout=io.StringIO())
        self.assertEqual(SignIn.objects.count(), 0)

    def test_a_device_that_says_nothing_sensible_is_told_so(self) -> None:
        for said in ("", "\x00" * 900, "a" * 100_000):
            self.assertEqual(device_of(said), "Something that does not say what it is")


class RemovalTests(PeopleTestCase):
    def test_the_account_and_all_in_it_goes_and_nobody_elses(self) -> None:
        self.log_day()
        self.chart_water()
        others = User.objects.exclude(pk=self.angler.pk).count()
        self.assertEqual(self.client.post("/api/account/removal", {"password": "no"}, content_type=JSON).status_code, 422)
        self.assertEqual(Day.objects.count(), 1)
        self.assertEqual(self.client.post("/api/account/removal", {"password": PASSWORD}, content_type=JSON).status_code, 204)
        self.assertEqual(self.client.get("/api/account").status_code, 401)
        self.assertEqual((User.objects.count(), Day.objects.count()), (others, 0))

    def test_the_demo_angler_is_everybodys(self) -> None:
        demo = sign_up(username=DEMO_USERNAME, password=PASSWORD)
        client = self.signed_in(demo)
        change = {"password": PASSWORD, "new_password": NEW}
        self.assertEqual(client.put("/api/account/password", change, content_type=JSON).status_code, 403)
        self.assertEqual(client.post("/api/account/removal", {"password": PASSWORD}, content_type=JSON).status_code, 403)
        self.assertEqual(client.delete("/api/sign-ins").status_code, 403)
        with self.assertRaises(CommandError):
            call_command("reset_password", DEMO_USERNAME)


class ForgottenPasswordTests(SignedInTests):
    def follow(self, link: str, password: str = NEW) -> int:
        uid, token = link.strip().split("/")[-2:]
        return Client().post(f"/api/password-resets/{uid}/{token}", {"password": password}, content_type=JSON).status_code

    def test_a_link_from_the_operator_works_once_and_ends_every_sign_in(self) -> None:
        said = io.StringIO()
        call_command("reset_password", "angler", stdout=said)
        link = said.getvalue().splitlines()[-1]
        self.assertEqual(self.follow(link, "short"), 422)
        self.assertEqual([self.follow(link), self.follow(link, PASSWORD)], [204, 409])
        self.assertEqual((self.status(self.here), self.status(self.there)), (401, 401))
        self.enter(NEW)
        self.assertEqual(self.follow("https://x/reset/!!/nonsense"), 409)
        with self.assertRaises(CommandError):
            call_command("reset_password", "nobody")

    def keep(self, email: str, password: str = PASSWORD) -> Any:
        return self.here.patch("/api/account", {"email": email, "password": password}, content_type=JSON)

    @override_settings(MAILS=True, SITE="https://club.example")
    def test_by_mail_it_goes_to_the_address_kept_and_nothing_tells_who_is_here(self) -> None:
        def asked(name: str) -> Any:
            return Client().post("/api/password-resets", {"username": name}, content_type=JSON)

        self.assertEqual((asked("nobody").status_code, asked("angler").status_code, send_due()), (202, 202, 0))
        kept = self.keep("angler@still.example")
        self.assertEqual(kept.json()["email"], "angler@still.example")
        self.assertEqual(self.keep("no@").status_code, 422)
        self.assertEqual(list(self.keep("thief@still.example", "wrong").json()["fields"]), ["password"])
        self.assertEqual(asked("angler").content, asked("nobody").content)
        self.assertEqual((len(mail.outbox), send_due(), send_due()), (0, 1, 0))
        (sent,) = mail.outbox
        self.assertEqual(sent.to, ["angler@still.example"])
        found = re.search(r"https://club\.example/reset/\S+", str(sent.body))
        assert found is not None
        with time_machine.travel(timezone.now() + timedelta(hours=25)):
            self.assertEqual(self.follow(found[0]), 409)
        self.assertEqual(self.follow(found[0]), 204)

    @override_settings(MAILS=True, RATELIMIT_ENABLE=True)
    def test_a_name_is_mailed_three_times_an_hour_and_a_mail_that_fails_goes_later(self) -> None:
        self.keep("angler@still.example")
        with time_machine.travel(timezone.now(), tick=False):
            for _ in range(5):
                asked = Client().post("/api/password-resets", {"username": "ANGLER"}, content_type=JSON)
                self.assertEqual(asked.status_code, 202)
        with mock.patch("accounts.resets.send_mail", side_effect=OSError("no line")), self.assertLogs("accounts.resets"):
            self.assertEqual(send_due(), 0)
        self.assertEqual((send_due(), len(mail.outbox)), (3, 3))

    def test_with_a_name_and_without_as_much_is_asked_of_the_store(self) -> None:
        self.keep("angler@still.example")
        with override_settings(MAILS=True):
            for name in ("angler", "nobody"):
                with self.subTest(name), self.assertNumQueries(2):
                    ask(RequestFactory().post("/"), name)


class NameTests(PeopleTestCase):
    def test_a_twin_of_a_name_cannot_sign_up_and_whoever_writes_it_so_signs_in(self) -> None:
        sign_up(username="Ärla", password=PASSWORD)
        for twin in ("ärla", "A\u0308rla", "\uff21\u0308RLA"):
            with self.subTest(twin), self.assertRaises(Refused) as refused:
                sign_up(username=twin, password=PASSWORD)
            self.assertEqual(refused.exception.code, "name_taken")
        entered = Client().post("/api/session", {"username": "a\u0308rla", "password": PASSWORD}, content_type=JSON)
        self.assertEqual((entered.status_code, entered.json()["username"]), (200, "Ärla"))

    def test_wrong_tries_count_by_the_network_of_a_home_and_slowly_by_the_name(self) -> None:
        def tries(address: str, password: str = "wrong") -> int:
            body = {"username": "angler", "password": password}
            return Client(REMOTE_ADDR=address).post("/api/session", body, content_type=JSON).status_code

        self.assertEqual([tries(f"2001:db8:1:2::{i:x}") for i in range(8)][-1], 429)
        self.assertEqual(tries("2001:db8:1:2:ffff::1", PASSWORD), 429)
        self.assertEqual(tries("2001:db8:1:3::1", PASSWORD), 200)
        with override_settings(RATELIMIT_ENABLE=True), mock.patch("accounts.services.TRIES_AT_A_NAME", "3/h"):
            cache.clear()
            with time_machine.travel(timezone.now(), tick=False):
                found = [tries(f"198.51.100.{i}") for i in range(5)]
        self.assertEqual(found, [401, 401, 401, 429, 429])


class TokenTests(PeopleTestCase):
    def make(self, **changes: Any) -> str:
        answer = self.post("/api/tokens", {"password": PASSWORD, "name": "A script", "scope": "read", **changes})
        self.assertEqual(answer.status_code, 201)
        return str(answer.json()["token"])

    def with_token(self, token: str) -> Client:
        return Client(enforce_csrf_checks=True, headers={"authorization": f"Bearer {token}"})

    def test_it_reads_its_owners_log_and_says_its_secret_only_once(self) -> None:
        self.log_day()
        script = self.with_token(self.make())
        self.assertEqual(script.get("/api/days").json()["count"], 1)
        (listed,) = self.client.get("/api/tokens").json()["items"]
        self.assertNotIn("token", listed)
        self.assertIsNotNone(listed["used_at"])
        kept = Token.objects.get()
        self.assertNotIn(kept.begins[6:], kept.digest)
        self.assertEqual(len(kept.digest), 64)

    def test_reading_only_may_ask_what_stores_nothing_and_writing_keeps_the_log(self) -> None:
        reads, writes = self.with_token(self.make()), self.with_token(self.make(scope="write"))
        fly = {"name": "Mine", "hook_size": 12}
        run = {"bottom": [{"distance_m": 0, "depth_m": 9}], "fished": presentation()}
        for script, path, body, expected in (
            (reads, "/api/flies", fly, 403),
            (reads, "/api/runs", run, 200),
            (writes, "/api/flies", fly, 201),
        ):
            self.assertEqual(script.post(path, body, content_type=JSON).status_code, expected, path)

    def test_none_of_them_can_do_anything_with_the_account(self) -> None:
        script = self.with_token(self.make(scope="write"))
        for method, path in (("get", "/account"), ("get", "/tokens"), ("get", "/sign-ins"), ("delete", "/sign-ins")):
            self.assertIn(getattr(script, method)(f"/api{path}").status_code, (401, 403), path)
        gone = script.post("/api/account/removal", {"password": PASSWORD}, content_type=JSON)
        self.assertIn(gone.status_code, (401, 403))
        self.assertTrue(User.objects.filter(pk=self.angler.pk).exists())

    def test_wrong_revoked_and_past_its_end_are_refused(self) -> None:
        token = self.make(days=1)
        self.assertEqual(self.with_token(token + "x").get("/api/days").status_code, 401)
        with time_machine.travel(timezone.now() + timedelta(days=2)):
            self.assertEqual(self.with_token(token).get("/api/days").json()["code"], "bad_token")
        self.assertEqual(self.with_token(token).get("/api/days").status_code, 200)
        Token.objects.get().delete()
        self.assertEqual(self.with_token(token).get("/api/days").status_code, 401)

    @override_settings(RATELIMIT_ENABLE=True)
    def test_a_script_that_asks_without_end_is_told_when_to_come_back(self) -> None:
        script = self.with_token(self.make())
        with time_machine.travel(timezone.now(), tick=False):  # no minute turns meanwhile
            answers = [script.get("/api/rods") for _ in range(245)]
        self.assertEqual([answer.status_code for answer in answers].count(200), 240)
        refused = [answer for answer in answers if answer.status_code == 429]
        self.assertTrue(refused)
        self.assertGreaterEqual(int(refused[0]["Retry-After"]), 1)

    def test_there_is_room_for_twenty(self) -> None:
        for _ in range(20):
            self.make()
        self.assertEqual(self.post("/api/tokens", {"password": PASSWORD, "name": "More", "scope": "read"}).status_code, 409)

    def test_a_token_is_made_with_the_password_and_ends_with_it(self) -> None:
        for body in ({"name": "x", "scope": "read"}, {"name": "x", "scope": "read", "password": "wrong"}):
            refused = self.post("/api/tokens", body)
            self.assertEqual((refused.status_code, list(refused.json()["fields"])), (422, ["password"]))
        said = io.StringIO()

        def forgotten() -> int:
            call_command("reset_password", "angler", stdout=said)
            uid, link = said.getvalue().splitlines()[-1].strip().split("/")[-2:]
            return Client().post(f"/api/password-resets/{uid}/{link}", {"password": NEW}, content_type=JSON).status_code

        def changed() -> int:
            body = {"password": PASSWORD, "new_password": NEW}
            return self.client.put("/api/account/password", body, content_type=JSON).status_code

        for ends in (changed, forgotten, lambda: self.client.delete("/api/sign-ins").status_code):
            self.angler.set_password(PASSWORD)
            self.angler.save()
            self.client.force_login(self.angler)
            script = self.with_token(self.make())
            self.assertEqual(script.get("/api/days").status_code, 200)
            self.assertEqual(ends(), 204)
            self.assertEqual(script.get("/api/days").status_code, 401)
