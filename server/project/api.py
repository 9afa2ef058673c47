"""The HTTP API: every noun's routes under one document, served at /api/docs and /api/openapi.json."""

from __future__ import annotations

from archive.api import router as archive_router
from archive.tables_api import router as tables_router
from common import problems
from common.contract import DeclaredAPI
from common.rendering import QuickJSON
from lake.api import router as lake_router
from lookback.api import router as lookback_router
from practice.api import router as practice_router

from accounts.account_api import router as account_router
from accounts.api import router as accounts_router
from accounts.auth import AnglersOwn, AnglersToken
from advice.api import router as advice_router
from box.api import router as box_router
from days.api import router as days_router
from instruments.api import router as instruments_router
from project.health import router as health_router
from waters.api import router as waters_router
from waters.chart_api import router as charts_router
from waters.places import router as places_router

api = DeclaredAPI(
    title="Still Thread",
    version="1",
    description="All quantities are SI, named with their unit. Sign in with POST /api/session and send the csrftoken cookie "
    "back as X-CSRFToken; or send a token of your own, made under Units & you, as Authorization: Bearer. A page that was left "
    "open may say in X-Angler whose it is (percent-encoded): where another person is signed in by then, nothing is done and "
    "the answer is 409 another_person.",
    auth=[AnglersToken(), AnglersOwn()],
    renderer=QuickJSON(),
    docs_url="/docs",
    openapi_url="/openapi.json",
    urls_namespace="api",
)
problems.install(api)
api.add_router("", health_router)
api.add_router("", accounts_router)
api.add_router("", account_router)
api.add_router("", waters_router)
api.add_router("", places_router)
api.add_router("", charts_router)
api.add_router("", instruments_router)
api.add_router("", lake_router)
api.add_router("", box_router)
api.add_router("", days_router)
api.add_router("", advice_router, auth=[AnglersToken(stores_nothing=True), AnglersOwn()])
api.add_router("", lookback_router)
api.add_router("", practice_router)
api.add_router("", archive_router)
api.add_router("", tables_router)
