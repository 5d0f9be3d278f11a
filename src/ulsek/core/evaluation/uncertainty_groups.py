"""Groups of uncertain inputs of a spec: by material, step and line, each with its ranges and its name on screens."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from ..base.messages import Message, message, verbatim
from ..base.ranges import Range
from ..materials.composition import RISE_TOGETHER, ByParts, ByReading, Composition
from ..materials.material import Material
from ..spec.sentences import material_name
from .estimate import MOST_GROUPS
from .flow_values import Flow, Inputs
from .group_key import BUNDLE, GroupKey, line_key, material_keys, step_key

UNCERTAIN_IN = {
    "heat": message("steam"),
    "reduce": message("where the reduction stops"),
    "strain": message("what the sieve holds"),
    "filter": message("what the filters hold"),
    "juice": message("how much juice the fruit gives"),
    "macerate": message("how much the sugar draws"),
    "extract": message("how fast it comes out"),
    "clarify": message("what stays in the lees"),
    "freeze_drip": message("how the thaw drips"),
    "press": message("how much the press gives"),
    "prepare": message("how much comes off"),
    "carbonate": message("how much gas stays"),
    "serve": message("how much ice melts"),
}
"""What is uncertain in a step, as it is called on screens, by verb or family."""


def reading_of(composition: Composition) -> ByReading | None:
    """Returns the readings that a composition follows from: its own, or those of a whole fruit's juice. None if it does not follow from readings."""
    if isinstance(composition, ByParts):
        composition = composition.compositions.get("juice", composition)
    return composition if isinstance(composition, ByReading) else None


def material_groups(material: Material) -> tuple[GroupKey, ...]:
    """Returns the groups of a material: a juice's °Bx and acid, or the composition of anything else as a whole. None for an exact composition."""
    if material.composition.is_exact:
        return ()
    if reading_of(material.composition):
        return material_keys(material.key)[1:]
    return material_keys(material.key)[:1]


def correlations(materials: Mapping[str, Material]) -> dict[tuple[GroupKey, GroupKey], float]:
    """Returns the correlation [-] of °Bx and acid of each juice of which neither was read. Errors of readings are independent."""
    unread = (
        key
        for key, material in materials.items()
        if (reading := reading_of(material.composition)) and not (reading.brix_read or reading.acid_read)
    )
    return {material_keys(key)[1:]: RISE_TOGETHER for key in unread}


def _composition_ranges(composition: Composition, group: GroupKey) -> tuple[Range, ...]:
    reading = reading_of(composition)
    if reading:
        return (reading.brix_reading if group.figure == "brix" else reading.acid_g_100ml,)
    if isinstance(composition, ByParts):
        parts = (part for part in composition.compositions.values() if not isinstance(part, ByReading))
        return tuple(r for part in parts for r in part.g_per_100g.values())
    return () if isinstance(composition, ByReading) else tuple(composition.g_per_100g.values())


def ranges_by_group(inputs: Inputs, flow: Flow) -> dict[GroupKey, tuple[Range, ...]]:
    """Returns the uncertain inputs of each group of a flow: the composition of a material, the process figures of a step, the amount of a line."""
    found: dict[GroupKey, tuple[Range, ...]] = {}
    for done in flow.steps:
        for added in done.added:
            if not added.own:
                material = inputs.materials[added.material]
                found.update((group, _composition_ranges(material.composition, group)) for group in material_groups(material))
        if done.ranges:
            found[step_key(done.step.id)] = done.ranges
        found.update((line_key(line), ranges) for line, ranges in done.line_ranges.items())
    return found


def _weight_g(group: GroupKey, flow: Flow) -> float:
    """Returns the mass that ranks a group [g]: what went in of its material or line, or what left at its step."""
    if group.kind == "material":
        return sum(added.mass_g for done in flow.steps for added in done.added if added.material == group.key)
    if group.kind == "line":
        return flow.masses.get(group.key, 0.0)
    return sum(stream.contents.mass_g for done in flow.steps if done.step.id == group.key for stream in done.outgoing)


def bundled(groups: Iterable[GroupKey], flow: Flow) -> dict[GroupKey, tuple[GroupKey, ...]]:
    """Returns the members of each group to estimate, the largest mass first: every group by itself, or at most fifteen and the bundle of the rest."""
    # What little went in has little effect: those are bundled, not dropped.
    ranked = sorted(groups, key=lambda group: -_weight_g(group, flow))
    if len(ranked) <= MOST_GROUPS:
        return {key: (key,) for key in ranked}
    return {key: (key,) for key in ranked[: MOST_GROUPS - 1]} | {BUNDLE: tuple(ranked[MOST_GROUPS - 1 :])}


def rebundled(estimated: Sequence[GroupKey], groups: Iterable[GroupKey]) -> dict[GroupKey, tuple[GroupKey, ...]]:
    """Returns the members of each group that is `estimated` already, now that `groups` are the uncertain ones. No group is a member twice.

    A group that is not estimated yet joins the bundle; if there is none, it becomes a group of its own, or the bundle is formed with more than sixteen.
    A group that became certain keeps its key and has no effect.
    """
    single = [group for group in estimated if group != BUNDLE]
    new = [group for group in groups if group not in single]
    if new and BUNDLE not in estimated and len(single) + len(new) <= MOST_GROUPS:
        return {group: (group,) for group in (*single, *new)}
    bundle = {BUNDLE: tuple(new) or (BUNDLE,)} if new or BUNDLE in estimated else {}
    return {group: bundle.get(group, (group,)) for group in (*estimated, *(key for key in bundle if key not in estimated))}


def group_name(group: GroupKey, inputs: Inputs) -> Message:
    """Returns the name of a group as it is shown."""
    if group.kind == "material":
        name = inputs.materials[group.key].name
        if not group.figure:
            return verbatim(name)
        return message("{material}: its °Bx", material=name) if group.figure == "brix" else message("{material}: its acid", material=name)
    if group.kind == "line":
        line = inputs.spec.lines[group.key]
        return message("{material}: how much one is", material=material_name(line.material, inputs.materials, inputs.spec))
    if group.kind == "step":
        step = next(step for step in inputs.spec.steps if step.id == group.key)
        return UNCERTAIN_IN.get(step.verb) or UNCERTAIN_IN.get(step.family, message("how the step goes"))
    return message("many small things")
