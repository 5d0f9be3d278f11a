"""State of one pass through the steps of a spec: what lines draw from, and where uncertain compositions stand."""

from __future__ import annotations

from collections.abc import Mapping

from ..base.messages import message
from ..base.refusals import Refusal
from ..chemistry.contents import Contents
from ..materials.material import Material
from ..materials.vessel_state import VesselState
from ..operations.amounts import BY_PRODUCT, VESSEL
from ..properties.density import density_g_ml
from .flow_values import Inputs, Snapshot
from .group_key import Positions, material_keys

EMPTY = Contents()


def vessel_of(vessels: Mapping[str, VesselState], name: str) -> VesselState:
    """Returns the state of a vessel of the spec. Raises Refusal for a name that none of its `vessels` has."""
    found = vessels.get(name)
    if found is None:
        raise Refusal(
            message("There is no vessel “{vessel}”", vessel=name),
            remedy=message("Name one of the spec's vessels"),
            code="unknown_reference",
        )
    return found


class PassState:
    """Vessels, by-products and line masses [g], as one pass changes them, with the `positions` of the uncertain inputs in this pass."""

    def __init__(self, inputs: Inputs, positions: Positions, start: Snapshot | None = None) -> None:
        """Begins at `start`; with empty vessels if that is None."""
        self.inputs, self.positions, self.lines = inputs, positions, inputs.spec.lines
        self.vessels = dict(start.vessels) if start else {key: VesselState() for key in inputs.spec.vessels}
        self.streams = dict(start.streams) if start else {}
        self.masses = dict(start.masses) if start else {}

    def snapshot(self) -> Snapshot:
        """Returns a copy of the state as it is now."""
        return Snapshot(dict(self.vessels), dict(self.streams), dict(self.masses))

    def material(self, key: str) -> Material:
        """Returns a material. Raises Refusal if there is none of this key."""
        found = self.inputs.materials.get(key)
        if found is None:
            raise Refusal(
                message("Nothing is known about “{key}”", key=key), remedy=message("Choose a material from Stores"), code="unknown_material"
            )
        return found

    def position_of(self, key: str) -> tuple[float, float]:
        """Returns where a material's composition stands [half-ranges]: a juice's °Bx, or the composition of anything else; and a juice's acid."""
        at = self.positions
        if not at:
            return 0.0, 0.0
        whole, brix, acid = material_keys(key)
        return at.get(whole, 0.0) + at.get(brix, 0.0), at.get(acid, 0.0)

    def own(self, key: str) -> VesselState | None:
        """Returns the by-product or vessel of this spec that `key` names; None for a material. Raises Refusal for a by-product that no step has left, and for
        a vessel that the spec does not have.
        """
        if key.startswith(BY_PRODUCT):
            name = key.removeprefix(BY_PRODUCT)
            if name not in self.streams:
                raise Refusal(
                    message("No earlier step leaves a by-product “{name}”", name=name),
                    remedy=message("Name it at the step that makes it"),
                    code="unknown_reference",
                )
            return self.streams[name]
        if not key.startswith(VESSEL):
            return None
        return vessel_of(self.vessels, key.removeprefix(VESSEL))

    def per_gram(self, key: str) -> Contents:
        """Returns the contents of one gram of a material, by-product or vessel [g by substance]; nothing for one that is empty."""
        own = self.own(key)
        if own is None:
            return self.material(key).per_gram(*self.position_of(key))
        return own.contents.scaled(1.0 / own.mass_g) if own.mass_g > 0 else EMPTY

    def density_g_ml(self, key: str) -> float:
        """Returns the density of a material, by-product or vessel as it is measured out [g/mL]. Raises Refusal where it is unknown."""
        own = self.own(key)
        return self.material(key).density_g_ml() if own is None else density_g_ml(own.contents)
