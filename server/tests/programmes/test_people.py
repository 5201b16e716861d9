"""People of a programme: invited, in, leaving, shut out; and their own account."""

from __future__ import annotations

import re
import threading
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import pyotp
import pytest
from django.core import mail
from django.db import connection
from django.utils import timezone
from rest_framework.test import APIClient

from nailwright.deck.models import Run
from nailwright.programmes.models import Change, Invitation, Membership, Person, Programme
from server.tests.programmes.test_beginning import caught

PASSWORD = "ice out on the tarn"


@pytest.fixture
def ragna(programme: Programme) -> Person:
    person = Person.objects.create_user("ragna", "ragna@example.org", PASSWORD, name="Ragna Holt")
    Membership.objects.create(programme=programme, person=person, role="lead")
    return person


@pytest.fixture
def lead(ragna: Person) -> APIClient:
    return signed_in("ragna")


def signed_in(username: str, password: str = PASSWORD, **more: str) -> APIClient:
    client = APIClient()
    signed = client.post("/api/v1/session", {"username": username, "password": password, **more}, format="json")
    assert signed.status_code == 200, signed.data
    return client


def who(client: APIClient) -> str | None:
    person = client.get("/api/v1/session").data["person"]
    return person and person["username"]


def invite(lead: APIClient, programme: Programme, role: str = "crew", **more: str) -> Any:
    return lead.post(
        f"/api/v1/programmes/{programme.pk}/invitations", {"name": "Sander Vik", "role": role, **more}, format="json"
    )


def key_of(invited: Any) -> str:
    return str(invited.data["link"].split("#")[1])


def join(key: str, client: APIClient | None = None, **person: str) -> Any:
    body = {
        "key": key,
        **(
            {"person": {"username": "sander", "name": "Sander Vik", "password": PASSWORD, **person}}
            if person or not client
            else {}
        ),
    }
    return (client or APIClient()).post("/api/v1/invitations/join", body, format="json")


def member(programme: Programme, username: str) -> Membership:
    return Membership.objects.get(programme=programme, person__username=username)


def change(client: APIClient, row: Membership, **values: Any) -> Any:
    return client.post(f"/api/v1/members/{row.pk}", values, format="json")


def test_an_invitation_brings_one_person_in_once(lead: APIClient, programme: Programme) -> None:
    invited = invite(lead, programme)
    assert invited.status_code == 201 and not invited.data["mailed"] and "/join#" in invited.data["link"]
    key = key_of(invited)
    shown = APIClient().post("/api/v1/invitations/look", {"key": key}, format="json").data
    assert (shown["programme"], shown["inviter"], shown["role"]) == ("Tarn study", "Ragna Holt", "crew")
    assert not Invitation.objects.filter(digest=key).exists()  # only its digest is kept
    people = lead.get(f"/api/v1/programmes/{programme.pk}/people").data
    assert [each["name"] for each in people["invitations"]] == ["Sander Vik"]
    came = APIClient()
    session = join(key, came, username="sander").data
    assert session["memberships"][0]["role"] == "crew" and who(came) == "sander"
    again = join(key, username="third")
    assert (again.status_code, again.data["code"]) == (422, "invitation_used") and Person.objects.count() == 2
    assert lead.get(f"/api/v1/programmes/{programme.pk}/people").data["invitations"] == []


def test_invitations_that_are_no_good(lead: APIClient, programme: Programme) -> None:
    assert join("nothing", username="x").data["code"] == "invitation_unknown"
    over = invite(lead, programme)
    Invitation.objects.update(ends_at=timezone.now() - timedelta(minutes=1))
    assert join(key_of(over), username="x").data["code"] == "invitation_over"
    taken_back = invite(lead, programme)
    row = taken_back.data["invitation"]["id"]
    assert lead.delete(f"/api/v1/invitations/{row}").status_code == 204
    assert join(key_of(taken_back), username="x").data["code"] == "invitation_withdrawn"
    used = invite(lead, programme)
    join(key_of(used), username="sander")
    assert lead.delete(f"/api/v1/invitations/{used.data['invitation']['id']}").data["code"] == "invitation_used"
    good = invite(lead, programme)
    assert join(key_of(good), username="ragna").data["code"] == "name_taken"
    assert join(key_of(good), username="x", password="x").data["code"] == "password_weak"
    assert join(key_of(good), APIClient()).data["code"] == "person_missing"
    assert join(key_of(good), signed_in("ragna")).data["code"] == "already_in"
    assert join(key_of(good), username="y").status_code == 200  # none of these used it up


def test_who_has_an_account_comes_in_with_it(lead: APIClient, programme: Programme) -> None:
    Person.objects.create_user("sander", password=PASSWORD, name="Sander Vik")
    client = signed_in("sander")
    session = join(key_of(invite(lead, programme, "biologist")), client).data
    assert [each["role"] for each in session["memberships"]] == ["biologist"] and Person.objects.count() == 2


@pytest.mark.django_db(transaction=True)
def test_one_invitation_by_two_at_the_same_moment(lead: APIClient, programme: Programme) -> None:
    """Two real connections to MariaDB."""
    key, answers, barrier = key_of(invite(lead, programme)), [], threading.Barrier(2)

    def come(username: str) -> None:
        try:
            barrier.wait(10)
            answers.append(join(key, username=username).data.get("code"))
        finally:
            connection.close()

    threads = [threading.Thread(target=come, args=[name]) for name in ("sander", "sigrun")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(answers, key=str) == [None, "invitation_used"] and Membership.objects.count() == 2


def test_an_invitation_by_mail(lead: APIClient, programme: Programme, settings: Any) -> None:
    settings.EMAIL_HOST = "127.0.0.1"
    invited = invite(lead, programme, email="sander@example.org")
    assert invited.data["mailed"] and mail.outbox[0].to == ["sander@example.org"]
    assert invited.data["link"] in mail.outbox[0].body and "Tarn study" in mail.outbox[0].subject
    join(key_of(invited), username="sander")
    assert Person.objects.get(username="sander").email == "sander@example.org"
    assert invite(lead, programme, email="Sander@Example.org").data["code"] == "already_in"
    settings.EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
    settings.EMAIL_PORT = 9  # nobody listens there: the link is handed over otherwise
    assert invite(lead, programme, email="other@example.org").data["mailed"] is False


def test_roles_numbers_and_history(lead: APIClient, programme: Programme, person_as: Callable[[str], Person]) -> None:
    crew = Membership.objects.get(person=person_as("crew"))
    assert change(lead, crew, role="biologist").data["role"] == "biologist"
    assert change(lead, crew, number="T-17").data["number"] == "T-17"
    other = Membership.objects.get(person=person_as("volunteer"))
    assert change(lead, other, number="T-17").data["code"] == "number_taken"
    crew.refresh_from_db()
    assert (crew.role, crew.number) == ("biologist", "T-17")
    assert [each.after for each in Change.objects.filter(row=crew.pk).order_by("server_time")] == [
        {"role": "biologist"}, {"number": "T-17"},
    ]  # fmt: skip
    assert change(lead, crew, role="king").data["code"] == "invalid"


def test_a_programme_always_has_a_lead(
    lead: APIClient, programme: Programme, person_as: Callable[[str], Person]
) -> None:
    own = member(programme, "ragna")
    assert change(lead, own, here=False).data["code"] == "last_lead"
    assert change(lead, own, role="crew").data["code"] == "last_lead"
    heir = Membership.objects.get(person=person_as("biologist"))
    assert change(lead, heir, role="lead").status_code == 200  # the lead is passed on
    assert change(lead, own, role="crew").data["role"] == "crew"
    assert change(lead, heir, role="crew").status_code == 403


@pytest.mark.django_db(transaction=True)
def test_two_leads_do_not_leave_at_the_same_moment(
    lead: APIClient, programme: Programme, person_as: Callable[[str], Person]
) -> None:
    """Two real connections to MariaDB."""
    second = person_as("lead")
    other = APIClient()
    other.force_authenticate(second)
    barrier, answers = threading.Barrier(2), []

    def leave(client: APIClient, row: Membership) -> None:
        try:
            barrier.wait(10)
            answers.append(change(client, row, here=False).data.get("code"))
        finally:
            connection.close()

    pairs = ((lead, member(programme, "ragna")), (other, Membership.objects.get(person=second)))
    threads = [threading.Thread(target=leave, args=pair) for pair in pairs]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(answers, key=str) == [None, "last_lead"] and Membership.present.filter(role="lead").count() == 1


def test_who_leaves_may_nothing_and_keeps_their_name_in_the_record(
    lead: APIClient, programme: Programme, run: Run
) -> None:
    fish = caught(run)
    crew = Membership.objects.get(person=fish.recorder)
    client = APIClient()
    client.force_login(fish.recorder)
    base = f"/api/v1/programmes/{programme.pk}"
    assert change(client, crew, here=False, role="lead").status_code == 403
    assert change(client, crew, here=False).status_code == 200  # by oneself, too
    assert client.get("/api/v1/session").data["memberships"] == []
    assert client.get(f"{base}/outings").status_code == 404
    left = {each["name"]: each["left_at"] for each in lead.get(f"{base}/people").data["members"]}
    assert left[fish.recorder.name] and lead.get(f"/api/v1/captures/{fish.pk}").status_code == 200
    assert change(client, crew, here=True).status_code == 404
    assert change(lead, crew, here=True).data["left_at"] is None
    assert client.get(f"{base}/outings").status_code == 200
    change(lead, crew, here=False)
    assert client.get("/api/v1/session").data["person"] is None  # a lead ends the sign-ins of whoever leaves
    client.force_login(Person.objects.get(pk=fish.recorder.pk))
    join(key_of(invite(lead, programme, "viewer")), client)
    crew.refresh_from_db()
    assert (crew.role, crew.left_at) == ("viewer", None)  # back by an invitation: the same row
    back = Change.objects.filter(row=crew.pk).latest("server_time")
    assert (back.before["role"], back.after["role"]) == ("crew", "viewer") and "invitation of Ragna Holt" in back.reason


def test_addresses_are_for_leads(lead: APIClient, programme: Programme, client_as: Callable[[str], APIClient]) -> None:
    address = f"/api/v1/programmes/{programme.pk}/people"
    invite(lead, programme, email="sander@example.org")
    assert "example.org" in str(lead.get(address).data)
    assert "example.org" not in str(client_as("biologist").get(address).data)


def test_a_lost_tablet_is_shut_out(lead: APIClient, programme: Programme) -> None:
    join(key_of(invite(lead, programme)), tablet := APIClient(), username="sander")
    token = tablet.post("/api/v1/tokens", {"scope": "all"}, format="json").data["token"]
    program = APIClient(HTTP_AUTHORIZATION=f"Token {token}")
    assert program.get("/api/v1/account").status_code == 200
    assert lead.post(f"/api/v1/members/{member(programme, 'sander').pk}/shut-out").status_code == 204
    assert who(tablet) is None and program.get("/api/v1/account").status_code == 401 and who(lead) == "ragna"
    assert who(signed_in("sander")) == "sander"


def test_sign_out_everywhere_ends_this_one_too(lead: APIClient) -> None:
    elsewhere = signed_in("ragna")
    assert lead.post("/api/v1/session/everywhere").data["person"] is None
    assert who(elsewhere) is None and who(lead) is None and who(signed_in("ragna")) == "ragna"


def test_another_password_ends_all_other_sign_ins(lead: APIClient) -> None:
    elsewhere, new = signed_in("ragna"), "burbot under the ice"
    wrong = lead.post("/api/v1/account/password", {"old": "guess", "new": new}, format="json")
    assert (wrong.data["code"], wrong.data["field"]) == ("password_wrong", "old")
    weak = lead.post("/api/v1/account/password", {"old": PASSWORD, "new": "password1234"}, format="json")
    assert weak.data["code"] == "password_weak" and who(elsewhere) == "ragna"
    assert lead.post("/api/v1/account/password", {"old": PASSWORD, "new": new}, format="json").status_code == 204
    assert who(lead) == "ragna" and who(elsewhere) is None and who(signed_in("ragna", new)) == "ragna"
    tries = [
        lead.post("/api/v1/account/password", {"old": "guess", "new": new}, format="json").data["code"]
        for _ in range(11)
    ]
    assert tries[-1] == "too_many_tries"


def test_a_forgotten_password_comes_by_mail_and_the_answer_tells_nothing(lead: APIClient, settings: Any) -> None:
    settings.EMAIL_HOST = "127.0.0.1"
    client = APIClient()
    for name in ("nobody", "ragna", "RAGNA@example.org"):
        assert client.post("/api/v1/password/forgotten", {"username": name}, format="json").status_code == 204
    assert [each.to for each in mail.outbox] == [["ragna@example.org"]] * 2
    link = re.search(r"/password#(\S+)", str(mail.outbox[0].body))
    assert link
    person, token = link[1].split(".", 1)
    body = {"person": person, "token": token, "password": "burbot under the ice"}
    assert (
        client.post("/api/v1/password/reset", {**body, "password": "x"}, format="json").data["code"] == "password_weak"
    )
    assert client.post("/api/v1/password/reset", body, format="json").data["person"]["username"] == "ragna"
    assert client.post("/api/v1/password/reset", body, format="json").data["code"] == "link_spent"  # once
    assert who(lead) is None and who(client) == "ragna"
    for _ in range(12):  # a box is not filled by asking again and again
        assert client.post("/api/v1/password/forgotten", {"username": "ragna"}, format="json").status_code in (204, 403)
    assert len(mail.outbox) <= 12


def test_a_lead_hands_a_link_to_one_without_mail_but_opens_nobody_elses_programme(
    lead: APIClient, programme: Programme, person_as: Callable[[str], Person]
) -> None:
    crew = person_as("crew")
    row = Membership.objects.get(person=crew)
    link = lead.post(f"/api/v1/members/{row.pk}/password-link").data["link"]
    person, token = link.split("#")[1].split(".", 1)
    body = {"person": person, "token": token, "password": "burbot under the ice"}
    client = APIClient()
    assert client.post("/api/v1/password/reset", body, format="json").data["person"]["name"] == "Crew"
    Membership.objects.create(programme=Programme.objects.create(name="Elsewhere"), person=crew, role="viewer")
    assert lead.post(f"/api/v1/members/{row.pk}/password-link").data["code"] == "elsewhere_too"


def test_one_time_codes_as_a_second_step(lead: APIClient, ragna: Person) -> None:
    offered = lead.get("/api/v1/account/second-step").data
    assert "<svg" in offered["picture"] and not lead.get("/api/v1/account").data["second_step"]
    phone = pyotp.TOTP(offered["key"])
    body = {"password": PASSWORD, "key": offered["key"], "code": phone.now()}
    assert (
        lead.post("/api/v1/account/second-step", {**body, "code": "000000"}, format="json").data["code"]
        == "one_time_code_wrong"
    )
    assert (
        lead.post("/api/v1/account/second-step", {**body, "password": "guess"}, format="json").data["code"]
        == "password_wrong"
    )
    spare = lead.post("/api/v1/account/second-step", body, format="json").data["codes"]
    assert len(set(spare)) == 8 and lead.get("/api/v1/account").data["second_step"]

    def sign_in(code: str | None = None) -> Any:
        told = {"username": "ragna", "password": PASSWORD, **({"code": code} if code else {})}
        return APIClient().post("/api/v1/session", told, format="json")

    assert sign_in().data["code"] == "code_needed"
    assert sign_in(phone.now()).data["code"] == "one_time_code_wrong"  # the one that began it was used
    later = phone.at(timezone.now() + timedelta(seconds=30))
    assert sign_in(later).status_code == 200 and sign_in(later).data["code"] == "one_time_code_wrong"
    assert sign_in(spare[0].lower()).status_code == 200 and sign_in(spare[0]).data["code"] == "one_time_code_wrong"
    assert lead.get("/api/v1/account").data["recovery_codes_left"] == 7
    # the password alone does not start the counting of wrong codes anew
    answers = [sign_in("000000" if turn % 2 else None).data["code"] for turn in range(20)]
    assert "too_many_tries" in answers
    Person.objects.filter(pk=ragna.pk).update(second_step_last=0)


def test_the_second_step_is_ended_with_a_code(lead: APIClient) -> None:
    offered = lead.get("/api/v1/account/second-step").data
    phone = pyotp.TOTP(offered["key"])
    body = {"password": PASSWORD, "key": offered["key"], "code": phone.now()}
    spare = lead.post("/api/v1/account/second-step", body, format="json").data["codes"]
    assert (
        lead.post("/api/v1/account/second-step/end", {"code": "123"}, format="json").data["code"]
        == "one_time_code_wrong"
    )
    assert lead.post("/api/v1/account/second-step/end", {"code": spare[3]}, format="json").status_code == 204
    assert who(signed_in("ragna")) == "ragna"


def test_units_and_language_are_ones_own_else_the_programmes(lead: APIClient, programme: Programme) -> None:
    def here() -> tuple[str, str, str]:
        told = lead.get("/api/v1/session").data["memberships"][0]
        return told["length_unit"], told["mass_unit"], told["date_language"]

    assert here() == ("mm", "g", "en-GB")
    changed = lead.post("/api/v1/account", {"length_unit": "in", "date_language": "fi"}, format="json").data
    assert (changed["name"], changed["email"], here()) == ("Ragna Holt", "ragna@example.org", ("in", "g", "fi"))
    lead.post("/api/v1/account", {"length_unit": ""}, format="json")
    lead.post(f"/api/v1/programmes/{programme.pk}", {"length_unit": "cm", "mass_unit": "lb"}, format="json")
    assert here() == ("cm", "lb", "fi")
    assert lead.post("/api/v1/account", {"length_unit": "ell"}, format="json").data["field"] == "length_unit"


def test_who_has_left_is_not_offered_for_certificates_and_crews(
    lead: APIClient, programme: Programme, person_as: Callable[[str], Person]
) -> None:
    row = Membership.objects.get(person=person_as("crew"))
    address = f"/api/v1/programmes/{programme.pk}/plan"
    assert lead.get(address).data["people"] == ["Crew", "Ragna Holt"]
    change(lead, row, here=False)
    assert lead.get(address).data["people"] == ["Ragna Holt"]
