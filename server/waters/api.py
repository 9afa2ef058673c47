"""Routes: waters."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from common.fields import Name, Notes, within
from common.paging import Limit, Offset, page
from common.problems import Problem
from django.http import HttpRequest
from ninja import Field, Router, Schema, Status

from accounts.people import person
from stillthread.api import (
    ALTITUDE_M,
    BAG_LIMIT,
    BOTTOM_DEPTH_M,
    FETCH_KM,
    FISH_KG,
    LARGEST_HOOK,
    LATITUDE_DEG,
    LONGITUDE_DEG,
    MOST_FLIES,
    SECCHI_M,
)
from waters import services
from waters.models import Water

router = Router(tags=["waters"])


Day = Annotated[str, Field(pattern=r"^\d\d-\d\d$")]


class MethodBanIn(Schema):
    """A method that is not allowed from `first` to `last`, or with neither, ever."""

    method_key: Annotated[str, Field(max_length=24)]
    first: Day | None = None
    last: Day | None = None


class RulesIn(Schema):
    """What the water allows; null where it is free. `opens` and `closes` are "MM-DD"."""

    most_flies: Annotated[int | None, within(MOST_FLIES)] = None
    largest_hook: Annotated[int | None, within(LARGEST_HOOK)] = None
    barbless: bool = False
    indicators: bool = True
    static_buoyant: bool = True
    lures: bool = True
    boats: bool = True
    float_tubes: bool = True
    wading: bool = True
    release: Literal["either", "release-only", "kill-only"] = "either"
    bag_limit: Annotated[int | None, within(BAG_LIMIT)] = None
    opens: Day | None = None
    closes: Day | None = None
    method_bans: Annotated[list[MethodBanIn], Field(max_length=24)] = []


class WaterIn(Schema):
    name: Name
    latitude_deg: Annotated[float, within(LATITUDE_DEG)]
    longitude_deg: Annotated[float, within(LONGITUDE_DEG)]
    altitude_m: Annotated[float, within(ALTITUDE_M)] = 0.0
    fetch_km: Annotated[float, within(FETCH_KM)] = 1.0
    usual_bottom_depth_m: Annotated[float, within(BOTTOM_DEPTH_M)] = 6.0
    usual_secchi_m: Annotated[float, within(SECCHI_M)] = 3.0
    usual_fish_kg: Annotated[float, within(FISH_KG)] = 1.0
    time_zone: Annotated[str, Field(max_length=64)] = "UTC"
    species: Annotated[str, Field(max_length=20)] = "rainbow"
    stocked: Annotated[list[Annotated[str, Field(max_length=20)]], Field(max_length=8)] = []
    rules: RulesIn = RulesIn()
    notes: Notes = ""


class WaterOut(WaterIn):
    """`rule_words` says the rules in sentences; `has_outline` whether there is a chart to look at; `open_today` whether the
    season lets it be fished on the day that it is there.
    """

    id: int
    rule_words: list[str]
    has_outline: bool
    open_today: bool

    @staticmethod
    def resolve_open_today(water: Water) -> bool:
        return services.rules_of(water).open_on(services.today_at(water))

    @staticmethod
    def resolve_rule_words(water: Water) -> list[str]:
        return list(services.rules_of(water).sentences())

    @staticmethod
    def resolve_has_outline(water: Water) -> bool:
        return bool(getattr(water, "outlined", False))


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
