"""Process history: how hot each thing in a product became after it went in, how long it stood warm, and from when its keeping is counted."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace

from .amounts import BY_PRODUCT, VESSEL
from .flow import Flow, StepFlow
from .materials import Material
from .matter import SHELF_C
from .properties.alcohol import abv
from .properties.density import volume_ml

_HEATS = ("heat", "extract", "clarify")
"""Families of verbs whose own temperature heats what is in the vessel. What is only stirred into something hot is not heated through."""
_STRONG_ABV = 20.0
_SHORTEST_MIN = 15.0
"""Waits below a quarter of an hour are work, not standing [min]; house experience."""


@dataclass(frozen=True, slots=True)
class ProcessHistory:
    """What happened to what stands in one vessel or stream.

    `heated_c`: for each material the hottest [°C] that its coldest part became since it went in; `hottest_c` of anything in it; `warm_min` minutes that it
    stood between the bounds of the danger zone with something perishable in it; times are minutes on the spec's clock.
    """

    heated_c: Mapping[str, float] = field(default_factory=dict)
    hottest_c: float = SHELF_C
    warm_min: float = 0.0
    warm_step: str = ""
    mixed_at_min: float | None = None
    heat_ends_min: float = 0.0
    cooled_at_min: float | None = None
    ends_min: float = 0.0

    def joined(self, other: ProcessHistory) -> ProcessHistory:
        """Both in one vessel: of each material the less heated part counts, of the times the unfavourable one."""
        heated = dict(self.heated_c)
        for key, hottest in other.heated_c.items():
            heated[key] = min(hottest, heated.get(key, hottest))
        mixed = [at for at in (self.mixed_at_min, other.mixed_at_min) if at is not None]
        cooled = [at for at in (self.cooled_at_min, other.cooled_at_min) if at is not None]
        longer = self if self.warm_min >= other.warm_min else other
        return ProcessHistory(
            heated,
            max(self.hottest_c, other.hottest_c),
            longer.warm_min,
            longer.warm_step,
            min(mixed, default=None),
            max(self.heat_ends_min, other.heat_ends_min),
            min(cooled, default=None),
            max(self.ends_min, other.ends_min),
        )

    def was_heated(self, danger_c: float) -> bool:
        """Whether anything in it reached `danger_c` [°C], the upper end of the danger zone; its keeping counts from the cooling then, else from the mixing."""
        return self.hottest_c >= danger_c

    def counted_from_min(self, danger_c: float) -> float:
        """Minute on the spec's clock from which its keeping counts: the end of its cooling, of its heat, or its mixing where nothing was heated."""
        if not self.was_heated(danger_c):
            return self.mixed_at_min or 0.0
        return self.cooled_at_min if self.cooled_at_min is not None and self.cooled_at_min >= self.heat_ends_min else self.heat_ends_min

    def stands_min(self, danger_c: float) -> float:
        """Minutes from there to the end of its last step: how old it is when it is ready."""
        return max(0.0, self.ends_min - self.counted_from_min(danger_c))


def _after(
    history: ProcessHistory, done: StepFlow, materials: Mapping[str, Material], warm: Mapping[str, float], *, skipped: bool
) -> ProcessHistory:
    """The history of a vessel after a step was done in it."""
    step, after = done.step, done.after.matter
    reached = after.temperature_c if step.family in _HEATS and not skipped else SHELF_C
    heated = {key: max(hottest, reached) for key, hottest in history.heated_c.items()}
    found = replace(history, heated_c=heated, hottest_c=max(history.hottest_c, reached), ends_min=max(history.ends_min, done.ends_min))
    if reached >= warm["below_c"] and step.verb != "cool":
        found = replace(found, heat_ends_min=done.ends_min)
    if step.verb == "cool" and not skipped:
        found = replace(found, cooled_at_min=done.ends_min)
    strong = after.liquor.of("ethanol") > 0 and abv(after.liquor.of("ethanol"), volume_ml(after.liquor)) >= _STRONG_ABV
    perishable = any(key in materials and not materials[key].defined for key in heated)
    stands = step.waiting_min if step.verb != "cool" and not skipped else 0.0
    if stands >= _SHORTEST_MIN and perishable and not strong and warm["above_c"] < after.temperature_c < warm["below_c"]:
        longest = step.id if stands > 0.5 * (history.warm_min + stands) else history.warm_step
        found = replace(found, warm_min=history.warm_min + stands, warm_step=longest or step.id)
    return found


def process_histories(
    flow: Flow, materials: Mapping[str, Material], warm: Mapping[str, float], skipped: Collection[str] = ()
) -> list[dict[str, ProcessHistory]]:
    """After each step the history of every vessel and by-product, by the name that a line calls it by (`vessel:ID`, `by_product:NAME`).

    `warm` holds the bounds of the danger zone (`above_c`, `below_c` [°C]). Heat of a `skipped` step does not count. Source: the flow's own temperatures
    and times.
    """
    now: dict[str, ProcessHistory] = {}
    found = []
    for done in flow.steps:
        home = f"{VESSEL}{done.step.vessel}"
        history = now.get(home, ProcessHistory())
        for added in done.added:
            if added.by_itself:
                continue
            came = now.get(added.material, ProcessHistory()) if added.own else ProcessHistory({added.material: SHELF_C})
            history = history.joined(came)
            if history.mixed_at_min is None and any(key in materials and not materials[key].defined for key in history.heated_c):
                history = replace(history, mixed_at_min=done.begins_min)
        history = _after(history, done, materials, warm, skipped=done.step.id in skipped)
        for stream in done.leaving:
            if stream.kept:
                name = f"{BY_PRODUCT}{stream.name}"
                now[name] = now[name].joined(history) if name in now else history
        target = f"{VESSEL}{done.step.into}" if done.step.into else home
        if target == home:
            now[home] = history
        elif done.step.verb == "split":
            now[home] = history
            now[target] = now[target].joined(history) if target in now else history
        else:
            now[target] = now[target].joined(history) if target in now else history
            now.pop(home, None)
        found.append(dict(now))
    return found
