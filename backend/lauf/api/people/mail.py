"""What is sent by mail, where the school has a mail server (LAUF_SMTP)."""

from __future__ import annotations

import logging
from smtplib import SMTPException

from django.conf import settings
from django.core.mail import send_mail

from lauf.messages import say
from lauf.people.models import Staff

_log = logging.getLogger(__name__)


def mailed_link(person: Staff, link: str) -> str:
    """Send a link to the person it lets in: the address it went to; empty where there is no mail
    server, no address, or the server did not take it (the link can still be handed over)."""
    if not settings.MAIL_FROM or not person.email:
        return ""
    words = say(
        "Dear {name},\n\nuse this link to set your password for Lauf at {name2}. It "
        "works once, within three days.\n\n{link}\n\nIf you did not expect this "
        "mail, ask your head of PE.\n",
        name=person.name,
        name2=person.school.name,
        link=link,
    )
    try:
        send_mail(say("Your invitation to Lauf"), words, settings.MAIL_FROM, [person.email])
    except (SMTPException, OSError, ValueError) as problem:  # an address that mail cannot write
        _log.warning("a link could not be mailed: %s", type(problem).__name__)
        return ""
    return person.email
