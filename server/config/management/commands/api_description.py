"""Writes server/openapi.json, from which the web's types are made; --check compares."""

from __future__ import annotations

import json
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from config.api import api


class Command(BaseCommand):
    """Write or compare the API's description."""

    help = "Write server/openapi.json, or with --check say whether it is up to date."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """One switch."""
        parser.add_argument("--check", action="store_true")

    def handle(self, *args: Any, check: bool, **options: Any) -> None:
        """Do it."""
        file = settings.ROOT / "server" / "openapi.json"
        text = json.dumps(api.get_openapi_schema(), indent=1, sort_keys=True, default=str) + "\n"
        if not check:
            file.write_text(text, encoding="utf-8")
        elif not file.exists() or file.read_text(encoding="utf-8") != text:
            raise CommandError("server/openapi.json is stale: run manage.py api_description")
