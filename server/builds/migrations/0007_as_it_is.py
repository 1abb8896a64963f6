"""A build points to the state that the car is in; what is found out is carried into it."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("builds", "0006_judged_by")]

    operations = [
        migrations.AddField(
            model_name="build",
            name="as_is",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="+",
                to="builds.buildstate",
            ),
        ),
        migrations.AddField(
            model_name="buildstate",
            name="carried_from",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="carried",
                to="builds.buildstate",
            ),
        ),
    ]
