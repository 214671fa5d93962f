"""How `serve` runs the web process, in the words of its server's configuration: one process, so that all threads share one cache."""

import os
import threading
from typing import Any

worker_class = "gthread"
workers = 1
threads = 48  # pictures wait in them for a seat; all else is answered meanwhile
timeout = 300
loglevel = "warning"
limit_request_line = 8190  # the most the server takes; the guard answers to less in the API's own words


def post_worker_init(worker: Any) -> None:
    """Warm the process in the background, so that the first drag does not wait for the compiler, and keep its memory in bounds.

    CARACOL_WARM=0 leaves the first out, for tests that start it often.
    """
    from django.conf import settings

    from .load import LOAD
    from .memory import start_tidying
    from .requeue import start_watching
    from .warm import warm_process

    if os.environ.get("CARACOL_WARM") != "0":
        threading.Thread(target=warm_process, args=(LOAD.wait_until_quiet,), daemon=True, name="warm").start()
    start_tidying()
    if settings.MANY:
        start_watching()
