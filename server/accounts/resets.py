"""A forgotten password: a link that works once, from the operator's hand or by mail where one is configured."""

from __future__ import annotations

from common.problems import Refused
from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import default_token_generator
from django.core.mail import send_mail
from django.db import transaction
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_decode, urlsafe_base64_encode

from accounts.models import User
from accounts.services import own_only, validated
from accounts.sign_ins import end

WORDS = """Somebody asked for a new password for {username}. If it was you, set it here within {hours} hours:

{link}

If it was not you, do nothing: your password stays what it is.
"""


def link_for(user: User) -> str:
    """Return where this person sets a new password, once."""
    own_only(user)
    uid = urlsafe_base64_encode(force_bytes(user.pk))
    return f"{settings.SITE}/reset/{uid}/{default_token_generator.make_token(user)}"


def ask(name: str) -> None:
    """Mail a link to whoever has this name and an address. Nothing tells whether there is such a person."""
    user = User.objects.filter(username=name, is_active=True).exclude(email="").first()
    if user is None or not settings.MAILS:
        return
    hours = settings.PASSWORD_RESET_TIMEOUT // 3600
    words = WORDS.format(username=user.username, hours=hours, link=link_for(user))
    send_mail("A new password for Still Thread", words, settings.DEFAULT_FROM_EMAIL, [user.email], fail_silently=True)


def set_password(*, uid: str, token: str, password: str) -> None:
    """Set the password that a link allows; the link is used up, and every sign-in ended."""
    try:
        user = User.objects.get(pk=int(urlsafe_base64_decode(uid)))
    except (ValueError, OverflowError, User.DoesNotExist):
        user = None
    if user is None or not default_token_generator.check_token(user, token):
        raise Refused(409, "used_up", "This link is used up or too old. Ask for another.")
    validated("password", "weak_password", lambda: validate_password(password, user))
    with transaction.atomic():
        user.set_password(password)
        user.save(update_fields=["password"])
        end(user.sign_ins.all())
