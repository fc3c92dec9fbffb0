"""The application: routes, errors, the guard around them, and the interface's own files."""

from __future__ import annotations

import asyncio
import re
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from threading import Thread

from fastapi import Depends, FastAPI, Request
from fastapi.responses import HTMLResponse, Response
from fastapi.staticfiles import StaticFiles
from sqlalchemy import text
from starlette.middleware.trustedhost import TrustedHostMiddleware

from pavese.api import problems
from pavese.api.access import Bearers, admitted
from pavese.api.composing import routes as composing
from pavese.api.context import Db
from pavese.api.editions import routes as editions
from pavese.api.files import routes as files
from pavese.api.files.ahead import DrawnAhead
from pavese.api.files.at_hand import PicturesAtHand
from pavese.api.formats import routes as formats
from pavese.api.guard import Guard, new_nonce, page_policy
from pavese.api.kits import routes as kits
from pavese.api.people import routes as people
from pavese.api.proving import routes as proving
from pavese.api.sets import doubts, drops, exports, inside, linking, mending, plans, pointing, quiet, stock, theming
from pavese.api.sets import routes as sets
from pavese.api.shared.routes import open_router as shared
from pavese.api.sources import routes as sources
from pavese.api.typefaces import routes as typefaces
from pavese.core.formats import take_in
from pavese.core.gather.stock import StockLibrary
from pavese.core.kit.shelf import shelf
from pavese.render.page import PageReader
from pavese.render.pixels import PixelCache
from pavese.render.pool import DrawingPool
from pavese.render.web import FetchPolicy
from pavese.settings import Settings
from pavese.store import pictures
from pavese.store.database import connect, migrate, sessions

_NONCE = "__NONCE__"


def create_app(settings: Settings, database_url: str, stock_library: StockLibrary | None = None) -> FastAPI:
    """The application over a database, whose tables are brought up to date when it starts; with a library of stock
    drawings where one is connected."""

    take_in(settings.more_formats)

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        engine = connect(database_url)
        migrate(engine)
        app.state.sessions = sessions(engine)
        app.state.readings = sessions(engine.execution_options(isolation_level="AUTOCOMMIT"))
        with app.state.sessions.begin() as session:
            pictures.prune(session)
        app.state.drawing = DrawingPool(
            settings.drawing_workers, settings.fonts_dir, settings.more_formats, settings.kept_dir
        )
        app.state.ahead = DrawnAhead(app.state.pictures, app.state.readings, app.state.drawing)
        app.state.pages = PageReader()
        # It takes a second to make; it is there before someone asks.
        Thread(target=shelf, name="shelf", daemon=True).start()
        app.state.pixels = PixelCache(app.state.drawing)
        keeping = asyncio.create_task(app.state.pictures.keeping(app.state.readings))
        yield
        keeping.cancel()
        app.state.ahead.close()
        app.state.pixels.close()
        app.state.pages.close()
        app.state.drawing.close()
        engine.dispose()

    app = FastAPI(
        title="Pavese",
        version="1",
        lifespan=lifespan,
        responses=problems.RESPONSES,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
    )
    app.state.stock = stock_library
    app.state.bearers = Bearers()
    app.state.pictures = PicturesAtHand()
    app.state.page_policy = FetchPolicy(settings.page_addresses == "public", settings.listed_hosts)
    problems.install(app)
    problems.documented(app)
    # Routes are looked through in turn: those of pictures, asked for by the hundred, come first.
    for module in (
        files,
        sets,
        quiet,
        theming,
        linking,
        mending,
        inside,
        pointing,
        drops,
        kits,
        sources,
        composing,
        proving,
        editions,
        exports,
        stock,
        plans,
        doubts,
        formats,
        typefaces,
    ):
        app.include_router(module.router, dependencies=[Depends(admitted)])
    for router in (people.door, people.router, shared, typefaces.open_router):
        app.include_router(router)

    @app.get("/api/health", tags=["health"])
    def health(db: Db) -> dict[str, str]:
        """Answers when the application and its database do."""
        db.execute(text("SELECT 1"))
        return {"status": "ok"}

    _serve_interface(app, settings.interface_dir)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=[settings.host, "localhost", "127.0.0.1", "testserver"])
    app.add_middleware(Guard, largest_body=settings.upload_megabytes * 1024 * 1024)
    return app


def _serve_interface(app: FastAPI, folder: Path) -> None:
    """The built interface: its assets as files, and its page for every other address outside the API."""
    if (folder / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=folder / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(request: Request, path: str) -> Response:
        index = folder / "index.html"
        if path.startswith("api/"):
            return problems.problem(request, 404, "Not found", "There is nothing at this address.")
        if re.fullmatch(r"[\w-]+\.(svg|ico|txt)", path) and (folder / path).is_file():
            return Response((folder / path).read_bytes(), media_type="image/svg+xml")
        if not index.is_file():
            return problems.problem(request, 404, "Not built", "The interface is not built yet; run make build.")
        nonce = new_nonce()
        html = index.read_text().replace(_NONCE, nonce)
        headers = {"Content-Security-Policy": page_policy(nonce), "Cache-Control": "no-cache"}
        return HTMLResponse(html, headers=headers)
