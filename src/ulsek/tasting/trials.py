"""Samples of one spec and its trials, and the trial that is worth making next."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from uuid import UUID

from ulsek.batches.models import Lot
from ulsek.core.advice.corrections import REPAIR_MATERIALS, to_the_flag
from ulsek.core.base.messages import NOTHING, Message
from ulsek.core.base.refusals import Refusal
from ulsek.core.tasting.next_trial import TastedSpot, additions_words
from ulsek.specs.models import Spec, Version
from ulsek.specs.queries import evaluated, version_body

from .models import PanelSample


def version_of(sample: PanelSample) -> Version | None:
    """Returns the version that a sample was made by; None for a draft, a bottle from elsewhere, and one whose making was not recorded."""
    if sample.version is not None:
        return sample.version
    return sample.lot.run.version if sample.lot is not None and sample.lot.run is not None and not sample.lot.what else None


def _root(spec: Spec) -> UUID:
    """Returns the key of the spec that a trial branched from, or its own."""
    return spec.trial_of.spec_id if spec.trial_of is not None else spec.pk


def _lineage(sample: PanelSample) -> UUID | None:
    version = version_of(sample)
    spec = version.spec if version is not None else sample.spec
    return _root(spec) if spec is not None else None


def alike(samples: Sequence[PanelSample]) -> list[TastedSpot]:
    """Returns the samples of the first one's spec and its trials whose sugar and acid are known: what differs among them is taken to be those."""
    first = _lineage(samples[0]) if samples else None
    found = []
    for sample in samples:
        sugar, acid = sample.inside.sugar_g_100ml, sample.inside.acid_g_100ml
        if first is not None and _lineage(sample) == first and sugar and acid:
            found.append(TastedSpot(sample.place, sugar, acid))
    return found


def how_to_make(sample: PanelSample, sugar: float, acid: float, today: date) -> Message:
    """Returns what is added to a litre of a sample, of a bottle in hand if there is one, to bring it to a sugar and an acid [g/100 mL]; empty if that is not known
    or cannot be.
    """
    version = version_of(sample)
    if version is None:
        return NOTHING
    evaluation = evaluated(version.spec.house, version_body(version), REPAIR_MATERIALS)[0]
    try:
        flag = to_the_flag(evaluation, sugar, acid)
    except Refusal:
        return NOTHING
    in_hand = (
        Lot.objects.filter(run__version=version, what="", gone_at=None, recalled="", left__gt=0, use_by__gte=today)
        .order_by("use_by")
        .first()
    )
    made_ml = evaluation.figures[evaluation.last]["volume_ml"] if evaluation.last is not None else 0.0
    return additions_words([(item.name, item.mass_g) for item in flag.additions], made_ml, in_hand.code if in_hand else "")
