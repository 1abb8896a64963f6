"""Every state gets its oil circuit; ids of its slots are given to no other part."""

from bilge_core.document.circuit.template import MOST_SLOTS
from bilge_core.document.upgrade import upgraded
from django.db import migrations


def give_circuits(apps, schema_editor):
    """As any reader of an older document does, so that states are of one version."""
    build_model, state_model = (apps.get_model("builds", name) for name in ("Build", "BuildState"))
    for state in state_model.objects.only("pk", "document").iterator():
        state.document = upgraded(state.document)
        state.save(update_fields=["document"])
    build_model.objects.filter(last_id__lt=MOST_SLOTS).update(last_id=MOST_SLOTS)


class Migration(migrations.Migration):
    dependencies = [("builds", "0007_as_it_is")]

    operations = [migrations.RunPython(give_circuits, migrations.RunPython.noop)]
