"""The WSGI application."""

import gc
import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dusky_heron.settings")
application = get_wsgi_application()
gc.set_threshold(50_000, 20, 50)  # thousands of kept markings make a full collection slow, and requests leave little behind
