"""Runs are found again by what the oil feels, not by the state that was asked for."""

from __future__ import annotations

from django.db import migrations, models


class Migration(migrations.Migration):
    """One column; runs of before it feel nothing that is asked for now, and are run again."""

    dependencies = [("runs", "0002_summary_of_a_result")]

    operations = [
        migrations.AddField("run", "felt", models.CharField(max_length=64, default="")),
        migrations.AddIndex(
            "run", models.Index(fields=["build", "felt"], name="run_by_what_is_felt")
        ),
    ]
