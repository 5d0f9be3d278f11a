"""The archive of a house, and what is stored about a person, as jobs."""

from __future__ import annotations

import json
import tempfile

from django.core.serializers.json import DjangoJSONEncoder

from ulsek.jobs.work import File, Progress, kind
from ulsek.team.access import Member
from ulsek.team.models import Role

from .person import stored_about
from .writing import write_archive


@kind("house", needs=Role.LEAD, takes_password=True)
def house_archive(member: Member, progress: Progress) -> File:
    """Returns everything of the house as one archive, without what lets anybody in."""
    with tempfile.TemporaryFile() as file:
        write_archive(member.house, file, progress.beside)
        file.seek(0)
        return File("house.ulsek.zip", "application/zip", file.read())


@kind("mine", takes_password=True)
def data_of_person(member: Member, progress: Progress) -> File:
    """Returns everything that the site stores about the person who asks, as a table for each kind of row."""
    told = stored_about(member.person, progress.at)
    return File(
        "about-me.json", "application/json", (json.dumps(told, cls=DjangoJSONEncoder, ensure_ascii=False, indent=1) + "\n").encode()
    )
