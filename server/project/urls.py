"""Addresses: the API under /api/, and the web part for every other page."""

from __future__ import annotations

from django.urls import path, re_path

from project.api import api
from project.observing import metrics
from project.web import old_asset, web_page

handler400 = "common.problems.unreadable"
handler500 = "common.problems.server_error"

urlpatterns = [
    path("api/", api.urls),
    path("metrics", metrics),
    path("assets/<str:name>", old_asset),
    re_path(r"^(?!api/|assets/|static/|metrics$).*$", web_page),
]
