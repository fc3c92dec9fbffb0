"""What tests share: a real PostgreSQL cluster and the real application over it, started once a run."""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings

from pavese.api.app import create_app
from pavese.settings import Settings
from pavese.store.cluster import Cluster

settings.register_profile("here", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("here")


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    """A cluster of its own in a temporary folder."""
    with tempfile.TemporaryDirectory(prefix="pavese-test-") as folder:
        Path(folder).chmod(0o755)
        cluster = Cluster(Path(folder) / "postgres", 54600)
        cluster.start()
        yield cluster.url
        cluster.stop()


@pytest.fixture(scope="session")
def app_settings() -> Settings:
    """The settings of the application under test."""
    return Settings(log_level="error", upload_megabytes=4)


@pytest.fixture(scope="session")
def client(database_url: str, app_settings: Settings) -> Iterator[TestClient]:
    """A client of the whole application: real database, real drawing processes."""
    with TestClient(create_app(app_settings, database_url)) as started:
        yield started
