"""The archive of a house, and what is stored about a person, as jobs."""

from __future__ import annotations

import json
import tempfile

from django.core.serializers.json import DjangoJSONEncoder

from ulsek.core.base.messages import message
from ulsek.core.base.refusals import Refusal
from ulsek.jobs.work import File, Progress, kind
from ulsek.team.access import Member
from ulsek.team.models import Role

from .person import stored_about
from .writing import write_archive

MOST_BYTES = 200_000_000
"""More than this is not sent through a browser."""


@kind("house", needs=Role.LEAD, takes_password=True)
def house_archive(member: Member, progress: Progress) -> File:
    """Returns everything of the house as one archive, without what lets anybody in. Raises Refusal if that is too much for a browser."""
    with tempfile.TemporaryFile() as file:
        write_archive(member.house, file, progress.beside)
        if file.tell() > MOST_BYTES:
            raise Refusal(
                message("The house is too large for a browser to fetch"),
                "file",
                remedy=message("Whoever runs the site writes its archive: bin/house export"),
                code="too_long",
            )
        file.seek(0)
        return File("house.ulsek.zip", "application/zip", file.read())


@kind("mine", takes_password=True)
def data_of_person(member: Member, progress: Progress) -> File:
    """Returns everything that the site stores about the person who asks, as a table for each kind of row."""
    told = stored_about(member.person, progress.at)
    return File(
        "about-me.json", "application/json", (json.dumps(told, cls=DjangoJSONEncoder, ensure_ascii=False, indent=1) + "\n").encode()
    )
