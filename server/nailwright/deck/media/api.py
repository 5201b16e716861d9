"""Photos over HTTP."""

from __future__ import annotations

from uuid import UUID

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from nailwright.common.pictures import picture_response
from nailwright.deck.models import Photo
from nailwright.deck.queries import photo_shown
from nailwright.deck.serializers.photos import PhotoQuerySerializer
from nailwright.programmes.places import places_of
from nailwright.programmes.policies import person_of, require


class PhotoView(APIView):
    """A photo as JPEG; ``small`` for lists. Of a fish whose places are hidden from whoever asks there is none."""

    @extend_schema(
        operation_id="photo",
        parameters=[PhotoQuerySerializer],
        responses={(200, "image/jpeg"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, photo_id: UUID) -> HttpResponse:
        photo = get_object_or_404(
            Photo.present.select_related("outing__programme", "capture__run", "file"), pk=photo_id
        )
        person, programme = person_of(request), photo.outing.programme
        require(person, programme, "read")
        if not photo_shown(photo, places_of(person, programme)):
            raise Http404
        asked = PhotoQuerySerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        picture = photo.file.small if asked.validated_data["small"] else photo.file.jpeg
        return picture_response(picture)
