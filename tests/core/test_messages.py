"""Messages: what the core says, by template and values; in Spanish, in a language that nobody speaks, and as it is stored."""

import ast
import gettext
import json
import re
from functools import cache
from pathlib import Path
from string import Formatter

import pytest
from babel.messages.pofile import read_po

from tests.core.cordial import Batch, form, materials_of
from tests.core.kitchen import KNOWN, known
from ulsek import translations
from ulsek.core.base import catalogue as catalogues
from ulsek.core.base import messages as m
from ulsek.core.base.answer import Writer
from ulsek.core.base.refusals import Refusal
from ulsek.core.evaluation.evaluate import evaluate
from ulsek.core.operations.catalogue import VERBS
from ulsek.core.release.legal_names import starting_names
from ulsek.core.release.release_check import release_check
from ulsek.core.results.evaluation_result import evaluation_result
from ulsek.core.results.spec_card import card
from ulsek.core.run.fold import fold
from ulsek.core.run.run_result import run_result
from ulsek.core.spec.json_form import read_spec
from ulsek.translations import MESSAGES, SOURCE, calls, merged, templates

SPECS = [
    path
    for path in sorted((Path(__file__).parents[2] / "demo" / "specs").glob("*.json"))
    if {
        line["material"]
        for step in json.loads(path.read_text(encoding="utf-8"))["steps"]
        for line in step.get("lines", ())
        if ":" not in line["material"]
    }
    <= set(KNOWN)
]
"""Those that draw on no other spec."""
BREAK = "\u00a0"


@cache
def evaluated(path):
    spec = read_spec(json.loads(path.read_text(encoding="utf-8")))
    return evaluate(spec, known(spec))


def filled(translation):
    """The places of a template, or of each of its forms."""
    forms = (translation,) if isinstance(translation, str) else translation
    return {name for form in forms for _, name, _, _ in Formatter().parse(form) if name}


@pytest.mark.parametrize(
    ("said", "english", "spanish"),
    [
        (m.message("to {goal}", goal=m.Computed(2.6, "g/100 mL", 2)), "to 2.60 g/100 mL", "hasta 2,60 g/100 mL"),
        (m.message("{share} of it", share=m.percent(0.125)), "13 % of it", "13 % de ello"),
        (m.verbatim(m.Given(62.5, "g")), "62.5 g", "62,5 g"),
        (m.verbatim(m.Given(1234567.4)), "1 234 567", "1 234 567"),
        (m.verbatim(m.Computed(0.001, "g")), "under 0.01 g", "menos de 0,01 g"),
        (m.days(1), "1 day", "1 día"),
        (m.days(3), "3 days", "3 días"),
        (m.verbatim(m.minutes(90)), "1 h 30 min", "1 h 30 min"),
        (m.verbatim(m.Day("2026-03-04")), "04 Mar", "04 mar"),
        (m.verbatim(m.listed(map(m.term, ("egg", "milk", "nuts")))), "egg, milk and nuts", "huevo, leche y frutos de cáscara"),
        (m.verbatim(m.listed(["a", "b"], "or")), "a or b", "a o b"),
        (m.verbatim(m.listed([])), "", ""),
        (m.verbatim(m.Word("materials", "malic_acid", "Malic acid, dry", "inside")), "malic acid", "ácido málico"),
        (m.verbatim(m.Word("materials", "our_own", "Our own, dry")), "Our own, dry", "Our own, dry"),
        (m.verbatim(m.Word("verbs", "toast", form="doing")), "toasting", "tostándose"),
        (m.message("{time:capital}.", time=m.message("the mix")), "The mix.", "La mezcla."),
        (m.verbatim("a {brace} and 1.5"), "a {brace} and 1.5", "a {brace} and 1.5"),
        (m.message("never translated {n}", n=(1.5).__floor__()), "never translated 1", "never translated 1"),
        (m.NOTHING, "", ""),
    ],
)
def test_a_message_is_rendered_in_the_language_of_its_reader(said, english, spanish):
    assert said.text().replace(BREAK, " ") == english
    assert said.text("es").replace(BREAK, " ") == spanish
    assert m.read_stored(json.loads(json.dumps(m.stored(said)))).text("es") == said.text("es"), "and so from where it was stored"
    with pytest.raises(LookupError, match="There is no catalogue for xx; there are en, es"):
        m.message("the mix").text("xx")


def test_a_refusal_is_one_text_of_three_messages():
    found = Refusal(m.message("{what} cannot be", what="It"), "here", m.message("at most {n}", n=3), m.message("Take less."))
    assert (found.text, str(found)) == ("It cannot be: at most 3. Take less.",) * 2
    assert Refusal(m.message("Outside its spec: {figures}.", figures="40")).text == "Outside its spec: 40."


def test_what_is_stored_is_template_and_values_and_a_text_of_before_is_shown_as_it_was():
    said = m.message("{mass} of {names}", mass=m.Computed(float("inf"), "g"), names=m.listed([m.verbatim("x"), m.days(2)]))
    kept = json.loads(json.dumps(m.stored(said), allow_nan=False))
    assert kept["template"] == "{mass} of {names}"
    assert kept["values"]["names"]["items"][1] == {"template": "{n} day", "values": {"n": 2}, "plural": "{n} days"}
    assert m.read_stored(kept).text() == said.text()
    assert m.read_stored("5 days, {as} it was said").text("es") == "5 days, {as} it was said"
    assert not m.read_stored("")


def test_every_template_is_a_literal_with_a_value_for_each_of_its_places():
    """So that a program finds it, and nothing is missing when it is rendered."""
    known_calls = 0
    for path in SOURCE.rglob("*.py"):
        for call, key in calls(path.read_text(encoding="utf-8")):
            where = f"{path.relative_to(SOURCE)}:{call.lineno}"
            assert key is not None, f"{where}: its template is no literal"
            places = filled(key[1:])
            given = {item.arg for item in call.keywords} | ({"n"} if key[2] else set())
            assert call.func.id == "template" or None in given or places <= given, f"{where}: {places - given}"
            assert call.func.id != "template" or not given, where
            known_calls += 1
    assert known_calls > 1500


def test_no_value_of_a_message_is_english_put_together():
    """What depends on a condition is another template."""
    for path in SOURCE.rglob("*.py"):
        functions = [node for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))) if isinstance(node, ast.FunctionDef)]
        for function in functions:
            assigned = {
                target.id: node.value
                for node in ast.walk(function)
                if isinstance(node, ast.Assign)
                for target in node.targets
                if isinstance(target, ast.Name)
            }
            for call in ast.walk(function):
                if isinstance(call, ast.Call) and isinstance(call.func, ast.Name) and call.func.id in ("message", "counted"):
                    values = [item.value for item in call.keywords]
                    values += [assigned[item.id] for item in values if isinstance(item, ast.Name) and item.id in assigned]
                    assert not any(map(glued, values)), f"{path.relative_to(SOURCE)}:{call.lineno}: {ast.unparse(call)[:100]}"


def glued(value):
    """Whether a value is English put together: a text with places, texts joined, or one of several texts."""
    if isinstance(value, ast.JoinedStr):
        return any(isinstance(part, ast.Constant) and re.search("[A-Za-z]{2}", part.value) for part in value.values)
    if isinstance(value, ast.BinOp):
        return any(isinstance(side, ast.JoinedStr) or is_english(side) for side in (value.left, value.right))
    if isinstance(value, ast.BoolOp):
        return any(map(is_english, value.values))
    return isinstance(value, ast.IfExp) and any(is_english(side) or glued(side) for side in (value.body, value.orelse))


def is_english(value):
    return isinstance(value, ast.Constant) and isinstance(value.value, str) and re.search("[A-Za-z]{3}", value.value) is not None


@pytest.mark.parametrize("path", sorted(MESSAGES.glob("*.po")), ids=lambda path: path.stem)
def test_a_catalogue_is_current_and_fits_its_templates(path):
    text, compiled = merged(path.stem, path.read_bytes())
    assert path.read_bytes() == text, "run bin/types"
    assert path.with_suffix(".mo").read_bytes() == compiled, "run bin/types"
    given = {}
    for source in SOURCE.rglob("*.py"):
        for call, key in calls(source.read_text(encoding="utf-8")):
            given.setdefault(key, set()).update({item.arg for item in call.keywords}, filled(key[1:]))
    translated = catalogues.catalogue(path.stem)
    for key in templates():
        forms = [translated.ngettext(key[1], key[2], n) for n in (1, 2, 1_000_000)] if key[2] else [translated.gettext(key[1])]
        assert filled(forms) <= given.get(key, set()), key


class Heard(gettext.NullTranslations):
    """A language in which every letter of a template is an x. It notes what it was asked."""

    def __init__(self):
        super().__init__()
        self.asked = set()

    def gettext(self, message):
        self.asked.add(message)
        return re.sub(r"(\{[^}]*\})|[a-zà-ÿ]", lambda found: found[1] or "x", message, flags=re.IGNORECASE)

    def ngettext(self, msgid1, msgid2, n):
        return self.gettext(msgid1 if n == 1 else msgid2)

    def pgettext(self, context, message):
        return self.gettext(message)


@pytest.fixture
def heard(monkeypatch):
    found = Heard()
    monkeypatch.setattr(m, "catalogue", lambda _language: found)
    monkeypatch.setattr(m, "decimal_mark", lambda _language: ".")
    return found


@cache
def extracted():
    return {template for key in templates() for template in key[1:]}


def words_of(value):
    """Every word of the texts of a JSON value."""
    if isinstance(value, str):
        return set(re.findall(r"[A-Za-zà-ÿ]{4,}", value))
    return set().union(*map(words_of, value.values() if isinstance(value, dict) else value if isinstance(value, list) else ()))


@pytest.mark.parametrize("path", SPECS, ids=lambda path: path.stem)
def test_nothing_that_is_said_of_a_spec_holds_english_besides_its_own_names(path, heard):
    """Letters of templates are x here. What is left are the names of materials and vessels, and what data and the house's people wrote."""
    found = evaluated(path)
    spoken = []
    result = evaluation_result(found, deep=True)
    Writer(lambda said: spoken.append(said.text("x"))).encode([result, *release_check(found)])
    own = json.dumps([found.inputs.spec.name, [item.name for item in found.inputs.materials.values()]], ensure_ascii=False)
    own += json.dumps(json.loads(path.read_text(encoding="utf-8")), ensure_ascii=False)
    allowed = {item.lower() for item in words_of(own)} | DATA
    assert spoken
    inputs = found.inputs
    theirs = {vessel.name for vessel in inputs.spec.vessels.values()} | {
        stream.name for step in found.flow.steps for stream in step.outgoing
    }
    theirs |= {item for step in inputs.spec.steps for item in step.gear} | {vessel.replace("_", " ") for vessel in inputs.spec.vessels}
    assert heard.asked - extracted() - theirs - WORDLESS == set(), "and a translator gets all of it"
    assert {item for item in words_of(spoken) if item.lower() not in allowed and set(item.lower()) != {"x"}} == set()


DATA = {item.lower() for rule in starting_names()["rules"] for item in words_of([rule["source"], rule["place"]])}
"""Words of the sources of legal names: titles of laws, which stay as they are."""


def test_nothing_that_is_said_of_a_batch_holds_english_besides_its_own_names(heard):
    """Much goes wrong in it: a pour too much, another jar, a reading that cannot be, a step skipped after it was done, a taste."""
    spec = read_spec(form(s3=STEEPED))
    batch = Batch()
    for kind, body in WENT:
        batch.does(kind, **body)
    spoken = []
    materials = {**materials_of(spec), "hazelnuts": known(read_spec(form(s3={**STEEPED, "lines": [HAZELNUTS]})))["hazelnuts"]}
    result = run_result(fold(spec, materials, batch.events))
    Writer(lambda said: spoken.append(said.text("x"))).encode(result)
    assert len(result.notes) > 2 and result.conflicts and result.deviations and result.tastes[0].advice and result.off_spec
    own = words_of([item.name for item in materials.values()]) | words_of([batch.events[0].by, "heavy pot", "birch tips"])
    assert {item for item in words_of(spoken) if set(item.lower()) != {"x"}} - {
        item for name in own for item in (name, name.lower())
    } == set()
    assert heard.asked - extracted() - {"heavy pot"} - WORDLESS == set()


HAZELNUTS = {"id": "nuts", "material": "hazelnuts", "amount": {"kind": "fixed", "mass_g": 5}}
STEEPED = {
    "id": "s3",
    "verb": "steep",
    "minutes": 20,
    "temperature_c": 65,
    "lines": [{"id": "tips", "material": "birch_tips", "amount": {"kind": "percent", "percent": 0.7, "basis": "w/w"}}],
}
WENT = (
    ("weighed", {"line": "juice", "mass_g": 1000}),
    ("step_done", {"step": "s1"}),
    ("weighed", {"line": "sugar", "mass_g": 700}),
    ("step_done", {"step": "s2"}),
    ("step_begun", {"step": "s3"}),
    ("wrong_jar", {"line": "tips", "material": "hazelnuts"}),
    ("weighed", {"line": "tips", "mass_g": 14}),
    ("tasted", {"step": "s3", "sense": "taste", "verdict": "strong", "share": 0.2}),
    ("sampled", {"step": "s3", "mass_g": 5}),
    ("read", {"property": "brix_reading", "value": 12.0}),
    ("read", {"property": "mass_g", "value": 300.0}),
    ("step_done", {"step": "s3"}),
    ("step_skipped", {"step": "s3"}),
    ("step_first", {"step": "s5"}),
)


def test_all_that_a_card_says_is_said_in_spanish(heard):
    for path in SPECS:
        made = evaluated(path)
        before = heard.asked.copy()
        made.keeping.because.text("es")
        data = heard.asked - before
        card(made, "es")
        heard.asked -= data
    for verb in VERBS.values():
        heard.asked |= {verb.title.template, verb.title_alone.template, verb.usual_check, *verb.usual_gear} - {""}
    with (MESSAGES / "es.po").open("rb") as file:
        spanish = {form for entry in read_po(file, locale="es") for form in (entry.id if isinstance(entry.id, tuple) else (entry.id,))}
    specs = [evaluated(path).inputs.spec for path in SPECS]
    own = {vessel.name for spec in specs for vessel in spec.vessels.values()} | {
        item for spec in specs for step in spec.steps for item in step.gear
    }
    assert heard.asked - spanish - own - WORDLESS == set()
    assert len(heard.asked & spanish) > 120


WORDLESS = {"{value}", "{time}", "{hours} {minutes}"}
"""Templates without a word."""


def test_a_language_is_added_by_its_catalogue_alone(tmp_path, monkeypatch):
    """French here: a file of translations, compiled, and cards are offered and said in it."""
    (tmp_path / "fr.po").write_text(
        'msgid ""\nmsgstr ""\n"Language: fr\\n"\n"Plural-Forms: nplurals=2; plural=(n > 1);\\n"\n\n'
        'msgctxt "decimal mark"\nmsgid "."\nmsgstr ","\n\nmsgid "Pour {names}"\nmsgstr "Verser {names}"\n\nmsgid "Gear"\nmsgstr "Matériel"\n',
        encoding="utf-8",
    )
    monkeypatch.setattr(translations, "MESSAGES", tmp_path)
    monkeypatch.setattr(translations.sys, "argv", ["translations"])
    translations.main()
    monkeypatch.setattr(catalogues, "DIRECTORY", tmp_path)
    for function in (catalogues.languages, catalogues.catalogue):
        function.cache_clear()
    try:
        made = card(evaluated(next(path for path in SPECS if path.stem == "sea-buckthorn-cordial")), "fr")
    finally:
        for function in (catalogues.languages, catalogues.catalogue):
            function.cache_clear()
    assert made.labels["gear"] == "Matériel"
    assert made.steps[0].title.startswith("Verser sea buckthorn")
    assert made.makes.startswith("1,48")
    assert made.labels["keeps"] == "Keeps", "what is not translated yet stands in English"
