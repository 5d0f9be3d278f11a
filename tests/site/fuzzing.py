"""Requests that nobody would send: drawn from the API's own description, and sound ones with one part made evil."""

import contextlib
import copy
import functools
import json
from decimal import Decimal
from uuid import uuid4

import schemathesis
from django.conf import settings
from hypothesis import HealthCheck, Phase, given, seed
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode

from tests.core.cordial import FORM, JUICE
from tests.site.conftest import LISTENS, event
from ulsek.batches.models import Lot
from ulsek.citrus.actions.receive_case import NewCase, receive_case
from ulsek.core.sums.catalogue import SUMS
from ulsek.devices.actions.connect_instrument import connect_instrument

LEFT_OUT = ("POST /api/session/end", "POST /api/session")
"""Signing in and out: they change who asks. They have tests of their own."""
EVIL = (
    *(None, True, False, 0, -1, 0.0, -0.0, 1e-320, 1e308, -1e308, 2**31, 2**53 - 1, -(2**53) + 1, 10**15),
    *("", " ", "NaN", "Infinity", "-inf", "1e400", "0x10", "½", "1/0", "a" * 130, "x" * 5000, "'; DROP TABLE x; --", "<script>alert(1)</script>", "{{7*7}}", "%s%n"),
    *("\x00", "\u202e", "é", "É", "ſ", "🍋" * 50, "../../etc/passwd", "=1+1", "9999-12-31T23:59:59.999999+00:00", "0001-01-01T00:00:00Z", "2026-02-30T00:00:00Z"),
    *("2026-11-27T12:00:00", "2026-11-27T12:00:00+99:00", "00000000-0000-0000-0000-000000000000", [], {}, [[]], [None], {"": ""}, {"kind": "fixed"}, ["a"] * 300),
)  # fmt: skip
SETTINGS = hypothesis_settings(
    database=None, deadline=None, suppress_health_check=list(HealthCheck), phases=[Phase.generate], derandomize=False, print_blob=False
)


@functools.cache
def operations():
    """Every operation of the API but those that change who asks."""
    described = json.loads((settings.FORMATS / "openapi.json").read_text(encoding="utf-8"))
    found = [operation.ok() for operation in schemathesis.openapi.from_dict(described).get_all_operations()]
    return [operation for operation in found if operation.label not in LEFT_OUT]


class Scene:
    """A house with one of each thing, so that addresses lead somewhere; and sound requests to each of them."""

    def __init__(self, place):
        self.item = place.delivery(brix_reading=8.2, acid_g_100ml=2.4)
        self.spec = place.spec()
        finished = place.run(self.spec, mass_g=500)
        done = [event("weighed", line=line, mass_g=mass) for line, mass in (("juice", 500), ("sugar", 259.5), ("malic", 4.0))]
        done += [event("step_done", step=f"s{n}") for n in range(1, 6)]
        place.apis["maker"].post(
            f"/runs/{finished}/events", {"events": [*done, event("finished", volume_ml=600, rest="spoon", signed=True)]}
        )
        self.run, self.lot = place.run(self.spec, mass_g=500), Lot.objects.get(run=finished).code
        self.case = receive_case(
            place.members["maker"], "lime_persian", NewCase(supplier="Hagedorn", count=80, weight_g=8000, price=Decimal(20))
        )
        self.instrument = connect_instrument(place.members["lead"], "scale", "scale", "socket://127.0.0.1:99")
        self.rehearsal = place.run(self.spec, mass_g=500, rehearsal=True)

    def addresses(self):
        """What may stand in a path, by the name of its place."""
        return {
            "spec_id": [str(self.spec.pk)], "run_id": [self.run, self.rehearsal], "stock_id": [str(self.item.pk)], "code": [self.lot, self.item.code],
            "number": [1, 2, 0, 10**18, 10**30], "case_id": [str(self.case.pk)], "instrument": [str(self.instrument.pk)], "name": list(SUMS),
            "fruit": ["lime_persian", "yuzu"], "family": ["cordial", "syrup"], "key": ["white_sugar", 1, 10**18, JUICE], "side_id": [1, 10**30],
            "photo_id": [1, 10**30], "attachment_id": [1], "sample_id": [1, 10**30], "plan_id": [str(uuid4())],
        }  # fmt: skip

    def checked_contents(self):
        """Requests that the site takes, as (method, path, body)."""
        spec, run, lot, stock, case = self.spec.pk, self.run, self.lot, self.item.pk, self.case.pk
        body = copy.deepcopy(FORM)
        fruit = {"count": 5, "weight_g": 500.0, "juice_ml": 200.0, "peel_g": 60.0, "zest_g": 10.0, "brix": 8.0, "acid_g_100ml": 6.0}
        want = {"what": "juice", "fruits": ["lime_persian"], "amount": 500, "by": "2030-11-27T12:00:00+00:00", "times": None, "spec": None}
        events = (
            event("weighed", line="sugar", mass_g=20), event("read", property="brix_reading", value=40.0, step="s2"), event("step_begun", step="s1"), event("step_done", step="s1"),
            event("noted", text="clear"), event("spilled", mass_g=20, step="s1"), event("tasted", step="s1", sense="sour", verdict="right", share=0.1), event("measured", line="juice", volume_ml=500),
            event("counted", line="juice", count=3), event("dosed", line="malic", drops=20, drop_ml=0.05), event("went_on", line="juice", mass_g=100, supply=f"delivery:{stock}"),
            event("taken_from", line="juice", supply=f"delivery:{stock}"), event("wrong_jar", line="sugar", material="citric_acid", mass_g=5), event("handed_over", to="Lead"), event("sampled", step="s1", mass_g=5),
            event("step_added", step={"id": "extra-1", "verb": "combine", "vessel": "pot", "lines": [{"id": "x1", "material": "water", "amount": {"kind": "fixed", "written": "10 g"}}]}),
            event("step_changed", step="s4", changes={"minutes": 50, "to_c": 5}), event("step_skipped", step="s4", reason="cold"), event("undone", of="x"), event("step_first", step="s4"),
            event("repair_taken", repair="x", additions=[{"material": "water", "line": "w", "mass_g": 5, "vessel": "pot", "step": "s3"}]), event("repair_refused", repair="x"),
            event("read", property="acid_g_100ml", step="s3", burette={"naoh_ml": 12.0, "sample_ml": 5.0, "normality": 0.1}),
            event("finished", volume_ml=600, rest="x", signed=True, containers=[1], place="shelf", by_products=[{"name": "skins", "to": "bin", "reason": "x", "mass_g": 5, "rest": "y"}]),
        )  # fmt: skip
        return [
            *(("post", f"/runs/{run}/events", {"events": [item]}) for item in events),
            ("post", "/runs", {"id": str(uuid4()), "spec": str(spec), "mass_g": 500, "volume_ml": None, "factor": None, "chosen": {}, "version": 1, "rehearsal": True}),
            *(("post", f"/lots/{lot}/events", {"kind": kind, "body": {"amount": 1, "place": "well", "reason": "x", "text": "good", "from": lot}}) for kind in ("opened", "moved", "used", "counted", "split", "decanted", "topped_up", "tasted")),
            ("post", f"/stock/{stock}/events", {"kind": "counted", "body": {"left_g": 900}}),
            ("post", f"/stock/{stock}/readings", {"brix_reading": 8.2, "acid_g_100ml": 2.4}),
            ("post", "/stock", {"material": JUICE, "product": "Pressed", "supplier": "Hagedorn", "price": "15.20", "pack_g": "1000", "packs": 2, "form": "", "colour": ""}),
            ("post", "/citrus/cases", {"fruit": "lime_persian", "supplier": "Hagedorn", "count": 80, "weight_g": 8000, "price": "20", "size": "54"}),
            ("post", f"/citrus/cases/{case}/samples", fruit),
            ("post", "/citrus/plan", {"name": "", "cases": [{"case": str(case)}], "wants": [want], "order": False}),
            ("post", "/citrus/stretch", {"fruit": "lime_persian", "juice_ml": 500, "times": 3}),
            ("post", "/citrus/oil-sugar", {"fruit": "lime_persian", "peel_g": 100}),
            ("post", "/citrus/trials", {"fruit": "lime_persian", "first": "a", "second": "b", "pairs": [[300, 320], [310, 330], [290, 315]]}),
            ("post", "/citrus/spent-peel", {"fruit": "lime_persian", "peel_g": 100, "spent_g": 80, "hours": 12, "warm_c": 20}),
            ("post", "/citrus/packed-peel", {"fruit": "lime_persian", "ml": 250, "grams": 80}),
            ("post", "/containers", {"name": "tub", "tare_g": 100, "capacity_ml": 1000}),
            ("post", "/read", {"text": "Syrup\n100 g sugar\n100 g water\nStir.", "locale": "metric"}),
            ("post", "/specs", {"name": "New", "family": "syrup", "school": "", "body": body}),
            ("put", f"/specs/{spec}/draft", {"spec": body, "writer": "tab"}),
            ("put", "/rules", {"rules": {"format": "ulsek.rules", "version": 1, "altitude_m": 300}}),
            ("put", "/house/altitude", {"altitude_m": 300}),
            ("post", f"/specs/{spec}/versions/1/scores", {"score": 7.5, "taster": "x", "reference": "y", "note": "z"}),
            ("post", f"/specs/{spec}/versions/1/copies", {"to": "Pim"}),
            ("post", "/materials.csv", {"text": "key,name\nx,y\n", "keep": False}),
            ("post", f"/runs/{run}/photos", {"step": "s1", "media_type": "image/png", "data": "iVBORw0KGgo="}),
            ("put", "/duty", {"endpoint": "http://127.0.0.1:9717/push/x", "keys": LISTENS, "on_duty": True}),
            *(("post", f"/sums/{name}", {"figures": {key: ask.usual or (JUICE if ask.material else ask.low or 10.0) for key, ask in found.asks.items()}}) for name, found in SUMS.items()),
        ]  # fmt: skip


def leaves(value, path=()):
    """The paths of everything in a body, itself left out."""
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        yield (*path, key)
        yield from leaves(inner, (*path, key))


def with_evil(body, path, evil):
    """A copy of a body with one part of it made evil."""
    made = copy.deepcopy(body)
    place = made
    for key in path[:-1]:
        place = place[key]
    place[path[-1]] = evil
    return made


def drawn(scene, role, examples, send):
    """Sends about so many drawn cases, shared among all operations, sound and unsound ones in turn, with addresses that mostly lead somewhere."""
    known, modes = scene.addresses(), (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)
    rounds = max(1, examples // len(operations()))
    for n, operation in enumerate(operations()):
        for turn in range(min(2, rounds)):
            mode = modes[(n + turn + len(role)) % 2]

            @seed(f"{role} {n} {mode.value}")
            @hypothesis_settings(SETTINGS, max_examples=max(1, rounds // 2))
            @given(operation.as_strategy(generation_mode=mode), st.data())
            def send_one(case, data):
                path = case.path
                for name, value in (case.path_parameters or {}).items():
                    values = known.get(name)
                    chosen = data.draw(st.sampled_from(values)) if values and data.draw(st.integers(0, 4)) else value
                    path = path.replace(f"{{{name}}}", str(chosen).replace("/", "%2F"))
                send(case.method.lower(), path, case.body if case.media_type else None, case.query)

            with contextlib.suppress(Unsatisfiable):  # an operation that asks for nothing cannot be asked wrongly
                send_one()


def bent(scene, role, examples, send):
    """Sends so many sound requests, each with one part made evil."""
    checked_contents = scene.checked_contents()

    @seed(f"{role} bent")
    @hypothesis_settings(SETTINGS, max_examples=examples)
    @given(st.data())
    def send_one(data):
        method, path, body = data.draw(st.sampled_from(checked_contents))
        where = data.draw(st.sampled_from(list(leaves(body))))
        send(method, f"/api{path}", with_evil(body, where, data.draw(st.sampled_from(EVIL))), None)

    send_one()
