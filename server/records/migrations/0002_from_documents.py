"""What documents had in them of inspection, dips and gauge readings becomes records."""

from bilge_core.document.records import records_in
from bilge_core.errors import InvalidInput
from django.db import migrations


def _found(document):
    try:
        return [record.model_dump(mode="json") for record in records_in(document)]
    except InvalidInput:
        return []


def take_out(apps, schema_editor):
    """Of the state shown; each as taken on the first state on the way to it that had it so."""
    build_model = apps.get_model("builds", "Build")
    record_model = apps.get_model("records", "Record")
    for build in build_model.objects.filter(current__isnull=False).iterator():
        way, here = [], build.current
        while here is not None:
            way.append((here, _found(here.document)))
            here = here.parent
        for data in way[0][1]:
            taken = way[0][0]
            for state, had in way:
                if data not in had:
                    break
                taken = state
            record_model.objects.create(
                build=build,
                state=taken,
                kind=data["kind"],
                data=data,
                made_by_id=taken.made_by_id,
                taken_at=taken.made_at,
            )


class Migration(migrations.Migration):
    dependencies = [("records", "0001_initial"), ("builds", "0007_as_it_is")]
    run_before = [("builds", "0008_circuit")]

    operations = [migrations.RunPython(take_out, migrations.RunPython.noop)]
