"""Evaluation of stored and sent drafts. Each process keeps its last evaluations, so that an edit is computed from the first changed step on."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import Any

from ulsek.core.spec.spec import Spec
from ulsek.core.workbench.answer import Workbench
from ulsek.core.workbench.draft_session import DraftSession
from ulsek.stores.house import StoredHouse
from ulsek.team.models import House

from .models import Spec as SpecRow
from .queries import makers_above, remarks_of_the_house

_MOST_SESSIONS = 16
"""A session holds some megabytes: the flow of every group of uncertain inputs."""
_sessions: OrderedDict[tuple[int, str], DraftSession] = OrderedDict()


@contextmanager
def _session(key: tuple[int, str]) -> Iterator[DraftSession]:
    """Yields the session of a draft, or a new one, and stores it again afterwards unless the block raised; the least recently used one is dropped.

    It is removed from the store meanwhile, because a session serves one thread.
    """
    session = _sessions.pop(key, None) or DraftSession()
    yield session
    _sessions[key] = session
    while len(_sessions) > _MOST_SESSIONS:
        _sessions.popitem(last=False)


def draft_answer(house: House, body: Mapping[str, Any], own: SpecRow | None = None) -> tuple[Workbench, Spec]:
    """Returns what the workbench shows of a draft as far as it can be read, and the spec that was read. `own` is the spec of the draft, which it must not use.

    Raises Refusal for what is no spec file.
    """
    above = makers_above(own) if own is not None else ()
    stored = StoredHouse(house)
    with _session((house.pk, str(body.get("id", "")))) as session:
        evaluation = session.evaluated(stored, body, above)
        whole = session.completed(evaluation, stored.measures, remarks_of_the_house(evaluation, house, own))
    return whole, evaluation.inputs.spec
