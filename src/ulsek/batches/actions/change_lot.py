"""Change a lot: open, decant, top up, move, use, count, split or toss it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import datetime
from typing import Any

from django.http import Http404
from django.utils import timezone

from ulsek.core.base.figures import MOST_G
from ulsek.core.base.free_text import free_text
from ulsek.core.base.messages import Day, Message, listed, message, template, verbatim
from ulsek.core.base.refusals import Refusal
from ulsek.core.safety.mixture import Bottled, mixed, opened_until
from ulsek.core.safety.on_the_shelf import checked_amount
from ulsek.team.access import Member
from ulsek.team.action import action
from ulsek.team.locks import locked
from ulsek.team.numbers import locked_series, next_number

from ..models import Lot, LotEvent, LotMix, Run


def _amount(lot: Lot, body: Mapping[str, Any], refused: Message, most: float = MOST_G) -> float:
    return checked_amount(body.get("amount"), lot.unit, refused, most)


def _open(member: Member, lot: Lot, at: datetime) -> None:
    lot.opened_at = at
    lot.use_by = opened_until(lot.use_by, member.day(at), lot.opened_days)


def _opened(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del body
    if lot.opened_at is not None:
        raise Refusal(message("{lot} is open already", lot=lot.code), "kind", code="twice")
    _open(member, lot, at)


def _moved(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, at
    lot.place = free_text(body.get("place"), "body/place", 60, message("Where does it stand now?"))


def _used(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, at
    # May fall below zero after a miscount: shown, never refused in mid-service.
    lot.left -= _amount(lot, body, template("{value} {unit} cannot be used"))


def _counted(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, at
    lot.left = _amount(lot, body, template("{value} {unit} cannot be left"))


def _tossed(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member
    free_text(body.get("reason"), "body/reason", 200, message("Why is it tossed?"))
    lot.left, lot.gone_at = 0.0, at


def _split(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del at
    _part_of(member, lot, body).save(force_insert=True)


def _decanted(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    """A part goes into another bottle: a lot of its own, opened now."""
    copy = _part_of(member, lot, body)
    _open(member, copy, at)
    copy.save(force_insert=True)


def _topped_up(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    """Another bottle of the same is poured in: the mixture has the earliest date and all allergens, and both are traced."""
    code = free_text(body.get("from"), "body/from", 16, message("Which lot was poured in?")).upper()
    if code == lot.code:
        raise Refusal(message("A bottle cannot be topped up with itself"), "body/from", remedy=message("Scan the other one"), code="circle")
    other = Lot.objects.filter(house=member.house, code=code).first()  # locked with the lot it goes into
    if other is None or other.gone_at is not None:
        raise Refusal(
            message("There is no lot “{code}” here", code=code),
            "body/from",
            remedy=message("Scan it, or read its code again"),
            code="unknown_reference",
        )
    if not (lot.run and other.run) or other.run.version.spec_id != lot.run.version.spec_id or other.what != lot.what:
        raise Refusal(
            message("{other} is another product", other=str(other)),
            "body/from",
            remedy=message("Keep them apart, each under its own label"),
            code="another_material",
        )
    for item in (lot, other):
        _may_be_poured(member, item, at)
    part = _amount(other, body, template("{value} {unit} cannot be poured in"), max(0.0, other.left))
    if part <= 0:
        raise Refusal(message("Nothing is poured in"), "body/amount", message("more than 0 {unit}", unit=lot.unit), code="not_positive")
    if lot.opened_at is None:
        _open(member, lot, at)
    both = mixed(_bottled(lot), _bottled(other), other.code)
    lot.use_by, lot.use_by_reason, lot.keep_c = both.use_by, both.reason, both.keep_c
    lot.allergens, lot.cautions, lot.off_spec = list(both.allergens), list(both.cautions), both.off_spec
    if lot.final and other.final:
        unknown = (*lot.final.get("allergens_unknown", ()), *other.final.get("allergens_unknown", ()))
        lot.final = {**lot.final, "allergens_unknown": list(dict.fromkeys(unknown))}
    lot.left += part
    lot.amount += part
    other.left -= part
    other.save()
    LotMix.objects.create(into=lot, lot=other, amount=part, at=at)
    LotEvent.objects.create(lot=other, kind="poured", body={"amount": part, "into": lot.code}, by=member.person, at=at)


def _may_be_poured(member: Member, lot: Lot, at: datetime) -> None:
    """Raises Refusal for a lot that is past its last day, recalled, of a withdrawn version, or not ready yet."""
    state = lot.standing(member.house, at).state
    if state == "good":
        return
    if state == "resting" and lot.ready_at is not None:
        ready = f"{member.local(lot.ready_at):%a %d %b %H:%M}"
        raise Refusal(
            message("{lot} is not ready", lot=lot.code),
            "body/from",
            message("from {ready}: {ready_why}", ready=ready, ready_why=lot.ready_why),
            message("Let it rest"),
            "not_ready",
        )
    if state == "past":
        why = message("it was to be used by {day}", day=Day(lot.use_by.isoformat()))
    elif state == "withdrawn":
        why = message("its version was withdrawn: {why}", why=lot.withdrawn)
    else:
        why = verbatim(lot.recalled)
    raise Refusal(
        message("{lot} may not be poured any more", lot=lot.code), "body/from", why, message("Toss it, or ask your lead"), "out_of_date"
    )


def _bottled(lot: Lot) -> Bottled:
    return Bottled(lot.use_by, lot.use_by_reason, lot.keep_c, tuple(lot.allergens), tuple(lot.cautions), lot.off_spec, lot.recalled)


def _code_of_part(member: Member, lot: Lot) -> str:
    """Returns a code for a part of a lot: that of the lot from the batch, with the next letters after it, from B on."""
    whole = lot
    while whole.split_of is not None:
        whole = whole.split_of
    number, letters = next_number(locked_series(member.house, f"parts of {whole.code}")) + 1, ""
    while number:
        number, rest = divmod(number - 1, 26)
        letters = chr(ord("A") + rest) + letters
    return f"{whole.code}{letters}"


def _part_of(member: Member, lot: Lot, body: Mapping[str, Any]) -> Lot:
    """Returns a part of a lot under a code of its own, not saved yet; the rest is left in the lot."""
    part = _amount(lot, body, template("{value} {unit} cannot be split off"), max(0.0, lot.left))
    if part <= 0:
        raise Refusal(message("Nothing is split off"), "body/amount", message("more than 0 {unit}", unit=lot.unit), code="not_positive")
    copy = Lot.objects.get(pk=lot.pk)
    copy.pk, copy.code, copy.split_of = None, _code_of_part(member, lot), lot
    copy.amount = copy.left = part
    copy.place = free_text(body.get("place") or lot.place, "body/place", 60)
    lot.left -= part
    return copy


def _tasted(member: Member, lot: Lot, body: Mapping[str, Any], at: datetime) -> None:
    del member, lot, at
    free_text(body.get("text"), "body/text", 200, message("How does it taste?"))


_ACTIONS: Mapping[str, Callable[[Member, Lot, Mapping[str, Any], datetime], None]] = {
    "opened": _opened,
    "moved": _moved,
    "used": _used,
    "counted": _counted,
    "split": _split,
    "decanted": _decanted,
    "topped_up": _topped_up,
    "tossed": _tossed,
    "tasted": _tasted,
}
_ADDS_A_LOT = ("split", "decanted")


@action
def change_lot(member: Member, code: str, kind: str, body: Mapping[str, Any], at: datetime | None = None) -> Lot:
    """Returns the lot after the change, which is stored as an event. Raises Refusal for an unknown change, a lot that is gone, and figures that cannot be."""
    if kind not in _ACTIONS:
        raise Refusal(
            message("“{kind}” is nothing that is done to a lot", kind=kind),
            "kind",
            message("there are {deeds}", deeds=listed(_ACTIONS, "comma")),
            code="unknown_kind",
        )
    code = code.upper()  # as it stands on the label, however it was typed
    wanted = [code, str(body.get("from") or "").upper()] if kind == "topped_up" else [code]
    rows = Lot.objects.filter(house=member.house, code__in=wanted)
    if kind in _ADDS_A_LOT:
        locked(Run.objects.filter(lots__in=rows), shared=True)
    # Locked: two hands that use some at once must both count.
    lot = next((item for item in locked(rows) if item.code == code), None)
    if lot is None:
        raise Http404
    if lot.gone_at is not None:
        raise Refusal(
            message("{lot} is gone", lot=lot.code), "code", remedy=message("Count what stands there under its own number"), code="gone"
        )
    when, before = at or timezone.now(), lot.left
    _ACTIONS[kind](member, lot, body, when)
    lot.save()
    # What a count finds lacking was used and noted nowhere.
    said = {**body, "before": before} if kind == "counted" else dict(body)
    LotEvent.objects.create(lot=lot, kind=kind, body=said, by=member.person, at=when)
    member.wrote(f"lot_{kind}", lot.code, at=at, **{name: value for name, value in body.items() if isinstance(value, str | int | float)})
    return lot
