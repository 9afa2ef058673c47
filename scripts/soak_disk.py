"""What a full disk does to the log, and what the archive of twenty seasons costs: parts of `make soak`."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import time
import uuid
from collections import Counter
from pathlib import Path

from soak import SERVER, Person, Row, Server, lost_of

SMALL, LARGER = "4m", "8m"
MOST_ENTRIES = 20_000
SEASONS = 20
TIMED = """
import io, json, resource, time
from accounts.models import User
from archive.reading import Archive
from archive.importing import ArchiveImport
from archive.exporting import write_archive
owner, file, took = User.objects.get(username="keeper"), open({file!r}, "w+b"), {{}}
def timed(name, work):
    begun = time.perf_counter(); found = work(); took[name] = time.perf_counter() - begun; return found
timed("written", lambda: write_archive(owner, file))
looked = timed("looked at", lambda: ArchiveImport(owner, Archive(file), "merge").look())
taken = timed("taken in", lambda: ArchiveImport(owner, Archive(file), "replace").take(leave_out=False))
rss = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
print(json.dumps({{"took": took, "mb": file.tell() / 1e6, "rss": rss / 1e3, "new": sum(looked.new.values()),
                  "refused": taken.refused, "entries": taken.new["entries"]}}))
"""


def full_disk() -> list[Row]:
    """Log on a disk that fills up, and go on once there is room."""
    with tempfile.TemporaryDirectory() as folder:
        if subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={SMALL}", "tmpfs", folder], check=False).returncode:
            return [("a disk that fills up", "not tried: a disk can't be mounted here", "-")]
        try:
            return _filled(Path(folder))
        finally:
            subprocess.run(["umount", "-l", folder], check=True)


def _filled(folder: Path) -> list[Row]:
    server = Server(folder)
    try:
        person = Person(server, "full-disk")
        acknowledged: list[uuid.UUID] = []
        answers: Counter[int] = Counter()
        for _ in range(MOST_ENTRIES):
            entry_id = uuid.uuid4()
            status = person.entry(entry_id)
            answers[status] += 1
            if status == 201:
                acknowledged.append(entry_id)
            elif answers.total() - answers[201] >= 20:
                break
        refused = {status: count for status, count in sorted(answers.items()) if status != 201}
        reads = person.ask("GET", "/api/days")[0]
        lost, kept, said = lost_of(server, acknowledged)
        subprocess.run(["mount", "-o", f"remount,size={LARGER}", str(folder)], check=True)
        again = [person.entry(uuid.uuid4()) for _ in range(5)]
    finally:
        server.kill()
    return [
        ("entries on a disk that filled up: acknowledged ones lost", f"{lost} of {len(acknowledged)}", "0"),
        ("what was refused, once it was full", str(refused), "507 only"),
        ("of what was refused, stored half or whole", str(kept - len(acknowledged)), "0"),
        ("the store's own word; reading meanwhile", f"{said}; {reads}", "ok; 200"),
        ("logging again once there is room", str(again), "201"),
    ]


def archive() -> list[Row]:
    """Write, look at and take in the archive of twenty seasons, while another person logs on the same store."""
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder))
        try:
            person = Person(server, "another")

            def manage(*command: str) -> subprocess.Popen[str]:
                run = [sys.executable, "manage.py", *command]
                return subprocess.Popen(run, cwd=SERVER, env=server.environment, stdout=subprocess.PIPE, text=True)

            laid = manage("lay_seasons", str(SEASONS), "--username", "keeper", "--password", "cold-hands-warm-heart-7")
            said = laid.communicate()[0].strip()
            taking = manage("shell", "-v0", "-c", TIMED.format(file=f"{folder}/log.zip"))
            waited: list[float] = []
            answers: Counter[int] = Counter()
            while taking.poll() is None:
                begun = time.perf_counter()
                answers[person.entry(uuid.uuid4())] += 1
                waited.append(time.perf_counter() - begun)
                time.sleep(0.05)
            told = json.loads(taking.communicate()[0].splitlines()[-1])
        finally:
            server.kill()
    took = ", ".join(f"{name} in {seconds:.1f} s" for name, seconds in told["took"].items())
    waited.sort()
    p95_ms, worst_ms = 1e3 * waited[int(0.95 * len(waited))], 1e3 * waited[-1]
    return [
        (f"the archive of {said}", f"{told['mb']:.1f} MB; {took}", "-"),
        ("the most memory at that", f"{told['rss']:.0f} MB", "600 MB"),
        ("looked at: new, by an account that has it all; taken in: refused", f"{told['new']}, {told['refused']}", "0, 0"),
        (
            f"another's {len(waited)} entries meanwhile: answers; p95, worst",
            f"{dict(answers)}; {p95_ms:.0f} ms, {worst_ms:.0f} ms",
            "201 only; 300 ms, -",
        ),
    ]
