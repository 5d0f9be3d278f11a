"""Specs of earlier houses get their file id, state, newest version and what they are found by."""

from django.db import migrations


def fill(apps, schema_editor):
    del schema_editor
    from ulsek.core.recipe_text.templates import file_id
    from ulsek.core.spec.json_form import read_spec
    from ulsek.core.base.vocabulary import plain

    spec_model, use_model = apps.get_model("specs", "Spec"), apps.get_model("specs", "SpecMaterial")
    taken = set()
    for spec in spec_model.objects.order_by("created_at", "pk"):
        body = spec.draft.body if hasattr(spec, "draft") else {}
        base = file_id(str(body.get("id") or spec.name))[:56]
        key = next(item for item in (base, *(f"{base}-{n}" for n in range(2, len(taken) + 3))) if (spec.house_id, item) not in taken)
        taken.add((spec.house_id, key))
        spec.key = key
        spec.newest = spec.versions.order_by("-number").first()
        spec.state = "published" if spec.newest else "draft"
        materials = [item for item in read_spec(body, strict=False).mentioned if item] if body else []
        spec.search = plain(" ".join([spec.name, *(item.replace("_", " ") for item in materials)]))
        spec.save()
        use_model.objects.bulk_create(use_model(spec=spec, material=item[:80]) for item in materials)


class Migration(migrations.Migration):
    dependencies = [("specs", "0004_library")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
