"""Photos of volunteers' cards: kept once, seen by whoever may, deleted and restored."""

from __future__ import annotations

import base64
import io
from collections.abc import Callable
from typing import Any

import pytest
from PIL import Image
from rest_framework.test import APIClient

from nailwright.common.rows import new_id
from nailwright.programmes.models import Membership, Programme
from nailwright.returns.models import Card, CardPhoto
from nailwright.returns.volunteers.card_photos import MOST_PHOTOS
from nailwright.tags.models import Tag
from server.tests.conftest import operation

Send = Callable[..., Any]


def jpeg(side: int = 40) -> str:
    out = io.BytesIO()
    Image.new("RGB", (side, side), (90, 120, 60)).save(out, "JPEG")
    return base64.b64encode(out.getvalue()).decode()


@pytest.fixture
def volunteer(client_as: Callable[[str], APIClient]) -> APIClient:
    return client_as("volunteer")


@pytest.fixture
def kit(volunteer: APIClient) -> Membership:
    return Membership.objects.get(person=volunteer.handler._force_user)  # type: ignore[attr-defined]


@pytest.fixture
def sent(sync: Send, volunteer: APIClient) -> Send:
    def send(*operations: dict[str, Any], client: APIClient = volunteer) -> list[Any]:
        return [
            (each["state"], (each["error"] or {}).get("code"))
            for each in sync(*operations, client=client).data["results"]
        ]

    return send


@pytest.fixture
def card(sent: Send, kit: Membership) -> str:
    told = operation("card.record", tagger=str(kit.pk), species="wal", length="41 cm", condition=1)
    assert sent(told) == [("stored", None)]
    return str(told["id"])


def test_a_photo_is_kept_once_and_shown_with_its_card(
    sent: Send, card: str, volunteer: APIClient, kit: Membership
) -> None:
    photo = operation("card_photo.add", card=card, jpeg=jpeg())
    assert sent(photo, photo) == [("stored", None), ("already", None)]
    told = volunteer.get(f"/api/v1/kits/{kit.pk}").data["cards"][0]
    assert [str(each) for each in told["photos"]] == [photo["id"]]
    for small in ("", "?small=true"):
        shown = volunteer.get(f"/api/v1/card-photos/{photo['id']}.jpg{small}")
        assert (shown.status_code, shown["Content-Type"]) == (200, "image/jpeg")
        assert Image.open(io.BytesIO(shown.content)).size == (40, 40)


def test_it_waits_for_its_card(sent: Send, kit: Membership) -> None:
    made = operation("card.record", tagger=str(kit.pk), species="wal")
    photo = operation("card_photo.add", card=made["id"], jpeg=jpeg())
    assert sent(photo) == [("failed", "card_unknown")]
    assert sent(made, photo) == [("stored", None), ("stored", None)]


def test_deleted_and_restored_also_from_another_device(
    sent: Send, card: str, volunteer: APIClient, kit: Membership
) -> None:
    photo = operation("card_photo.add", card=card, jpeg=jpeg())
    gone = operation("card_photo.delete", photo=photo["id"], deleted=True)
    assert sent(photo, gone, gone) == [("stored", None), ("stored", None), ("already", None)]
    address = f"/api/v1/card-photos/{photo['id']}.jpg"
    assert volunteer.get(address).status_code == 404
    assert volunteer.get(f"/api/v1/kits/{kit.pk}").data["cards"][0]["photos"] == []
    back = operation("card_photo.delete", photo=photo["id"], deleted=False)
    assert sent(back) == [("stored", None)] and volunteer.get(address).status_code == 200
    assert bytes(CardPhoto.objects.get().jpeg)


def test_only_its_tagger_and_those_who_read_reports_see_it(
    sent: Send, card: str, client_as: Callable[[str], APIClient]
) -> None:
    photo = operation("card_photo.add", card=card, jpeg=jpeg())
    sent(photo)
    address = f"/api/v1/card-photos/{photo['id']}.jpg"
    seen = {role: client_as(role).get(address).status_code for role in ("lead", "crew", "viewer", "volunteer")}
    assert seen == {"lead": 200, "crew": 200, "viewer": 403, "volunteer": 403}
    assert APIClient().get(address).status_code in (401, 403)


def test_nobody_adds_to_or_deletes_from_the_card_of_another(
    sent: Send, card: str, client_as: Callable[[str], APIClient]
) -> None:
    other = client_as("volunteer")
    photo = operation("card_photo.add", card=card, jpeg=jpeg())
    assert sent(photo, client=other) == [("refused", "role_may_not")]
    assert sent(photo) == [("stored", None)]
    gone = operation("card_photo.delete", photo=photo["id"])
    assert sent(gone, client=other) == [("refused", "role_may_not")]
    assert sent(gone, client=client_as("biologist")) == [("stored", None)]


@pytest.mark.parametrize(
    ("picture", "code"),
    [
        ("", "picture_unreadable"),
        (None, "picture_unreadable"),
        (base64.b64encode(b"no picture").decode(), "picture_unreadable"),
        (jpeg()[: len(jpeg()) // 2 // 4 * 4], "picture_unreadable"),
        ("A" * 8_000_000, "picture_too_large"),
    ],
    ids=["empty", "none", "no picture", "cut off", "too large"],
)
def test_what_is_no_picture_is_refused(sent: Send, card: str, picture: Any, code: str) -> None:
    assert sent(operation("card_photo.add", card=card, jpeg=picture)) == [("refused", code)]
    assert not CardPhoto.objects.exists() and Card.objects.count() == 1


def test_a_card_keeps_six_photos(sent: Send, card: str) -> None:
    many = [operation("card_photo.add", card=card, jpeg=jpeg()) for _ in range(MOST_PHOTOS)]
    assert set(sent(*many)) == {("stored", None)}
    more = operation("card_photo.add", card=card, jpeg=jpeg())
    assert sent(more) == [("refused", "too_many_photos")]
    assert sent(operation("card_photo.delete", photo=many[0]["id"])) == [("stored", None)]
    assert sent({**more, "id": str(new_id())}) == [("stored", None)]


def test_photos_stand_on_the_fish_s_page(
    sent: Send, kit: Membership, crew: APIClient, client_as: Callable[[str], APIClient], programme: Programme
) -> None:
    Tag.objects.create(programme=programme, kind="tbar", number="W1203")
    made = operation(
        "card.record", tagger=str(kit.pk), species="wal", number_text="W1203", tag_kind="tbar", length="41 cm", condition=2,
        fight_s=95, air_s=20, hook_site="lip", bleeding_landed="little", remarks="dark fish",
    )  # fmt: skip
    photo = operation("card_photo.add", card=made["id"], jpeg=jpeg())
    assert sent(made, photo) == [("stored", None), ("stored", None)]
    fish = Card.objects.get().fish_id
    told = crew.get(f"/api/v1/fish/{fish}/handling").data
    assert [each["address"] for each in told["photos"]] == [f"/api/v1/card-photos/{photo['id']}.jpg"]
    (meeting,) = told["meetings"]
    assert meeting["lines"] == [
        "Fight 95 s.",
        "Air exposure 20 s.",
        "Hooked in: lip.",
        "Bleeding at landing: a little.",
        "Release condition 2.",
        "Remarks: dark fish",
    ]
    viewer = client_as("viewer").get(f"/api/v1/fish/{fish}/handling").data
    assert viewer["photos"] == [] and "Remarks: dark fish" not in viewer["meetings"][0]["lines"]
