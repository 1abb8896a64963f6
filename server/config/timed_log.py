"""How the server's and the workers' logs are written: each line with its time."""

from __future__ import annotations

import logging
import time
from typing import Any


class Utc(logging.Formatter):
    """Times of a log are those of the database: UTC."""

    converter = staticmethod(time.gmtime)


LOGGING: dict[str, Any] = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {
        "timed": {
            "format": "%(asctime)s.%(msecs)03dZ %(process)d %(levelname)s %(name)s: %(message)s",
            "datefmt": "%Y-%m-%dT%H:%M:%S",
            "()": "config.timed_log.Utc",
        }
    },
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "timed"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
