"""Routes: session, people, preferences."""

from __future__ import annotations

from typing import Annotated, Literal

from common.problems import Problem, Refused
from common.throttles import AtMost
from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from django.middleware.csrf import get_token
from django.views.decorators.csrf import csrf_protect
from ninja import Field, Router, Schema, Status
from ninja.decorators import decorate_view

from accounts import services
from accounts.auth import AnglersOwn
from accounts.models import Preferences, User
from accounts.people import person
from accounts.sign_ins import end_this

router = Router(tags=["people"])
# One address may be many people: a club, a lodge. Names locked after wrong tries are counted apart (see settings).
ENTRIES = AtMost("30/m", group="entries", by="ip")
SIGN_UPS = AtMost("20/h", group="sign-ups", by="ip")
_BACKEND = "django.contrib.auth.backends.ModelBackend"


class Credentials(Schema):
    username: Annotated[str, Field(min_length=1, max_length=150)]
    password: Annotated[str, Field(min_length=1, max_length=200)]


class PreferencesOut(Schema):
    depth_unit: Literal["m", "ft"]
    temperature_unit: Literal["C", "F"]
    line_speed_unit: Literal["cm/s", "in/s"]
    wind_unit: Literal["m/s", "mph", "kn", "Bft"]
    fish_length_unit: Literal["cm", "in"]
    mass_unit: Literal["kg", "lb"]
    theme: Literal["light", "dusk"]
    sound_on: bool
    beat_on: bool
    left_handed: bool
    uses_log: bool


class PreferencesIn(Schema):
    depth_unit: Literal["m", "ft"] | None = None
    temperature_unit: Literal["C", "F"] | None = None
    line_speed_unit: Literal["cm/s", "in/s"] | None = None
    wind_unit: Literal["m/s", "mph", "kn", "Bft"] | None = None
    fish_length_unit: Literal["cm", "in"] | None = None
    mass_unit: Literal["kg", "lb"] | None = None
    theme: Literal["light", "dusk"] | None = None
    sound_on: bool | None = None
    beat_on: bool | None = None
    left_handed: bool | None = None
    uses_log: bool | None = None


class SessionOut(Schema):
    """Who is signed in, if anyone, whether that is the demo angler, and whether one is on offer."""

    username: str | None
    demo: bool
    is_demo: bool
    preferences: PreferencesOut | None


def _session(user: object) -> dict[str, object]:
    if not isinstance(user, User):
        return {"username": None, "demo": settings.DEMO, "is_demo": False, "preferences": None}
    preferences, _ = Preferences.objects.get_or_create(user=user)
    is_demo = user.username == services.DEMO_USERNAME
    return {"username": user.username, "demo": settings.DEMO, "is_demo": is_demo, "preferences": preferences}


@router.get("/session", auth=None, operation_id="get_session", response=SessionOut)
def get_session(request: HttpRequest) -> object:
    """Say who is signed in, and set the CSRF cookie."""
    get_token(request)
    return _session(request.user)


@router.post("/session", auth=None, operation_id="create_session", throttle=ENTRIES, response={200: SessionOut, 401: Problem})
@decorate_view(csrf_protect)
def create_session(request: HttpRequest, payload: Credentials) -> object:
    """Sign in with name and password."""
    user = services.check_credentials(request, username=payload.username, password=payload.password)
    login(request, user, backend=_BACKEND)
    return _session(user)


@router.delete("/session", auth=AnglersOwn(), operation_id="delete_session", response={204: None})
def delete_session(request: HttpRequest) -> Status[None]:
    """Sign out."""
    end_this(request)
    return Status(204, None)


@router.post(
    "/demo-sessions", auth=None, operation_id="create_demo_session", throttle=ENTRIES, response={200: SessionOut, 404: Problem}
)
@decorate_view(csrf_protect)
def create_demo_session(request: HttpRequest) -> object:
    """Enter as the demo angler; only where the server runs as a demo."""
    user = User.objects.filter(username=services.DEMO_USERNAME).first() if settings.DEMO else None
    if user is None:
        raise Refused(404, "not_found", "There is no demo here.")
    login(request, user, backend=_BACKEND)
    return _session(user)


@router.post(
    "/people",
    auth=None,
    operation_id="create_person",
    throttle=SIGN_UPS,
    response={201: SessionOut, 409: Problem, 422: Problem},
)
@decorate_view(csrf_protect)
def create_person(request: HttpRequest, payload: Credentials) -> Status[object]:
    """Sign up, and be signed in."""
    user = services.sign_up(username=payload.username, password=payload.password)
    login(request, user, backend=_BACKEND)
    return Status(201, _session(user))


@router.patch("/preferences", operation_id="update_preferences", response={200: PreferencesOut, 422: Problem})
def update_preferences(request: HttpRequest, payload: PreferencesIn) -> object:
    """Change units, theme or sound."""
    return services.change_preferences(user=person(request), changes=payload.dict(exclude_none=True))
