"""Doubts: the uncertain inputs of a spec, grouped per material, step and line, each with its ranges and its name in kitchen words."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from ..base.messages import Message, alone, message
from ..base.ranges import Range
from ..materials.composition import RISE_TOGETHER, ByParts, ByReading, Makeup
from ..materials.material import Material
from .estimate import MOST_GROUPS
from .flow import Flow, Inputs

DOUBT_OF = {
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
"""The doubt that a step brings, in kitchen words, by verb or family."""
BUNDLE = "bundle:rest"
"""The group of all small doubts when there are more than sixteen; they then move together, which errs on the wide side."""


def reading_of(makeup: Makeup) -> ByReading | None:
    """The readings that a makeup stands on: its own, or those of a whole fruit's juice."""
    if isinstance(makeup, ByParts):
        makeup = makeup.makeups.get("juice", makeup)
    return makeup if isinstance(makeup, ByReading) else None


def material_groups(material: Material) -> tuple[str, ...]:
    """The doubts that one material brings: its makeup as a whole, or a juice's °Bx and acid each."""
    if material.makeup.is_exact:
        return ()
    group = f"material:{material.key}"
    return (f"{group}:brix", f"{group}:acid") if reading_of(material.makeup) else (group,)


def rise_together(materials: Mapping[str, Material]) -> dict[tuple[str, str], float]:
    """°Bx and acid of a juice that nobody has read rise and fall together; a reading's own error does not."""
    unread = (
        key
        for key, material in materials.items()
        if (reading := reading_of(material.makeup)) and not (reading.brix_read or reading.acid_read)
    )
    return {(f"material:{key}:brix", f"material:{key}:acid"): RISE_TOGETHER for key in unread}


def ranges_by_group(inputs: Inputs, plain: Flow) -> dict[str, tuple[Range, ...]]:
    """The uncertain inputs behind each group: a material's makeup, a step's process figures, a line's amount."""
    found: dict[str, tuple[Range, ...]] = {}
    for done in plain.steps:
        for added in done.added:
            if added.own:
                continue
            makeup = inputs.materials[added.material].makeup
            reading = reading_of(makeup)
            for group in material_groups(inputs.materials[added.material]):
                if reading:
                    found[group] = (reading.brix_reading if group.endswith(":brix") else reading.acid_g_100ml,)
                elif isinstance(makeup, ByParts):
                    found[group] = tuple(
                        r for part in makeup.makeups.values() if not isinstance(part, ByReading) for r in part.g_per_100g.values()
                    )
                elif not isinstance(makeup, ByReading):
                    found[group] = tuple(makeup.g_per_100g.values())
        if done.doubts:
            found[f"step:{done.step.id}"] = done.doubts
        for line, ranges in done.line_doubts.items():
            found[f"line:{line}"] = ranges
    return found


def _weight_of(group: str, plain: Flow) -> float:
    """How much a group may matter, in grams: what went in of a material or line, what left at a step."""
    kind, _, rest = group.partition(":")
    if kind == "material":
        key = rest.partition(":")[0]
        return sum(added.mass_g for done in plain.steps for added in done.added if added.material == key)
    if kind == "line":
        return plain.masses.get(rest, 0.0)
    return sum(stream.contents.mass_g for done in plain.steps if done.step.id == rest for stream in done.leaving)


def doubtful_groups(groups: Iterable[str], plain: Flow) -> dict[str, tuple[str, ...]]:
    """Groups of uncertain inputs, by name, the weightiest first. At most sixteen."""
    ranked = sorted(groups, key=lambda group: -_weight_of(group, plain))
    if len(ranked) <= MOST_GROUPS:
        return {key: (key,) for key in ranked}
    return {key: (key,) for key in ranked[: MOST_GROUPS - 1]} | {BUNDLE: tuple(ranked[MOST_GROUPS - 1 :])}


def members_by_then(formed: Sequence[str], groups: Iterable[str]) -> dict[str, tuple[str, ...]]:
    """Returns the members of each group that a belief was `formed` about, now that `groups` of inputs are uncertain: no input stands in two of them.

    An input that the belief does not know goes into its bundle; if it has none, it becomes a group of its own, or the bundle is formed with more than sixteen.
    A group that is certain by now keeps its name and moves nothing.
    """
    alone = [group for group in formed if group != BUNDLE]
    new = [group for group in groups if group not in alone]
    if new and BUNDLE not in formed and len(alone) + len(new) <= MOST_GROUPS:
        return {group: (group,) for group in (*alone, *new)}
    bundle = {BUNDLE: tuple(new) or (BUNDLE,)} if new or BUNDLE in formed else {}
    return {group: bundle.get(group, (group,)) for group in (*formed, *(name for name in bundle if name not in formed))}


def group_name(group: str, inputs: Inputs) -> Message:
    """A group in kitchen words."""
    kind, _, key = group.partition(":")
    if kind == "material":
        key, _, reading = key.partition(":")
        name = inputs.materials[key].name
        if not reading:
            return alone(name)
        return message("{material}: its °Bx", material=name) if reading == "brix" else message("{material}: its acid", material=name)
    if kind == "line":
        return message("{material}: how much one is", material=inputs.materials[inputs.spec.lines[key].material].name)
    if kind == "step":
        step = next(step for step in inputs.spec.steps if step.id == key)
        return DOUBT_OF.get(step.verb) or DOUBT_OF.get(step.family, message("how the step goes"))
    return message("many small things")
