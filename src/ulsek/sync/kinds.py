"""The kinds of signed actions. Each app adds its own."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from ulsek.core.refusals import Refusal
from ulsek.team.access import Member
from ulsek.team.models import Role
from ulsek.team.permissions import NEEDED


@dataclass(frozen=True)
class Arrival:
    """When an action was received, what the clock of the device that carried it showed then, and what proves who did it ("key", "lead", or nothing)."""

    received: datetime
    device_now: str
    proof: str


Do = Callable[[Member, str, Mapping[str, Any], Arrival], None]
View = Callable[[Member, str], dict[str, Any] | None]


@dataclass(frozen=True)
class Kind:
    """How an action of a kind is done, for whom (`operation` of the table of permissions), and what stands there afterwards."""

    operation: str
    do: Do
    view: View

    @property
    def needed(self) -> Role:
        """The role that the signer must have."""
        role = NEEDED[self.operation]
        if role is None:
            raise RuntimeError(f"{self.operation} needs no role")
        return role


KINDS: dict[str, Kind] = {}


def kind_of(name: str) -> Kind:
    """A kind by its name. Raises Refusal for one that is not known."""
    if name not in KINDS:
        raise Refusal(f"“{name}” is nothing that is done here", "text/kind", f"the kinds are {', '.join(KINDS)}", code="unknown_kind")
    return KINDS[name]
