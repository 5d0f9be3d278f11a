"""How much of each sample a panel takes."""

from __future__ import annotations

from collections.abc import Sequence

from ulsek.core.tasting.serving import pours
from ulsek.core.tasting.standards import portions_for

from .models import Panel, PanelSample, PanelState, Standard


def needed_ml(panel: Panel, samples: Sequence[PanelSample]) -> tuple[float, ...]:
    """Returns for each sample the volume of it that the whole panel is poured [mL], without the drink that it is served in. Raises Refusal if the panel's seed is not on
    this site.
    """
    design, serving = panel.planned, panel.served
    pages = [page for page in panel.pages if page.asks != "attributes"]
    doses = pours([sample.inside for sample in samples], serving) if serving.drink else None
    shares = [dose.ml / (dose.ml + serving.drink_ml) for dose in doses] if doses else [1.0] * len(samples)
    counted = [sum(page.samples.count(place) for page in pages) for place in range(len(samples))]
    return tuple(share * count * design.glass_ml for share, count in zip(shares, counted, strict=True))


def portions_needed(panel: Panel, samples: Sequence[PanelSample]) -> dict[int, int]:
    """Returns for each sample that is a frozen standard, by its place, how many portions are thawed [count]. Raises Refusal as `needed_ml` does."""
    frozen = {item.place: item.standard.portion_ml for item in samples if item.standard is not None and item.standard.kind == "frozen"}
    # Most panels have none: their pages need not be drawn for it.
    needed = needed_ml(panel, samples) if frozen else ()
    return {place: portions_for(needed[place], portion_ml) for place, portion_ml in frozen.items()}


def portions_held(standard: Standard, panel: Panel) -> int:
    """Returns how many portions of a frozen standard other open panels thaw [count]: they are counted off when those are told, since a smaller number would say what is
    tasted.
    """
    rows = PanelSample.objects.filter(standard=standard, panel__state=PanelState.OPEN).exclude(panel=panel).select_related("panel")
    return sum(
        portions_needed(row.panel, list(row.panel.samples.select_related("standard"))).get(row.place, 0) for row in rows if row.panel.seed
    )
