"""The web process; compiled kernels are warmed in the background so that the first drag does not wait."""

import os
import threading

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
application = get_wsgi_application()

from .warm import warm  # noqa: E402

threading.Thread(target=warm, daemon=True, name="warm").start()
