"""Files that a biologist sends, and what is said to them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from rest_framework.test import APIClient

from nailwright.programmes.models import Programme
from nailwright.waters.models import Site


@pytest.fixture
def biologist(client_as: Callable[[str], APIClient], site: Site) -> APIClient:
    return client_as("biologist")


@pytest.fixture
def upload(biologist: APIClient, programme: Programme) -> Callable[..., Any]:
    def send(content: str | bytes, name: str = "fish.csv") -> Any:
        content = content.encode() if isinstance(content, str) else content
        address = f"/api/v1/programmes/{programme.pk}/imports"
        return biologist.post(address, {"file": SimpleUploadedFile(name, content)}, format="multipart")

    return send


@pytest.fixture
def go(biologist: APIClient) -> Callable[..., Any]:
    """Tries a file (with changed answers), or does what else is said to it, and waits for the worker."""

    def do(taken: dict[str, Any], what: str = "try", **answers: Any) -> Any:
        body = {**taken["answers"], **answers} if what == "try" else {}
        response = biologist.post(f"/api/v1/imports/{taken['id']}/{what}", body, format="json")
        if response.status_code != 200:
            return response
        call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
        return biologist.get(f"/api/v1/imports/{taken['id']}")

    return do
