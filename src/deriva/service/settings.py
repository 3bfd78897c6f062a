"""Settings, from the environment (prefix DERIVA_)."""

from pathlib import Path
from typing import Literal
from urllib.parse import urlsplit

from pydantic import SecretStr
from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """What a running service needs to know."""

    model_config = SettingsConfigDict(env_prefix="DERIVA_")

    database_url: str = "postgresql+asyncpg://deriva@127.0.0.1:5432/deriva"
    demo: bool = False
    """Whether the demo angler may be signed in by a button. Never on outside the demo start."""
    web_dist: Path = Path(__file__).parents[1] / "site"
    """The built front end; it comes with the package, whatever folder the service is started from."""
    gauges: str = ""
    """Address that gauges given by a path alone are read at; empty: none is read."""
    gauge_every_s: float = 300.0
    gauge_hosts: str = ""
    """Hosts, with commas between, that gauges and weather may be read at by a full address; no other is ever asked."""
    computing_at_once: int = 2
    """Plans and drifts computed side by side: about the cores there are. More wait their turn."""
    computing_waiting: int = 24
    """How many may wait; past that the answer is 429 and when to come back."""
    warm: bool = True
    """Whether the kernels are loaded at the start; where nothing is computed soon, the first plan loads them."""
    body_limit_bytes: int = 1_000_000
    file_limit_bytes: int = 200_000_000
    """A file of a gauge's past may be this large: twenty years of quarter hours are about 60 MB."""
    request_s: float = 60.0
    """What takes longer than this is given up."""
    site: str = "http://127.0.0.1:8420"
    """Where browsers find this service: the links in letters go there. With https, cookies are sent over nothing else."""
    sign_up: bool = True
    """Whether anybody may make an account; the first one always may be made."""
    tidy_every_s: float = 3600.0
    smtp_host: str = ""
    """Server that letters are handed to; empty: none is sent, and none is promised."""
    smtp_port: int = 587
    smtp_user: str = ""
    smtp_password: SecretStr = SecretStr("")
    smtp_security: Literal["starttls", "tls", "none"] = "starttls"
    smtp_from: str = "deriva@localhost"
    letters_every_s: float = 20.0
    """How often the queue of letters is looked at; one that is asked for here is sent at once."""
    proxies: str = "127.0.0.1"
    """Addresses, with commas between, of proxies whose X-Forwarded-For and X-Forwarded-Proto are believed."""
    metrics_port: int | None = None
    """Port on loopback for Prometheus; none: no counts are kept for it."""

    @property
    def posted(self) -> bool:
        """Whether letters are sent: by a mail server, or into the simulated outbox of the demo start."""
        return self.demo or bool(self.smtp_host)

    @property
    def hosts(self) -> frozenset[str]:
        """Names that this service is asked by: its site's, and the loopback's for whoever is on this machine."""
        return frozenset({urlsplit(self.site).hostname or "", "127.0.0.1", "localhost", "::1"})

    @property
    def secure(self) -> bool:
        """Whether browsers come over https."""
        return self.site.startswith("https://")
