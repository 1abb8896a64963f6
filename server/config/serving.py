"""Settings of the web server (Hypercorn)."""

from __future__ import annotations

import logging

from config.timed_log import LOGGING

workers = 2
keep_alive_timeout = 20
"""[s] that a connection may be open with no whole head of a request: idle, or half sent."""
graceful_timeout = 3
backlog = 1024
ssl_handshake_timeout = 15
h11_max_incomplete_size = 32 * 1024
include_server_header = False
keep_alive_max_requests = 10_000
loglevel = "WARNING"
errorlog = logging.getLogger("hypercorn.error")  # else it writes each line a second time
logconfig_dict = LOGGING
