"""Facts of the house's preps for a plan, computed once for each version and edition of the rules, and kept by each process for itself."""

from __future__ import annotations

import hashlib
import json
import logging
from collections import OrderedDict
from collections.abc import Iterable
from threading import Lock

from django.db import DatabaseError, connection

from ulsek.core.base.refusals import Refusal
from ulsek.core.planning.prep_facts import PrepFacts, prep_facts
from ulsek.specs.models import Spec, SpecState, Version
from ulsek.specs.projection import material_key_of
from ulsek.specs.queries import version_evaluated
from ulsek.team.models import House

log = logging.getLogger(__name__)
_MOST, _MOST_HOUSES = 2000, 20
_kept: OrderedDict[tuple[int, str], PrepFacts | None] = OrderedDict()
_lock = Lock()


def _computed(version: Version) -> PrepFacts | None:
    try:
        return prep_facts(version_evaluated(version), material_key_of(version.spec.key))
    except Refusal:
        # A version that cannot be evaluated by today's rules is not planned; its own page says what is wrong.
        return None


def preps_of(house: House) -> dict[Spec, PrepFacts]:
    """Returns every published prep of a house that makes something to pour, with its facts; drinks are no preps."""
    rules = hashlib.sha256(json.dumps(house.rules, sort_keys=True).encode()).hexdigest()
    specs = (
        Spec.objects.filter(house=house, state=SpecState.PUBLISHED, newest__isnull=False).exclude(family="drink").order_by("name", "key")
    )
    found: dict[int, tuple[Spec, PrepFacts | None]] = {}
    missing = {}
    for spec in specs:
        newest = spec.newest_id or 0
        with _lock:
            if (newest, rules) in _kept:
                _kept.move_to_end((newest, rules))
                found[newest] = (spec, _kept[newest, rules])
            else:
                missing[newest] = spec
    for version in _versions(missing):
        facts = _computed(version)
        found[version.pk] = (missing[version.pk], facts)
        with _lock:
            _kept[version.pk, rules] = facts
            while len(_kept) > _MOST:
                _kept.popitem(last=False)
    return {spec: facts for spec, facts in sorted(found.values(), key=lambda one: one[0].name) if facts is not None}


def warm() -> None:
    """Computes the facts of the houses that have pars, so that the first list of a process does not wait for them. Called in a thread of its own, whose connection it closes.

    A database that does not answer is no fault here: the first list computes them then.
    """
    try:
        for house in House.objects.filter(par__isnull=False).distinct().order_by("name")[:_MOST_HOUSES]:
            preps_of(house)
    except DatabaseError as failed:
        log.info("the facts of the preps are not computed ahead: %s", failed)
    finally:
        connection.close()


def _versions(wanted: Iterable[int]) -> list[Version]:
    return list(Version.objects.filter(pk__in=list(wanted)).select_related("spec__house").prefetch_related("corrections"))
