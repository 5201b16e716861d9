"""Where gunicorn enters."""

import os

from django.core.wsgi import get_wsgi_application

# Beyond this a request is told that the database does not answer, instead of holding its thread.
os.environ.setdefault("NAILWRIGHT_DB_TIMEOUT_S", "10")
application = get_wsgi_application()

# All that a request may need is read before the first one comes, not while somebody waits for it.
import scipy.stats  # noqa: E402, F401
import weasyprint  # noqa: E402, F401

import nailwright.config.urls  # noqa: E402, F401
from nailwright.common.garbage import collect_seldom  # noqa: E402

collect_seldom()
