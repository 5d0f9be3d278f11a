"""Specs in open forms: one as a file, all of them as an archive."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Mapping
from typing import Any

from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.open_forms import as_recipe, materials_csv
from ulsek.core.results.spec_card import card, markdown
from ulsek.core.spec.json_form import canonical
from ulsek.jobs.work import File, Progress, kind
from ulsek.stores.queries import resolve
from ulsek.team.access import Member
from ulsek.team.models import House

from .models import Spec
from .queries import evaluated, version_body, version_evaluated

FORMS = {
    "ulsek": ("application/json", "json"),
    "recipe": ("application/ld+json", "jsonld"),
    "markdown": ("text/markdown; charset=utf-8", "md"),
}


def embedded(house: House, spec: Spec) -> Mapping[str, Any]:
    """Returns the file of a spec with every composition in it: of the newest version, else of the draft."""
    body = version_body(spec.newest) if spec.newest else spec.draft.body
    evaluation, resolved = evaluated(house, body)
    bodies = {**resolved.bodies, **(spec.newest.materials if spec.newest else {})}
    return {**body, "materials": {key: bodies[key] for key in evaluation.inputs.spec.material_keys if key in bodies}}


def exported(house: House, spec: Spec, form: str) -> str:
    """A spec in one of `FORMS`, as text."""
    if form == "ulsek":
        return canonical(embedded(house, spec))
    evaluation = version_evaluated(spec.newest) if spec.newest else evaluated(house, spec.draft.body)[0]
    if form == "recipe":
        return json.dumps(as_recipe(evaluation), ensure_ascii=False, indent=2) + "\n"
    return markdown(card(evaluation))


@kind("library")
def library_archive(member: Member, progress: Progress) -> File:
    """Returns the whole library as one archive: a spec file and a readable card of each spec, and the materials as a table."""
    out, used = io.BytesIO(), set[str]()
    specs = list(Spec.objects.filter(house=member.house).order_by("key").values_list("pk", flat=True))
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for n, key in enumerate(specs):
            progress.at(n, len(specs))
            spec = Spec.objects.select_related("house", "newest", "draft").filter(pk=key).first()
            if spec is None:
                continue
            body = embedded(member.house, spec)
            used |= set(body["materials"])
            archive.writestr(f"specs/{spec.key}.json", canonical(body))
            try:
                archive.writestr(f"cards/{spec.key}.md", exported(member.house, spec, "markdown"))
            except Refusal as refusal:
                # A draft that makes nothing yet has no card: its file says all there is.
                archive.writestr(f"cards/{spec.key}.md", f"# {spec.name}\n\n{refusal.text}\n")
        archive.writestr("materials.csv", materials_csv(resolve(member.house, sorted(used)).materials))
        archive.writestr(
            "README.txt",
            "Specs are JSON as docs/formats/spec.md has them; cards and this file are plain text; materials are grams per 100 g.\n",
        )
    progress.at(len(specs), len(specs))
    return File("library.zip", "application/zip", out.getvalue())
