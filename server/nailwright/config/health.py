"""Whether this installation works, for a machine that asks every minute: no sign-in, no numbers of anybody's."""

from __future__ import annotations

from datetime import timedelta

from django.db import Error, connection
from django.http import HttpRequest, JsonResponse
from django.utils import timezone

from nailwright import __version__
from nailwright.common.database import not_now
from nailwright.jobs.models import Job

#: Work that waits so long has no worker.
WORKER_LATE = timedelta(minutes=10)


def health(request: HttpRequest) -> JsonResponse:
    """200 where the database answers; ``worker`` says whether long work is done. 503 where it does not answer."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
        late = Job.objects.filter(state=Job.State.WAITING, made_at__lt=timezone.now() - WORKER_LATE).exists()
    except Error:
        return not_now()
    return JsonResponse({"version": __version__, "database": "answers", "worker": "late" if late else "in time"})
