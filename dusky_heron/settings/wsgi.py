"""The WSGI application."""

import gc
import os

from django.core.wsgi import get_wsgi_application

from dusky_heron.settings import DATABASES

# A request that waits for somebody's lock, or for an answer that takes too long, ends with a sentence: half a second before
# whoever stands at the bench has waited three. The worker and the commands, which are not begun from here, may take their time.
PATIENCE = "-c lock_timeout=2500 -c statement_timeout=30000 -c idle_in_transaction_session_timeout=60000"  # ms

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "dusky_heron.settings")
DATABASES["default"]["OPTIONS"]["options"] = PATIENCE
application = get_wsgi_application()
gc.set_threshold(50_000, 20, 50)  # thousands of kept markings make a full collection slow, and requests leave little behind
