"""Hazards of the process: flame and spirit, strong acid, raw egg, slow cooling, metal and acid, and processes that need a permit.

These are the usual cautions of the trade, not rules of a place: each ends with the local code and the authority.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence

from ..base.figures import quantity
from ..base.messages import Computed, Given, message, sentences
from ..base.remarks import Remark
from ..evaluation.flow_values import Flow, StepFlow
from ..materials.material import Material
from ..operations.finish import COOLING_MIN
from ..properties.measure import measure
from ..safety.hazards import FOLLOW
from ..spec.spec import Spec

STRONG_ACID_G_100ML = 8.0
"""Sourer than any citrus: from here an acid solution burns eyes and is no drink; house prudence."""
EGG_SAFE_C = 70.0
_NO_SPIRIT_ABV = 0.5
"""Strength [% vol] up to which a drink counts as free of alcohol in most places; house prudence."""
_TAKES_METAL_G_100ML = 1.0
"""Titratable acid [g/100 mL] from which a reactive metal is taken up overnight; house experience."""
NEEDS_A_PLAN = ("low_acid", "herb_in_oil", "nut", "dairy", "egg")
_BURNS_ABV = 20.0
_REACTIVE = ("aluminium", "aluminum", "copper", "brass", "unlined", "cast iron")


def _of_spirit(done: StepFlow, where: str, before: float, after: float) -> Iterator[Remark]:
    if done.step.family == "heat" and before > _NO_SPIRIT_ABV:
        text = message(
            "Spirit doesn't all boil off: {after} of {before} remain.", after=quantity("abv", after), before=quantity("abv", before)
        )
        yield Remark("spirit_remains", "check", where, text, message("Declare it; never call it free from alcohol"))
    if done.step.family == "heat" and before >= _BURNS_ABV:
        text = message("Spirit of {abv} on heat gives off vapour that burns.", abv=quantity("abv", before))
        yield Remark("spirit_on_heat", "stop", where, text, sentences(message("Add the spirit off the heat, away from flame."), FOLLOW))
    if done.step.verb == "freeze_drip" and before > _NO_SPIRIT_ABV:
        text = message("Concentrating alcohol by freezing is ruled by law in many places.")
        yield Remark("law_concentrating", "check", where, text, sentences(message("Ask whether it needs a licence."), FOLLOW))
    if done.step.verb in ("infuse", "vacuum_infuse") and before > _NO_SPIRIT_ABV:
        text = message("Infusing spirit behind a bar is allowed in some places and not in others.")
        yield Remark("law_infusing", "note", where, text, FOLLOW)


def _of_vessel(done: StepFlow, where: str, vessel: str) -> Iterator[Remark]:
    # Acid matters only where the vessel gives metal off.
    acid = measure(done.before.liquid).get("acid_g_100ml", 0.0) if any(metal in vessel.lower() for metal in _REACTIVE) else 0.0
    if acid >= _TAKES_METAL_G_100ML:
        text = message("{acid} of acid stand in the {vessel}: acid takes metal up.", acid=quantity("acid_g_100ml", acid), vessel=vessel)
        yield Remark("reactive_metal", "stop", where, text, message("Use glass, food plastic or stainless steel"))


def _of_egg(flow: Flow, materials: Mapping[str, Material]) -> Iterator[Remark]:
    """Yields a remark on egg that no later heat cooks: what the vessel saw before it went in does not count."""
    hottest: dict[str, float] = {}
    raw: dict[str, str] = {}
    for done in flow.steps:
        if any(not added.own and materials[added.material].kind == "egg" for added in done.added):
            # Heat before the egg went in has cooked nothing of it, so the record starts anew.
            raw[done.step.vessel] = done.step.id
            hottest[done.step.vessel] = 0.0
        if done.step.vessel in raw:
            # A vessel that was hotter before keeps that as its hottest: only a new high belongs to this step.
            heated = done.state.hottest_c if done.state.hottest_c > done.before.hottest_c else done.temperature_c
            hottest[done.step.vessel] = max(hottest[done.step.vessel], heated)
    for vessel, step in raw.items():
        if hottest[vessel] < EGG_SAFE_C:
            text = message("Egg goes in and never reaches {egg_safe} °C.", egg_safe=Given(EGG_SAFE_C))
            yield Remark(
                "raw_egg",
                "check",
                f"steps/{step}",
                text,
                sentences(message("Pasteurised egg, made and served the same day, said on the menu."), FOLLOW),
            )


def process_hazards(
    spec: Spec, flow: Flow, figures: Sequence[Mapping[str, float]], materials: Mapping[str, Material], keeping_class: str
) -> Iterator[Remark]:
    """Yields the hazards of the steps of a flow to the maker or the guest, each at its step; `figures` are those after each step."""
    for done, after in zip(flow.steps, figures, strict=True):
        where = f"steps/{done.step.id}"
        if done.before.liquid.of("ethanol"):
            yield from _of_spirit(done, where, measure(done.before.liquid).get("abv", 0.0), after.get("abv", 0.0))
        yield from _of_vessel(done, where, spec.vessels[done.step.vessel].name)
        if done.step.verb == "cool" and done.step.waiting_min > COOLING_MIN:
            text = message(
                "It cools over {waiting} h: too long between 57 and 5 °C.", waiting=Computed(done.step.waiting_min / 60.0, decimals=1)
            )
            yield Remark(
                "slow_cooling",
                "check",
                where,
                text,
                sentences(message("Ice bath or shallow pans: 21 °C within 2 h, 5 °C within 6 h."), FOLLOW),
            )
        if done.step.verb in ("bottle", "hot_fill") and after.get("acid_g_100ml", 0.0) >= STRONG_ACID_G_100ML:
            text = message("{acid} of acid: it burns, and looks like water.", acid=quantity("acid_g_100ml", after["acid_g_100ml"]))
            remedy = message("Mark it “concentrate, not a drink”, its own dosing tool, never a drinks bottle; goggles and gloves")
            yield Remark("strong_acid", "check", where, text, remedy)
        if done.step.verb in ("vacuum_infuse", "hot_fill") and keeping_class in NEEDS_A_PLAN:
            text = message("Packing without air, or hot, to make a low-acid food keep may need an approved plan.")
            yield Remark("approved_plan", "check", where, text, sentences(message("Keep it cold and short until there is one."), FOLLOW))
    yield from _of_egg(flow, materials)
