"""What Django loads of the web as it begins."""

from __future__ import annotations

from importlib import import_module

from django.apps import AppConfig


class WebConfig(AppConfig):
    name = "lauf.web"

    def ready(self) -> None:
        """The checks of the installation register themselves."""
        import_module("lauf.web.checks")
