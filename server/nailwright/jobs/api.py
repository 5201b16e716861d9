"""Long work over HTTP: how far it is, and a stop."""

from __future__ import annotations

from uuid import UUID

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from nailwright.jobs.actions import reap_jobs, stop_job
from nailwright.jobs.models import Job
from nailwright.jobs.serializers import JobSerializer
from nailwright.programmes.policies import person_of, require


class JobView(APIView):
    @extend_schema(operation_id="job", responses=JobSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        reap_jobs()
        job = _job(job_id)
        require(person_of(request), job.programme, job.permission)
        return Response(JobSerializer(job).data)


class JobStopView(APIView):
    @extend_schema(operation_id="stop_job", request=None, responses=JobSerializer)
    def post(self, request: Request, job_id: UUID) -> Response:
        return Response(JobSerializer(stop_job(person_of(request), _job(job_id))).data)


def _job(job_id: UUID) -> Job:
    return get_object_or_404(Job.objects.select_related("programme"), pk=job_id)
