"""Measure what must be quick, and write docs/benchmarks.md. `make bench` runs it; nothing here fails a build."""

from __future__ import annotations

import argparse
import contextlib
import gzip
import itertools
import json
import platform
import statistics
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterator, Sequence
from datetime import date
from functools import partial
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

from bench_fish import fish_figures, moves_figure
from bench_lookback import lookback_figures
from figures import Figure, spread, times_ms
from serving import SERVER, served
from sweep import sweep

ROOT = Path(__file__).resolve().parents[1]
OF_DAYS = "## What"
OF_LOG = "## Looking back"

SUMMER_C = (18.6, 18.5, 18.4, 18.0, 16.8, 14.6, 12.5, 11.2, 10.2)


def core_figures() -> list[Figure]:
    from stillthread.api import RETRIEVES, Cast, PlacedFly, Rig, line_of_class, read_water, simulate
    from tests.rigs import DEEP_WATER, FOAM_NYMPH, HEAVY_NYMPH, LEADER, LIGHT_NYMPH, conditions

    strip = RETRIEVES["strip-pause"]
    team = (PlacedFly(HEAVY_NYMPH), PlacedFly(LIGHT_NYMPH, 1.2), PlacedFly(FOAM_NYMPH, 2.4))
    one = Rig(line_of_class("type-3"), LEADER, (PlacedFly(LIGHT_NYMPH),))
    three = Rig(line_of_class("type-3"), LEADER, team)
    cast = Cast(15.0, 20.0, strip)
    windy = Cast(15.0, 20.0, strip, wind_speed_mps=4.0)
    return [
        Figure("one 15 m cast, one fly", spread(times_ms(lambda: simulate(one, cast, DEEP_WATER), 60)), "p95 3 ms"),
        Figure("one 15 m cast, three flies", spread(times_ms(lambda: simulate(three, cast, DEEP_WATER), 60)), "p95 5 ms"),
        Figure(
            "the same, one fly, across 4 m/s of wind",
            spread(times_ms(lambda: simulate(one, windy, DEEP_WATER), 60)),
            "p95 8 ms",
        ),
        Figure("the same, three flies", spread(times_ms(lambda: simulate(three, windy, DEEP_WATER), 60)), "p95 8 ms"),
        Figure("reading the water", spread(times_ms(lambda: read_water(conditions()), 60)), "-"),
    ]


def simulator_figures() -> list[Figure]:
    """Time an indicator drift, a mixed bag of presentations on two threads, and a tow beside a mooring library."""
    from concurrent.futures import ThreadPoolExecutor

    from stillthread.api import (
        LINE_CLASSES,
        QUICK,
        RETRIEVES,
        Cast,
        Drift,
        IndicatorRig,
        Leader,
        LeaderSection,
        PlacedFly,
        Troll,
        level_water,
        line_of_class,
        simulate,
        simulate_drift,
        simulate_troll,
    )
    from tests.rigs import HEAVY_NYMPH, LIGHT_NYMPH, rig
    from tests.test_against_moordyn import moordyn_end
    from tests.test_chain import Thread

    lake = level_water(12.0, 9.0)
    level = Leader("level", (LeaderSection(0.9, 0.0004, "nylon"), LeaderSection(5.0, 0.00018)))
    team = (PlacedFly(HEAVY_NYMPH), PlacedFly(LIGHT_NYMPH, 1.2), PlacedFly(LIGHT_NYMPH, 2.4))
    hung = IndicatorRig(level, team, 4.6, line=line_of_class("floating"))
    drift = times_ms(lambda: simulate_drift(hung, Drift(for_s=180.0, wind_speed_mps=3.0), lake), 40)
    keys = [key for key in LINE_CLASSES if key != "own"]
    retrieves = list(RETRIEVES.values())
    jobs: list[Callable[[], object]] = []
    for i in range(500):
        tied = rig(keys[i % len(keys)], HEAVY_NYMPH if i % 3 else LIGHT_NYMPH)
        cast = Cast(12.0 + i % 8, float(i * 7 % 60), retrieves[i % len(retrieves)], wind_speed_mps=float(i % 7))
        if i % 10 == 0:
            jobs.append(partial(simulate_drift, hung, Drift(for_s=180.0, wind_speed_mps=float(i % 7)), lake, mesh=QUICK))
        elif i % 10 == 5:
            jobs.append(partial(simulate_troll, tied, Troll(20.0, 0.5, 120.0), lake, mesh=QUICK))
        else:
            jobs.append(partial(simulate, tied, cast, lake, mesh=QUICK))

    def mixed() -> object:
        with ThreadPoolExecutor(2) as pool:
            return list(pool.map(lambda job: job(), jobs))

    start = time.perf_counter()
    moordyn_end(0.0381, 15.0, 0.25, 30.0, 1.7)
    theirs = (time.perf_counter() - start) / 30.0
    ours = times_ms(lambda: Thread(tip_speed_mps=0.25, count_s=30.0, segment_m=0.75).run(), 20)[10] / 1000.0 / 30.0
    return [
        Figure("an indicator drift of 3 minutes, three flies", spread(drift), "5 ms"),
        Figure("500 mixed presentations on two threads", spread(times_ms(mixed, 5)), "500 ms"),
        Figure(
            "a 20-segment tow, per simulated second",
            f"{1000 * ours:.3f} ms, moordyn {1000 * theirs:.1f} ms: {theirs / ours:.0f} times as fast",
            "400 times",
        ),
    ]


def chart_figures() -> list[Figure]:
    from stillthread.api import fetch_rose, shore_exposure
    from tests.charts import circle, lake

    outline = lake(circle(800.0, 5000))
    return [
        Figure(
            "fetch rose of 72 bearings, outline of 5 000 corners",
            spread(times_ms(lambda: fetch_rose(outline, (100.0, 50.0)), 40)),
            "50 ms",
        ),
        Figure(
            "the same outline's shores under a wind", spread(times_ms(lambda: shore_exposure(outline, 6.0, 225.0), 10)), "-"
        ),
    ]


def first_answer() -> Figure:
    """Time a new process from its start to its first simulated cast, with the compiled code cached."""
    # As installed for serving: without the tests' scipy, which the compiler imports where it finds it.
    script = """import sys
sys.modules["scipy"] = None
from stillthread.api import RETRIEVES, Cast, Fly, Leader, LeaderSection, PlacedFly, Rig, level_water, line_of_class, simulate
leader = Leader("12 ft", (LeaderSection(3.7, 0.0002),))
rig = Rig(line_of_class("type-3"), leader, (PlacedFly(Fly(name="nymph", hook_size=12)),))
simulate(rig, Cast(15.0, 20.0, RETRIEVES["strip-pause"]), level_water(10.0, 9.0))
"""
    durations = times_ms(lambda: subprocess.run([sys.executable, "-c", script], cwd=ROOT / "core", check=True), 5)
    return Figure("a new process to its first simulated cast", f"median {statistics.median(durations):.0f} ms", "1500 ms")


class Client:
    """The API as a signed-in script sees it: as the demo angler, or as who is named."""

    def __init__(self, url: str, who: tuple[str, str] | None = None) -> None:
        self.url, self.jar = url, CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.get("/api/session")
        if who is None:
            self.post("/api/demo-sessions", {})
        else:
            self.post("/api/session", {"username": who[0], "password": who[1]})

    def get(self, path: str) -> Any:
        with self.opener.open(self.url + path) as answer:
            return json.load(answer)

    def upload(self, path: str, name: str, data: bytes) -> Any:
        token = next(cookie.value for cookie in self.jar if cookie.name == "csrftoken")
        edge = "----still-thread"
        head = f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="{name}"\r\nContent-Type: text/csv\r\n\r\n'
        body = head.encode() + data + f"\r\n--{edge}--\r\n".encode()
        headers = {"Content-Type": f"multipart/form-data; boundary={edge}", "X-CSRFToken": token or ""}
        with self.opener.open(urllib.request.Request(self.url + path, body, headers)) as answer:
            return json.load(answer)

    def post(self, path: str, body: dict[str, Any]) -> Any:
        token = next(cookie.value for cookie in self.jar if cookie.name == "csrftoken")
        headers = {"Content-Type": "application/json", "X-CSRFToken": token or ""}
        with self.opener.open(urllib.request.Request(self.url + path, json.dumps(body).encode(), headers)) as answer:
            return json.load(answer)


def soundings_csv(count: int) -> bytes:
    """Return soundings all over the demo lake, as a sounder's software writes them."""
    import numpy as np

    from demo.lakes import BRENNHOLT_LAKE

    west, south, east, north = BRENNHOLT_LAKE.water.bounds
    xy = np.random.default_rng(1).uniform((west, south), (east, north), (count, 2))
    rows = np.column_stack((BRENNHOLT_LAKE.plane.to_lonlat(xy), BRENNHOLT_LAKE.depth_m(xy)))
    return b"lon,lat,depth_m\n" + b"\n".join(b"%.7f,%.7f,%.2f" % tuple(row) for row in rows)


@contextlib.contextmanager
def browser_page(url: str) -> Iterator[Any]:
    """Open a page of the demo angler, the water read."""
    from e2e.chromium import CHROMIUM, DESK, FLAGS
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": DESK[0], "height": DESK[1]}, base_url=url)
        page.goto("/")
        page.get_by_role("button", name="Enter as the demo angler").click()
        page.get_by_text("Most likely feeding").wait_for()
        yield page
        browser.close()


def choice_figures(url: str) -> list[Figure]:
    """Time the choice of a rig in a browser, from the click to the first answer and to the whole plan.

    The click comes at once, before the page has asked ahead, or after the water was looked at for three seconds.
    """
    first: dict[float, list[float]] = {0.0: [], 3.0: []}
    whole, cards = [], []
    with browser_page(url) as page:
        for looked_s, found in first.items():
            for _ in range(8):
                page.goto("/")
                page.get_by_text("Most likely feeding").wait_for()
                page.wait_for_timeout(1000.0 * looked_s)
                begun = time.perf_counter()
                page.get_by_role("button", name="Choose the rig").click()
                page.get_by_role("region", name="The choice").wait_for()
                found.append(1000.0 * (time.perf_counter() - begun))
                page.get_by_text("Best now").wait_for()
                whole.append(1000.0 * (time.perf_counter() - begun))
        for _ in range(8):
            page.goto("/")
            page.get_by_text("Most likely feeding").wait_for()
            page.get_by_role("button", name="Choose the rig").click()
            page.get_by_text("Best so far, trying more").or_(page.get_by_text("Best now")).first.wait_for()
            begun = time.perf_counter()
            page.get_by_role("link", name="day card").click()
            page.get_by_role("article", name="Day card").wait_for()
            cards.append(1000.0 * (time.perf_counter() - begun))
    return [
        Figure("the plan's first answer in the browser, clicked at once", spread(sorted(first[0.0])), "400 ms"),
        Figure("the same, clicked after a look of three seconds", spread(sorted(first[3.0])), "400 ms"),
        Figure("the whole plan in the browser, from the click", spread(sorted(whole)), "-"),
        Figure("the day card, opened while the plan is still being worked out", spread(sorted(cards)), "200 ms"),
    ]


def map_figures(client: Client, water_id: int) -> list[Figure]:
    """Time the import of 200 000 soundings, and a browser that draws the map of them."""
    data = soundings_csv(200_000)
    start = time.perf_counter()
    client.upload(f"/api/waters/{water_id}/chart-files", "lake.csv", data)
    took = time.perf_counter() - start
    drawn = []
    with browser_page(client.url) as page:
        for _ in range(5):
            page.goto("/waters")
            link = page.get_by_role("link", name="Brennholt Reservoir", exact=True)
            link.wait_for()
            begun = time.perf_counter()
            link.click()
            page.locator("[role=application] svg path").nth(12).wait_for()
            drawn.append(1000.0 * (time.perf_counter() - begun))
    return [
        Figure(f"200 000 soundings ({len(data) / 1e6:.0f} MB) imported over the API", f"{took:.1f} s", "20 s"),
        Figure("the map of them drawn in the browser, from the click", spread(sorted(drawn)), "1000 ms"),
    ]


def api_figures() -> list[Figure]:
    with served() as app:
        client = Client(app.url)
        read = {
            "water_id": client.get("/api/waters")["items"][0]["id"],
            "at_local": f"{date.today().year - 1}-07-14T10:40",
            "readings": [{"depth_m": float(d), "water_c": t} for d, t in enumerate(SUMMER_C)],
            "wind_speed_mps": 4, "wind_from_deg": 225, "cloud_fraction": 0.2, "secchi_m": 3.5, "bottom_depth_m": 9,
        }  # fmt: skip
        leader, fly = client.get("/api/leaders")["items"][0], client.get("/api/flies")["items"][0]
        line = next(item for item in client.get("/api/lines")["items"] if item["class_key"] == "type-5")
        flies = [{"fly": fly}]
        counts = iter(range(100_000))

        def what_if() -> object:
            rig = {"line": line, "leader": leader, "flies": flies}
            cast = {"kind": "cast", "count_s": next(counts) % 60, "retrieve_key": "strip-pause"}
            return client.post("/api/simulations", {"conditions": read, "fished": {"rig": rig, "action": cast}})

        shifts = iter(range(100_000))

        def look() -> object:
            return client.post("/api/pictures", {**read, "wind_from_deg": next(shifts) % 360})

        def stand() -> object:
            place = {"latitude_deg": 61.2, "longitude_deg": 9.4}
            return client.post("/api/pictures", {**read, "wind_from_deg": next(shifts) % 360, "place": place})

        told = client.post("/api/choices", {"conditions": read})
        one = next(r for r in told["ranked"] if r["method"]["way"] == "cast")
        tied = {name: one[name] for name in ("line", "leader", "flies")}

        def weigh() -> object:
            fished = {"rig": tied, "action": {**one["action"], "count_s": next(counts) % 60}}
            return client.post(
                "/api/weighings",
                {"choices": {"conditions": read}, "method_key": one["method"]["key"], "fished": fished},
            )

        deeper = itertools.count(1)

        def plan(**asked: object) -> object:
            # Another depth each time: what the last plan simulated is of no use to this one.
            return client.post("/api/choices", {"conditions": {**read, "bottom_depth_m": 7.0 + 0.1 * next(deeper)}, **asked})

        figures = [
            Figure(
                "what-if over the API (five runs: as given, line and fly a little slower and faster)",
                spread(times_ms(what_if, 100)),
                "p95 100 ms",
            ),
            Figure("what-if on a choice of the plan over the API", spread(times_ms(weigh, 60)), "p95 100 ms"),
            Figure(
                "the first answer out of the box over the API", spread(times_ms(lambda: plan(thorough=False), 10)), "400 ms"
            ),
            Figure(
                f"best of each method out of the box over the API, {told['tried']} ways",
                spread(times_ms(plan, 10)),
                "900 ms",
            ),
            Figure("the reading page's data over the API", spread(times_ms(look, 60)), "p95 150 ms"),
            Figure("the same at a place on the chart", spread(times_ms(stand, 30)), "p95 150 ms"),
            Figure(
                "where to start, seven marks, over the API", spread(times_ms(lambda: client.post("/api/starts", read), 20)), "-"
            ),
            Figure("the log's 25 days over the API", spread(times_ms(lambda: client.get("/api/days"), 40)), "-"),
        ]
        figures.append(moves_figure(client, read))
        figures += choice_figures(app.url)
        figures += fish_figures(app.url)
        figures += map_figures(client, read["water_id"])
        status = Path(f"/proc/{app.pid}/task/{app.pid}/children")
        workers = status.read_text().split() if status.exists() else []
        resident = sum(_resident_mb(pid) for pid in [str(app.pid), *workers])
        figures.append(Figure("memory of the server after all this", f"{resident:.0f} MB", "300 MB"))
    return figures


def _resident_mb(pid: str) -> float:
    text = Path(f"/proc/{pid}/smaps_rollup").read_text()
    pss = next(line for line in text.splitlines() if line.startswith("Pss:"))
    return int(pss.split()[1]) / 1024


def page_figure() -> Figure:
    page = (ROOT / "web" / "dist" / "index.html").read_text()
    scripts = [path for path in (ROOT / "web" / "dist" / "assets").glob("*.js") if path.name in page]
    size = sum(len(gzip.compress(path.read_bytes(), 6)) for path in scripts)
    return Figure("script of the first page, compressed", f"{size / 1000:.0f} kB", "250 kB")


def table(rows: Sequence[tuple[str, str, str]]) -> list[str]:
    width = max(len(what) for what, _, _ in rows)
    return ["| what | found | aim |", "|---|---|---|", *(f"| {what:<{width}} | {found} | {aim} |" for what, found, aim in rows)]


def log_lines() -> list[str]:
    figures = lookback_figures(Client)
    head = f"{OF_LOG} over twenty seasons, {date.today():%d %B %Y}"
    return [head, "", *table([(figure.what, figure.found, figure.aim) for figure in figures]), ""]


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument(
        "--rows", type=int, default=1000, help="random conditions that the plan is asked about; 0 leaves what is told of them"
    )
    parser.add_argument("--log-only", action="store_true", help="measure looking back alone, and leave the rest")
    asked = parser.parse_args()
    docs = ROOT / "docs" / "benchmarks.md"
    if asked.log_only:
        docs.write_text("\n".join([docs.read_text().split(OF_LOG)[0].rstrip(), "", *log_lines()]))
        return
    figures = [*core_figures(), *chart_figures(), *simulator_figures(), first_answer(), *api_figures(), page_figure()]
    lines = [
        "# Benchmarks",
        "",
        f"Written by `make bench` on {date.today():%d %B %Y}: {platform.machine()}, 2 cores, Python "
        f"{platform.python_version()}. A shared machine: figures swing by a factor of two between runs.",
        "",
        *table([(figure.what, figure.found, figure.aim) for figure in figures]),
        "",
    ]
    if asked.rows > 0:
        lines += [f"{OF_DAYS} {asked.rows} random days say of the plan", "", *table(sweep(asked.rows, 1)), ""]
    else:
        before = docs.read_text().split(OF_LOG)[0]
        lines += [*before[before.index(OF_DAYS) :].rstrip().splitlines(), ""]
    lines += log_lines()
    docs.write_text("\n".join(lines))
    print("\n".join(lines))


if __name__ == "__main__":
    assert SERVER.is_dir()
    main()
