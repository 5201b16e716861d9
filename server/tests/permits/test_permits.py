"""What permits allow: counted from the record over all outings, warned of, and asked about on the Deck."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import pypdfium2
import pytest
from django.core import mail
from django.core.management import call_command
from django.utils import timezone
from rest_framework.test import APIClient
from scipy.stats import binomtest

from nailwright.deck.models import Capture, Outing, Release, Run
from nailwright.permits.models import Permit
from nailwright.permits.report import report_on
from nailwright.programmes.models import Change, Membership, Programme
from nailwright.tags.models import Fish, Placement, Tag, TagBatch

TODAY = timezone.now().date()
YEAR = {"first": (TODAY - timedelta(days=300)).isoformat(), "last": (TODAY + timedelta(days=60)).isoformat()}


@pytest.fixture
def today_run(run: Run) -> Run:
    Outing.objects.filter(pk=run.outing_id).update(date=TODAY)
    run.outing.refresh_from_db()
    return run


def allow(lead: APIClient, programme: Programme, what: str, most: int, species: str = "wal", **more: Any) -> Any:
    permit, _ = Permit.objects.get_or_create(programme=programme, kind="permit", name="Permit 17", defaults=YEAR)
    body = {"permit": str(permit.pk), "species": species, "what": what, "most": most, **YEAR, **more}
    return lead.post(f"/api/v1/programmes/{programme.pk}/allowances", body, format="json")


def catch(run: Run, n: int = 1, **told: Any) -> Capture:
    values = {"species": "wal", "count": n, **told}
    return Capture.objects.create(programme=run.outing.programme, run=run, recorder=run.recorder, **values)


def counted(lead: APIClient, programme: Programme) -> dict[str, tuple[int, str]]:
    rows = lead.get(f"/api/v1/programmes/{programme.pk}/allowances").data
    return {each["what"]: (each["counted"], each["standing"]) for each in rows}


def test_each_is_counted_from_the_record(lead: APIClient, programme: Programme, today_run: Run) -> None:
    for what, most in (("captured", 20), ("handled", 3), ("tagged", 2), ("killed", 1)):
        assert allow(lead, programme, what, most).status_code == 201
    catch(today_run, 14)  # counted only
    catch(today_run, length_mm=400)
    dead = catch(today_run, mass_g=500)
    Release.objects.create(capture=dead, fate="dead", recorder=today_run.recorder)
    marked = catch(today_run)
    batch = TagBatch.objects.create(programme=programme, name="B", kind="tbar")
    tag = Tag.objects.create(programme=programme, batch=batch, kind="tbar", number="W1")
    fish = Fish.objects.create(programme=programme, species="wal")
    Placement.objects.create(tag=tag, fish=fish, capture_id=marked.pk, recorder=today_run.recorder)
    catch(today_run, species="yep", n=30)
    catch(today_run, deleted_at=timezone.now())
    assert counted(lead, programme) == {
        "captured": (17, "near"), "handled": (3, "last"), "tagged": (1, "open"), "killed": (1, "last"),
    }  # fmt: skip
    # a release taken back, a species corrected, a day outside: the count follows the record
    Release.objects.update(deleted_at=timezone.now())
    Capture.objects.filter(count=14).update(species="yep")
    assert counted(lead, programme)["killed"] == (0, "open") and counted(lead, programme)["captured"] == (3, "open")
    Outing.objects.update(date=TODAY - timedelta(days=400))
    assert {n for n, _ in counted(lead, programme).values()} == {0}


def test_all_species_together_and_over_several_outings(lead: APIClient, programme: Programme, today_run: Run) -> None:
    allow(lead, programme, "captured", 9, species="")
    earlier = Outing.objects.create(
        programme=programme,
        water=today_run.outing.water,
        name="Earlier",
        date=TODAY - timedelta(days=9),
        gear="angling",
    )
    before = Run.objects.create(
        outing=earlier,
        site=today_run.site,
        number=1,
        gear="angling",
        started_at=timezone.now(),
        recorder=today_run.recorder,
    )
    catch(before, 6, species="yep")
    catch(today_run, 4)
    assert counted(lead, programme) == {"captured": (10, "over")}
    deck = lead.get(f"/api/v1/outings/{today_run.outing_id}/deck").data
    told = deck["allowances"][0]
    assert (told["counted"], told["most"], told["species_name"]) == (6, 9, "all species")  # its own it counts itself


def test_today_says_so_and_the_reason_reaches_the_lead(
    lead: APIClient, programme: Programme, today_run: Run, sync: Any, called: Any
) -> None:
    def waiting() -> dict[str, str]:
        rows = lead.get(f"/api/v1/programmes/{programme.pk}/today").data["waiting"]
        return {each["code"]: each["text"] for each in rows if each["code"].startswith("permit")}

    allow(lead, programme, "captured", 5)
    catch(today_run, 3)
    assert waiting() == {}
    catch(today_run)
    assert "4 of 5 walleye captured" in waiting()["permit_near"]
    catch(today_run)
    assert "is used up" in waiting()["permit_last"]
    beyond = called(note="died in the net", questions=[{"code": "permit_over", "answer": "kept as called"}])
    assert sync(beyond).status_code == 200
    told = waiting()
    assert "overdrawn" in told["permit_over"] and "1 fish beyond a permit" in told["permit_over_kept"]
    assert Capture.objects.get(pk=beyond["id"]).note == "died in the net"


def test_changed_taken_out_and_put_back_with_history(lead: APIClient, programme: Programme, client_as: Any) -> None:
    row = allow(lead, programme, "captured", 5).data[0]
    address = f"/api/v1/allowances/{row['id']}"
    body = {name: row[name] for name in ("species", "what", "first", "last")} | {"permit": row["permit_id"]}
    assert lead.post(address, {**body, "most": 8}, format="json").data[0]["most"] == 8
    assert lead.post(f"{address}/deleted", {"deleted": True}, format="json").data == []
    assert lead.post(f"{address}/deleted", {"deleted": False}, format="json").data[0]["most"] == 8
    history = [set(each.after) for each in Change.objects.filter(row=row["id"]).order_by("server_time")]
    assert history == [{"most"}, {"deleted_at"}, {"deleted_at"}]
    assert client_as("stranger").post(address, {**body, "most": 9}, format="json").status_code == 404


@pytest.mark.parametrize(
    ("changed", "code"),
    [
        ({"last": "2020-01-01"}, "days_out_of_order"),
        ({"species": "nop"}, "species_not_in_programme"),
        ({"most": -1}, "invalid"),
        ({"what": "eaten"}, "invalid"),
        ({"permit": ""}, "invalid"),
        ({"permit": "0190a000-0000-7000-8000-000000000000"}, "permit_unknown"),
    ],
)
def test_what_cannot_be(lead: APIClient, programme: Programme, changed: dict[str, Any], code: str) -> None:
    refused = allow(lead, programme, **{"what": "captured", "most": 5, **changed})
    assert (refused.status_code, refused.data["code"]) == (422, code)
    assert lead.get(f"/api/v1/programmes/{programme.pk}/allowances").data == []


@pytest.mark.django_db(transaction=True)
def test_the_reason_goes_to_the_leads_by_mail_at_once(
    lead: APIClient, programme: Programme, today_run: Run, sync: Any, called: Any, settings: Any
) -> None:
    settings.EMAIL_HOST = "mail.example"
    reader = Membership.objects.get(person__name="Lead").person
    reader.email = "lead@example.org"
    reader.save()
    sync(called(), called(note="died in the net", questions=[{"code": "permit_over", "answer": "kept as called"}]))
    call_command("db_worker", batch=True, interval=0, startup_delay=False, verbosity=0, reload=False)
    (letter,) = mail.outbox
    assert letter.to == ["lead@example.org"] and "died in the net" in letter.body and letter.body.count("\n- ") == 1


def test_the_report_to_the_agency_comes_out_of_the_record(
    lead: APIClient, programme: Programme, today_run: Run, sync: Any, called: Any
) -> None:
    allow(lead, programme, "captured", 5)
    dead = catch(today_run, 2)
    Release.objects.create(capture=dead, fate="dead", recorder=today_run.recorder)
    catch(today_run, 4)
    catch(today_run, 3, species="yep")
    sync(called(note="=died in the net", questions=[{"code": "permit_over", "answer": "kept as called"}]))
    permit = Permit.objects.get()
    to = f"/api/v1/permits/{permit.pk}/report"
    lines = lead.get(f"{to}?form=csv").content.decode().splitlines()
    assert lines[0].endswith("species,captured,handled,tagged,killed")
    assert [line.split(",")[-5:] for line in lines[1:]] == [
        ["walleye", "7", "1", "0", "2"]
    ]  # perch is not on this permit
    report = report_on(permit)
    (row,) = report["species"]
    # 2 of 7, exact 95 %: 3.67 to 70.96 per cent (Clopper and Pearson, by SciPy's binomtest)
    wanted = binomtest(2, 7).proportion_ci(0.95, "exact")
    assert (row["lower"], row["upper"]) == pytest.approx((100 * wanted.low, 100 * wanted.high))
    assert [(each["n"], each["reason"]) for each in report["beyond"]] == [(1, "=died in the net")]
    page = pypdfium2.PdfDocument(lead.get(to).content)[0].get_textpage().get_text_bounded()
    assert "Permit 17" in page and "7 (beyond)" in page and "died in the net" in page
    other = Permit.objects.create(programme=programme, kind="permit", name="Permit 18", **YEAR)
    assert lead.get(f"/api/v1/permits/{other.pk}/report").data["code"] == "permit_without_allowance"
    # a new name of the permit is its allowances' too: they point at it
    Permit.objects.filter(pk=permit.pk).update(name="Permit 17, renewed")
    assert lead.get(f"/api/v1/programmes/{programme.pk}/allowances").data[0]["permit"] == "Permit 17, renewed"


def test_a_certificate_allows_no_fish(lead: APIClient, programme: Programme) -> None:
    leader = Permit.objects.create(programme=programme, kind="certificate", name="Crew leader", holder="Ada", **YEAR)
    refused = allow(lead, programme, "captured", 5, permit=str(leader.pk))
    assert (refused.status_code, refused.data["code"], refused.data["field"]) == (422, "permit_unknown", "permit")
    row = allow(lead, programme, "captured", 5).data[0]
    body = {"kind": "certificate", "name": "Permit 17", "holder": "Ada", **YEAR}
    assert lead.post(f"/api/v1/permits/{row['permit_id']}", body, format="json").data["code"] == "permit_has_allowances"
