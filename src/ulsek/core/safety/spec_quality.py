"""How long a house finds the product of a spec good, as it tasted: such a date shortens, and never lengthens."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

from ..base.messages import Message, days, listed, message
from ..base.refusals import Refusal
from .rule_entries import check_provenance, entries_of, figure_of, words_of
from .shelf_life import HouseDate, Keeping, with_house_date
from .shelf_life_rules import FOREVER, last_day

TABLE = "spec_quality"
_MEMBERS = ("days", "name", "by", "why", "source", "dated")
_WORDS = ("name", "by", "why")


def read_spec_quality(data: Any) -> dict[str, HouseDate]:
    """Returns the quality date of each spec that the house has tasted, by the spec's id. Raises Refusal, at its place, for days that are not whole or below 1, and for an
    entry that does not say which spec, who, why, whence and since when.
    """
    found = {}
    for key, entry in entries_of(data, TABLE).items():
        where = f"{TABLE}/{key}"
        check_provenance(entry, where)
        for name in _WORDS:
            words_of(entry, name, where, message("Say which spec it is, who decided it, and why"))
        unknown = sorted(set(entry) - set(_MEMBERS))
        if unknown:
            raise Refusal(
                message("A tasted date has no “{unknown}”", unknown=unknown[0]),
                f"{where}/{unknown[0]}",
                message("it has {members}", members=listed(_MEMBERS, "comma")),
                code="unknown_field",
            )
        count = figure_of(entry.get("days"), f"{where}/days")
        if not count.is_integer() or not 1 <= count <= FOREVER:
            raise Refusal(
                message("A date is whole days"),
                f"{where}/days",
                message("from 1 to {most}", most=FOREVER),
                message("Count the making as the first day"),
                "out_of_bounds",
            )
        found[key] = HouseDate("quality", int(count), entry["by"], entry["why"], entry["source"])
    return found


def no_longer_than(found: Keeping, said: HouseDate | None) -> Keeping:
    """Returns the keeping with its quality ended by the house's date; as it is if there is none, or if it is not good so long anyhow."""
    return found if said is None or said.days >= found.quality.days else with_house_date(found, said)


def dated_material(key: str, body: Mapping[str, Any], said: Mapping[str, HouseDate]) -> Mapping[str, Any]:
    """Returns a material in the open form with the house's date of the spec that makes it; a by-product, which was not tasted, as it is."""
    spec = body.get("made_by")
    if not isinstance(spec, str) or spec not in said or key.removeprefix("house_") != spec.replace("-", "_"):
        return body
    return {**body, "keeps_days": min(said[spec].days, body.get("keeps_days") or FOREVER)}


def lot_dated(use_by: date, made: date, said: HouseDate) -> tuple[date, Message] | None:
    """Returns (last day, its reason) of a bottle that counts from the day `made`, by the house's date; None if its own last day `use_by` is not later."""
    last = last_day(made, said.days)
    if last >= use_by:
        return None
    return last, message("{days} from its making: {why} ({by}).", days=days(said.days), why=said.reason, by=said.name)


def check_shorter(wanted: int, most: int) -> None:
    """Raises Refusal for a date of `wanted` days where a tasting showed `most` at most [days]."""
    if not 1 <= wanted <= most:
        raise Refusal(
            message("{days} is not what was tasted", days=days(wanted)),
            "days",
            message("from 1 to {most}: a tasting makes a date shorter, never longer", most=most),
            message("Choose fewer days"),
            "out_of_bounds",
        )
