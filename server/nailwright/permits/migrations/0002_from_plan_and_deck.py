"""Permits come from plan, allowances from deck; an allowance points at its permit, which it only named before.

A permit that was never entered, only named by its allowances, is made with the days that those span.
"""

from django.db import migrations

from nailwright.permits.matching import key_of_new_permit, matching_permit


def bring(apps, schema_editor):
    paper, old = apps.get_model("plan", "Paper"), apps.get_model("deck", "Allowance")
    permit, new = apps.get_model("permits", "Permit"), apps.get_model("permits", "Allowance")
    permit.objects.bulk_create(
        permit(
            kind="certificate" if each.kind == "qualification" else each.kind,
            **{name: getattr(each, name) for name in ("id", "programme_id", "name", "holder", "number", "gears", "first", "last")},
        )
        for each in paper.objects.order_by("pk")
    )
    for each in old.objects.order_by("first", "pk"):
        known = permit.objects.filter(programme_id=each.programme_id, kind="permit").order_by("-last", "pk")
        key = matching_permit(each.permit, known.values_list("pk", "name", "number"))
        if key is None:
            key = key_of_new_permit(each.programme_id, each.permit)
            permit.objects.create(
                id=key, programme_id=each.programme_id, kind="permit", name=each.permit, first=each.first, last=each.last
            )
        new.objects.create(
            permit_id=key,
            **{name: getattr(each, name) for name in ("id", "species", "what", "most", "first", "last", "deleted_at")},
        )
        if key == key_of_new_permit(each.programme_id, each.permit):
            permit.objects.filter(pk=key, last__lt=each.last).update(last=each.last)
    apps.get_model("programmes", "Change").objects.filter(table="paper").update(table="permit")


def back(apps, schema_editor):
    paper, old = apps.get_model("plan", "Paper"), apps.get_model("deck", "Allowance")
    permit, new = apps.get_model("permits", "Permit"), apps.get_model("permits", "Allowance")
    for each in permit.objects.all():
        kind = "qualification" if each.kind == "certificate" else each.kind
        told = {name: getattr(each, name) for name in ("id", "programme_id", "name", "holder", "number", "gears", "first", "last")}
        paper.objects.create(kind=kind, **told)
    for each in new.objects.select_related("permit"):
        told = {name: getattr(each, name) for name in ("id", "species", "what", "most", "first", "last", "deleted_at")}
        old.objects.create(programme_id=each.permit.programme_id, permit=each.permit.name, **told)
    apps.get_model("programmes", "Change").objects.filter(table="permit").update(table="paper")


class Migration(migrations.Migration):
    dependencies = [
        ("permits", "0001_initial"),
        ("plan", "0008_gears_and_readings"),
        ("deck", "0022_dispositions_and_occasions"),
    ]
    operations = [migrations.RunPython(bring, back)]
