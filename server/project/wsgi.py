"""The WSGI entry; compiles the simulator before the first request needs it."""

import os
import sys
from pathlib import Path

from django.core.wsgi import get_wsgi_application

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "core"))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "project.settings")
application = get_wsgi_application()

from advice.services import warm_up  # noqa: E402 - the path and the settings come first

warm_up()
