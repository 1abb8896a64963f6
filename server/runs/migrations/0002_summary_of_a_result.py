"""Lists read a result's summary, not the whole of it."""

from __future__ import annotations

from typing import Any

from django.db import migrations, models

_SHOWN = ("verdict", "dry_s", "least_cover_mm", "crank_in_oil_s")


def fill(apps: Any, schema_editor: Any) -> None:
    """From the figures of the results there are."""
    results = apps.get_model("runs", "Result")
    for key, figures in results.objects.values_list("pk", "figures").iterator():
        results.objects.filter(pk=key).update(summary={name: figures[name] for name in _SHOWN})


class Migration(migrations.Migration):
    """One column, filled."""

    dependencies = [("runs", "0001_runs")]

    operations = [
        migrations.AddField("result", "summary", models.JSONField(default=dict)),
        migrations.RunPython(fill, migrations.RunPython.noop),
        migrations.AlterField("result", "summary", models.JSONField()),
    ]
