"""The one page of the web part; its own router reads the address."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe
from django.views.static import serve


@require_safe
@ensure_csrf_cookie
def web_page(request: HttpRequest) -> HttpResponse:
    """Return the built page, or say how to build it."""
    page = settings.WEB_BUILD_DIR / "index.html"
    if not page.is_file():
        return HttpResponse("The web part is not built. Run: make web", status=503, content_type="text/plain")
    response = HttpResponse(page.read_bytes(), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


@require_safe
def old_asset(request: HttpRequest, name: str) -> HttpResponseBase:
    """Return a part of an earlier build, for a page that is still open; those of today's never come here."""
    response = serve(request, name, document_root=str(settings.WEB_OLD_DIR))
    response["Cache-Control"] = "max-age=86400"
    return response
