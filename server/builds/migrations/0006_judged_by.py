"""A build is judged by a set of laps."""

import django.db.models.deletion
from django.db import migrations, models


def by_the_lap_shown(apps, schema_editor):
    build_model, judged_model = (apps.get_model("builds", name) for name in ("Build", "JudgedBy"))
    judged_model.objects.bulk_create(
        judged_model(build_id=build_id, lap_id=lap_id)
        for build_id, lap_id in build_model.objects.exclude(lap=None).values_list("pk", "lap_id")
    )


class Migration(migrations.Migration):
    dependencies = [("builds", "0005_acts"), ("loads", "0003_digest_of_samples")]

    operations = [
        migrations.CreateModel(
            name="JudgedBy",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                (
                    "build",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="judged_by",
                        to="builds.build",
                    ),
                ),
                (
                    "lap",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="judges",
                        to="loads.lap",
                    ),
                ),
            ],
            options={"ordering": ["id"]},
        ),
        migrations.AddConstraint(
            model_name="judgedby",
            constraint=models.UniqueConstraint(
                fields=("build", "lap"), name="judged_once_by_a_lap"
            ),
        ),
        migrations.RunPython(by_the_lap_shown, migrations.RunPython.noop),
    ]
