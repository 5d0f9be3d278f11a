"""Keys of the groups of uncertain inputs."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Literal, NamedTuple

GroupKind = Literal["material", "step", "line", "bundle"]


class GroupKey(NamedTuple):
    """Names a group of uncertain inputs: the composition of a material, the process figures of a step, the amount of a line, or the bundle of small groups.

    `key` is the key of the material, or the id of the step or line. `figure` is "brix" or "acid" for one of the two readings that a juice is known by, else
    empty. A tuple, because a flow looks up several keys for every line that goes in.
    """

    kind: GroupKind
    key: str
    figure: Literal["", "brix", "acid"] = ""

    def __str__(self) -> str:
        """Returns the form in which a key is stored: "material:quince_juice:brix", "step:s2"."""
        return ":".join((self.kind, self.key, self.figure) if self.figure else (self.kind, self.key))


# A pass asks for these at every step and line, and makes the same ones each time.
@lru_cache(maxsize=4096)
def material_keys(material: str) -> tuple[GroupKey, GroupKey, GroupKey]:
    """Returns the keys that a material's composition may stand under: as a whole, by °Bx, by acid."""
    return GroupKey("material", material), GroupKey("material", material, "brix"), GroupKey("material", material, "acid")


@lru_cache(maxsize=4096)
def step_key(step: str) -> GroupKey:
    """Returns the key of the process figures of a step."""
    return GroupKey("step", step)


@lru_cache(maxsize=4096)
def line_key(line: str) -> GroupKey:
    """Returns the key of the amount of a line."""
    return GroupKey("line", line)


def step_group(text: str) -> GroupKey:
    """Returns the key of the group of a step from its stored form. Raises ValueError for any other text."""
    kind, _, key = text.partition(":")
    if kind != "step" or not key:
        raise ValueError(f"{text!r} is not the stored key of a step's group")
    return GroupKey("step", key)


Positions = Mapping[GroupKey, float]
"""How far each group stands from its best value, in half-ranges (5 to 95 %). A group that is missing stands at its best value."""
BUNDLE = GroupKey("bundle", "rest")
"""The group of all small groups when there are more than sixteen. They move together, which makes ranges wider, never narrower."""
