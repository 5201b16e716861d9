"""Sums of what was done to each fish, from the events that are there."""

from collections import defaultdict
from dataclasses import asdict

from django.db import migrations

from nailwright_core.deck.handled import FishEvent, handled
from nailwright_core.protocol import kept_protocol, lanes_of, shipped_protocol


def fill(apps, schema_editor):
    event, capture, row = (apps.get_model("deck", name) for name in ("Event", "Capture", "Handling"))
    lanes = {each.pk: lanes_of(kept_protocol(each.values)) for each in apps.get_model("programmes", "ProtocolVersion").objects.all()}
    lanes[None] = lanes_of(shipped_protocol())
    said = defaultdict(list)
    present = event.objects.filter(deleted_at=None, capture__deleted_at=None, capture__run__deleted_at=None).exclude(capture=None)
    for key, kind, fields, at in present.values_list("capture_id", "kind", "said", "device_time").iterator():
        said[key].append(FishEvent(at.timestamp(), kind, fields))
    keys = sorted(said, key=str)
    for start in range(0, len(keys), 2000):
        fish = capture.objects.filter(pk__in=keys[start : start + 2000]).values_list(
            "pk", "device_time", "run__outing__protocol_id", "release__device_time", "release__fate", "release__strength",
            "release__deleted_at",
        )  # fmt: skip
        rows = []
        for key, came, protocol, left_at, fate, strength, taken_back in fish:
            left = left_at is not None and taken_back is None
            found = handled(came.timestamp(), said[key], left_at.timestamp() if left else None, lanes[protocol])
            cells = {name: list(value) if isinstance(value, tuple) else value for name, value in asdict(found).items()}
            rows.append(row(capture_id=key, **cells, disposition=fate if left else "", condition=strength if left else None))
        row.objects.bulk_create(rows)


class Migration(migrations.Migration):
    dependencies = [("deck", "0025_handling")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
