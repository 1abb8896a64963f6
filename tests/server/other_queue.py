"""Settings of workers whose queue is another: Redis instead of the database's own table."""

from __future__ import annotations

import os

from config.settings import *  # noqa: F403
from config.settings import INSTALLED_APPS

INSTALLED_APPS = [*INSTALLED_APPS, "django_rq"]
TASKS = {"default": {"BACKEND": "django_tasks_rq.RQBackend", "QUEUES": []}}
RQ_QUEUES = {"default": {"HOST": "127.0.0.1", "PORT": int(os.environ.get("BILGE_REDIS_PORT", "0")),
                         "DB": 0, "DEFAULT_TIMEOUT": 600}}  # fmt: skip
