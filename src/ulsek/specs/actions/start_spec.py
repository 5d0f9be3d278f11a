"""Start a spec from a template or a body: a copy, a pasted recipe, an open file or captured weighings."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.utils import timezone

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.core.base.vocabulary import keys
from ulsek.core.recipe_text.templates import from_template
from ulsek.core.spec.json_form import FORMAT, read_spec
from ulsek.team.access import Member
from ulsek.team.action import action

from ..models import Draft, Spec, Version
from ..projection import free_key, project


@dataclass(frozen=True, slots=True)
class NewSpec:
    """The name and family of a spec that is started, and the school of its family's template; an empty school is the first."""

    name: str
    family: str
    school: str = ""


@action
def start_spec(
    member: Member,
    named: NewSpec,
    body: Mapping[str, Any] | None = None,
    *,
    base: Spec | None = None,
    trial_of: Version | None = None,
    at: datetime | None = None,
) -> Spec:
    """Returns a new spec with its draft: `body`, or the template of its family and school if that is None. The id in the body is kept if it is free.

    Raises Refusal for an empty name or one that is too long, an unknown family, and a body that is not a spec file.
    """
    name, family = named.name, named.family
    if not name.strip():
        raise Refusal(message("The spec has no name"), "name", remedy=message("Name it as it will stand on the label"), code="missing")
    if len(name) > 120:
        raise Refusal(message("The name is too long for a label"), "name", message("at most 120 letters"), code="out_of_bounds")
    if family not in keys("families"):
        raise Refusal(
            message("“{family}” is no family", family=family),
            "family",
            message("choose one of {keys}", keys=listed(keys("families"), "comma")),
            code="out_of_bounds",
        )
    if body is not None and (body.get("format") != FORMAT or not isinstance(body.get("steps"), list)):
        raise Refusal(
            message("This is no Ulsek spec file"), "body/format", message("format must be “{format}”", format=FORMAT), code="not_ours"
        )
    made = dict(body) if body is not None else from_template(name, family, named.school, member.house.locale)
    read_spec(made, strict=False)
    key = free_key(member.house, str(made.get("id") or name))
    made |= {"id": key, "name": name.strip(), "family": family}
    when = at or timezone.now()
    spec = Spec(house=member.house, key=key, name=name.strip(), family=family, created_at=when, base=base, trial_of=trial_of)
    if trial_of is not None:
        spec.state = "trial"
    spec.save(force_insert=True)
    Draft.objects.create(spec=spec, body=made, saved_by=member.person, saved_at=when)
    project(spec, made)
    member.wrote("start_spec", spec.name, at=when)
    return spec
