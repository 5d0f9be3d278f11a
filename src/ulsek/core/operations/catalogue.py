"""Every verb, by the word that a spec file uses."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from .clarify import Agar, EggRaft, Enzyme, Gelatin, MilkClarify, Settle
from .combine import Combine, DryMix, Emulsify, MakeUp, OffHeat
from .concentrate import FreezeDrip, VacuumReduce
from .extract import Infuse, Macerate, Press, Steep, VacuumInfuse
from .finish import Bottle, Carbonate, Clean, Cool, Discard, HotFill, Label, Rest, Split, Store
from .freeze import Freeze, Thaw
from .heat import BringTo, Caramelise, Dissolve, Hold, Reduce, Simmer
from .inversion import Invert
from .prebatch import BottleAhead, DiluteAhead, PourAhead
from .prepare import Blend, Core, Crush, Cut, Dehydrate, Juice, Muddle, Peel, Separate, Toast, WarmRoll, Wash, Whip, Zest
from .serve import BlendIce, Build, DryShake, Shake, StirIce
from .step import Step
from .strain import Filter, Strain

_ALL: tuple[type[Step], ...] = (
    *(Wash, WarmRoll, Zest, Peel, Cut, Core, Separate, Juice, Crush, Muddle, Whip, Toast, Dehydrate, Blend, Freeze, Thaw),
    *(Combine, DryMix, OffHeat, MakeUp, Emulsify),
    *(Dissolve, BringTo, Hold, Simmer, Reduce, Caramelise, Invert),
    *(Macerate, Steep, Infuse, VacuumInfuse, Press),
    *(Strain, Filter),
    *(Enzyme, EggRaft, Agar, Gelatin, MilkClarify, Settle),
    *(FreezeDrip, VacuumReduce),
    *(Cool, Carbonate, Rest, Store, Split, Bottle, HotFill, Label, Clean, Discard),
    *(Build, StirIce, Shake, DryShake, BlendIce),
    *(DiluteAhead, BottleAhead, PourAhead),
)

VERBS: Mapping[str, type[Step]] = MappingProxyType({kind.verb: kind for kind in _ALL})
