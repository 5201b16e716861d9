"""Long work that a worker process does."""

from __future__ import annotations

from django.db import models
from django.utils import timezone

from nailwright.common.rows import Keyed
from nailwright.common.shaped_json import ShapedJSON
from nailwright.programmes.models import Person, Programme


class Job(Keyed):
    """One piece of long work: how far it is, how it ended, and the worker's last sign of life."""

    class State(models.TextChoices):
        WAITING = "waiting", "Waiting for the worker"
        RUNNING = "running", "Running"
        DONE = "done", "Done"
        STOPPED = "stopped", "Stopped"
        FAILED = "failed", "Failed"

    GOING = (State.WAITING, State.RUNNING)

    programme = models.ForeignKey(Programme, models.CASCADE, related_name="jobs")
    person = models.ForeignKey(Person, models.PROTECT)
    permission = models.CharField(max_length=20)
    title = models.CharField(max_length=120)
    state = models.CharField(max_length=8, choices=State, default=State.WAITING)
    done = models.PositiveIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    stop_asked = models.BooleanField(default=False)
    error = ShapedJSON(null=True)
    task = models.UUIDField(null=True)
    made_at = models.DateTimeField(default=timezone.now)
    heartbeat = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
