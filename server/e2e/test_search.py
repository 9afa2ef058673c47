"""The search on the water: Python on the device says what the server says, and goes on without signal."""

from __future__ import annotations

import json
import re
from typing import Any

from django.conf import settings
from playwright.sync_api import Locator, Page, expect

from days.models import Day, Entry, Presentation
from e2e.angler import AnglerTestCase
from e2e.chromium import PHONE
from project.tests.people import JSON, conditions
from stillthread.api import read_log, think
from waters.services import save_water

# What crosses to the device's Python and back, as the package that carries it writes it down.
ASK = """([worker, questions]) => new Promise((done, fail) => {
  const device = new Worker(worker, { type: 'module' }), answers = []
  device.onerror = () => fail(new Error('no worker'))
  device.onmessage = ({ data }) => {
    if (!data.id) return
    if (data.type !== 'RAW') fail(new Error(JSON.stringify(data)))
    answers.push(data.value)
    if (answers.length === questions.length) done(answers)
  }
  const raw = (value) => ({ type: 'RAW', value })
  questions.forEach(([given, asked], id) =>
    device.postMessage({ id: `${id + 1}`, type: 'APPLY', path: ['ask'], argumentList: ['think', given, asked].map(raw) }))
})"""
REMEMBER = """
window.asked = []
const Usual = window.Worker
window.Worker = class extends Usual {
  constructor(...how) {
    super(...how)
    const open = new Map(), long = {}, send = this.postMessage.bind(this)
    this.postMessage = (question, ...more) => {
      if (String(question?.path) === 'ask') {
        const [call, given, asked] = question.argumentList.map((one) => one.value)
        long[call] = given ?? long[call]
        open.set(question.id, { call, given: long[call], asked })
      }
      send(question, ...more)
    }
    this.addEventListener('message', ({ data }) => {
      const question = open.get(data?.id)
      if (question?.call === 'think' && data.type === 'RAW') window.asked.push({ ...question, answer: data.value })
    })
  }
}"""


def run_of(one: dict[str, Any]) -> dict[str, Any]:
    """Return a presentation of the table as a device keeps what was fished."""
    flies = [{"name": fly["name"], "depth_m": path} for fly, path in zip(one["flies"], one["depth_m"], strict=True)]
    kind = "cast" if one["float_m"] is None else "hang"
    run = {"time_s": one["time_s"], "flies": flies, "set_depth_m": one["float_m"]}
    return {"key": None, "line": one["line"], "kind": kind, **run}


def close(test: AnglerTestCase, a: Any, b: Any, path: str = "") -> None:
    """Check that two answers are the same, numbers to 1e-9."""
    if isinstance(a, dict):
        test.assertEqual(set(a), set(b), path)
        for name in a:
            close(test, a[name], b[name], f"{path}.{name}")
    elif isinstance(a, list):
        test.assertEqual(len(a), len(b), path)
        for i, (x, y) in enumerate(zip(a, b, strict=True)):
            close(test, x, y, f"{path}[{i}]")
    elif isinstance(a, float) and not isinstance(b, str):
        test.assertAlmostEqual(a, b, delta=1e-9, msg=path)
    else:
        test.assertEqual(a, b, path)


class SearchTests(AnglerTestCase):
    def next_says(self, page: Page, words: str) -> None:
        expect(page.get_by_role("region", name="Next")).to_contain_text(re.compile(words))

    def tap(self, page: Page, *kinds: str) -> None:
        for kind in kinds:
            page.get_by_role("button", name=kind, exact=True).click()
            expect(page.get_by_role("button", name=f"Undo {kind.lower()}")).to_be_visible()

    def which_fly(self, page: Page) -> None:
        """Answer, where a team is tied on, that nobody knows which fly it was."""
        asks = page.get_by_role("region", name="Which fly")
        expect(asks).to_be_visible()
        nobody_knows = asks.get_by_role("button", name="Don’t know")
        if nobody_knows.count():
            nobody_knows.click()

    def blank_until(self, page: Page, seen: Locator) -> None:
        """Fish without anything until a change is proposed."""
        for casts in range(1, 15):
            self.tap(page, "Cast", "Nothing")
            if casts >= 3:
                self.next_says(page, f"^(?s:.)*{casts} blank casts")
                if seen.is_visible():
                    return
        expect(seen).to_be_visible()

    def test_of_a_team_it_is_asked_which_fly_and_a_fish_that_swam_off_leaves_no_cast_behind(self) -> None:
        page = self.open(PHONE)
        self.start_fishing_with_a_table(page)
        self.tap(page, "Cast", "Take")
        asks = page.get_by_role("region", name="Which fly")
        team = len(Presentation.objects.get().flies) > 1
        if team:
            asks.get_by_role("button", name=re.compile("^Top")).click()
        asks.get_by_role("button", name="Pull", exact=True).or_(asks.get_by_role("button", name="Still", exact=True)).click()
        page.get_by_role("button", name="Landed", exact=True).click()
        page.get_by_role("button", name=re.compile("^Release")).click()
        page.get_by_role("button", name="It swam off").click()
        self.tap(page, "Cast")
        page.get_by_role("button", name="Refused", exact=True).click()
        expect(page.get_by_role("button", name="Undo refused")).to_be_visible()
        page.get_by_role("button", name="Undo refused").click()
        page.get_by_role("button", name="Undo cast").click()
        self.tap(page, "Cast")
        expect(page.get_by_text("all sent")).to_be_visible()
        kept = Entry.objects.filter(undone_at=None).order_by("at")
        self.assertEqual([one.kind for one in kept], ["cast", "take", "landed", "cast"])
        take, landed = kept[1], kept[2]
        self.assertEqual((take.fly, landed.fly), (take.presentation.flies and len(take.presentation.flies) - 1,) * 2)
        self.assertIn(take.phase, {"pull", "rest"})
        self.assertEqual(landed.phase, take.phase)
        self.assert_no_faults()

    def test_an_own_change_is_two_taps_with_a_signal_and_without(self) -> None:
        page = self.open(PHONE)
        self.start_fishing_with_a_table(page)
        self.tap(page, "Cast", "Nothing")
        begun = Presentation.objects.get()
        mine = page.get_by_role("region", name="Change it yourself")
        mine.get_by_role("button", name="Fly", exact=True).click()
        to = mine.get_by_role("group", name=re.compile("^Point: instead of")).get_by_role("button").first
        name = to.inner_text()
        to.click()
        expect(page.get_by_text(f"{name} ·").or_(page.get_by_text(f"{name}."))).to_be_visible()
        self.tap(page, "Cast", "Nothing")
        expect(page.get_by_text("all sent")).to_be_visible()
        changed = Presentation.objects.exclude(pk=begun.pk).get()
        self.assertEqual(changed.flies[0]["fly"]["name"], name)
        self.assertEqual(changed.flies[1:], begun.flies[1:])
        self.contexts[-1].set_offline(True)
        deeper = mine.get_by_role("button", name=re.compile("^(Count|Float)$"))
        deeper.click()
        choice = mine.get_by_role("group", name=re.compile("^(Count|Float) now$")).get_by_role("button").first
        said = choice.inner_text().removesuffix(" s")
        choice.click()
        expect(page.get_by_role("heading", level=1)).to_contain_text(said)
        expect(page.get_by_text("drawn from your last run, roughly")).to_be_visible()
        self.tap(page, "Cast", "Nothing")
        mine.get_by_role("button", name="I moved").click()
        expect(page.get_by_role("button", name="Undo new place")).to_be_visible()
        self.contexts[-1].set_offline(False)
        expect(page.get_by_text("all sent")).to_be_visible()
        kinds = list(Entry.objects.filter(undone_at=None).order_by("at").values_list("kind", flat=True))
        self.assertEqual(kinds, ["cast", "nothing"] * 3 + ["place"])
        last = Presentation.objects.order_by("started_at").last()
        self.assertEqual(last and last.flies[0]["fly"]["name"], name)
        self.assert_no_faults()

    def test_one_table_of_cases_gives_the_same_on_the_device_and_on_the_server(self) -> None:
        self.client.force_login(self.angler)
        asked = {"conditions": conditions(self.water)}
        table = self.client.post("/api/searches", asked, content_type=JSON).json()["table"]
        first, second = table["options"][0], table["options"][3]
        nothing: dict[str, Any] = {"fished": {"a": run_of(first), "b": {**run_of(second), "key": second["key"]}}, "entries": []}
        cases: list[dict[str, Any]] = [nothing]
        for i, kind in enumerate(("nothing", "nothing", "knock", "nothing", "take", "lost", "nothing", "landed")):
            which, at_s = ("a", 240.0 * i) if i < 5 else ("b", 240.0 * i)
            cast = {"kind": "cast", "fished": which, "at_s": at_s}
            ended = {"kind": kind, "fished": which, "at_s": at_s + 150.0, "elapsed_s": None if i == 5 else 60.0}
            cases.append({**nothing, "entries": [*cases[-1]["entries"], cast, ended], "now_s": at_s + 180.0})
        cases += [{**cases[-1], "school": "static", "refused": [{"key": second["key"]}]}, {**cases[4], "most_min": 5.0}]
        heard = [{"kind": "told", "at_s": 120.0, "depth_m": 4.0}, {"kind": "place", "at_s": 1800.0}]
        cases.append({**nothing, "entries": heard})
        page = self.open(PHONE)
        page.goto("/")
        worker = next((settings.WEB_BUILD_DIR / "assets").glob("worker-*.js")).name
        questions = [[json.dumps(table), json.dumps(case)] for case in cases]
        told = page.evaluate(ASK, [f"/assets/{worker}", questions])
        self.assertEqual(len(told), len(cases))
        for case, answer in zip(cases, told, strict=True):
            close(self, json.loads(answer), json.loads(json.dumps(think(table, read_log(table, case)))))
        self.assert_no_faults()

    def test_a_day_without_signal_is_thought_through_and_a_move_is_made_once_there_is_one(self) -> None:
        page = self.open(PHONE, service_workers="allow")
        page.add_init_script(REMEMBER)
        self.sign_in(page)
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        page.reload()
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        expect(page.get_by_text(re.compile("^Best now"))).to_be_visible()
        self.settle(page)
        with page.expect_response("**/api/searches"):
            pass
        page.get_by_role("button", name="Fish this").click()
        self.next_says(page, "an hour expected|takes more over")
        self.contexts[-1].set_offline(True)
        self.tap(page, "Cast", "Nothing", "Cast", "Nothing", "Cast", "Nothing", "Cast", "Nothing")
        self.next_says(page, "4 blank casts through")
        self.tap(page, "Cast", "Knock")
        self.which_fly(page)
        self.next_says(page, "A touch as the fly landed|Knock at")
        page.reload()
        # Python comes from what the device keeps.
        self.next_says(page, "A touch as the fly landed|Knock at")
        page.get_by_role("button", name="Other rod").click()
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("button", name=re.compile("Undo other rod"))).to_be_visible()
        self.tap(page, "Take")
        self.which_fly(page)
        self.next_says(page, "Fish at")
        page.get_by_role("button", name="Undo take").click()
        self.next_says(page, "A touch as the fly landed|Knock at")
        # What the device was asked and answered, the server answers alike.
        asked = page.evaluate("window.asked")
        self.assertGreater(len(asked), 3)
        for question in asked[-4:]:
            table = json.loads(question["given"])
            answer = think(table, read_log(table, json.loads(question["asked"])))
            close(self, json.loads(question["answer"]), json.loads(json.dumps(answer)))
        self.contexts[-1].set_offline(False)
        expect(page.get_by_text("all sent")).to_be_visible()
        kinds = Entry.objects.filter(undone_at=None).order_by("at").values_list("kind", flat=True)
        self.assertEqual(list(kinds), [*(["cast", "nothing"] * 4), "cast", "knock", "told"])
        self.assert_no_faults()

    def test_a_move_is_taken_or_refused_with_a_reason_and_both_are_remembered(self) -> None:
        page = self.open(PHONE)
        self.start_fishing_with_a_table(page)
        change = page.get_by_role("button", name="Change", exact=True)
        self.blank_until(page, change)
        lead = page.get_by_role("region", name="Next").get_by_role("paragraph").first
        before = lead.inner_text()
        page.get_by_role("region", name="Next").get_by_role("button", name="No").click()
        page.get_by_role("button", name="No such fly left").click()
        expect(lead).not_to_have_text(before)
        page.reload()
        expect(lead).not_to_have_text("")
        self.assertNotEqual(lead.inner_text(), before)
        # A school sees only what is its own.
        page.get_by_label("How to search").select_option(label="Stay with the plan")
        expect(page.get_by_role("button", name="Change", exact=True).or_(page.get_by_text("Stay with it."))).to_be_visible()
        page.get_by_label("How to search").select_option(label="Best expected")
        expect(change).to_be_visible()
        fished = Presentation.objects.count()
        change.click()
        self.wait_for(lambda: Presentation.objects.count() == fished + 1)
        self.assertEqual(Presentation.objects.values("day").distinct().count(), 1)
        self.assert_no_faults()

    def test_changed_water_others_fish_and_the_fan_are_two_taps_each_and_reach_the_thinking(self) -> None:
        # Open all year: it is read for July, and fished today.
        save_water(water=self.water, changes={"rules": {}})
        page = self.open(PHONE)
        self.start_fishing_with_a_table(page)
        page.get_by_role("button", name=re.compile("^Next cast: hard left, near")).click()
        page.get_by_role("button", name=re.compile("^straight, far")).click()
        expect(page.get_by_role("button", name=re.compile("^Next cast: straight, far"))).to_be_visible()
        self.tap(page, "Cast", "Nothing")
        expect(page.get_by_role("button", name=re.compile("^Next cast: hard left, near"))).to_be_visible()
        self.wait_for(lambda: Entry.objects.filter(kind="cast").exists())
        cast = Entry.objects.get(kind="cast")
        self.assertEqual((cast.toward, cast.far), (0, True))
        page.get_by_role("button", name="Wind", exact=True).click()
        with page.expect_response("**/api/searches") as answered:
            page.get_by_role("group", name="Wind now").get_by_role("button").last.click()
        self.assertEqual(answered.value.status, 200, answered.value.text()[:300])
        expect(page.get_by_text("The water is read anew.")).to_be_visible()
        expect(page.get_by_text(re.compile("9 m/s and waves"))).to_be_visible()
        self.next_says(page, "an hour expected|takes more over")
        page.get_by_role("button", name="Others catch").click()
        expect(page.get_by_role("button", name="Undo others catch")).to_be_visible()
        page.get_by_role("button", name="Other rod").click()
        for name in ("dark natural", "black", "slow"):
            page.get_by_role("button", name=name, exact=True).click()
        page.get_by_role("button", name="Save").click()
        self.wait_for(lambda: Entry.objects.filter(kind="told").exists())
        told = Entry.objects.get(kind="told")
        self.assertEqual((told.fly_class, told.colour, told.pace), (1, "black", "slow"))
        page.get_by_label("Rods").select_option("2")
        self.next_says(page, "Second rod")
        # Without signal the change counts at once, and the page says that the reading is still to come.
        self.contexts[-1].set_offline(True)
        page.get_by_role("button", name="Sign", exact=True).click()
        page.get_by_role("group", name="Sign now").get_by_role("button").first.click()
        expect(page.get_by_text(re.compile("counts less until the water is read anew"))).to_be_visible()
        self.contexts[-1].set_offline(False)
        self.assert_no_faults()

    def test_two_devices_of_one_angler_fish_one_day_and_each_counts_what_the_other_logs(self) -> None:
        first, second = self.open(PHONE), self.open(PHONE)
        self.start_fishing_with_a_table(first)
        self.start_fishing_with_a_table(second)
        self.tap(first, "Cast", "Nothing")
        expect(first.get_by_text("all sent")).to_be_visible()
        second.reload()
        expect(second.get_by_text("1 cast ·")).to_be_visible()
        self.tap(second, "Cast", "Take")
        expect(second.get_by_text("all sent")).to_be_visible()
        first.reload()
        expect(first.get_by_text("2 casts · 0 knocks · 1 take")).to_be_visible()
        self.next_says(first, "Fish at")
        # What one takes back is taken back on both.
        second.get_by_role("button", name="Undo take").click()
        expect(second.get_by_text("all sent")).to_be_visible()
        self.wait_for(lambda: not Entry.objects.filter(kind="take", undone_at=None).exists())
        first.reload()
        expect(first.get_by_text("2 casts · 0 knocks · 0 takes")).to_be_visible()
        self.assertEqual((Day.objects.count(), Presentation.objects.count()), (1, 2))
        self.assert_no_faults()

    def test_a_day_that_begins_before_the_table_has_come_thinks_once_it_is_there(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        self.read_water(page)
        page.get_by_role("button", name="Choose the rig").click()
        page.get_by_role("radio", name="Line, with dials").click()
        expect(page.get_by_text("Sum and truth")).to_be_visible()
        page.get_by_role("button", name="Fish this").click()
        self.tap(page, "Cast", "Knock")
        self.which_fly(page)
        self.next_says(page, "A touch as the fly landed|Knock at")
        self.assert_no_faults()

    def test_when_nothing_comes_is_one_ladder_on_rig_card_and_fish(self) -> None:
        page = self.open(PHONE)
        self.sign_in(page)
        self.read_water(page)
        with page.expect_response("**/api/searches"):
            page.get_by_role("button", name="Choose the rig").click()
        self.settle(page)
        on_rig = self.ladder(page)
        self.assertGreater(len(on_rig), 1)
        page.get_by_role("link", name="day card").click()
        card = page.get_by_role("article", name="Day card")
        for step in on_rig[1:]:
            expect(card).to_contain_text(step)
        page.go_back()
        page.get_by_role("button", name="Fish this").click()
        self.next_says(page, "an hour expected|takes more over")
        self.assertEqual(self.ladder(page)[1:], on_rig[1:])
        self.assert_no_faults()

    def ladder(self, page: Page) -> list[str]:
        """Return what would be proposed if nothing came, unfolded."""
        ladder = page.get_by_role("region", name="When nothing comes")
        ladder.locator("summary").click()
        expect(ladder.get_by_text("Then as long as it is worth it.")).to_be_visible()
        return [item.locator("span").last.inner_text() for item in ladder.get_by_role("listitem").all()]

    def start_fishing_with_a_table(self, page: Page) -> None:
        self.sign_in(page)
        self.read_water(page)
        with page.expect_response("**/api/searches"):
            page.get_by_role("button", name="Choose the rig").click()
        # The least of all methods, so that there is something better.
        page.get_by_role("region", name="The best of each method").locator("button[aria-pressed]").last.click()
        page.get_by_role("button", name="Fish this").click()
        self.next_says(page, "an hour expected|takes more over")
