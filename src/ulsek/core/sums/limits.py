"""Limit sums: the most of a restricted material in a batch, and of a spirited one in a drink."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..base.messages import Given, message, sentences, verbatim
from ..base.refusals import Refusal
from ..chemistry.constants import ETHANOL_G_ML
from ..materials.material import Material
from ..safety.hazards import FOLLOW, AsPoured, restricted_amounts
from .sheet import DROP, Ask, Sum, SumAnswer, SumFigure

_ALCOHOL: Mapping[str, bool | None] = {"with": True, "without": False, "either": None}


def most_restricted(of: Material, volume: float, dose: float, drink: float, alcohol: str, limits: Mapping[str, Any]) -> SumAnswer:
    """Returns the most [g] of a restricted material in `volume` [mL] of a prep, of which `dose` [mL] goes into a drink of `drink` [mL].

    Mass = limit / (high end of what one gram brings into the drink), for the substance that limits first. 1 L, 50 mL in 200 mL: 5.53 g of cinchona bark. Error:
    that of the contents, whose high end counts. Raises Refusal for a dose larger than its drink, and for a material that holds nothing restricted. Source: the
    limits' own, dated; mass balance.
    """
    if dose > drink:
        raise Refusal(
            message("{dose} mL do not go into {drink} mL", dose=Given(dose), drink=Given(drink)),
            "dose",
            message("at most {drink} mL", drink=Given(drink)),
            message("Check both figures"),
            "out_of_bounds",
        )
    # `said`: the drink is the one that was named here, not an assumed one.
    poured = AsPoured(dose, drink, _ALCOHOL[alcohol], said=True)
    found = restricted_amounts({of.key: 1.0}, {of.key: of}, volume, poured, limits)
    if not found:
        raise Refusal(
            message("Nothing restricted is known of {of}", of=of.name.lower()),
            "of",
            remedy=message("Choose another material"),
            code="unknown_material",
        )
    # Computed for one gram: the most is proportional to it, and the substance that limits first stands first.
    rows = [(item, item.at_most[0].most_g) for item in found]
    first = rows[0][0]
    return SumAnswer(
        (
            SumFigure(message("at most"), rows[0][1], "g"),
            *(SumFigure(message("{name} alone would allow", name=item.name), most, "g") for item, most in rows[1:]),
            SumFigure(message("in the drink then, at worst"), first.per_litre_mg.high * rows[0][1], "mg/L"),
            SumFigure(message("in one drink then, at worst"), first.per_serve_mg.high * rows[0][1], "mg"),
        ),
        message("limit × drink / dose × prep / (mg in one gram, its high end); {first}: {limit}", first=first.name, limit=first.limit),
        first.source,
        (sentences(first.words, FOLLOW), *(verbatim(item.source) for item, _ in rows[1:])),
    )


def most_spirited(strength: float, drink: float, most: float, drop: float) -> SumAnswer:
    """Returns the most [mL] of something of `strength` [% vol] in a drink of `drink` [mL] that stays at `most` [% vol] or below, also in drops of
    `drop` [mL].

    x = drink × most / strength. 45 % vol in 180 mL at 0.5 % vol: 2.0 mL. Error 1 %: contraction. Raises Refusal for a limit at or above the strength. Source:
    definition of strength by volume.
    """
    if strength <= most:
        raise Refusal(
            message("{strength} % vol never brings a drink above {most} % vol", strength=Given(strength), most=Given(most)),
            "strength",
            message("above {most} % vol", most=Given(most)),
            code="unreachable",
        )
    # Alcohol by volume is conserved; contraction changes the drink's volume by less than 1 % at such strengths.
    millilitres = drink * most / strength
    return SumAnswer(
        (
            SumFigure(message("at most"), millilitres, "mL"),
            SumFigure(message("by the dropper"), millilitres / drop, "drops"),
            SumFigure(message("alcohol in the drink then"), drink * most / 100.0 * ETHANOL_G_ML, "g"),
        ),
        message("drink × strength that it may have / strength of what goes in"),
        "definition of strength by volume",
        (message("What counts as free of alcohol differs by place: ask your authority."),),
    )


LIMIT_SUMS = (
    Sum(
        "most_restricted",
        "limits",
        message("At most how much of a bark, oil or tincture"),
        {
            "of": Ask(message("Which"), material=True, usual="cinchona_bark"),
            "volume": Ask(message("The batch makes"), "mL", 1.0, 1e6, 1000.0),
            "dose": Ask(message("Dose in a drink"), "mL", 0.01, 5000.0, 30.0),
            "drink": Ask(message("The drink as poured"), "mL", 1.0, 5000.0, 180.0),
            "alcohol": Ask(message("The drink is with alcohol"), allowed=tuple(_ALCOHOL), usual="either"),
        },
        most_restricted,
        message("the contents are estimates: their high end counts"),
        by_limits=True,
    ),
    Sum(
        "most_spirited",
        "limits",
        message("At most how much tincture for 0.5 % vol"),
        {
            "strength": Ask(message("It holds"), "% vol", 0.1, 97.0, 45.0, lends="abv"),
            "drink": Ask(message("The drink as poured"), "mL", 1.0, 5000.0, 180.0),
            "most": Ask(message("The drink may hold"), "% vol", 0.01, 20.0, 0.5),
            "drop": DROP,
        },
        most_spirited,
        message("1 %: volumes shrink a little"),
    ),
)
