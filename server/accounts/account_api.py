"""Routes: a person's own account, where they are signed in, and tokens for scripts. By session only, never by a token."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from common.fields import Name
from common.paging import Limit, Offset, page
from common.problems import Problem
from common.throttles import AtMost
from django.conf import settings
from django.contrib.auth import update_session_auth_hash
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.views.decorators.csrf import csrf_protect
from ninja import Field, Router, Schema, Status
from ninja.decorators import decorate_view

from accounts import resets, services, sign_ins, tokens
from accounts.auth import AnglersOwn
from accounts.models import SignIn, Token
from accounts.people import person

router = Router(tags=["account"], auth=AnglersOwn())
# Whoever holds an open device could else try passwords by the thousand.
TRIES = AtMost("20/h", group="passwords")
ASKED = AtMost("10/h", group="resets", by="ip")
Password = Annotated[str, Field(min_length=1, max_length=200)]


class AccountOut(Schema):
    """`mails`: whether this server can send a link for a forgotten password."""

    username: str
    email: str
    mails: bool
    is_demo: bool
    joined_at: datetime


class AccountIn(Schema):
    """With the password: whoever reads the mail can set another."""

    password: Password
    email: Annotated[str, Field(max_length=254)]


class PasswordIn(Schema):
    password: Password
    new_password: Password


class RemovalIn(Schema):
    password: Password


class ResetAskedIn(Schema):
    username: Annotated[str, Field(min_length=1, max_length=150)]


class ResetIn(Schema):
    password: Password


class SignInOut(Schema):
    """`seen_at` is to the hour; `here`: this is the one that asks."""

    id: int
    device: str
    began_at: datetime
    seen_at: datetime
    here: bool


class SignInPage(Schema):
    items: list[SignInOut]
    count: int


class TokenIn(Schema):
    """`read` answers what is asked and changes nothing; `write` keeps the log and the box too. With the password: a token
    outlives the device that it is made on."""

    password: Password
    name: Name
    scope: Literal["read", "write"]
    days: Annotated[int, Field(ge=1, le=366)] = 90


class TokenOut(Schema):
    """`begins` are its first letters, to know it by; `used_at` is to the hour."""

    id: int
    name: str
    begins: str
    scope: Literal["read", "write"]
    made_at: datetime
    expires_at: datetime
    used_at: datetime | None


class NewTokenOut(TokenOut):
    """`token` is shown this once: only a digest of it is kept."""

    token: str


class TokenPage(Schema):
    items: list[TokenOut]
    count: int


def _account(request: HttpRequest) -> dict[str, Any]:
    user = person(request)
    return {
        "username": user.username,
        "email": user.email,
        "mails": settings.MAILS,
        "is_demo": user.username == services.DEMO_USERNAME,
        "joined_at": user.date_joined,
    }


@router.get("/account", operation_id="get_account", response=AccountOut)
def get_account(request: HttpRequest) -> object:
    """Say who one is here."""
    return _account(request)


@router.patch("/account", operation_id="update_account", throttle=TRIES, response={200: AccountOut, 403: Problem, 422: Problem})
def update_account(request: HttpRequest, payload: AccountIn) -> object:
    """Keep an address for a forgotten password, or none."""
    services.change_email(user=person(request), password=payload.password, email=payload.email)
    return _account(request)


@router.put("/account/password", operation_id="change_password", throttle=TRIES, response={204: None, 403: Problem})
def change_password(request: HttpRequest, payload: PasswordIn) -> Status[None]:
    """Set another password; every other sign-in ends, and every token."""
    user = person(request)
    services.change_password(user=user, password=payload.password, new_password=payload.new_password)
    update_session_auth_hash(request, user)  # under another key from here on
    sign_ins.note_anew(request, user)
    sign_ins.end_others(request, user)
    return Status(204, None)


@router.post("/account/removal", operation_id="remove_account", throttle=TRIES, response={204: None, 403: Problem})
def remove_account(request: HttpRequest, payload: RemovalIn) -> Status[None]:
    """Delete the account and all that is in it, for good."""
    services.remove(user=person(request), password=payload.password)
    sign_ins.end_this(request)
    return Status(204, None)


@router.get("/sign-ins", operation_id="list_sign_ins", response=SignInPage)
def list_sign_ins(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> object:
    """Say where one is signed in, the last seen first."""

    def show(one: SignIn) -> dict[str, Any]:
        here = one.session_key == request.session.session_key
        return {"id": one.pk, "device": one.device, "began_at": one.began_at, "seen_at": one.seen_at, "here": here}

    return page(sign_ins.sign_ins_of(person(request)), limit, offset, show)


@router.delete("/sign-ins/{sign_in_id}", operation_id="end_sign_in", response={204: None, 404: Problem})
def end_sign_in(request: HttpRequest, sign_in_id: int) -> Status[None]:
    """Sign out there."""
    found = get_object_or_404(sign_ins.sign_ins_of(person(request)), pk=sign_in_id)
    services.own_only(person(request))
    sign_ins.end(SignIn.objects.filter(pk=found.pk))
    return Status(204, None)


@router.delete("/sign-ins", operation_id="end_other_sign_ins", response={204: None})
def end_other_sign_ins(request: HttpRequest) -> Status[None]:
    """Sign out everywhere but here; tokens end too."""
    services.own_only(person(request))
    sign_ins.end_others(request, person(request))
    tokens.tokens_of(person(request)).delete()
    return Status(204, None)


@router.get("/tokens", operation_id="list_tokens", response=TokenPage)
def list_tokens(request: HttpRequest, limit: Limit = 50, offset: Offset = 0) -> object:
    """List the tokens, the newest first; none of them says its secret again."""
    return page(tokens.tokens_of(person(request)), limit, offset)


@router.post("/tokens", operation_id="create_token", throttle=TRIES, response={201: NewTokenOut, 409: Problem, 422: Problem})
def create_token(request: HttpRequest, payload: TokenIn) -> Status[object]:
    """Make a token for a script."""
    services.confirm(person(request), payload.password)
    made, said = tokens.make(owner=person(request), name=payload.name, scope=payload.scope, days=payload.days)
    shown = {name: getattr(made, name) for name in TokenOut.model_fields}
    return Status(201, {**shown, "token": said})


@router.delete("/tokens/{token_id}", operation_id="delete_token", response={204: None, 404: Problem})
def delete_token(request: HttpRequest, token_id: int) -> Status[None]:
    """Revoke a token: it is refused from now on."""
    get_object_or_404(Token, pk=token_id, owner=person(request)).delete()
    return Status(204, None)


@router.post("/password-resets", auth=None, operation_id="ask_reset", throttle=ASKED, response={202: None})
@decorate_view(csrf_protect)
def ask_reset(request: HttpRequest, payload: ResetAskedIn) -> Status[None]:
    """Ask for a link by mail. The answer is the same whether there is such a person or not."""
    resets.ask(request, payload.username)
    return Status(202, None)


@router.post(
    "/password-resets/{uid}/{token}",
    auth=None,
    operation_id="reset_password",
    throttle=ASKED,
    response={204: None, 409: Problem},
)
@decorate_view(csrf_protect)
def reset_password(request: HttpRequest, uid: str, token: str, payload: ResetIn) -> Status[None]:
    """Set the password that a link allows."""
    resets.set_password(uid=uid, token=token, password=payload.password)
    return Status(204, None)
