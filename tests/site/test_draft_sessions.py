"""The site goes on from its last answer to a draft; what it answers must not depend on that."""

from copy import deepcopy

from tests.core.cordial import FORM
from ulsek.specs import drafts


def test_an_answer_is_the_same_from_the_last_one_and_from_nothing(place):
    lead, body = place.apis["lead"], deepcopy(FORM)

    def answered():
        told = lead.post("/evaluate", {"spec": body}).data
        session = drafts._sessions[place.house.pk, body["id"]]
        drafts._sessions.clear()
        assert told == lead.post("/evaluate", {"spec": body}).data
        drafts._sessions[place.house.pk, body["id"]] = session
        return told["final"]["brix"]["value"], session._base.unchanged

    first, unchanged = answered()
    assert unchanged == 0
    body["steps"][-1]["note"] = "cold"
    assert answered() == (first, len(body["steps"]) - 1), "an edit of the last step leaves those before it as they were"
    # Another person reads the delivery meanwhile: the juice goes into the first step, so nothing is as it was.
    place.delivery(brix_reading=12.5)
    read, unchanged = answered()
    assert (read > first + 0.5, unchanged) == (True, 0)
