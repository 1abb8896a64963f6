"""Makes a certificate for the shop's network, and once the small authority that signs it."""

from __future__ import annotations

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand

from config.certificates import renew


class Command(BaseCommand):
    """Make what is missing or nearly over."""

    help = "Make a certificate for these names, signed by an authority of this Bilge's own."
    requires_system_checks = ()

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Where, and for which names."""
        parser.add_argument("folder", type=Path)
        parser.add_argument("names", nargs="+")

    def handle(self, *args: Any, folder: Path, names: list[str], **options: Any) -> None:
        """Do it."""
        made = renew(folder, names)
        self.stdout.write("made" if made else "still good")
