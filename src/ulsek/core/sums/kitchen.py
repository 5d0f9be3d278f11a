"""Kitchen sums: cups and grams, drops of saline, corrected readings, chains of concentrates, gas in a siphon, reductions and the power of a pot."""

from __future__ import annotations

from ..base import number_format
from ..base.messages import Computed, Given, message
from ..base.ranges import Range
from ..base.refusals import Refusal
from ..base.units import parse_quantity
from ..chemistry.contents import Contents
from ..materials.material import Material
from ..properties import carbonation, energy, sugar
from ..properties.alcohol import mass_fraction_from_abv
from ..properties.density import density_g_ml
from .sheet import DROP, Ask, Sum, SumAnswer, SumFigure, SumPart, step

_BUFFER_ACID, _BUFFER_NEUTRAL = 4.01, 7.00
"""pH of the two buffers at 25 °C: phthalate and phosphate. Source: NIST standard buffers."""
_LEAST_SLOPE, _MOST_SLOPE = 0.5, 1.2
"""Slope of an electrode, as a share of the ideal 59.16 mV, outside which the buffers were mixed up or are spoiled. House experience."""
_TIRED_SLOPE = 0.92
"""Slope below which an electrode is dry or old. House experience."""
_PH_ERROR = 0.05
"""Error of a pH read between two buffers. House experience."""
_SYRUP_LIFT_PH, _LIFT_AT_BRIX, _MOST_LIFT_BRIX = 0.3, 50.0, 70.0
"""A syrup reads low, by at most so much at 50 °Bx and in proportion up to 70 °Bx; below 10 °Bx it is not mentioned. House experience."""
_GAS_SPREAD, _GAS_SPREAD_WITH_ALCOHOL = 0.03, 0.1
"""Error of the dissolved gas, as a share. Source: Carroll, Slupsky and Mather 1991; with alcohol, which holds more gas than water, a judgement."""
_GAS_LEFT = Range(0.7, 0.55, 0.85)
"""Share of the gas that is left after opening and pouring. House experience."""
_SIPHON_FILL = 0.9
"""Share of a siphon's brim volume up to which it may be filled: gas needs head room. House experience."""


def cups_to_grams(amount: float, unit: str, locale: str, material: Material) -> SumAnswer:
    """Returns the mass [g] of cups or spoons of a material, by its bulk density and its range; and the reverse. 2 metric cups of white sugar: 423 g, 412 to
    433.

    Error: how loosely it is filled. Source: the material's own bulk density, compiled.
    """
    millilitres = parse_quantity(f"{number_format.given(amount)} {unit}", locale).value  # type: ignore[arg-type]
    spread = material.poured_g_ml
    # The range of a cup is the range of its filling: a material of known density has none.
    each = spread.value
    low, high = (None, None) if spread.is_exact else (millilitres * spread.low, millilitres * spread.high)
    return SumAnswer(
        (
            SumFigure(message("weight"), millilitres * each, "g", low, high),
            SumFigure(message("volume"), millilitres, "mL"),
            # The way back: measures per gram, from the volume of one measure.
            SumFigure(message("100 g are, in {unit}", unit=unit), 100.0 / each / (millilitres / amount), ""),
        ),
        message("mL of the measure × g per mL of the material"),
        "bulk density, compiled; weigh it once and it is the house's own",
        step=step("combine", (material.key, millilitres * each)),
    )


def grams_by_drop(salt: float, strength: float, drop_ml: float) -> SumAnswer:
    """Returns the drops of a saline of `strength` [g/100 mL] that carry `salt` [g]. 0.1 g of 20 g/100 mL at 0.05 mL: 10 drops. Error: that of the dropper.
    Source: definition.
    """
    # A drop carries strength × its volume; the count is not rounded before the last step.
    drops = salt / (strength / 100.0 * drop_ml)
    return SumAnswer(
        (
            SumFigure(message("drops"), drops, ""),
            SumFigure(message("rounded"), round(drops), "drops"),
            SumFigure(message("in one drop"), 1000.0 * strength / 100.0 * drop_ml, "mg"),
            SumFigure(message("volume"), drops * drop_ml, "mL"),
        ),
        message("grams / (strength × mL of a drop)"),
        "definition; calibrate the dropper once by weighing twenty drops",
    )


def reading(shown: float, at: float, acid: float) -> SumAnswer:
    """Returns the true solids [°Bx] when a refractometer without compensation shows `shown` [°Bx] at `at` [°C] in a liquid of `acid` [% w/w].

    Temperature first, then the shift by acid. 50.0 at 28 °C: 50.67. Error 0.1 °Bx. Sources: ICUMSA; citrus juice trade.
    """
    # Temperature first: the table of the refractometer is for sugar, and the shift by acid was measured at 20 °C.
    at_20 = sugar.corrected_to_20(shown, at)
    return SumAnswer(
        (
            SumFigure(message("true solids"), sugar.true_from_reading(at_20, acid), "°Bx"),
            SumFigure(message("at 20 °C it would show"), at_20, "°Bx"),
        ),
        message("brought to 20 °C by the table, then what acid makes it miss"),
        "ICUMSA SPS-4, tables of 1936 and 1974; citrus juice trade correction",
    )


def ph_reading(shown: float, low: float, high: float, sugar: float) -> SumAnswer:
    """Returns the pH [-] of a meter that shows `low` in the buffer of 4.01 and `high` in that of 7.00 [25 °C]: a straight line through both.

    3.10 read by a meter that shows 4.11 and 7.00 is 2.96. `sugar` [°Bx] only widens the range: a syrup of 50 °Bx reads 0.1 to 0.3 low. Error 0.05. Raises
    Refusal for buffers whose slope cannot be right. Source: two-point calibration.
    """
    # An electrode's voltage is linear in pH, and both ends of its line drift with age: two buffers determine the line.
    slope = (high - low) / (_BUFFER_NEUTRAL - _BUFFER_ACID)
    if not _LEAST_SLOPE <= slope <= _MOST_SLOPE:
        raise Refusal(
            message("The two buffers do not tell a slope"),
            "high",
            message("it would be {slope} %", slope=Computed(100 * slope, decimals=0)),
            message("Fresh buffers, then again"),
            "unreachable",
        )
    true = _BUFFER_ACID + (shown - low) / slope
    # Sugar lowers the activity of water at the glass, so the true pH lies above what is shown, never below.
    lifted = _SYRUP_LIFT_PH * min(sugar, _MOST_LIFT_BRIX) / _LIFT_AT_BRIX
    remarks = [message("pH is not acidity: dose by titration, judge safety by pH.")]
    if slope < _TIRED_SLOPE:
        remarks.append(
            message(
                "A slope of {slope} % says the probe is old or dry: soak it, then check again.", slope=Computed(100 * slope, decimals=0)
            )
        )
    if sugar > 10:
        remarks.append(
            message("Sugar lowers what it shows; the true figure may lie higher: dilute one to one with distilled water to see.")
        )
    return SumAnswer(
        (SumFigure(message("pH"), true, "", true - _PH_ERROR, true + _PH_ERROR + lifted), SumFigure(message("slope"), 100.0 * slope, "%")),
        message("4.01 + (shown − shown in 4.01) / slope"),
        "two-point calibration, buffers at 25 °C",
        tuple(remarks),
    )


def carbonate(temperature: float, pressure: float, brix: float, strength: float) -> SumAnswer:
    """Returns the gas in a drink of `brix` [°Bx] and `strength` [% vol] at equilibrium under `pressure` [kPa above the air] at `temperature` [°C].

    Water at 4 °C and 130 kPa: 6.6 g/L, 3.3 volumes. Error 3 %, 10 % with alcohol. Source: Henry's law, Carroll, Slupsky and Mather 1991.
    """
    # `strength` is by volume of the drink without its sugar, so its mass is a share of what is not sugar.
    share = mass_fraction_from_abv(strength) * (1.0 - brix / 100.0)
    drink = Contents({"water": 1.0 - brix / 100.0 - share, "sucrose": brix / 100.0, "ethanol": share})
    found = carbonation.carbonation_g_l(drink, temperature, pressure)
    spread = _GAS_SPREAD_WITH_ALCOHOL if strength else _GAS_SPREAD
    return SumAnswer(
        (
            SumFigure(message("gas dissolved"), found, "g/L", found * (1.0 - spread), found * (1.0 + spread)),
            SumFigure(message("volumes"), carbonation.volumes(found), ""),
            SumFigure(
                message("left after opening and pouring"), _GAS_LEFT.value * found, "g/L", _GAS_LEFT.low * found, _GAS_LEFT.high * found
            ),
        ),
        message("Henry's law in the water that is there"),
        "Carroll, Slupsky and Mather 1991; loss on pouring is house experience",
        (message("Only a vessel rated for it. Ice cold, clear and still holds best: pulp makes it gush."),),
    )


def concentrate_chain(oil: float, concentrate: float, into_syrup: float, syrup: float, dose: float, drink: float) -> SumAnswer:
    """Returns the content [mg/L] of a drink by a concentrate and a syrup: each step dilutes the one before.

    5 g in 100 g, 10 g of that in 1000 g of syrup, 40 g of syrup in 250 g of drink: 80 mg/kg. Exact. Raises Refusal for a part that is larger than its whole.
    Source: mass balance.
    """
    if into_syrup > syrup or dose > drink or oil > concentrate:
        raise Refusal(
            message("A part is larger than its whole"),
            "oil",
            message("each amount must fit into the next"),
            message("Check the chain from the top"),
        )
    # Each step multiplies by the share of the one before in it; the masses of the steps need not be those of one day.
    in_concentrate = oil / concentrate
    in_syrup = in_concentrate * into_syrup / syrup
    in_drink = in_syrup * dose / drink
    return SumAnswer(
        (
            SumFigure(message("in the drink"), 1e6 * in_drink, "mg/kg"),
            SumFigure(message("in one drink"), 1000.0 * in_drink * drink, "mg"),
            SumFigure(message("in the syrup"), 1e6 * in_syrup, "mg/kg"),
            SumFigure(message("drinks from the concentrate"), concentrate / (into_syrup / syrup * dose), ""),
        ),
        message("load × share of each in the next"),
        "mass balance",
        (message("Powerful materials by weight, food grade; a limit is judged in the drink as served."),),
    )


def siphon(fill: float, size: float, charger: float, temperature: float, brix: float) -> SumAnswer:
    """Returns the gas in a siphon of `size` [mL] with `fill` [mL] at `temperature` [°C] and `brix` [°Bx] from a charger of `charger` [g], shaken to
    equilibrium.

    900 mL of water in 1 L at 4 °C with 8 g: 8.3 g/L. Error 10 %. Source: Henry's law.
    """
    # Density first: the siphon is filled by volume, and Henry's law counts the mass of water in it.
    per_ml = density_g_ml(Contents({"water": 1.0 - brix / 100.0, "sucrose": brix / 100.0}))
    liquid = Contents({"water": fill * per_ml * (1.0 - brix / 100.0), "sucrose": fill * per_ml * brix / 100.0})
    found = carbonation.charge(liquid, temperature, size, charger)
    return SumAnswer(
        (
            SumFigure(message("gas dissolved"), found.dissolved_g_l, "g/L"),
            SumFigure(message("volumes"), found.volumes, ""),
            SumFigure(message("pressure"), found.gauge_kpa, "kPa above the air"),
        ),
        message("Henry's law between the liquid and its head room"),
        "Carroll, Slupsky and Mather 1991",
        (
            message(
                "Fill it to {size} mL at most. Only a siphon rated for it, with its valve checked.",
                size=Computed(_SIPHON_FILL * size, decimals=0),
            ),
        ),
        (SumPart(message("liquid"), fill, "mL", "water"), SumPart(message("head room"), size - fill, "mL", "rest")),
    )


def reduction(mass: float, have: float, want: float, power: float) -> SumAnswer:
    """Returns the mass to stop at, the steam [g] and the time [min] for boiling `mass` [g] from `have` to `want` [°Bx] with `power` [W] into steam.

    2000 g of 15.5 to 40 °Bx: stop at 775 g, 1225 g of steam. Error of the time: that of the power. Raises Refusal for a target that it has passed. Source: mass
    and energy balance.
    """
    if want <= have:
        raise Refusal(
            message("{want} °Bx is behind it already", want=Given(want)),
            "want",
            message("it reads {have}", have=Given(have)),
            message("Dilute it instead"),
            "unreachable",
        )
    # Only water leaves, so the mass of solids before and after is the same: m·B₀ = m₁·B₁.
    ends = mass * have / want
    return SumAnswer(
        (
            SumFigure(message("stop at"), ends, "g"),
            SumFigure(message("steam"), mass - ends, "g"),
            # At 100 °C: the boiling point rises by some degrees on the way, which changes the latent heat by less than 1 %.
            SumFigure(message("minutes"), energy.minutes_to_drive_off(mass - ends, 100.0, power), "min"),
        ),
        message("weight × have / want; steam × latent heat / power"),
        "mass balance; steam tables",
        (message("Weigh pot and juice together; a pot's power is learned from two weighings."),),
        (SumPart(message("stays"), ends, "g", "sugar"), SumPart(message("steam"), mass - ends, "g", "water")),
        step={"verb": "reduce", "to_mass_g": round(ends, 1)},
    )


def pot_power(lost: float, minutes: float, mass: float, brix: float, start: float) -> SumAnswer:
    """Returns the net power [W] of a boiling pot that lost `lost` [g] in `minutes` [min], and the time [min] in which it brings a liquid to 100 °C.

    The liquid is `mass` [g] of `brix` [°Bx] at `start` [°C]. 160 g in 5 min: 1204 W; 1 kg of water from 20 °C: 4.6 min. Error 2 % of the loss, plus the scale's;
    the time 3 %. Raises Refusal for a loss or a time out of bounds. Source: energy balance, steam tables.
    """
    # All heat goes into steam once the pot boils, so its loss of mass measures the power that reaches the liquid.
    power = energy.power_from_weighings_w(lost, minutes)
    liquid = Contents({"water": mass * (1.0 - brix / 100.0), "sucrose": mass * brix / 100.0})
    return SumAnswer(
        (
            SumFigure(message("power into the pot"), power, "W"),
            SumFigure(message("to the boil in"), energy.minutes_to_heat(liquid, start, 100.0, power), "min"),
        ),
        message("what left as steam × latent heat / time; weight × heat capacity × rise / power"),
        "energy balance; steam tables",
        (message("Weigh the pot at a full boil, with the lid as you use it."),),
    )


KITCHEN_SUMS = (
    Sum(
        "cups_to_grams",
        "kitchen",
        message("Cups and spoons to grams, and back"),
        {
            "amount": Ask(message("Amount"), "", 0.01, 1000.0),
            "unit": Ask(message("Of"), allowed=("cup", "tbsp", "tsp", "fl oz", "pint"), usual="cup"),
            "locale": Ask(message("Cups of"), allowed=("metric", "us", "imperial"), usual="metric", aside=True),
            "material": Ask(message("Material"), material=True),
        },
        cups_to_grams,
        message("how loosely it lies: the range shown"),
    ),
    Sum(
        "grams_by_drop",
        "kitchen",
        message("Salt by the drop"),
        {
            "salt": Ask(message("Salt wanted"), "g", 0.0001, 100.0),
            "strength": Ask(message("Saline"), "g/100 mL", 0.1, 35.0, 20.0),
            "drop_ml": DROP,
        },
        grams_by_drop,
        message("the dropper, 10 % until it is calibrated"),
    ),
    Sum(
        "reading",
        "readings",
        message("A refractometer corrected"),
        {
            "shown": Ask(message("It shows"), "°Bx", 0.0, 80.0),
            "at": Ask(message("At"), "°C", 10.0, 40.0, 20.0),
            "acid": Ask(message("Acid"), "% w/w", 0.0, 10.0, 0.0),
        },
        reading,
        message("0.1 °Bx"),
    ),
    Sum(
        "ph_reading",
        "readings",
        message("A pH meter corrected"),
        {
            "shown": Ask(message("It shows"), "", 0.0, 14.0),
            "low": Ask(message("In the buffer of 4.01"), "", 2.0, 6.0, 4.01),
            "high": Ask(message("In the buffer of 7.00"), "", 5.0, 9.0, 7.0),
            "sugar": Ask(message("Sugar in it"), "°Bx", 0.0, 80.0, 0.0, lends="brix"),
        },
        ph_reading,
        message("0.05, more in syrup"),
    ),
    Sum(
        "carbonate",
        "gas",
        message("Gas at a pressure and temperature"),
        {
            "temperature": Ask(message("At"), "°C", 0.0, 30.0, 3.0),
            "pressure": Ask(message("Pressure above the air"), "kPa", 0.0, 1000.0),
            "brix": Ask(message("Sugar"), "°Bx", 0.0, 60.0, 0.0, lends="brix"),
            "strength": Ask(message("Alcohol"), "% vol", 0.0, 40.0, 0.0, lends="abv"),
        },
        carbonate,
        message("3 %, 10 % with alcohol"),
    ),
    Sum(
        "concentrate_chain",
        "drink",
        message("Concentrate to syrup to drink"),
        {
            "oil": Ask(message("Oil or extract"), "g", 0.0001, 1e5),
            "concentrate": Ask(message("in concentrate"), "g", 0.01, 1e6),
            "into_syrup": Ask(message("Concentrate"), "g", 0.0001, 1e5),
            "syrup": Ask(message("in syrup"), "g", 0.1, 1e6),
            "dose": Ask(message("Syrup"), "g", 0.01, 1e5),
            "drink": Ask(message("in a drink"), "g", 1.0, 1e5),
        },
        concentrate_chain,
        message("exact; as good as the weighings"),
    ),
    Sum(
        "siphon",
        "gas",
        message("What a charger gives"),
        {
            "fill": Ask(message("Liquid"), "mL", 10.0, 20000.0),
            "size": Ask(message("Siphon, brim"), "mL", 50.0, 20000.0, 1000.0),
            "charger": Ask(message("Charger"), "g", 1.0, 100.0, 8.0),
            "temperature": Ask(message("At"), "°C", 0.0, 30.0, 4.0),
            "brix": Ask(message("Sugar"), "°Bx", 0.0, 60.0, 0.0, lends="brix"),
        },
        siphon,
        message("10 %"),
    ),
    Sum(
        "reduction",
        "kitchen",
        message("How far to boil it down, how long"),
        {
            "mass": Ask(message("Weight"), "g", 1.0, 1e6),
            "have": Ask(message("It reads"), "°Bx", 0.1, 80.0, lends="brix"),
            "want": Ask(message("It should read"), "°Bx", 0.1, 85.0),
            "power": Ask(message("Power into steam"), "W", 50.0, 20000.0, 1200.0),
        },
        reduction,
        message("weight exact; the time as good as the power"),
    ),
    Sum(
        "pot_power",
        "kitchen",
        message("A pot's power, by two weighings"),
        {
            "lost": Ask(message("It lost"), "g", 0.1, 1e5),
            "minutes": Ask(message("In"), "min", 0.1, 600.0),
            "mass": Ask(message("To heat up"), "g", 1.0, 1e6, 1000.0, aside=True),
            "brix": Ask(message("Which reads"), "°Bx", 0.0, 80.0, 0.0, aside=True, lends="brix"),
            "start": Ask(message("From"), "°C", 0.0, 99.0, 20.0, aside=True),
        },
        pot_power,
        message("2 % of what it lost, and the scale"),
    ),
)
