"""The app is called what it was when its tables were made: a name in the store outlives one in the code."""

from django.apps import AppConfig


class ArchiveConfig(AppConfig):
    """Archives out and in, copies of the store, and what is tidied away."""

    name = "archive"
    label = "keeping"

    def ready(self) -> None:
        from archive import checks  # noqa: F401 - it registers itself
