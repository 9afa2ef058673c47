"""Routes: the box of lines, leaders and flies."""

from __future__ import annotations

from typing import Any

from common.paging import Limit, Offset, page
from common.problems import Problem
from django.forms.models import model_to_dict
from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Status, UploadedFile

from accounts.people import person
from box import services
from box.models import Float, Fly, Leader, Line, Rod, Spool
from box.schemas import (
    BoxFileOut,
    FloatItemIn,
    FloatItemOut,
    FloatItemPage,
    FlyItemIn,
    FlyOut,
    FlyPage,
    LeaderIn,
    LeaderOut,
    LeaderPage,
    LineItemIn,
    LineOut,
    LinePage,
    RodIn,
    RodOut,
    RodPage,
    SpoolIn,
    SpoolOut,
    SpoolPage,
)
from stillthread.api import BOX_CSV_MOST_BYTES, BadFile

router = Router(tags=["box"])


def _show_line(line: Line) -> dict[str, Any]:
    fields = model_to_dict(line)
    made = services.core_line(fields)
    told = {"diameter_m": made.diameter_m, "likely_mps": made.likely_mps}
    return {**fields, **told, "too_fast_a_label": made.too_fast_a_label and not made.timed}


def _show_leader(leader: Leader) -> dict[str, Any]:
    fields = model_to_dict(leader)
    return {**fields, "length_m": services.core_leader(fields).length_m}


def _show_fly(fly: Fly) -> dict[str, Any]:
    fields = model_to_dict(fly)
    return {**fields, "sink_rate_mps": services.core_fly(fields).sink_rate_mps()}


@router.get("/lines", operation_id="list_lines", response=LinePage)
def list_lines(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List the lines in your box."""
    return page(services.items_of(Line, person(request)), limit, offset, _show_line)


@router.post("/lines", operation_id="create_line", response={201: LineOut, 422: Problem})
def create_line(request: HttpRequest, payload: LineItemIn) -> Status[Any]:
    """Add a line."""
    return Status(201, _show_line(services.save_item(item=Line(owner=person(request)), fields=payload.dict())))


@router.put("/lines/{line_id}", operation_id="update_line", response={200: LineOut, 404: Problem, 422: Problem})
def update_line(request: HttpRequest, line_id: int, payload: LineItemIn) -> Any:
    """Change a line, for instance to its calibrated rate."""
    line = services.item_of(Line, person(request), line_id)
    return _show_line(services.save_item(item=line, fields=payload.dict()))


@router.delete("/lines/{line_id}", operation_id="delete_line", response={204: None, 404: Problem})
def delete_line(request: HttpRequest, line_id: int) -> Status[None]:
    """Take a line out of the box. Days in the log keep what they were fished with."""
    services.item_of(Line, person(request), line_id).delete()
    return Status(204, None)


@router.get("/leaders", operation_id="list_leaders", response=LeaderPage)
def list_leaders(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List your leaders."""
    return page(services.items_of(Leader, person(request)), limit, offset, _show_leader)


@router.post("/leaders", operation_id="create_leader", response={201: LeaderOut, 422: Problem})
def create_leader(request: HttpRequest, payload: LeaderIn) -> Status[Any]:
    """Add a leader."""
    return Status(201, _show_leader(services.save_item(item=Leader(owner=person(request)), fields=payload.dict())))


@router.delete("/leaders/{leader_id}", operation_id="delete_leader", response={204: None, 404: Problem})
def delete_leader(request: HttpRequest, leader_id: int) -> Status[None]:
    """Take a leader out of the box."""
    services.item_of(Leader, person(request), leader_id).delete()
    return Status(204, None)


@router.get("/flies", operation_id="list_flies", response=FlyPage)
def list_flies(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List your flies."""
    return page(services.items_of(Fly, person(request)), limit, offset, _show_fly)


@router.post("/flies", operation_id="create_fly", response={201: FlyOut, 422: Problem})
def create_fly(request: HttpRequest, payload: FlyItemIn) -> Status[Any]:
    """Add a fly."""
    return Status(201, _show_fly(services.save_item(item=Fly(owner=person(request)), fields=payload.dict())))


@router.delete("/flies/{fly_id}", operation_id="delete_fly", response={204: None, 404: Problem})
def delete_fly(request: HttpRequest, fly_id: int) -> Status[None]:
    """Take a fly out of the box."""
    services.item_of(Fly, person(request), fly_id).delete()
    return Status(204, None)


@router.put("/flies/{fly_id}", operation_id="update_fly", response={200: FlyOut, 404: Problem, 422: Problem})
def update_fly(request: HttpRequest, fly_id: int, payload: FlyItemIn) -> Any:
    """Change a fly, for instance how many are left."""
    fly = services.item_of(Fly, person(request), fly_id)
    return _show_fly(services.save_item(item=fly, fields=payload.dict()))


def _csv(data: bytes, name: str) -> HttpResponse:
    kept = f'attachment; filename="{name}.csv"'
    return HttpResponse(data, content_type="text/csv; charset=utf-8", headers={"Content-Disposition": kept})


def _contents(file: UploadedFile, field: str) -> bytes:
    if (file.size or 0) > BOX_CSV_MOST_BYTES:
        raise BadFile("The file is larger than 1 MB. Split it.", field=field)
    return bytes(file.read())


@router.get("/flies.csv", operation_id="export_flies", response={200: None})
def export_flies(request: HttpRequest) -> HttpResponse:
    """Save the fly box as CSV."""
    return _csv(services.flies_csv(person(request)), "flies")


@router.post("/fly-files", operation_id="create_fly_file", response={200: BoxFileOut, 422: Problem})
def create_fly_file(request: HttpRequest, file: File[UploadedFile]) -> dict[str, int]:
    """Take over flies from CSV, at most 1 MB: a name that is there already is changed, others are added; all or nothing."""
    return services.take_flies(owner=person(request), data=_contents(file, "flies"))


@router.get("/lines.csv", operation_id="export_lines", response={200: None})
def export_lines(request: HttpRequest) -> HttpResponse:
    """Save your lines as CSV."""
    return _csv(services.lines_csv(person(request)), "lines")


@router.post("/line-files", operation_id="create_line_file", response={200: BoxFileOut, 422: Problem})
def create_line_file(request: HttpRequest, file: File[UploadedFile]) -> dict[str, int]:
    """Take over lines from CSV, as `create_fly_file` does flies."""
    return services.take_lines(owner=person(request), data=_contents(file, "lines"))


@router.get("/leaders.csv", operation_id="export_leaders", response={200: None})
def export_leaders(request: HttpRequest) -> HttpResponse:
    """Save your leaders as CSV, a row a part."""
    return _csv(services.leaders_csv(person(request)), "leaders")


@router.post("/leader-files", operation_id="create_leader_file", response={200: BoxFileOut, 422: Problem})
def create_leader_file(request: HttpRequest, file: File[UploadedFile]) -> dict[str, int]:
    """Take over leaders from CSV, as `create_fly_file` does flies."""
    return services.take_leaders(owner=person(request), data=_contents(file, "leaders"))


@router.get("/rods", operation_id="list_rods", response=RodPage)
def list_rods(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List your rods."""
    return page(services.items_of(Rod, person(request)), limit, offset)


@router.post("/rods", operation_id="create_rod", response={201: RodOut, 422: Problem})
def create_rod(request: HttpRequest, payload: RodIn) -> Status[Any]:
    """Add one to your rods."""
    return Status(201, services.save_item(item=Rod(owner=person(request)), fields=payload.dict()))


@router.delete("/rods/{rod_id}", operation_id="delete_rod", response={204: None, 404: Problem})
def delete_rod(request: HttpRequest, rod_id: int) -> Status[None]:
    """Take one out of your rods."""
    services.item_of(Rod, person(request), rod_id).delete()
    return Status(204, None)


@router.get("/floats", operation_id="list_floats", response=FloatItemPage)
def list_floats(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List your indicators."""
    return page(services.items_of(Float, person(request)), limit, offset)


@router.post("/floats", operation_id="create_float", response={201: FloatItemOut, 422: Problem})
def create_float(request: HttpRequest, payload: FloatItemIn) -> Status[Any]:
    """Add one to your indicators."""
    return Status(201, services.save_item(item=Float(owner=person(request)), fields=payload.dict()))


@router.delete("/floats/{float_id}", operation_id="delete_float", response={204: None, 404: Problem})
def delete_float(request: HttpRequest, float_id: int) -> Status[None]:
    """Take one out of your indicators."""
    services.item_of(Float, person(request), float_id).delete()
    return Status(204, None)


@router.get("/spools", operation_id="list_spools", response=SpoolPage)
def list_spools(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List your leader material."""
    return page(services.items_of(Spool, person(request)), limit, offset)


@router.post("/spools", operation_id="create_spool", response={201: SpoolOut, 422: Problem})
def create_spool(request: HttpRequest, payload: SpoolIn) -> Status[Any]:
    """Add one to your leader material."""
    return Status(201, services.save_item(item=Spool(owner=person(request)), fields=payload.dict()))


@router.delete("/spools/{spool_id}", operation_id="delete_spool", response={204: None, 404: Problem})
def delete_spool(request: HttpRequest, spool_id: int) -> Status[None]:
    """Take one out of your leader material."""
    services.item_of(Spool, person(request), spool_id).delete()
    return Status(204, None)
