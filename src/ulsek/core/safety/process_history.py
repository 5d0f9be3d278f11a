"""Process history: the hottest temperature of each material after it went in, the time in the danger zone, and from when keeping is counted."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..materials.vessel_state import SHELF_C


@dataclass(frozen=True, slots=True)
class ProcessHistory:
    """The history of the content of one vessel or stream.

    `heated_c`: for each material the hottest temperature [°C] that its coldest part had since it went in; `hottest_c` of anything in it; `warm_min` minutes in
    the danger zone with something perishable in it; times are minutes on the clock of the spec.
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
        """Returns both in one vessel: of each material the less heated part, of the times the unfavourable one."""
        heated = dict(self.heated_c)
        for key, hottest in other.heated_c.items():
            # Raw juice poured onto cooked juice makes a mixture that is partly raw.
            heated[key] = min(hottest, heated.get(key, hottest))
        mixed = [at for at in (self.mixed_at_min, other.mixed_at_min) if at is not None]
        cooled = [at for at in (self.cooled_at_min, other.cooled_at_min) if at is not None]
        # Minutes are not added up: both parts stood warm at the same time, or one waited for the other.
        longer = self if self.warm_min >= other.warm_min else other
        return ProcessHistory(
            heated,
            max(self.hottest_c, other.hottest_c),
            longer.warm_min,
            longer.warm_step,
            # Counting starts with the older part.
            min(mixed, default=None),
            max(self.heat_ends_min, other.heat_ends_min),
            min(cooled, default=None),
            max(self.ends_min, other.ends_min),
        )

    def was_heated(self, danger_c: float) -> bool:
        """Returns True if anything in it reached `danger_c` [°C], the upper end of the danger zone; keeping then counts from the cooling, else from the mixing."""
        return self.hottest_c >= danger_c

    def counted_from_min(self, danger_c: float) -> float:
        """Returns the minute on the clock of the spec from which keeping counts: the end of its cooling, of its heat, or its mixing if nothing was heated."""
        # Heat sets the clock back only if it reached the end of the danger zone.
        if not self.was_heated(danger_c):
            return self.mixed_at_min or 0.0
        return self.cooled_at_min if self.cooled_at_min is not None and self.cooled_at_min >= self.heat_ends_min else self.heat_ends_min

    def stands_min(self, danger_c: float) -> float:
        """Returns the minutes from there to the end of its last step: its age when it is ready."""
        return max(0.0, self.ends_min - self.counted_from_min(danger_c))
