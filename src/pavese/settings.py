"""Settings, read from environment variables that begin with `PAVESE_`; every one has a good default."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

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
    interface_dir: Path = _CHECKOUT / "frontend" / "dist"
    fonts_dir: Path = _CHECKOUT / ".data" / "fonts"
    drawing_workers: int = Field(default=2, ge=1, le=32)
    upload_megabytes: int = Field(default=64, ge=1, le=1024)
    log_format: str = Field(default="lines", pattern="^(lines|json)$")
    log_level: str = Field(default="info", pattern="^(debug|info|warning|error)$")


@lru_cache(maxsize=1)
def settings() -> Settings:
    """The settings of this process."""
    return Settings()
