"""A panel of the house that is open, and who sits at it."""

from tests.site.conftest import Phone
from ulsek.tasting.models import Panel

NAMES = ("Ada", "Ben", "Cleo", "Dov", "Edda", "Finn")
BOUGHT = {"kind": "bought", "name": "Harbour cordial", "sugar_g_100ml": 48, "acid_g_100ml": 1.9, "abv": 0, "allergens": ["sulphites"]}


def plan_of(lot, *others, method="triangle", **design):
    samples = [{"kind": "lot", "lot": lot.code}, *(others or (BOUGHT,))]
    return {
        "question": "Can anybody tell the cheaper version?",
        "design": {"method": method, "tasters": 6, "rounds": 2, **design},
        "samples": samples,
    }


class Table:
    """A panel of the house that is open, and what its people reach for."""

    def __init__(self, place, plan):
        self.place, self.lead, self.pourer = place, place.apis["lead"], place.apis["maker"]
        plan = {**plan, "poured_by": place.members["maker"].person.pk}
        made = self.lead.post("/panels", plan)
        assert made.status_code == 201, made.content
        self.path = f"/panels/{made.data['id']}"
        opened = self.lead.post(f"{self.path}/open")
        assert opened.status_code == 200, opened.content
        self.link, self.letters = opened.data["link"].partition("#")[2], opened.data["letters"]
        self.row = Panel.objects.get(pk=made.data["id"])

    def seated(self, *names):
        phones = [Phone() for _ in names]
        for phone, name in zip(phones, names, strict=True):
            assert phone.sits(self.link, name).status_code == 201
        return phones

    def key(self):
        """Which sample stands behind each code."""
        sheet = self.pourer.get(f"{self.path}/pouring").data
        return {glass["code"]: glass["sample"] for served in sheet["sets"] for glass in served["glasses"]}

    def seen(self):
        return self.lead.get(self.path).data


def odd(page, key):
    held = [key[code] for code in page["codes"]]
    return next(code for code, sample in zip(page["codes"], held, strict=True) if held.count(sample) == 1)
