"""A web server's process does not outlive the master that started it."""

from __future__ import annotations

import ctypes
import multiprocessing
import os
import signal

_SIGNAL_AT_PARENTS_DEATH = 1  # PR_SET_PDEATHSIG, prctl(2)


def end_with_parent() -> None:
    """Be killed when the master is, so as not to serve on beside the processes of the next one."""
    ctypes.CDLL(None).prctl(_SIGNAL_AT_PARENTS_DEATH, signal.SIGKILL)
    parent = multiprocessing.parent_process()
    if parent is not None and not parent.is_alive():  # it went before this was asked for
        os._exit(1)
