"""Time looking back over twenty seasons: what the charts, the list and the page take."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from typing import Any

from figures import Figure, spread, times_ms
from serving import served

SEASONS, RUNS = 20, 30
KEEPER, PASSWORD = "keeper", "cold-hands-warm-heart-7"
CHARTS = ("depth", "above_bottom", "temperature", "light", "wind", "method", "fly", "line", "retrieve", "spot", "hour", "month")
PAINTED = """() => new Promise((done) => {
  const look = () => document.querySelector('table circle')
    ? requestAnimationFrame(() => done(performance.now())) : requestAnimationFrame(look)
  look()
})"""


def lookback_figures(client_of: Callable[[str, tuple[str, str]], Any]) -> list[Figure]:
    """Return what looking back takes with a log of twenty seasons; `client_of` asks an address as one who signs in."""
    lay = ("lay_seasons", str(SEASONS), "--username", KEEPER, "--password", PASSWORD)
    with served(also=[lay]) as app:
        client = client_of(app.url, (KEEPER, PASSWORD))
        water = client.get("/api/waters")["items"][0]["id"]
        first = client.get("/api/in-short")
        said = f"{first['days']} days, {first['takes']} fish, {round(first['hours'])} h of the fly"

        def timed(paths: list[str], runs: int = RUNS) -> str:
            each = itertools.cycle(paths)
            return spread(times_ms(lambda: client.get(next(each)), runs))

        figures = [
            Figure(f"how deep, on what, when, of all of it ({said})", timed(["/api/in-short"]), "p95 400 ms"),
            Figure("the same of one water's July", timed([f"/api/in-short?water_id={water}&months=7"]), "p95 400 ms"),
            Figure("a chart, of each kind in turn", timed([f"/api/rates?by={by}" for by in CHARTS], 60), "p95 400 ms"),
            Figure("promises against what came", timed(["/api/audit"]), "p95 400 ms"),
            Figure("a water through the year", timed([f"/api/waters/{water}/year"]), "p95 400 ms"),
            Figure("the list of days, forty a page, each page in turn",
                   timed([f"/api/days?limit=40&offset={40 * i}" for i in range(50)]), "p95 200 ms"),
            Figure("the same, by words",
                   timed(["/api/days?limit=40&text=sinker", "/api/days?limit=40&text=pupa"]), "p95 200 ms"),
        ]  # fmt: skip
        return [*figures, _first_paint(app.url)]


def _first_paint(url: str) -> Figure:
    from e2e.chromium import CHROMIUM, DESK, FLAGS
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": DESK[0], "height": DESK[1]}, base_url=url)
        page.goto("/")
        page.get_by_label("Name").fill(KEEPER)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("navigation", name="Steps").wait_for()
        painted = []
        for _ in range(10):
            page.goto("/log")
            painted.append(float(page.evaluate(PAINTED)))
        browser.close()
    return Figure("Look back opened anew in the browser, until its charts are drawn", spread(sorted(painted)), "1000 ms")
