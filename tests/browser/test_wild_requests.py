"""Requests made up from the OpenAPI schema against the running server: whatever comes, no 500.

Last of the browser tests by its name, since what it sends may be kept.
"""

from __future__ import annotations

from typing import Any

import pytest
import requests
import schemathesis
from hypothesis import HealthCheck, settings

from server.tests.databases import ROOT

from .conftest import Server

SCHEMA = schemathesis.openapi.from_path(ROOT / "server" / "openapi.yaml").exclude(path_regex="token")  # ours must last


@pytest.fixture(scope="session")
def signed_in(running_server: Server) -> dict[str, str]:
    """A lead's token, and keys that exist, so that requests get beyond "not found"."""
    session = requests.Session()
    session.get(f"{running_server.address}/api/v1/session")
    headers = {"X-CSRFToken": session.cookies["csrftoken"], "Referer": running_server.address}
    lead = {"username": "demo-lead"}
    signed = session.post(f"{running_server.address}/api/v1/session/demo", json=lead, headers=headers).json()
    headers["X-CSRFToken"] = session.cookies["csrftoken"]
    programme = signed["memberships"][0]["programme"]
    base = f"{running_server.address}/api/v1/programmes/{programme}"
    outing = session.get(f"{base}/outings").json()[0]["id"]
    capture = session.get(f"{base}/register").json()["rows"][0]["id"]
    token = session.post(f"{running_server.address}/api/v1/tokens", headers=headers).json()["token"]
    return {"token": token, "programme_id": programme, "outing_id": outing, "capture_id": capture}


@SCHEMA.parametrize()
@settings(max_examples=6, deadline=None, suppress_health_check=list(HealthCheck), derandomize=True)
def test_no_request_makes_the_server_fail(case: Any, running_server: Server, signed_in: dict[str, str]) -> None:
    for name in case.path_parameters or {}:
        if name in signed_in:
            case.path_parameters[name] = signed_in[name]
    response = case.call(
        base_url=running_server.address, headers={"Authorization": f"Token {signed_in['token']}"}, timeout=60
    )
    assert response.status_code < 500, f"{response.status_code} {case.as_curl_command()}"
    if response.status_code == 422:
        assert set(response.json()) >= {"code", "message", "field"}
