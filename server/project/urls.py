"""Addresses: the API under /api/, and the web part for every other page."""

from __future__ import annotations

from django.urls import path, re_path

from project.api import api
from project.web import web_page

urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?!api/|assets/|static/).*$", web_page),
]
