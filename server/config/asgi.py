"""What the web server serves: Django's threads behind a buffering front.

It answers at once; the core is warmed up beside the first requests.
"""

from __future__ import annotations

import os
import threading

from django.core.wsgi import get_wsgi_application

from config.lifeline import end_with_parent

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

_THREADS = 6
"""Of each process: more than two cores keep busy, so that quick answers pass long ones."""


def _warm_up() -> None:
    from bilge_core.warm import warm_up  # noqa: PLC0415 - seconds of imports

    warm_up()


end_with_parent()
_django = get_wsgi_application()

from django.conf import settings  # noqa: E402

from config.buffering import BufferedWsgi  # noqa: E402
from config.problems import problem_response  # noqa: E402

application = BufferedWsgi(
    _django,
    lambda status, words: problem_response(status, words).content,
    threads=_THREADS,
    largest=settings.LARGEST_BODY_BYTES,
)
threading.Thread(target=_warm_up, daemon=True).start()
