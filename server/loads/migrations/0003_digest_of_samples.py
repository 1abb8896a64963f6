"""What answers over a lap are known by is kept beside it."""

from __future__ import annotations

import hashlib
from typing import Any

from django.db import migrations, models


def fill(apps: Any, schema_editor: Any) -> None:
    """From the samples that there are."""
    laps = apps.get_model("loads", "Lap")
    for key, samples in laps.objects.values_list("pk", "samples").iterator(chunk_size=1):
        laps.objects.filter(pk=key).update(digest=hashlib.sha256(bytes(samples)).hexdigest())


class Migration(migrations.Migration):
    """One column, filled."""

    dependencies = [("loads", "0002_files_and_corners")]

    operations = [
        migrations.AddField("lap", "digest", models.CharField(max_length=64, default="")),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("lap", "digest", models.CharField(max_length=64)),
    ]
