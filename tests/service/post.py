"""A mail server in this process, and what came in at it."""

import re
from collections import defaultdict
from email import message_from_bytes
from email.policy import default
from queue import Empty, Queue
from typing import Any

from aiosmtpd.controller import Controller
from aiosmtpd.smtp import SMTP, Envelope, Session

from deriva.service.serving import free_port

PATIENCE_S = 60.0


class PostOffice:
    """Takes letters over SMTP and keeps them by address; ``closed`` for who is turned away."""

    def __init__(self) -> None:
        self.boxes: defaultdict[str, Queue[str]] = defaultdict(Queue)
        self.turned_away = 0
        self.closed = False
        self.controller = Controller(self, hostname="127.0.0.1", port=free_port())
        self.controller.start()

    async def handle_DATA(self, server: SMTP, session: Session, envelope: Envelope) -> str:  # noqa: ARG002, N802
        """Take a letter in."""
        if self.closed:
            self.turned_away += 1
            return "451 come back later"
        assert isinstance(envelope.content, bytes)
        letter = message_from_bytes(envelope.content, policy=default)
        body = letter.get_body()
        assert body is not None
        for to in envelope.rcpt_tos:
            self.boxes[to].put(f"{letter['Subject']}\n{body.get_content()}")
        return "250 taken"

    def settings(self) -> dict[str, Any]:
        """Return the settings of a service that hands its letters in here."""
        return {"smtp_host": "127.0.0.1", "smtp_port": self.controller.port, "smtp_security": "none"}

    def letter(self, to: str) -> str:
        """Return the next letter to somebody, once it is there."""
        return self.boxes[to].get(timeout=PATIENCE_S)

    def ticket(self, to: str) -> str:
        """Return the ticket in the next letter to somebody that has one."""
        while True:
            found = re.search(r"#(\S+)", self.letter(to))
            if found is not None:
                return found[1]

    def none_for(self, to: str) -> bool:
        """Return whether nothing has come for somebody."""
        try:
            self.boxes[to].get_nowait()
        except Empty:
            return True
        return False

    def empty(self) -> None:
        """Throw everything away."""
        self.boxes.clear()
        self.turned_away, self.closed = 0, False

    def close(self) -> None:
        """Stop."""
        self.controller.stop()
