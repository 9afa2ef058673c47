"""A forgotten password: a link that works once, from the operator's hand or by mail where one is configured."""

from __future__ import annotations

import logging
import threading
import time
from datetime import timedelta
from smtplib import SMTPException

from common.problems import Refused
from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.tokens import default_token_generator
from django.core.mail import send_mail
from django.db import close_old_connections, transaction
from django.http import HttpRequest
from django.utils import timezone
from django.utils.encoding import force_bytes
from django.utils.http import urlsafe_base64_decode, urlsafe_base64_encode
from django_ratelimit.core import get_usage

from accounts.models import ResetAsked, User, name_key
from accounts.services import own_only, validated
from accounts.sign_ins import end

log = logging.getLogger(__name__)
MAILS_A_NAME, MOST_AT_ONCE = "3/h", 50
KEPT, EVERY_S = timedelta(hours=1), 5.0
WORDS = """Somebody asked for a new password for {username}. If it was you, set it here within {hours} hours:

{link}

If it was not you, do nothing: your password stays what it is.
"""


def link_for(user: User) -> str:
    """Return where this person sets a new password, once."""
    own_only(user)
    uid = urlsafe_base64_encode(force_bytes(user.pk))
    return f"{settings.SITE}/reset/{uid}/{default_token_generator.make_token(user)}"


def ask(request: HttpRequest, name: str) -> None:
    """Keep that whoever has this name wants a link, three an hour at most. Nothing tells whether there is such a person: as
    much is done either way, and it is mailed by another."""
    key = name_key(name)
    used = get_usage(request, group="resets of a name", key=lambda *_: key, rate=MAILS_A_NAME, increment=True)
    user = User.objects.filter(name_key=key, is_active=True).exclude(email="").first()
    if settings.MAILS and not (used and used["should_limit"]):
        ResetAsked.objects.create(user=user)


def send_due() -> int:
    """Mail what was asked for, each once; return how many went. What can't be sent is tried again for an hour."""
    now, sent = timezone.now(), 0
    ResetAsked.objects.filter(asked_at__lt=now - KEPT).delete()
    for one in ResetAsked.objects.filter(sent_at=None, user__isnull=False).select_related("user")[:MOST_AT_ONCE]:
        # Whoever marks it sends it: of several processes one.
        if one.user is None or not ResetAsked.objects.filter(pk=one.pk, sent_at=None).update(sent_at=now):
            continue
        hours = settings.PASSWORD_RESET_TIMEOUT // 3600
        words = WORDS.format(username=one.user.username, hours=hours, link=link_for(one.user))
        try:
            send_mail("A new password for Still Thread", words, settings.DEFAULT_FROM_EMAIL, [one.user.email])
            sent += 1
        except (OSError, SMTPException) as error:
            log.warning("a mail could not be sent: %s", type(error).__name__)
            ResetAsked.objects.filter(pk=one.pk).update(sent_at=None)
            break
    return sent


def keep_sending() -> threading.Thread:
    """Begin to mail what is asked for, beside what is served."""

    def work() -> None:
        while True:
            try:
                send_due()
            except Exception:
                log.exception("mails could not be looked for")  # the next round tries again
            close_old_connections()
            time.sleep(EVERY_S)

    thread = threading.Thread(target=work, name="mail", daemon=True)
    thread.start()
    return thread


def set_password(*, uid: str, token: str, password: str) -> None:
    """Set the password that a link allows; the link is used up, every sign-in ended and every token void."""
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
        user.tokens.all().delete()
        end(user.sign_ins.all())
