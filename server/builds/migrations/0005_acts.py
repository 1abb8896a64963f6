"""A state remembers the act that made it."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("builds", "0004_ids")]

    operations = [
        migrations.AddField(
            model_name="buildstate", name="act", field=models.JSONField(null=True)
        ),
    ]
