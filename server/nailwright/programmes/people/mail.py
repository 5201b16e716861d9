"""Mail that leaves the house, where the installation has a mail server (NAILWRIGHT_MAIL_HOST)."""

from __future__ import annotations

import logging
import smtplib
from collections.abc import Sequence

from django.conf import settings
from django.core.mail import EmailMessage

log = logging.getLogger(__name__)


def mail_is_set() -> bool:
    """Whether this installation has a mail server."""
    return bool(settings.EMAIL_HOST)


def send_mail(to: str, subject: str, text: str, files: Sequence[tuple[str, bytes, str]] = ()) -> bool:
    """Send a letter, with files as name, content and media type.

    Returns:
        False where there is no mail server, or it did not take the letter: whoever asked then hands the link over otherwise.
    """
    if not mail_is_set():
        return False
    try:
        letter = EmailMessage(subject, text, settings.DEFAULT_FROM_EMAIL, [to])
        for name, content, media_type in files:
            letter.attach(name, content, media_type)
        letter.send()
    except (OSError, smtplib.SMTPException):
        log.exception("the mail server did not take a letter")
        return False
    return True
