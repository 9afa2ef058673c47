#!/usr/bin/env python3
"""Django's command line, with the core beside the server on the path."""

import os
import sys
from pathlib import Path

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "project.settings")
    sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "core"))
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
