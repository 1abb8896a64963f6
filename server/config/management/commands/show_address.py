"""Prints an address as a code that a phone's camera reads."""

from __future__ import annotations

from argparse import ArgumentParser
from typing import Any

import segno
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    """Print the code."""

    help = "Print an address as a QR code."
    requires_system_checks = ()

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The address."""
        parser.add_argument("address")

    def handle(self, *args: Any, address: str, **options: Any) -> None:
        """Do it."""
        segno.make(address, error="m").terminal(compact=True)
