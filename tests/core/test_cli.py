"""`bin/ulsek` on open files: every command on the demo's specs, every refusal in one line with exit code 2."""

import io
import json
import sys
from pathlib import Path

import pytest

from tests.core.cordial import FORM, Batch
from ulsek import cli
from ulsek.core.base.answer import encode
from ulsek.core.base.refusals import Refusal

SPECS = Path(__file__).parents[2] / "demo" / "specs"
SYRUP = str(SPECS / "house-syrup.json")


@pytest.fixture
def files(tmp_path):
    """Writes a file and gives its path."""

    def write(name, content):
        path = tmp_path / name
        path.write_text(content if isinstance(content, str) else json.dumps(content), encoding="utf-8")
        return str(path)

    return write


def answered(arguments):
    """What the command answers, as JSON."""
    return encode(cli.run(arguments))


def told(arguments, monkeypatch, capsys):
    """(exit code, what was printed, what was complained) of the command as a shell runs it."""
    monkeypatch.setattr(sys, "argv", ["ulsek", *arguments])
    code = cli.main()
    said = capsys.readouterr()
    return code, said.out, said.err


@pytest.mark.parametrize("path", sorted(SPECS.glob("*.json")), ids=lambda path: path.stem)
def test_every_demo_spec_is_worked_out_and_none_stops_before_publishing(path):
    done = answered(["evaluate", str(path)])
    assert done["refusals"] == []
    assert done["final"]["mass_g"]["value"] > 0
    assert [remark for remark in answered(["check", str(path)]) if remark["severity"] == "stop"] == []


def test_targets_are_signs_and_figures(files):
    cordial = files("cordial.json", FORM)
    found = answered(["solve", cordial, "--target", "brix>=45", "--target", "acid_g_100ml=keep"])["ways"][0]
    assert found["figures"]["brix"] == pytest.approx(45.0)
    stands = answered(["evaluate", cordial])["steps"][2]["acid_g_100ml"]["value"]
    assert found["figures"]["acid_g_100ml"] == pytest.approx(stands)
    already = answered(["solve", cordial, "--target", "brix<=60"])["ways"][0]
    assert (already["additions"], already["words"]) == ([], "nothing to add")
    named = answered(["solve", cordial, "--target", "brix=45", "--add", "honey"])["ways"]
    assert [item["material"] for item in named[0]["additions"]] == ["honey"]


def test_a_batch_is_scaled_to_each_thing_it_may_be_scaled_to(files):
    cordial = files("cordial.json", FORM)
    made = answered(["evaluate", cordial])["final"]
    twice = answered(["scale", cordial, "--volume-ml", str(2 * made["volume_ml"]["value"])])
    assert twice["factor"] == pytest.approx(2.0, rel=1e-6)
    assert answered(["scale", cordial, "--serves", str(made["serves"])])["factor"] == pytest.approx(1.0)
    assert answered(["scale", cordial, "--have", "white_sugar=1038"])["factor"] == pytest.approx(2.0)
    assert answered(["scale", cordial, "--factor", "2.5"])["masses_g"]["juice"] == pytest.approx(2500.0)
    with pytest.raises(Refusal, match="0 times the spec cannot be made"):
        answered(["scale", cordial, "--factor", "0"])
    fits = answered(["scale", cordial, "--vessel", "pot=3000", "--head-room", "0", "--resolution-g", "5"])
    assert all(grams % 5 == pytest.approx(0) or grams % 5 == pytest.approx(5) for grams in fits["rounded"]["masses_g"].values())


def test_the_house_s_own_specs_stand_beside_the_one_that_is_checked(files):
    def with_acid(name, grams):
        spec = json.loads(json.dumps(FORM))
        spec["steps"][2]["lines"][0]["amount"] = {"kind": "fixed", "mass_g": grams}
        return files(f"{name}.json", {**spec, "id": name, "goals": []})

    heavy, usual = with_acid("heavy", 60.0), [with_acid(f"usual{n}", 6.0 + n) for n in range(3)]
    beside = [word for path in usual for word in ("--beside", path)]
    assert "far_from_usual" in {remark["code"] for remark in answered(["check", heavy, *beside])}
    assert "far_from_usual" not in {remark["code"] for remark in answered(["check", usual[0], *beside])}


def test_a_run_is_folded_from_its_lines(files):
    batch = Batch()
    batch.does("started", factor=1.0)
    batch.does("weighed", line="juice", mass_g=1340)
    lines = "\n".join(json.dumps(event.as_data()) for event in batch.events)
    found = answered(["run", files("cordial.json", FORM), files("events.jsonl", f"{lines}\n\n")])
    assert found["factor"] == pytest.approx(1.34)
    assert found["current"] == {"step": "s1", "line": None, "touched": "s1"}


def test_weighings_and_recipes_become_drafts_that_work_out(files):
    weighed = files("weighed.jsonl", '{"material": "honey", "mass_g": 600}\n{"material": "water", "shown_g": 900}\n')
    draft = answered(["capture", weighed, "--name", "Grown"])
    assert answered(["evaluate", files("grown.json", draft)])["final"]["mass_g"]["value"] == pytest.approx(900)
    recipe = files("recipe.txt", "Syrup\n1 kg white sugar\n1 kg water\nMix everything.\nBottle.")
    parsed = answered(["parse", recipe])
    assert parsed["doubts"] == []
    assert answered(["evaluate", files("parsed.json", parsed["draft"])])["final"]["brix"]["value"] == pytest.approx(50.0, abs=0.1)
    cup = files("cup.txt", "Syrup\n1 cup water\n200 g white sugar")
    millilitres = [
        next(
            line["amount"]["volume_ml"]
            for line in answered(["parse", cup, "--locale", locale])["draft"]["steps"][0]["lines"]
            if line["material"] == "water"
        )
        for locale in ("us", "metric")
    ]
    assert millilitres == [pytest.approx(236.588, abs=0.001), 250.0]


def test_what_is_typed_in_is_read_too(monkeypatch):
    monkeypatch.setattr(sys, "stdin", io.StringIO("Syrup\n1 kg honey\n500 g water"))
    assert answered(["parse", "-"])["draft"]["name"] == "Syrup"


def test_keeping_cost_and_gear_on_files(files):
    cordial = str(SPECS / "bergamot-cordial.json")
    kept = answered(["keep", cordial, "--read", "ph=2.35", "--meter-checked"])["keeping"]
    assert (kept["safety"]["kind"], kept["at_most_c"], kept["not_shown"]) == ("barrier", 5, [])
    wrong = answered(["keep", SYRUP, "--read", "ph=3.1", "--meter-checked"])["keeping"]
    assert wrong["safety"]["kind"] == "class", "nothing in sugar and water is that sour"
    assert "they disagree" in wrong["not_shown"][0]
    house = ["--house", "safety=30", "--by", "Ilse", "--why", "plan", "--authority", "letter of 2 March"]
    assert answered(["keep", SYRUP, *house])["keeping"]["safety"]["days"] == 30
    entry = {"days": 1, "source": "house", "dated": "2026-11-25"}
    rules = files("rules.json", {"format": "ulsek.rules", "version": 1, "classes": {"any": entry}})
    assert answered(["--rules", rules, "keep", SYRUP])["keeping"]["safety"]["days"] == 1
    cost = answered(["cost", SYRUP, "--labour-per-hour", "30"])
    assert float(cost["labour"]) == pytest.approx(cost["hands_min"] / 60 * 30)
    carried = answered(["gear", str(SPECS / "hazelnut-milk.json"), SYRUP])
    assert all("nuts" in remark["text"] for remark in carried)
    assert carried, "the jug was used for nuts before"


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["evaluate", "/nowhere.json"], "/nowhere.json cannot be opened: No such file or directory."),
        (["solve", SYRUP], "aims: Nothing is aimed at."),
        (["solve", SYRUP, "--target", "brix"], "“brix” is no target. Write it as brix=45"),
        (["solve", SYRUP, "--target", "mood=keep"], "aims/0/property: This is nothing to aim at"),
        (["solve", SYRUP, "--target", "brix=45", "--add", "moon"], "materials/moon: “moon” is not described."),
        (["scale", SYRUP], "scale: A batch is scaled to one thing."),
        (["scale", SYRUP, "--serves", "4", "--volume-ml", "300"], "scale: A batch is scaled to one thing."),
        (["scale", SYRUP, "--have", "white_sugar"], "“white_sugar” cannot be read."),
        (["cost", SYRUP, "--worth", "peel=4"], "worth_per_kg/peel: No by-product “peel” is kept: there are none."),
        (["cost", SYRUP, "--labour-per-hour", "nan"], "labour_per_hour: NaN is no price"),
        (["keep", SYRUP, "--read", "mood=4"], "read/mood: “mood” says nothing of keeping"),
        (["keep", SYRUP, "--house", "safety=90", "--by", "Ilse", "--why", "x"], "authority: A longer safety date needs evidence"),
        (["sum", "alchemy"], "alchemy"),
        (["sum", "dilute", "mass=1000", "have=40", "want=50"], "want:"),
    ],
)
def test_bad_input_is_one_clear_line_and_code_two(arguments, words, monkeypatch, capsys):
    code, out, err = told(arguments, monkeypatch, capsys)
    assert (code, out) == (2, "")
    assert err.startswith("ulsek: ")
    assert words in err.replace("\u00a0", " ")
    assert err.count("\n") == 1


def test_files_that_are_none_are_refused_by_line(files, monkeypatch, capsys):
    bad = files("bad.json", "{half")
    assert "is no JSON" in told(["evaluate", bad], monkeypatch, capsys)[2]
    events = files("events.jsonl", '{"id": "a"}\n{half\n')
    assert "line 2 is no JSON" in told(["run", SYRUP, events], monkeypatch, capsys)[2]
    bytes_ = Path(files("bytes.txt", "x"))
    bytes_.write_bytes(b"\xff\xfe\x00")
    assert "is no text in UTF-8" in told(["parse", str(bytes_)], monkeypatch, capsys)[2]


def test_a_check_that_finds_a_stop_ends_with_one(files, monkeypatch, capsys):
    unnamed = files("unnamed.json", {**FORM, "name": " "})
    code, out, _ = told(["check", unnamed], monkeypatch, capsys)
    assert code == 1
    assert json.loads(out)[0]["code"] == "no_name"
    assert told(["check", SYRUP], monkeypatch, capsys)[0] == 0


def test_a_nested_file_that_is_not_there_is_named(files):
    spec = json.loads(Path(SYRUP).read_text(encoding="utf-8"))
    outer = {**spec, "materials": {"base": {"name": "Base", "kind": "sweetener", "makeup": {"by": "spec", "spec": "not-there"}}}}
    outer["steps"][0]["lines"].append({"id": "b", "material": "base", "amount": {"kind": "fixed", "mass_g": 10}})
    with pytest.raises(Refusal, match=r"not-there\.json cannot be opened"):
        answered(["evaluate", files("outer.json", outer)])


def test_card_compare_and_read_on_files(files):
    made = answered(["card", SYRUP, "--language", "es", "--beside", "cups"])
    assert (made["language"], made["labels"]["gear"]) == ("es", "Utensilios")
    assert any(line["beside"].endswith("cup") for step in made["steps"] for line in step["lines"])
    assert answered(["compare", SYRUP, SYRUP])["changed"] == []
    assert answered(["compare", SYRUP, str(SPECS / "rich-syrup.json")])["did"]
    assert answered(["read", SYRUP])["kind"] == "spec file"
    assert answered(["read", files("r.txt", "Thing\n\n1 kg honey")])["kind"] == "recipe text"
