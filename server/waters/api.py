"""Routes: waters."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Field, Router, Schema, Status

from project.fields import Name, Notes
from project.paging import Limit, Offset, page
from project.people import person
from project.problems import Problem
from waters import services
from waters.models import Water

router = Router(tags=["waters"])


class WaterIn(Schema):
    name: Name
    latitude_deg: Annotated[float, Field(ge=-90, le=90)]
    longitude_deg: Annotated[float, Field(ge=-180, le=180)]
    altitude_m: Annotated[float, Field(ge=-400, le=6000)] = 0.0
    fetch_km: Annotated[float, Field(ge=0.05, le=100)] = 1.0
    usual_bottom_depth_m: Annotated[float, Field(ge=0.3, le=100)] = 6.0
    usual_secchi_m: Annotated[float, Field(ge=0.2, le=20)] = 3.0
    time_zone: Annotated[str, Field(max_length=64)] = "UTC"
    species: Annotated[str, Field(max_length=20)] = "rainbow"
    notes: Notes = ""


class WaterOut(WaterIn):
    id: int


class WaterPage(Schema):
    items: list[WaterOut]
    count: int


@router.get("/waters", operation_id="list_waters", response=WaterPage)
def list_waters(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> dict[str, Any]:
    """List your waters by name."""
    return page(services.waters_of(person(request)), limit, offset)


@router.post("/waters", operation_id="create_water", response={201: WaterOut, 409: Problem, 422: Problem})
def create_water(request: HttpRequest, payload: WaterIn) -> Status[Water]:
    """Add a water."""
    return Status(201, services.save_water(water=Water(owner=person(request)), changes=payload.dict()))


@router.get("/waters/{water_id}", operation_id="get_water", response={200: WaterOut, 404: Problem})
def get_water(request: HttpRequest, water_id: int) -> Water:
    """Show one water."""
    return services.water_of(person(request), water_id)


@router.put("/waters/{water_id}", operation_id="update_water", response={200: WaterOut, 404: Problem, 422: Problem})
def update_water(request: HttpRequest, water_id: int, payload: WaterIn) -> Water:
    """Change a water."""
    return services.save_water(water=services.water_of(person(request), water_id), changes=payload.dict())
