"""Handing letters to a mail server."""

from email.message import EmailMessage
from email.utils import formatdate, make_msgid

import aiosmtplib

from deriva.service.settings import Settings

TIMEOUT_S = 20.0


class Unsent(OSError):
    """The mail server did not take the letter."""


async def send(settings: Settings, *, to: str, subject: str, text: str) -> None:
    """Hand one letter over; raises :class:`Unsent` where the server does not take it."""
    message = EmailMessage()
    message["From"], message["To"], message["Subject"] = settings.smtp_from, to, subject
    message["Date"], message["Message-ID"] = formatdate(localtime=False), make_msgid(domain="deriva.invalid")
    message.set_content(text)
    password = settings.smtp_password.get_secret_value()
    try:
        await aiosmtplib.send(
            message,
            hostname=settings.smtp_host,
            port=settings.smtp_port,
            username=settings.smtp_user or None,
            password=password or None,
            use_tls=settings.smtp_security == "tls",
            start_tls=settings.smtp_security == "starttls",
            timeout=TIMEOUT_S,
        )
    except (aiosmtplib.SMTPException, ValueError) as error:
        raise Unsent(type(error).__name__) from error
