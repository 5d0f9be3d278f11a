"""Labels on paper: all that must be said is on, on one page, and none of it under the code."""

import io

import pytest
from pypdf import PdfReader

from ulsek.core.base.refusals import Refusal
from ulsek.devices.label import SIZES, Label, labels_pdf

CAUTIONS = tuple(
    f"Caution: {text}" for text in ("Birch pollen allergy: some people react to birch leaf.", "Dry acid stings eyes and dust: pour low.")
)
FULL = Label(
    "L0042",
    "https://tern.house/lots/L0042",
    "Gooseberry, fennel and birch tip cordial",
    ("RECALLED: do not serve. glass in it", "Not before Sat 28 Nov 18:00: it rests", "Use by Wed 25 Nov 2026"),
    ("version 1 · 1 600 mL in 500 mL bottles", "made Mon 23 Nov 2026 22:51 by Noor", "Keep at 4 °C or colder.", "Allergens: celery, sulphites", *CAUTIONS),
    ("Allergens: celery, sulphites", *CAUTIONS),
    "pour until WED",
)  # fmt: skip


def pages(labels, size):
    return [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(labels_pdf(labels, size))).pages]


@pytest.mark.parametrize("size", SIZES)
def test_a_full_label_is_whole_on_one_page_in_every_size(size):
    plain = Label(
        "D123456", "https://tern.house/stores/D123456", "Pressed", ("D123456, received Wed 25 Nov 2026",), ("Allergens: none known",)
    )
    found = pages([FULL, plain, FULL], size)
    assert len(found) == 3
    assert found[0] == found[2]
    for text in (FULL.title, FULL.glance, *FULL.strong, *FULL.vital):
        assert text in found[0]
    assert "received Wed 25 Nov 2026" in found[1]


def test_what_does_not_fit_is_refused_and_never_cut_off():
    long = Label("L0043", "https://tern.house/lots/L0043", FULL.title, FULL.strong, (), CAUTIONS * 5)
    assert len(pages([long], "100x70")) == 1
    with pytest.raises(Refusal, match="L0043 has more to say than 60 × 40 mm can hold"):
        labels_pdf([long], "60x40")
    with pytest.raises(Refusal, match="from 1 to 200"):
        labels_pdf([FULL] * 201)


@pytest.mark.parametrize("size", SIZES)
def test_what_is_read_at_a_metre_is_five_millimetres_high(size):
    """A letter is read from two hundred times its height: capitals of 5 mm at a metre; a capital is about 0.7 of its font's size."""
    sizes = []
    page = PdfReader(io.BytesIO(labels_pdf([FULL], size))).pages[0]
    page.extract_text(visitor_text=lambda text, _cm, matrix, _font, points: sizes.append((text, points * abs(matrix[0]))))
    millimetres = max(points for text, points in sizes if "until" in text) * 25.4 / 72
    assert 0.7 * millimetres >= 5.0
