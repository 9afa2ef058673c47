"""The WSGI entry; compiles the simulator before the first request needs it."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "project.settings")
application = get_wsgi_application()

from advice.services import warm_up  # noqa: E402 - the settings come first

warm_up()
