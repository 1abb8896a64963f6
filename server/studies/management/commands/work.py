"""``manage.py work``: carries out runs and studies. Any number, on any machine."""

from __future__ import annotations

import logging
import threading
import time
from typing import Any

from bilge_core.warm import warm_up, warm_up_moving
from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, close_old_connections, connection
from learning.services import wake as wake_learnings
from learning.tidying import tidy_learnings
from live.listening import listen
from runs.services import put_back_lost
from runs.tidying import tidy

from studies.services import wake
from studies.tidying import tidy_studies

logger = logging.getLogger(__name__)

_LOOKS_A_LEASE = 3
_TIDY_EVERY = 600.0  # [s]
_PAUSE = 1.0  # [s] before a database that is away is asked again


def _look_after_lost_runs() -> None:
    tidied = time.monotonic()
    while True:
        time.sleep(settings.RUN_LEASE_S / _LOOKS_A_LEASE)
        try:
            close_old_connections()
            put_back_lost()
            wake()
            wake_learnings()
            if time.monotonic() - tidied > _TIDY_EVERY:
                tidied = time.monotonic()
                tidy()
                tidy_studies()
                tidy_learnings()
        except DatabaseError as error:  # it is away; the next look may find it back
            logger.warning("cannot look after lost runs: %s", error)


class Command(BaseCommand):
    """Compile once, then take runs from the queue, one at a time."""

    help = "Carry out runs until told to stop."

    def add_arguments(self, parser: CommandParser) -> None:
        """Options."""
        parser.add_argument(
            "--cold", action="store_true", help="take runs at once, compiling what they need"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Warm up, watch over lost runs, work."""
        if not options["cold"]:
            warm_up()
            warm_up_moving()
        threading.Thread(target=_look_after_lost_runs, daemon=True).start()
        threading.Thread(target=listen, args=(threading.Event(),), daemon=True).start()
        while True:
            try:
                call_command(
                    "db_worker", interval=0.15, startup_delay=False, reload=False, verbosity=0
                )
            except DatabaseError as error:
                logger.warning("the database is away: %s", error)
                connection.close()
                time.sleep(_PAUSE)
            else:
                return
