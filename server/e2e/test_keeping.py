"""A log is taken along and brought back from the page; others' logs come in; the account is one's own."""

from __future__ import annotations

import io
import json
import re
import tempfile
import zipfile
from datetime import date
from pathlib import Path

from archive.exporting import write_archive
from archive.tests.on_the_way import changed
from django.core.management import call_command
from playwright.sync_api import FilePayload, Page, expect

from accounts.models import Token, User
from days.models import Catch, Day
from demo.season import load_season
from e2e.browser import BrowserTestCase
from project.tests.people import PASSWORD

NOTEBOOK = """When,Lake,Kind of fish,Size (in),Fly used
14/07/2023,Brennholt Reservoir,rainbow,16,olive nymph
15/07/2023,Old tarn,brown,14,"<b>bold</b>"
soon,Brennholt Reservoir,brown,14,
"""
NEW = "warm-hands-cold-heart-8"


class KeepingTests(BrowserTestCase):
    """A person with a short season, on the pages of their log and account."""

    keeper: User

    def setUp(self) -> None:
        super().setUp()
        self.keeper = load_season(today=date.today(), days=3)
        self.keeper.username = "keeper"
        self.keeper.set_password(PASSWORD)
        self.keeper.save()

    def enter(self, page: Page, path: str, name: str = "keeper", password: str = PASSWORD) -> None:
        page.goto(path)
        page.get_by_label("Name", exact=True).fill(name)
        page.get_by_label("Password", exact=True).fill(password)
        page.get_by_role("button", name="Sign in").click()

    def test_everything_is_saved_lost_looked_at_and_brought_back(self) -> None:
        days = Day.objects.filter(owner=self.keeper).count()
        page = self.open(accept_downloads=True)
        self.enter(page, "/you/log")
        with page.expect_download() as saved:
            page.get_by_role("link", name="Save everything").click()
        archive = Path(saved.value.path()).read_bytes()
        lost = Day.objects.filter(owner=self.keeper)[0].pk
        Day.objects.filter(pk=lost).delete()
        page.get_by_label("Archive").set_input_files([FilePayload(name="log.zip", mimeType="application/zip", buffer=archive)])
        found = page.get_by_role("table", name="What the archive holds")
        expect(found.get_by_role("row", name=re.compile("^Days"))).to_contain_text(f"1{days - 1}0")
        page.get_by_role("button", name="Add what is new").click()
        expect(page.get_by_role("status").filter(has_text="Taken in: 1 day")).to_be_visible()
        self.assertEqual(Day.objects.filter(owner=self.keeper).count(), days)
        self.assertTrue(Day.objects.filter(pk=lost).exists())
        with page.expect_download() as table:
            page.get_by_role("link", name=re.compile("^Days")).click()
        self.assertEqual(len(Path(table.value.path()).read_text().splitlines()), days + 1)
        self.assert_no_faults()

    def test_what_cant_be_taken_is_told_and_left_out_only_when_asked(self) -> None:
        file = io.BytesIO()
        write_archive(self.keeper, file)
        day = Day.objects.filter(owner=self.keeper)[0]

        def spoil(files: dict[str, bytes]) -> None:
            name = f"days/{day.pk}.json"
            files[name] = json.dumps({**json.loads(files[name]), "at": "yesterday"}).encode()

        page = self.open()
        self.enter(page, "/you/log")
        data = changed(file, spoil).getvalue()
        page.get_by_label("Archive").set_input_files([FilePayload(name="log.zip", mimeType="application/zip", buffer=data)])
        page.get_by_role("radio", name="goes").click()
        expect(page.get_by_text("One thing in it can’t be taken.")).to_be_visible()
        replace = page.get_by_role("button", name="Replace everything here by it")
        expect(replace).to_be_disabled()
        page.get_by_label("Leave out what can’t be taken").check()
        replace.click()
        expect(page.get_by_role("status").filter(has_text="1 left out")).to_be_visible()
        self.assertFalse(Day.objects.filter(pk=day.pk).exists())
        for bad in (b"no archive", zipped()):
            payload = FilePayload(name="log.zip", mimeType="application/zip", buffer=bad)
            page.get_by_label("Archive").set_input_files([payload])
            expect(page.get_by_role("alert")).to_contain_text(re.compile("no zip file|not an archive"))
        self.assert_no_faults()

    def test_anothers_log_is_mapped_looked_at_and_stands_beside_ones_own(self) -> None:
        page = self.open()
        self.enter(page, "/you/log")
        payload = FilePayload(name="old.csv", mimeType="text/csv", buffer=NOTEBOOK.encode())
        page.get_by_label("Log as CSV").set_input_files([payload])
        expect(page.get_by_label("Size (in) is")).to_have_value("length")
        brought = page.get_by_role("status").filter(has_text="Brings")
        expect(brought).to_contain_text("1 new day and 1 fish")
        expect(brought).to_contain_text("Line 3: You have no water called Old tarn.")
        page.get_by_label("“Old tarn” is").select_option(label="Laguna Trescañas")
        expect(brought).to_contain_text("2 new days and 2 fish")
        take = page.get_by_role("button", name="Bring it in")
        expect(take).to_be_disabled()
        page.get_by_label("Leave out the rows that can’t be taken").check()
        take.click()
        expect(page.get_by_role("status").filter(has_text="Brought in: 2 new days")).to_be_visible()
        self.assertEqual(Catch.objects.filter(day__owner=self.keeper).count(), 2)
        page.goto(f"/log/day/{Catch.objects.get(species='brown').day_id}")
        fish = page.get_by_role("region", name="From another log")
        expect(fish).to_contain_text("1 brown, 36 cm")
        expect(fish).to_contain_text("<b>bold</b>")
        expect(page.get_by_text("nothing of the wind, the sky or the water was read")).to_be_visible()
        fish.get_by_role("button", name=re.compile("Take out")).click()
        expect(fish).to_have_count(0)
        self.assertEqual(Catch.objects.filter(day__owner=self.keeper).count(), 1)
        self.assert_no_faults()

    def test_password_sign_ins_and_tokens(self) -> None:
        page, elsewhere = self.open(), self.open()
        self.enter(page, "/you")
        self.enter(elsewhere, "/you")
        signed_in = page.get_by_role("region", name="Signed in")
        page.reload()
        expect(signed_in.get_by_role("listitem")).to_have_count(2)
        expect(signed_in).to_contain_text("Here, now")
        page.get_by_label("Password now").fill("wrong-one-1")
        page.get_by_label("New password").fill(NEW)
        page.get_by_role("button", name="Change it").click()
        expect(page.get_by_text("That is not your password.")).to_be_visible()
        page.get_by_label("Password now").fill(PASSWORD)
        page.get_by_role("button", name="Change it").click()
        expect(page.get_by_text("Changed. You are signed out everywhere but here")).to_be_visible()
        expect(signed_in.get_by_role("listitem")).to_have_count(1)
        page.get_by_label("What it is for").fill("My script")
        page.get_by_label("Your password").fill(NEW)
        page.get_by_role("button", name="Make a token").click()
        shown = page.get_by_role("status").filter(has_text="Copy it now")
        expect(shown).to_contain_text("still_")
        page.get_by_role("button", name="Revoke My script").click()
        expect(page.get_by_role("button", name="Revoke My script")).to_have_count(0)
        self.assertFalse(Token.objects.exists())
        elsewhere.reload()
        expect(elsewhere.get_by_role("button", name="Sign in")).to_be_visible()
        self.assert_no_faults()

    def test_a_forgotten_password_by_the_keepers_hand_and_the_way_out_for_good(self) -> None:
        page = self.open()
        page.goto("/")
        page.get_by_label("Name", exact=True).fill("keeper")
        page.get_by_role("button", name="Forgotten the password?").click()
        expect(page.get_by_text("ask whoever keeps this server")).to_be_visible()
        said = io.StringIO()
        call_command("reset_password", "keeper", stdout=said)
        path = "/reset/" + said.getvalue().splitlines()[-1].split("/reset/")[1]
        page.goto(path)
        page.get_by_label("New password", exact=True).fill(NEW)
        page.get_by_role("button", name="Set it").click()
        page.get_by_role("link", name="Sign in").click()
        self.enter(page, "/you", password=NEW)
        page.get_by_role("button", name="Delete the account…").click()
        page.get_by_label("Password of keeper").fill(NEW)
        page.get_by_role("button", name="Delete it all").click()
        expect(page.get_by_role("button", name="Sign up")).to_be_visible()
        self.assertFalse(User.objects.filter(username="keeper").exists())
        self.assert_no_faults()


def zipped() -> bytes:
    with tempfile.SpooledTemporaryFile() as file:
        with zipfile.ZipFile(file, "w") as archive:
            archive.writestr("README.txt", "hello")
        file.seek(0)
        return file.read()
