"""Any row of words is answered: by a draft, or by a refusal in words."""

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from ulsek.core.base.refusals import Refusal
from ulsek.core.recipe_text.parser import parse_recipe
from ulsek.core.spec.json_form import read_spec
from ulsek.core.written.lexicon import LANGUAGES, lexicon

FIGURES = (
    "2",
    "20",
    "300",
    "1½",
    "2:1",
    "1:1",
    "60 C",
    "20 min",
    "2 days",
    "overnight",
    "5 %",
    "10 g",
    "500 g",
    "1 L",
    "45 brix",
    "2 cups",
    "3 parts",
)
MARKS = (",", ".", "\n", "\n", ":", "/", "+", "(", ")", "-", "&", "x", ";")


def _pool(language):
    """Words of one language, those that join and measure as often as all verbs and all materials together."""
    sections = {name: entries for name, entries in lexicon(language).words.items() if entries}
    often = st.sampled_from(
        sorted({word for name in ("and", "of", "per", "then", "to", "with", "same_as", "lead", "onto") for word in sections.get(name, ())})
    )
    verbs, things = (st.sampled_from(sorted(sections[name])) for name in ("verbs", "materials"))
    any_word = st.sampled_from(sorted({word for entries in sections.values() for word in entries}))
    return st.lists(
        st.one_of(verbs, things, things, often, st.sampled_from(FIGURES), st.sampled_from(MARKS), any_word), min_size=1, max_size=60
    )


@settings(max_examples=120, deadline=None, suppress_health_check=list(HealthCheck))
@given(st.sampled_from(LANGUAGES).flatmap(_pool), st.sampled_from(("metric", "us")))
def test_any_words_are_a_draft_or_refused(words, locale):
    try:
        read = parse_recipe(" ".join(words), locale)
    except Refusal as refusal:
        assert refusal.text
    else:
        assert read_spec(read.draft, strict=False).steps
