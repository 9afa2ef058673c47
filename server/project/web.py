"""The one page of the web part; its own router reads the address."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


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
