"""Solutions of acids, made up to the line."""

from __future__ import annotations

import math

from ..base.messages import Computed, Given, message, term
from ..base.refusals import Refusal
from ..base.weighing import resolution_remark
from ..chemistry.contents import Contents
from ..chemistry.substances import SUBSTANCES
from ..evaluation.line_mass import Reach, bring_to
from ..properties.acidity import acid_g_100ml, burette_ml
from ..properties.density import volume_ml
from ..properties.ph import ph
from ..properties.solubility import SOLUBILITY_ERROR, acid_solubility_g_100g
from .sheet import SumAnswer, SumFigure, SumPart, step

_BALANCE = "volumes at 20 °C by apparent volumes, mass balance"
CONCENTRATE_G_100ML = 10.0
"""From here on an acid solution is marked as none to drink; house experience, stricter than labelling law."""
_CHECKED_ML = 1.0
"""Volume of a solution [mL] that its titration takes."""


_USUAL_SOLUBILITY_ERROR = 0.03
"""Error of a tabulated solubility, as a share, where the acid has none of its own. House experience."""
_BASE_MOL_L = 0.1
"""Strength of the NaOH [mol/L] that a check is given for: the usual one of a bar. House experience."""


def _water_to_line(dry: Contents, strength: float, volume: float) -> float:
    """Returns the water [g] that fills dry acids up to `volume` [mL]. Raises Refusal if they do not fit into it, or do not dissolve in it at 20 °C."""
    # “To the line”: the acids take up room, so the water is less than the volume of the solution.
    water = bring_to(dry, [Reach("volume_ml", volume, "Water", Contents({"water": 1.0}))])[0] if volume_ml(dry) < volume else -1.0
    if water < 0:
        raise Refusal(
            message("{strength} g/100 mL do not fit", strength=Given(strength)),
            "strength",
            message("the acid alone takes more room than the line"),
            message("Make it weaker"),
        )
    # Refused only past the error of the table: what may dissolve is not refused.
    for key, mass in dry.grams.items():
        holds = water * acid_solubility_g_100g(key, 20.0) / 100.0
        if mass > holds * (1.0 + SOLUBILITY_ERROR.get(key, _USUAL_SOLUBILITY_ERROR)):
            raise Refusal(
                message(
                    "{mass} g of {substances} do not dissolve in {water} g of water",
                    mass=Computed(mass, decimals=0),
                    substances=SUBSTANCES[key].name,
                    water=Computed(water, decimals=0),
                ),
                "strength",
                message("at 20 °C so much water holds {holds} g", holds=Computed(holds, decimals=0)),
                message("Make it weaker, or share it with another acid"),
                "undissolved",
            )
    return water


def acid_solution(strength: float, volume: float, citric: float, malic: float, tartaric: float, scale_g: float) -> SumAnswer:
    """Returns the mass [g] of each acid and of water for `volume` [mL] of a solution of `strength` [g of acids per 100 mL], made up to the line.

    Shares by weight. 6 g/100 mL of citric to 100 mL: 6 g and 96.3 g of water. Error 0.1 %. Raises Refusal for shares of 0, and for acid that does not fit or
    dissolve. Source: apparent volumes of the acids.
    """
    shares = {"citric_acid": citric, "malic_acid": malic, "tartaric_acid": tartaric}
    total = math.fsum(shares.values())
    if total <= 0:
        raise Refusal(
            message("No acid has a share"),
            "citric",
            message("at least one must be above zero"),
            message("Give the shares, such as 50 and 50"),
        )
    # The strength is by weight of acids together, as it is weighed; the titratable acid stands beside it.
    grams = {key: strength * volume / 100.0 * share / total for key, share in shares.items() if share}
    dry = Contents(grams)
    water = _water_to_line(dry, strength, volume)
    made = dry + Contents({"water": water})
    figures = [SumFigure(term(SUBSTANCES[key].name), mass, "g") for key, mass in grams.items()]
    figures += [
        SumFigure(message("water, about"), water, "g"),
        SumFigure(message("titratable, as citric"), acid_g_100ml(made), "g/100 mL", key="acid_g_100ml"),
        SumFigure(message("pH"), ph(made), ""),
        SumFigure(
            message("NaOH of 0.1 mol/L that titrates {ml} mL of it", ml=Given(_CHECKED_ML)),
            burette_ml(made, _CHECKED_ML, _BASE_MOL_L),
            "mL",
        ),
    ]
    remarks = [
        message("Weigh the acids, dissolve in most of the water, make up to the line at 20 °C: adding acid to the full volume gives less.")
    ]
    remarks += [message("Concentrate, not a drink: its own marked bottle and dosing tool.")] if strength >= CONCENTRATE_G_100ML else []
    for key, mass in grams.items():
        remarks += resolution_remark(mass, scale_g, SUBSTANCES[key].name)
    parts = [SumPart(term(SUBSTANCES[key].name), mass, "g", "acid") for key, mass in grams.items()]
    return SumAnswer(
        tuple(figures),
        message("grams = strength × volume / 100, shared; water fills the line"),
        _BALANCE,
        tuple(remarks),
        (*parts, SumPart(message("water, to the line"), water, "g", "water")),
        step=step("combine", *grams.items()),
    )
