"""What a text told of yield and keeping, beside what a batch comes to and what was bottled."""

from tests.core.cordial import FORM, Batch, materials_of
from ulsek.core.base.messages import printed
from ulsek.core.run.fold import fold
from ulsek.core.run.run_result import run_result
from ulsek.core.spec.json_form import read_spec

SPEC = read_spec(FORM)
MATERIALS = materials_of(SPEC)


def plain(text):
    return printed(text).replace("\u00a0", " ")


def planned(batch, line):
    return fold(SPEC, MATERIALS, batch.events).evaluation.flow.masses[line]


def test_what_the_text_told_stands_beside_what_was_bottled():
    """1.34 times the batch of 1.30 L: a litre that was told is 1.34 L of this one."""
    told = [
        {"kind": "yield", "text": "makes a litre", "amount": 1000, "unit": "mL"},
        {"kind": "yield", "text": "makes 1.3 L", "amount": 1300, "unit": "mL"},
        {"kind": "keeps", "text": "keeps for ever", "amount": 3650, "unit": "days"},
        {"kind": "serve", "text": "with soda"},
    ]
    spec = read_spec({**FORM, "claims": told})
    batch = Batch()
    batch.does("started", factor=1.0)
    for line, step in (("juice", "s1"), ("sugar", "s2"), ("malic", "s3")):
        batch.does("weighed", line=line, mass_g=1340 if line == "juice" else round(planned(batch, line), 1))
        batch.does("step_done", step=step)

    def said():
        return [
            (claim.agrees, *(plain(words) for words in (claim.worked_out, claim.happened, claim.cause)))
            for claim in run_result(fold(spec, MATERIALS, batch.events)).told
        ]

    less = "Less than its parts come to: reduced further, or left in the pan and the sieve?"
    litre, right, keeps, serve = said()
    assert (litre[0], litre[2:], right[0], right[2:]) == (False, ("", less), True, ("", ""))
    assert right[1].startswith("1 73")
    assert (keeps[0], serve) == (False, (None, "", "", ""))
    batch.does("finished", volume_ml=1350)
    litre, right, *_ = said()
    assert (litre[0], litre[2]) == (True, "1 350 mL"), "what was bottled counts"
    assert (right[0], right[3]) == (False, "Less was bottled than the text tells: reduced further, or left in the pan and the sieve?")
