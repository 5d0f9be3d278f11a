"""The kinds of signed actions. Each app adds its own."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from ulsek.core.base.messages import listed, message
from ulsek.core.base.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.models import Role
from ulsek.team.permissions import NEEDED


@dataclass(frozen=True)
class Arrival:
    """How an action arrived: `received` on the site's clock, `device_now` on the sending device's clock, and the `proof` of its person: "key", "lead" or ""."""

    received: datetime
    device_now: str
    proof: str


Do = Callable[[Member, str, Mapping[str, Any], Arrival], None]
View = Callable[[Member, str], Mapping[str, object] | None]


@dataclass(frozen=True)
class Kind:
    """How an action of one kind is performed (`do`), which entry of the permission table applies (`operation`), and how its subject is read (`view`)."""

    operation: str
    do: Do
    view: View

    @property
    def needed(self) -> Role:
        """Returns the lowest role that may sign an action of this kind. Raises RuntimeError if the permission table names none."""
        role = NEEDED[self.operation]
        if role is None:
            raise RuntimeError(f"{self.operation} needs no role")
        return role


KINDS: dict[str, Kind] = {}


def kind_of(name: str) -> Kind:
    """Returns the kind of that name. Raises Refusal if no kind has it."""
    if name not in KINDS:
        raise Refusal(
            message("“{name}” is nothing that is done here", name=name),
            "text/kind",
            message("the kinds are {kinds}", kinds=listed(KINDS, "comma")),
            code="unknown_kind",
        )
    return KINDS[name]
