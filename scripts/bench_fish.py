"""Time the day on the water: on a slow phone, and the server's thought."""

from __future__ import annotations

import re
from typing import Any

from figures import Figure, spread, times_ms

TAPPED = """(name) => new Promise((done) => {
  const words = document.body.innerText, begun = performance.now()
  const button = [...document.querySelectorAll('button')].find((one) => one.innerText.trim() === name)
  button.click()
  const look = () => document.body.innerText !== words
    ? requestAnimationFrame(() => done(performance.now() - begun)) : requestAnimationFrame(look)
  look()
})"""
TIMED_WORKER = """
window.thought = []
window.opened = performance.now()
const Usual = window.Worker
window.Worker = class extends Usual {
  constructor(...how) {
    super(...how)
    const asked = new Map(), send = this.postMessage.bind(this)
    this.postMessage = (question, ...more) => {
      if (question?.path) asked.set(question.id, { what: String(question.path), at: performance.now() })
      send(question, ...more)
    }
    this.addEventListener('message', ({ data }) => {
      const question = asked.get(data?.id)
      if (question?.what === 'up') window.upAfter = performance.now() - window.opened
      if (question?.what === 'ask') window.thought.push(performance.now() - question.at)
    })
  }
}"""
SLOWER = 4
CASTS_ASKED = 300


def fish_figures(url: str) -> list[Figure]:
    """Time the day on a phone four times as slow as this machine: a tap, a thought, and Python coming up from what is kept.

    The browser slows the page's own thread, not its worker: what the worker takes is told four times as long.
    """
    from e2e.chromium import CHROMIUM, FLAGS, PHONE
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": PHONE[0], "height": PHONE[1]}, base_url=url)
        page.add_init_script(TIMED_WORKER)
        page.goto("/")
        page.get_by_role("button", name="Enter as the demo angler").click()
        page.get_by_text("Most likely feeding").wait_for()
        page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        with page.expect_response("**/api/searches"):
            page.get_by_role("button", name="Choose the rig").click()
            page.get_by_text("Best now").wait_for()
        page.get_by_role("button", name="Fish this").click()
        thinking = page.get_by_role("region", name="Next").get_by_text(re.compile("an hour expected|takes more"))
        thinking.wait_for()
        page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        taps: list[float] = []
        for i in range(40):
            page.get_by_role("button", name="Cast" if i % 2 == 0 else "Nothing", exact=True).wait_for()
            page.wait_for_timeout(500)  # two taps closer than that are one
            taps.append(page.evaluate(TAPPED, "Cast" if i % 2 == 0 else "Nothing"))
        page.wait_for_timeout(2000)
        thoughts = sorted(page.evaluate("window.thought.slice(3)"))
        ups = []
        for _ in range(4):
            page.reload()
            thinking.or_(page.get_by_role("region", name="Next").get_by_text("blank casts")).first.wait_for()
            ups.append(page.evaluate("window.upAfter"))
        browser.close()
    slowed = [SLOWER * ms for ms in thoughts]
    return [
        Figure(f"a tap on the water to what it changes on the screen, {SLOWER} times slower", spread(sorted(taps)), "100 ms"),
        Figure(f"the thought after it, in the worker, told {SLOWER} times as long", spread(slowed), "400 ms"),
        Figure(f"Python up on the device from what it keeps, {SLOWER} times slower page", spread(sorted(ups)), "8000 ms"),
    ]


def moves_figure(client: Any, read: dict[str, Any]) -> Figure:
    """Time the server's thought after one more cast, with a log of `CASTS_ASKED` before it."""
    table = client.post("/api/searches", {"conditions": read})["table"]
    ways = table["options"][:3]
    day = client.get("/api/days")["items"][0]["id"]
    happened: list[dict[str, Any]] = []
    for i in range(CASTS_ASKED):
        happened.append({"kind": "cast", "fished": f"{i % 3}", "at_min": 1.5 * i})
        happened.append(
            {"kind": "knock" if i % 25 == 7 else "nothing", "fished": f"{i % 3}", "at_min": 1.5 * i + 1, "depth_m": 3}
        )

    def asked() -> object:
        at = happened[-1]["at_min"] + 1.0
        happened.append({"kind": "cast", "fished": "0", "at_min": at})
        happened.append({"kind": "nothing", "fished": "0", "at_min": at + 1.0})
        log = {"fished": {f"{k}": way for k, way in enumerate(ways)}, "happened": happened, "now_min": at + 1.0}
        return client.post(f"/api/days/{day}/moves", {"table": table, "log": log})

    asked()
    return Figure(f"a move from the server after {CASTS_ASKED} casts and one more", spread(times_ms(asked, 15)), "150 ms")
