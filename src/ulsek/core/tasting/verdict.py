"""The verdict of a panel in words: what was shown, what was not shown, what it means for the line that was fixed before, and the working of its figures."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..base.messages import NOTHING, Computed, Message, Value, counted, listed, message, percent, sentences, verbatim
from ..base.ranges import Range
from .design import LINES, PanelDesign
from .found import ALARM, AttributeFound, PairFound, PanelFound, RankingFound, ScoresFound, ShareFound
from .methods import ATTRIBUTES, METHODS

FEW_TASTERS = 8
"""Fewer tasters than this say more of themselves than of guests. House judgement."""
_CLOSE = 1e-9
_EXACT = "Exact binomial distribution; Clopper and Pearson 1934"
_REPEATED = "Beta-binomial distribution corrected for guessing, Brockhoff 2003, at the spread of tasters that makes the bound widest"


@dataclass(frozen=True, slots=True)
class VerdictFigure:
    """A figure of a verdict with its working: what it is, its value, the formula in words with the numbers put in, and the source."""

    name: Message
    value: Message
    formula: Message
    source: str


@dataclass(frozen=True, slots=True)
class PanelVerdict:
    """A verdict: one sentence, what follows from it, a caution (empty without one), and its figures. `is_shown` says whether the panel showed what it asked for."""

    headline: Message
    sentences: tuple[Message, ...]
    caution: Message
    is_shown: bool
    figures: tuple[VerdictFigure, ...]


def share_down(share: float) -> Computed:
    """Returns a share as a whole percentage, rounded down: for what is said with "at least"."""
    return percent(math.floor(100.0 * share + _CLOSE) / 100.0)


def share_up(share: float) -> Computed:
    """Returns a share as a whole percentage, rounded up: for what is said with "up to"."""
    return percent(math.ceil(100.0 * share - _CLOSE) / 100.0)


def verdict(design: PanelDesign, names: Sequence[str], found: PanelFound) -> PanelVerdict:
    """Returns the verdict of a panel of samples with these names, the control or the house's own first. Raises ValueError if nothing was found."""
    method = METHODS[design.method]
    if found.share is not None:
        said = _difference(design, found.share) if method.aim == "difference" else _preference(design, names, found.share)
        tasters = len(found.share.counts)
    elif found.ranking is not None:
        said, tasters = _ranking(names, found.ranking), found.ranking.tasters
    elif found.scores is not None:
        said, tasters = _scores(design, names, found.scores), found.scores.tasters
        more = tuple(filter(None, (_attribute(names, item) for item in found.attributes)))
        said = PanelVerdict(said.headline, (*said.sentences, *more), said.caution, said.is_shown, said.figures)
    else:
        raise ValueError("nothing was found")
    few = (
        counted("One taster only: this says nothing of guests.", "{n} tasters only: this says more of them than of guests.", tasters)
        if tasters < FEW_TASTERS
        else NOTHING
    )
    return PanelVerdict(said.headline, said.sentences, sentences(said.caution, few), said.is_shown, said.figures)


def nothing_to_say(answered: int) -> PanelVerdict:
    """Returns the verdict of a panel that ended with too few answers [count] to say anything."""
    headline = counted("{n} answer: too few to say anything.", "{n} answers: too few to say anything.", answered)
    return PanelVerdict(headline, (message("Nothing was shown, and nothing was ruled out."),), NOTHING, is_shown=False, figures=())


def key_lost() -> PanelVerdict:
    """Returns the verdict of a panel whose key is not on this site: it was open when its house was moved here."""
    headline = message("Nothing can be told: the key stayed on the site that this house was moved from.")
    return PanelVerdict(headline, (message("Plan it again; what was answered is kept."),), NOTHING, is_shown=False, figures=())


def _difference(design: PanelDesign, found: ShareFound) -> PanelVerdict:
    by_guess = found.of * found.guess
    chance = Computed(by_guess, decimals=0 if by_guess.is_integer() else 1)
    values: dict[str, Value] = {"right": found.right, "of": found.of, "chance": chance}
    line = percent(design.line)
    if found.is_shown:
        headline = message("A difference was shown: {right} of {of} right, where chance gives {chance}.", **values)
        if found.low > 0.0 and share_down(found.low).value > 0.0:
            spread = message("At least {low} of guests may notice, up to {high}.", low=share_down(found.low), high=share_up(found.high))
        else:
            spread = message("Some guests notice, up to {high}.", high=share_up(found.high))
    else:
        headline = message("No difference shown: {right} of {of} right, where chance gives {chance}.", **values)
        spread = message("Up to {high} of guests may notice. That it is the same is not shown: no panel can.", high=share_up(found.high))
    if found.ended_by == "line kept" or (found.ended_by is None and found.high <= design.line):
        kept = message("Your line was {line}: it is kept.", line=line)
    elif found.low > design.line:
        kept = message("Your line was {line}: it is crossed.", line=line)
    else:
        kept = message("Your line was {line}: that no more can tell is not shown.", line=line)
    most = math.ceil(100.0 * found.high - _CLOSE)
    risk = message("The risk of a switch: of 100 guests, up to {most} may notice.", most=most)
    caution = (
        message("It ended by its rule after {n}. The ends are those of a number fixed beforehand, and a little too narrow.", n=found.of)
        if found.ended_by
        else NOTHING
    )
    return PanelVerdict(headline, (spread, kept, risk), caution, found.is_shown, _share_figures(found))


def _preference(design: PanelDesign, names: Sequence[str], found: ShareFound) -> PanelVerdict:
    # Counted for the one that more have chosen.
    is_second = 2 * found.right >= found.of
    chosen, share = (found.right, found) if is_second else (found.of - found.right, _mirrored(found))
    name = names[1] if is_second else names[0]
    line = percent(design.line)
    if not found.is_shown:
        headline = message("No preference shown: {n} of {of} prefer {name}, where none gives half.", n=chosen, of=found.of, name=name)
        spread = message("Between {low} and {high} of guests may prefer it.", low=share_down(share.low), high=share_up(share.high))
    else:
        headline = message("{n} of {of} prefer {name} (at least {low}).", n=chosen, of=found.of, name=name, low=share_down(share.low))
        spread = message("Up to {high} of guests may prefer it.", high=share_up(share.high))
    kept = (
        message("Your line was {line}: it is reached.", line=line)
        if found.is_shown and share.low >= design.line
        else message("Your line was {line}: that so many prefer it is not shown.", line=line)
    )
    return PanelVerdict(headline, (spread, kept), NOTHING, found.is_shown, _share_figures(share))


def _mirrored(found: ShareFound) -> ShareFound:
    counts = tuple(type(item)(item.seat, item.of - item.right, item.of) for item in found.counts)
    return ShareFound(counts, found.guess, 1.0 - found.share, 1.0 - found.high, 1.0 - found.low, found.by_chance, found.sure, found.d_prime)


def _share_figures(found: ShareFound) -> tuple[VerdictFigure, ...]:
    repeats = max(item.of for item in found.counts) > 1
    source = _REPEATED if repeats else _EXACT
    sure = percent(found.sure, None)
    chance = VerdictFigure(
        message("by chance alone"),
        message("{share} of such panels", share=percent(found.by_chance, 1)),
        message("how often guessing alone gives {right} of {of} or more", right=found.right, of=found.of)
        if found.guess
        else message("how often a split so uneven comes about, either way, where half prefer each"),
        "Exact binomial distribution" if found.guess or not repeats else source,
    )
    share = VerdictFigure(
        message("guests who can tell") if found.guess else message("guests who prefer it"),
        message("{share} ({low} to {high})", share=percent(found.share), low=share_down(found.low), high=share_up(found.high)),
        message(
            "({right} ÷ {of} − {guess}) ÷ (1 − {guess}), never below 0; each end {sure} sure by itself",
            right=found.right,
            of=found.of,
            guess=Computed(found.guess, decimals=3),
            sure=sure,
        )
        if found.guess
        else message("{right} ÷ {of}; each end {sure} sure by itself", right=found.right, of=found.of, sure=sure),
        source,
    )
    rows = [share, chance]
    if found.d_prime is not None:
        rows.append(
            VerdictFigure(
                message("distance d′"),
                _range(found.d_prime, 2),
                message(
                    "what differs, in units of how much one and the same sample varies from sip to sip; under 0.5 is small, over 1.5 plain"
                ),
                "Thurstone 1927; Ennis 1993",
            )
        )
    if repeats:
        most = max(item.of for item in found.counts)
        rows.append(
            VerdictFigure(
                message("tasted more than once"),
                counted("{n} taster", "{n} tasters", len(found.counts)),
                message("up to {most} sets each: two by one taster say less than two by two, and the ends allow for it", most=most),
                _REPEATED,
            )
        )
    return tuple(rows)


def _range(found: Range, decimals: int) -> Message:
    value, low, high = (Computed(item, decimals=decimals) for item in (found.value, found.low, found.high))
    return message("{value} ({low} to {high})", value=value, low=low, high=high)


def _ranking(names: Sequence[str], found: RankingFound) -> PanelVerdict:
    order = sorted(range(len(names)), key=lambda sample: found.mean_ranks[sample])
    best = order[0]
    shown = [item for item in found.pairs if item.is_shown]
    told = [_pair(names, item) for item in shown]
    headline = _first_of(names, order, shown) if shown else message("No order was shown: they may be liked alike.")
    ahead = message("On average {name} stands first; that may be chance.", name=names[best]) if not shown else NOTHING
    figures = [
        VerdictFigure(
            verbatim(names[sample]),
            message("mean place {rank}", rank=Computed(found.mean_ranks[sample], decimals=1)),
            message("liked better than another one in {share} of pairs", share=percent(found.worths[sample])),
            "Bradley and Terry 1952",
        )
        for sample in order
    ]
    figures.append(
        VerdictFigure(
            message("by chance alone"),
            message("{share} of such panels", share=percent(found.by_chance, 1)),
            message(
                "places as uneven as these, Friedman's statistic {statistic}; pairs are corrected for their number",
                statistic=Computed(found.friedman, decimals=1),
            ),
            "Friedman 1937; Holm 1979",
        )
    )
    return PanelVerdict(headline, tuple(filter(None, (ahead, *told))), NOTHING, bool(shown), tuple(figures))


def _first_of(names: Sequence[str], order: Sequence[int], shown: Sequence[PairFound]) -> Message:
    """Returns which sample comes first, and to which one no difference was shown."""
    best = order[0]
    beaten = {item.second for item in shown if item.first == best}
    level = [names[sample] for sample in order[1:] if sample not in beaten]
    if not level:
        return message("{name:capital} comes first, before all others.", name=names[best])
    return message("{name:capital} comes first; no difference to {other} was shown.", name=names[best], other=level[0])


def _pair(names: Sequence[str], found: PairFound) -> Message:
    return message(
        "{first:capital} before {second}: {n} of {of} put it there (at least {low}).",
        first=names[found.first],
        second=names[found.second],
        n=found.before,
        of=found.of,
        low=share_down(found.low),
    )


def _scores(design: PanelDesign, names: Sequence[str], found: ScoresFound) -> PanelVerdict:
    order = sorted(range(len(names)), key=lambda sample: -found.means[sample].value)
    shown = [item for item in found.pairs if item.is_shown]
    headline = _first_of(names, order, shown) if shown else message("No difference shown: they may be liked alike.")
    told = _against_control(design, names, [item for item in found.pairs if 0 in (item.first, item.second)])
    figures = [
        VerdictFigure(
            verbatim(names[sample]),
            _range(found.means[sample], 1),
            message("mean, and where it lies in nine of ten panels"),
            "Linear mixed model by restricted maximum likelihood, Patterson and Thompson 1971; taster and place in the order as random",
        )
        for sample in order
    ]
    figures.append(
        VerdictFigure(
            message("scatter"),
            message("{rest} points", rest=Computed(found.sd_rest, decimals=1)),
            message(
                "what is left after tasters ({tasters}) and the order of the glasses ({order}); pairs are corrected for their number",
                tasters=Computed(found.sd_tasters, decimals=1),
                order=Computed(found.sd_order, decimals=1),
            ),
            "Holm 1979",
        )
    )
    return PanelVerdict(headline, tuple(told), NOTHING, bool(shown), tuple(figures))


def _against_control(design: PanelDesign, names: Sequence[str], pairs: Sequence[PairFound]) -> list[Message]:
    """Returns what stands below and above the control, what may differ from it by more than the line, and what does not."""
    control = names[0]
    # What lies farthest away first.
    pairs = sorted(pairs, key=lambda item: -(item.apart.value if item.apart else 0.0))
    below = [_by(names[item.second], item) for item in pairs if item.is_shown and item.first == 0]
    above = [_by(names[item.first], item) for item in pairs if item.is_shown and item.second == 0]
    open_pairs = [(names[item.first or item.second], item.apart) for item in pairs if not item.is_shown and item.apart is not None]
    line = LINES["standing"].printed(design.line)
    wide = [
        message("{name} (up to {high})", name=name, high=Computed(apart.high, decimals=1))
        for name, apart in open_pairs
        if apart.high > design.line
    ]
    near = [name for name, apart in open_pairs if apart.high <= design.line]
    told = []
    if below:
        told.append(message("{control:capital} is liked more than {others}.", control=control, others=listed(below)))
    if above:
        told.append(message("{others} are liked more than {control}.", control=control, others=listed(above)))
    if wide:
        told.append(message("How far {control} lies from these is open, in points: {others}.", control=control, others=listed(wide)))
    if near:
        told.append(message("Within your line of {line} of {control}: {others}.", line=line, control=control, others=listed(near)))
    return told


def _by(name: str, pair: PairFound) -> Message:
    if pair.apart is None:
        return verbatim(name)
    apart, low, high = (Computed(value, decimals=1) for value in (pair.apart.value, pair.apart.low, pair.apart.high))
    return message("{name} by {apart} points ({low} to {high})", name=name, apart=apart, low=low, high=high)


def _attribute(names: Sequence[str], found: AttributeFound) -> Message:
    """Returns what many tasters found wrong with a sample; empty if no more than by chance."""
    if found.by_chance > ALARM:
        return NOTHING
    attribute = ATTRIBUTES[found.attribute]
    many, wrong = (found.much, attribute.much) if found.much > found.little else (found.little, attribute.little)
    of = found.little + found.right + found.much
    plain = message("{n} of {of} find {name} {wrong}.", n=many, of=of, name=names[found.sample], wrong=wrong)
    if found.drop is None or found.drop <= 0.0:
        return plain
    return message(
        "{n} of {of} find {name} {wrong}; not just right costs it {drop} points.",
        n=many,
        of=of,
        name=names[found.sample],
        wrong=wrong,
        drop=Computed(found.drop, decimals=1),
    )
