"""Verdicts are known by what they feel, not by the state that was asked for."""

from __future__ import annotations

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    """Another table; what was kept is worked out again when it is wanted."""

    dependencies = [("forecasts", "0001_initial"), ("accounts", "0002_people")]

    operations = [
        migrations.DeleteModel("Forecast"),
        migrations.CreateModel(
            "KeptVerdict",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("key", models.CharField(max_length=64)),
                ("told", models.JSONField()),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                (
                    "workshop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="verdicts",
                        to="accounts.workshop",
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(
                        fields=("workshop", "key"), name="one_verdict_of_a_kind"
                    )
                ],
            },
        ),
    ]
