"""Time lines: trials kept, what they say with the touches of ordinary casts, and the rate that is used from then on."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from common.problems import Refused
from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django.utils import timezone
from pydantic import TypeAdapter

from accounts.models import User
from advice.action_schemas import ActionIn, CastIn, HangIn, RigIn, TowIn
from advice.payloads import cast_of, rig_of
from box.models import Line
from box.services import core_line, item_of
from days.models import Entry
from days.services import stored_once
from lookback.models import Trial
from lookback.schemas import TrialIn
from stillthread.api import Calibration, Cast, Timed, calibrated, level_water, timed_level, timed_touch
from stillthread.api import Line as CoreLine

MOST_TRIALS, MOST_TOUCHES = 60, 12
_ACTION: TypeAdapter[CastIn | HangIn | TowIn] = TypeAdapter(ActionIn)


def trials_of(owner: User, line_id: int) -> QuerySet[Trial]:
    return Trial.objects.filter(line=item_of(Line, owner, line_id), undone_at=None)


def by_label(line: Line) -> CoreLine:
    """Return a line as its label has it."""
    label = line.sink_rate_mps if line.label_mps is None else line.label_mps
    return core_line({**vars(line), "sink_rate_mps": label, "rate_spread": None})


def put_trial(*, owner: User, line_id: int, trial_id: UUID, payload: TrialIn) -> tuple[Trial, bool]:
    """Keep a trial under the device's id; a resend changes nothing."""
    return stored_once(lambda: _put_trial(owner, line_id, trial_id, payload))


def _put_trial(owner: User, line_id: int, trial_id: UUID, payload: TrialIn) -> tuple[Trial, bool]:
    line = item_of(Line, owner, line_id)
    known = Trial.objects.filter(pk=trial_id).select_related("line").first()
    if known:
        if known.line_id != line.pk:
            raise Refused(409, "id_taken", "Another trial has this id. Make a new one.")
        return known, False
    timed_level(by_label(line), payload.depth_m, payload.elapsed_s, payload.water_c, payload.known_by)
    if Trial.objects.filter(line=line, undone_at=None).count() >= MOST_TRIALS:
        raise Refused(409, "too_many", f"There are {MOST_TRIALS} trials of this line: it is timed well enough.")
    return Trial.objects.create(id=trial_id, line=line, **payload.dict()), True


@transaction.atomic
def undo_trial(*, owner: User, line_id: int, trial_id: UUID) -> None:
    trial = get_object_or_404(Trial, pk=trial_id, line=item_of(Line, owner, line_id))
    if trial.undone_at is None:
        trial.undone_at = timezone.now()
        trial.save(update_fields=["undone_at"])


def _touches(owner: User, line: Line) -> list[tuple[Entry, Timed]]:
    """Return what the latest casts say of it in which the fly touched the bottom as it sank."""
    kept = Entry.objects.filter(
        kind="touched", undone_at=None, cast_elapsed_s__isnull=False,
        presentation__day__owner=owner, presentation__line__name=line.name, presentation__action__kind="cast",
    )  # fmt: skip
    found = []
    for entry in kept.select_related("presentation").order_by("-at", "-id")[:MOST_TOUCHES]:
        one = entry.presentation
        tied = {**one.line, **{name: getattr(by_label(line), name) for name in ("sink_rate_mps",)}, "rate_spread": None}
        rig = rig_of(RigIn.model_validate({"line": tied, "leader": one.leader, "flies": one.flies}))
        action = _ACTION.validate_python(one.action)
        assert isinstance(action, CastIn)
        cast: Cast = cast_of(action)
        bottom = float(one.conditions["bottom_depth_m"])
        water_c = min(one.conditions["readings"], key=lambda r: r["depth_m"])["water_c"]
        assert entry.cast_elapsed_s is not None
        timed = timed_touch(rig, cast, level_water(water_c, bottom), entry.cast_elapsed_s, bottom)
        if timed is not None:
            found.append((entry, timed))
    return found


def find_rate(owner: User, line_id: int) -> tuple[Line, Calibration, list[dict[str, Any]]]:
    """Return what a line's trials and touches say, each with the rate it speaks for and the chance that it went wrong."""
    line = item_of(Line, owner, line_id)
    label = by_label(line)
    if label.sink_rate_mps <= 0.0:
        raise Refused(422, "invalid", "A line that floats has no sink rate to time.")
    rows: list[dict[str, Any]] = []
    timed: list[Timed] = []
    for trial in trials_of(owner, line_id):
        one = timed_level(label, trial.depth_m, trial.elapsed_s, trial.water_c, trial.known_by)
        timed.append(one)
        row = {name: getattr(trial, name) for name in ("at", "depth_m", "elapsed_s", "water_c", "known_by")}
        rows.append({**row, "trial_id": trial.pk})
    for entry, touch in _touches(owner, line):
        conditions = entry.presentation.conditions
        timed.append(touch)
        rows.append(
            {
                "trial_id": None, "at": entry.at, "depth_m": conditions["bottom_depth_m"], "elapsed_s": entry.cast_elapsed_s,
                "water_c": conditions["readings"][0]["water_c"], "known_by": "fished",
            }
        )  # fmt: skip
    found = calibrated(label.sink_rate_mps, timed, label.likely_mps)
    for row, one, stray in zip(rows, timed, found.strays, strict=True):
        row |= {"rate_mps": round(one.rate_mps, 5), "stray": round(stray, 3)}
    return line, found, rows


LEAST_TRIALS = 3


def use_rate(*, owner: User, line_id: int) -> Line:
    """Have every simulation use what the trials say from now on. What its label said is kept."""
    line, found, rows = find_rate(owner, line_id)
    good = sum(row["stray"] < 0.5 for row in rows)
    if good < LEAST_TRIALS:
        raise Refused(409, "too_few", f"{good} good trials: it takes {LEAST_TRIALS} to be believed over the label.")
    label = by_label(line)
    share = found.rate_mps / label.sink_rate_mps
    if line.class_key == "own":
        line.stretches = [{**one, "sink_rate_mps": one["sink_rate_mps"] * share} for one in line.stretches]
    line.label_mps = label.sink_rate_mps
    line.sink_rate_mps, line.rate_spread, line.calibrated = found.rate_mps, max(found.spread, 0.005), True
    if line.class_key == "own":
        line.sink_rate_mps = max(one["sink_rate_mps"] for one in line.stretches)
    core_line(vars(line))
    line.save()
    return line


def use_label(*, owner: User, line_id: int) -> Line:
    """Have it sink as its label says again; the trials stay."""
    line = item_of(Line, owner, line_id)
    if line.label_mps is not None:
        share = line.label_mps / line.sink_rate_mps
        line.stretches = [{**one, "sink_rate_mps": one["sink_rate_mps"] * share} for one in line.stretches]
        line.sink_rate_mps = line.label_mps
        if line.class_key == "own":
            line.sink_rate_mps = max(one["sink_rate_mps"] for one in line.stretches)
    line.calibrated, line.rate_spread, line.label_mps = False, None, None
    line.save()
    return line
