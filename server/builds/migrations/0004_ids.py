"""Every part of every state gets an id; a part that stayed keeps it from state to state."""

import django.db.models.deletion
from bilge_core.document.ids import last_number, with_ids
from bilge_core.document.upgrade import with_ids_of
from django.db import migrations, models


def give_ids(apps, schema_editor):
    """States of version 1 in the order made: parents come before what was made from them."""
    build_model, state_model = (apps.get_model("builds", name) for name in ("Build", "BuildState"))
    for build in build_model.objects.only("pk").iterator():
        given, last = {}, 0
        for state in state_model.objects.filter(build=build).order_by("number"):
            document = {**state.document, "version": 2}
            if state.parent_id in given:
                document, last = with_ids_of(given[state.parent_id], document, last)
            else:
                document, last = with_ids(document, last)
            given[state.pk] = document
            state.document = document
            state.save(update_fields=["document"])
            last = max(last, last_number(document))
        build_model.objects.filter(pk=build.pk).update(last_id=last)


class Migration(migrations.Migration):
    dependencies = [("builds", "0003_photos")]

    operations = [
        migrations.AddField(
            model_name="build",
            name="last_id",
            field=models.PositiveIntegerField(default=0),
        ),
        migrations.AddField(
            model_name="buildstate",
            name="made_on",
            field=models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.CASCADE,
                related_name="+",
                to="builds.buildstate",
            ),
        ),
        migrations.RunPython(give_ids, migrations.RunPython.noop),
    ]
