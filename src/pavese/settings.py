"""Settings, read from environment variables that begin with `PAVESE_`; every one has a good default."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import Annotated

from pydantic import Field
from pydantic_settings import BaseSettings, SettingsConfigDict

_CHECKOUT = Path(__file__).resolve().parents[2]


class Settings(BaseSettings):
    """All settings of the application."""

    model_config = SettingsConfigDict(env_prefix="PAVESE_")

    host: str = "127.0.0.1"
    port: int = Field(default=8460, ge=1, le=65535)
    data_dir: Path = _CHECKOUT / ".data"
    #: A database of one's own; without it a private cluster is made in the data folder.
    database_url: str | None = None
    database_port: int = Field(default=54460, ge=1, le=65535)
    #: Whether what is in the private cluster outlasts a power cut; off only for what is thrown away after use.
    database_durable: bool = True
    interface_dir: Path = _CHECKOUT / "frontend" / "dist"
    fonts_dir: Path = _CHECKOUT / ".data" / "fonts"
    #: Processes that make exports, started with the application; others may run elsewhere (`pavese worker`).
    export_workers: int = Field(default=1, ge=0, le=16)
    drawing_workers: int = Field(default=2, ge=1, le=32)
    #: Addresses of proxies in front of the application, whose word on where a request comes from is taken.
    trusted_proxies: list[str] = []
    #: Modules with further formats, to try one out: each has a `FORMAT`, and perhaps `ACTS`.
    more_formats: list[str] = []
    upload_megabytes: int = Field(default=64, ge=1, le=1024)
    #: Which addresses Gather may fetch: any public one, only those in `page_hosts`, or none.
    page_addresses: str = Field(default="public", pattern="^(public|listed|none)$")
    #: Addresses that may be fetched wherever they lie, as host:port.
    page_hosts: list[Annotated[str, Field(pattern=r"^[^:/]+:\d{1,5}$")]] = []
    #: Where the demo's own web site answers, on loopback; it is put on the list above when the demo is started.
    demo_site_port: int = Field(default=8461, ge=1, le=65535)
    log_format: str = Field(default="lines", pattern="^(lines|json)$")
    log_level: str = Field(default="info", pattern="^(debug|info|warning|error)$")

    @property
    def kept_dir(self) -> Path:
        """Where what was made of pictures is kept. It can be thrown away at any time."""
        return self.data_dir / "kept"

    @property
    def listed_hosts(self) -> frozenset[tuple[str, int]]:
        """The listed addresses as (host, port); none at all where nothing may be fetched."""
        if self.page_addresses == "none":
            return frozenset()
        return frozenset((host, int(port)) for host, _, port in (entry.rpartition(":") for entry in self.page_hosts))


@lru_cache(maxsize=1)
def settings() -> Settings:
    """The settings of this process."""
    return Settings()
