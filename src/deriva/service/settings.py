"""Settings, from the environment (prefix DERIVA_)."""

from pathlib import Path

from pydantic_settings import BaseSettings, SettingsConfigDict


class Settings(BaseSettings):
    """What a running service needs to know."""

    model_config = SettingsConfigDict(env_prefix="DERIVA_")

    database_url: str = "postgresql+asyncpg://deriva@127.0.0.1:5432/deriva"
    demo: bool = False
    """Whether the demo angler may be signed in by a button. Never on outside the demo start."""
    web_dist: Path = Path("web/dist")
    gauges: str = ""
    """Address that gauges given by a path alone are read at; empty: none is read."""
    gauge_every_s: float = 300.0
    gauge_hosts: str = ""
    """Hosts, with commas between, that gauges and weather may be read at by a full address; no other is ever asked."""
    computing_at_once: int = 2
    """Plans and drifts computed side by side: about the cores there are. More wait their turn."""
    computing_waiting: int = 24
    """How many may wait; past that the answer is 429 and when to come back."""
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

    @property
    def secure(self) -> bool:
        """Whether browsers come over https."""
        return self.site.startswith("https://")
