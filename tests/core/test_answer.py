"""Answers: what a declaration says is what its JSON holds, and what its schema takes; old JSON is read."""

import importlib
import pkgutil
from collections.abc import Mapping
from dataclasses import dataclass, field, fields, is_dataclass
from datetime import UTC, date, datetime
from decimal import Decimal
from typing import Annotated, Any, Generic, Literal, TypeVar
from uuid import UUID

import jsonschema
import pytest

import ulsek.core
from tests.core.cordial import FORM, evaluated
from ulsek.core.base.answer import HIDDEN, DescribedAs, OpenForm, StoredAs, encode, in_answer, json_member, members
from ulsek.core.base.answer_schema import schemas
from ulsek.core.base.ranges import Range
from ulsek.core.results.evaluation_result import DeepResult, EvaluationResult, evaluation_result


@dataclass(frozen=True, slots=True)
class Circle:
    kind: Literal["circle"]
    radius: float


@dataclass(frozen=True, slots=True)
class Square:
    kind: Literal["square"]
    side: Range


@dataclass(frozen=True, slots=True)
class Branch:
    name: str
    branches: tuple["Branch", ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Everything:
    """One of each."""

    secret: str = field(metadata=HIDDEN)
    price: Decimal
    at: datetime
    day: date
    id: UUID
    shapes: tuple[Circle | Square, ...]
    first: Circle | None
    ends: tuple[float, float]
    tree: Branch
    by_key: Mapping[str, Range]
    usual: float | str | None
    form: OpenForm
    spec: Annotated[OpenForm, DescribedAs("SpecFile")]
    kept: Annotated[OpenForm, StoredAs(Branch)] | None = None
    grade: str = field(default="", metadata=json_member(name="class", stored=""))
    later: tuple[str, ...] = field(default=(), metadata=json_member(stored=None))
    maybe: Range | None = field(default=None, metadata=json_member(left_out=True))

    @property
    @in_answer()
    def said(self) -> str:
        return self.secret[:1]

    @property
    def quiet(self) -> str:
        return self.secret


def everything(**more: Any) -> Everything:
    given: dict[str, Any] = {
        "secret": "xy",
        "price": Decimal("1.50"),
        "at": datetime(2026, 11, 28, 9, 30, tzinfo=UTC),
        "day": date(2026, 11, 28),
        "id": UUID(int=7),
        "shapes": (Circle("circle", 1.0), Square("square", Range.exact(2.0))),
        "first": None,
        "ends": (1.0, 2.0),
        "tree": Branch("a", (Branch("b"),)),
        "by_key": {"brix": Range(2.0, 1.0, 3.0)},
        "usual": "peel",
        "form": {"steps": [1]},
        "spec": {"name": "x"},
    }
    return Everything(**given | more)


EXACT = {"value": 2.0, "low": 2.0, "high": 2.0}


def test_json_holds_what_is_declared_and_nothing_else():
    assert encode(everything()) == {
        "price": "1.50",
        "at": "2026-11-28T09:30:00Z",
        "day": "2026-11-28",
        "id": "00000000-0000-0000-0000-000000000007",
        "shapes": [{"kind": "circle", "radius": 1.0}, {"kind": "square", "side": EXACT}],
        "first": None,
        "ends": [1.0, 2.0],
        "tree": {"name": "a", "branches": [{"name": "b", "branches": []}]},
        "by_key": {"brix": {"value": 2.0, "low": 1.0, "high": 3.0}},
        "usual": "peel",
        "form": {"steps": [1]},
        "spec": {"name": "x"},
        "kept": None,
        "class": "",
        "later": [],
        "said": "x",
    }
    assert encode(everything(maybe=Range.exact(2.0)))["maybe"] == EXACT
    assert encode(everything(at=datetime(2026, 11, 28, 9, 30, 1, 234567, tzinfo=UTC)))["at"] == "2026-11-28T09:30:01.234Z"


Row = TypeVar("Row")


@dataclass(frozen=True, slots=True)
class Pair(Generic[Row]):
    """Two of a kind."""

    both: tuple[Row, ...]
    first: Row | None
    by_name: Mapping[str, Row]


def test_a_generic_class_is_named_and_described_by_what_it_holds():
    two = Pair((Square("square", Range.exact(2.0)),), None, {"a": Square("square", Range.exact(2.0))})
    side = {"kind": "square", "side": EXACT}
    assert encode(two) == {"both": [side], "first": None, "by_name": {"a": side}}
    made = schemas([tuple[Pair[Square], ...], Pair[Circle]], "#/$defs/")
    assert set(made) == {"PairOfSquare", "PairOfCircle", "Square", "Circle", "Range"}
    validator = jsonschema.Draft202012Validator({"$ref": "#/$defs/PairOfSquare", "$defs": made})
    assert validator.is_valid(encode(two))
    assert not validator.is_valid({**encode(two), "both": [{"kind": "circle", "radius": 1.0}]})
    assert made["PairOfSquare"]["properties"]["first"] == {"anyOf": [{"$ref": "#/$defs/Square"}, {"type": "null"}]}


@dataclass(frozen=True, slots=True)
class Kept:
    """What an earlier version stored."""

    form: Annotated[OpenForm, StoredAs(Everything)]


def judge(kind):
    refs = "#/$defs/"
    return jsonschema.Draft202012Validator(
        {"$ref": f"{refs}{kind.__name__}", "$defs": {"SpecFile": {"type": "object"}, **schemas([kind], refs)}}
    )


@pytest.mark.parametrize(
    ("change", "value"),
    [
        ("price", 1.5),
        ("shapes", [{"kind": "circle", "side": 1}]),
        ("shapes", [{"kind": "star"}]),
        ("ends", [1.0]),
        ("by_key", {"brix": 2.0}),
        ("usual", [1]),
        ("secret", "xy"),
        ("first", 1),
        ("later", "x"),
        ("tree", {"name": "a"}),
    ],
)
def test_the_schema_takes_the_json_and_nothing_else(change, value):
    fits = judge(Everything)
    fits.validate(encode(everything(maybe=Range.exact(2.0))))
    with pytest.raises(jsonschema.ValidationError):
        fits.validate({**encode(everything()), change: value})


@pytest.mark.parametrize("kind", [float | Range, tuple[float, str], Circle | Branch, set[str], object, Mapping[str, Any], bytes])
def test_a_type_that_json_could_not_tell_apart_or_hold_is_refused(kind):
    @dataclass(frozen=True)
    class Wrong:
        value: kind

    Wrong.__annotations__ = {"value": kind}
    with pytest.raises(TypeError):
        schemas([Wrong], "#/")
    with pytest.raises(TypeError):
        encode(Wrong(object()))


def test_two_answers_of_one_name_are_refused():
    other = dataclass(frozen=True)(type("Branch", (), {"__annotations__": {"name": str}}))
    with pytest.raises(TypeError, match="two answers are named Branch"):
        schemas([Branch, other], "#/")


def test_what_an_earlier_version_stored_gets_the_members_of_today_and_keeps_its_own():
    stored = encode(everything(kept={"name": "k", "branches": [], "gone": 1}))
    assert stored["kept"] == {"name": "k", "branches": []}, "stored JSON inside an answer too"
    old = {name: value for name, value in stored.items() if name not in ("class", "later")} | {"said": "as it was said", "gone": 1}
    now = encode(Kept(old))["form"]
    assert (now["class"], now["later"], now["said"]) == ("", None, "as it was said")
    assert set(now) == set(stored)
    judge(Everything).validate(now)
    with pytest.raises(KeyError, match=r"Everything\.price"):
        encode(Kept({name: value for name, value in old.items() if name != "price"}))


def test_a_result_with_every_figure_says_more_than_the_plain_one_and_both_fit_their_schema():
    plain, deep = (encode(evaluation_result(evaluated(), deep=deep)) for deep in (False, True))
    judge(EvaluationResult).validate(plain)
    assert {"keeps_longer"} == set(deep) - set(plain)
    assert all(step["properties"]["sugars_g_100ml"] for step in deep["steps"])
    assert [{**step, "properties": 0} for step in plain["steps"]] == [{**step, "properties": 0} for step in deep["steps"]]
    assert members(DeepResult)[0].type != members(EvaluationResult)[0].type
    assert len(plain["steps"]) == len(FORM["steps"])


def test_every_result_of_the_core_is_frozen():
    """A class that declares its JSON may be answered; nobody may change it on the way."""
    found = []
    for module in pkgutil.walk_packages(ulsek.core.__path__, "ulsek.core."):
        for item in vars(importlib.import_module(module.name)).values():
            if isinstance(item, type) and is_dataclass(item) and any("answer" in part.metadata for part in fields(item)):
                found.append(item)
    assert len(set(found)) > 15
    assert [item.__name__ for item in set(found) if not item.__dataclass_params__.frozen] == []
