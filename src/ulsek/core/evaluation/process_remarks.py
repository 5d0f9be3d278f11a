"""Remarks on a flow: what to watch at each step, and what only the whole shows."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from functools import partial

from ..base.messages import NOTHING, Computed, Given, grams, listed, message, minutes, sentences, term
from ..base.refusals import Refusal
from ..base.remarks import Remark
from ..chemistry.contents import Contents
from ..materials.material import Material
from ..operations.amounts import VESSEL
from ..properties.density import volume_ml
from ..properties.solubility import Crystals, crystals, may_stay_undissolved
from ..properties.sugar import undissolved_sucrose_g
from ..spec import spec as s
from .browning import browning_remarks
from .flow_values import Flow, Inputs, StepFlow

_LEAST_WATER, _TABLES_TO_C = 0.05, 50.0
"""Mass share of water [g/g] below which nothing is said of what dissolves, and the highest temperature of the solubility tables [°C]. House judgement."""
_TOLD_SHARE = 0.001
"""Mass share of a vessel from which undissolved matter is mentioned. House judgement."""
_SCALED_UP_FROM = 2.0
"""Multiple of the spec above which effects that do not scale are mentioned. House experience."""
UNDISSOLVED_G = 0.5
HOT_C = 85.0
_MAY_STAY_DRY = ("macerate", "dry_mix", "caramelise", "label", "clean", "discard", "freeze", "wash", "toast", "dehydrate")
_ROOM_SHARE = {"carbonate": 0.85, "freeze": 0.9, "freeze_drip": 0.9}
"""Share of a vessel's capacity that may be filled where gas or ice needs room, unless the vessel has a line of its own; house prudence."""
_SLOW_TO_COME = ("potassium_bitartrate", "glucose", "trisodium_citrate")
"""What came in dissolved and takes its time to crystallise: not spoken of until it stands."""
_STANDS_COLD = ("bottle", "hot_fill", "store", "cool", "rest")


def _dry_sugar(done: StepFlow) -> bool:
    """Returns True if sugar lies dry in a vessel: there is too little water to dissolve it."""
    liquid = done.state.liquid
    return liquid.of("water") <= 0 or undissolved_sucrose_g(liquid, min(100.0, max(0.0, done.temperature_c))) > UNDISSOLVED_G


def _dissolves_at(flow: Flow, place: int, dry: Callable[[StepFlow], bool] = _dry_sugar) -> s.Step | None:
    """Returns the later step at which what is `dry` after step `place` has dissolved, followed from vessel to vessel; None if it never does.

    What a sieve or a filter keeps has left the batch and does not count as dissolved.
    """
    vessels = {flow.steps[place].vessel}
    # Followed into whatever vessel it is poured: sugar may dissolve two vessels further on.
    for done in flow.steps[place + 1 :]:
        drawn = {item.material.removeprefix(VESSEL) for item in done.added if item.material.startswith(VESSEL)}
        if done.step.vessel not in vessels and not drawn & vessels:
            continue
        if done.step.family in ("strain", "clarify"):
            return None
        vessels |= {done.step.vessel, done.vessel}
        if not dry(done):
            return done.step
    return None


def _undissolved(liquid: Contents, t_c: float) -> dict[str, Crystals]:
    """Returns the undissolved mass [g] by substance, sugar apart, from a thousandth of the vessel; empty above the temperatures of the tables."""
    if liquid.of("water") < _LEAST_WATER * liquid.mass_g or t_c > _TABLES_TO_C:
        return {}
    return {
        found.substance: found
        for found in crystals(liquid, max(0.0, t_c))
        if found.substance != "sucrose" and found.mass_g >= _TOLD_SHARE * liquid.mass_g
    }


def _of_sugar(flow: Flow, place: int, where: str, dry_g: float) -> Remark:
    step, t_c = flow.steps[place].step, flow.steps[place].temperature_c
    # In the cold it crystallises in time and may be wanted so; anywhere else it should dissolve now.
    cold = step.verb in _STANDS_COLD
    later = None if cold else _dissolves_at(flow, place)
    if later is not None:
        text = message(
            "{mass} of sugar are still dry at {t} °C; they dissolve at step {number}.",
            mass=grams(dry_g),
            t=Given(t_c),
            number=_number(flow, later),
        )
        return Remark("sugar_dissolves_later", "note", where, text)
    if cold:
        text = message("{mass} of sugar come out as crystals at {t} °C.", mass=grams(dry_g), t=Given(t_c))
        remedy = message("More water, or part of the sugar as glucose or invert syrup")
    else:
        text = message("{mass} of sugar stay undissolved at {t} °C.", mass=grams(dry_g), t=Given(t_c))
        remedy = message("More water or more heat")
    return Remark("sugar_undissolved", "check" if cold else "stop", where, text, remedy)


def _number(flow: Flow, step: s.Step) -> int:
    """Returns the place of a step, counted from 1."""
    return next(n for n, done in enumerate(flow.steps, 1) if done.step is step)


def _of_crystals(flow: Flow, place: int, where: str) -> Iterator[Remark]:
    """Yields remarks on acids, salts, glucose, sugar alcohols and cream of tartar that crystallise in the cold or never dissolve."""
    done = flow.steps[place]
    cold = done.step.verb in _STANDS_COLD
    if done.step.verb in _MAY_STAY_DRY or not (cold or may_stay_undissolved(done.state.liquid)):
        return
    for key, found in _undissolved(done.state.liquid, done.temperature_c).items():
        if cold:
            text = message(
                "{mass} of {found} may come out at {temperature} °C in time.",
                mass=grams(found.mass_g),
                found=term(found.name),
                temperature=Given(done.temperature_c),
            )
            yield Remark("crystals", "check", where, text, found.remedy)
        elif key not in _SLOW_TO_COME and _dissolves_at(flow, place, partial(_lies_dry, key)) is None:
            text = message(
                "{mass} of {found} stay undissolved at {temperature} °C.",
                mass=grams(found.mass_g),
                found=term(found.name),
                temperature=Given(done.temperature_c),
            )
            yield Remark("undissolved", "check", where, text, found.remedy)


def _lies_dry(key: str, done: StepFlow) -> bool:
    """Returns True if a substance is undissolved after a step."""
    liquid = done.state.liquid
    return liquid.of("water") < _LEAST_WATER * liquid.mass_g or key in _undissolved(liquid, done.temperature_c)


def _of_room(inputs: Inputs, done: StepFlow, where: str) -> Iterator[Remark]:
    vessel = inputs.spec.vessels[done.step.vessel]
    # Before the step, when it is fullest: what simmers down began higher.
    volume = volume_ml(done.before.liquid) + done.before.pieces_ml if done.before.mass_g else 0.0
    if vessel.capacity_ml is not None and volume > vessel.capacity_ml:
        over = message(
            "{volume} do not fit the {vessel}, which holds {capacity}.",
            volume=Computed(volume / 1000, "L"),
            vessel=vessel.name,
            capacity=Computed(vessel.capacity_ml / 1000, "L"),
        )
        yield Remark("vessel_too_small", "stop", where, over, message("Take a larger vessel or make less"))
    yield from _of_fill_line(vessel, done, where, volume)


def _of_fill_line(vessel: s.Vessel, done: StepFlow, where: str, volume_ml_: float) -> Iterator[Remark]:
    """Yields a remark on a vessel filled past its line: its own, or the room that gas and ice need."""
    share = _ROOM_SHARE.get(done.step.verb)
    line = vessel.fill_line_ml
    if line is None and share is not None and vessel.capacity_ml is not None:
        line = share * vessel.capacity_ml
    if line is not None and volume_ml_ > line * (1.0 + 1e-9):
        over = message(
            "{volume} stand above the line of the {vessel}, {line}.",
            volume=Computed(volume_ml_, "mL", 0),
            vessel=vessel.name,
            line=Computed(line, "mL", 0),
        )
        gas = done.step.verb == "carbonate"
        why = NOTHING if share is None and not gas else message("Gas needs the room.") if gas else message("Ice takes a tenth more.")
        text = sentences(over, why)
        yield Remark("above_fill_line", "stop", where, text, message("Fill less, or take a larger one"))


def _of_heat(done: StepFlow, where: str, delicate: Mapping[str, list[str]]) -> Iterator[Remark]:
    """Yields a remark on a heat-sensitive material that is heated; only lines that are in the vessel by then count."""
    if done.step.family != "heat" or done.temperature_c < HOT_C or not delicate[done.step.vessel]:
        return
    names, hot = listed(dict.fromkeys(delicate[done.step.vessel])), Computed(done.temperature_c, decimals=0)
    if done.step.waiting_min:
        stands = message("{names} stands {time} at {hot} °C and tastes cooked.", names=names, time=minutes(done.step.waiting_min), hot=hot)
    else:
        stands = message("{names} is heated to {hot} °C and tastes cooked.", names=names, hot=hot)
    yield Remark("delicate_heated", "check", where, stands, message("Heat the rest, add it off the heat"))


def flow_remarks(inputs: Inputs, flow: Flow) -> Iterator[Remark]:
    """Yields remarks on the steps of a flow: their own, sugar that does not dissolve, crystals in the cold, vessels that are too small, heat on sensitive
    materials, browning, and effects of scaling.
    """
    materials: Mapping[str, Material] = inputs.materials
    delicate: dict[str, list[str]] = {}
    browned = False
    for place, done in enumerate(flow.steps):
        step, where = done.step, f"steps/{done.step.id}"
        names = (materials[item.material].name for item in done.added if not item.own and materials[item.material].heat_sensitive)
        delicate.setdefault(step.vessel, []).extend(names)
        # Fruit packed in sugar is dry on purpose until the sugar has drawn.
        packed = bool(done.state.pieces) and step.family in ("prepare", "combine", "extract")
        if done.state.liquid.of("water") > 0 and step.verb not in _MAY_STAY_DRY and not packed:
            left = undissolved_sucrose_g(done.state.liquid, min(100.0, max(0.0, done.temperature_c)))
            if left > UNDISSOLVED_G:
                yield _of_sugar(flow, place, where, left)
        if inputs.made.factor > _SCALED_UP_FROM + 1e-9 and step.scaled_up:
            text = message("Scaled {factor} times: {scaled_up}", factor=Computed(inputs.made.factor, decimals=1), scaled_up=step.scaled_up)
            yield Remark("out_of_proportion", "check", where, text, message("Note what it takes at this size"))
        yield from _of_crystals(flow, place, where)
        yield from _of_room(inputs, done, where)
        yield from _of_heat(done, where, delicate)
        if not browned:
            for remark in browning_remarks(inputs, done):
                browned = True
                yield remark
        try:
            yield from step.remarks(done.before, done.after)
        except Refusal as refusal:
            # A remark may need a figure that this liquid does not have; the refusal is the remark then, because the step itself was done.
            yield step.remark(refusal.code, "check", refusal.message)
