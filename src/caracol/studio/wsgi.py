"""The web process as any server of WSGI applications takes it. `serve` starts it with `web_process`, which also warms it."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "caracol.studio.settings")
application = get_wsgi_application()
