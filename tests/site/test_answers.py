"""Every endpoint answers what the API's description says, and the description is the core's."""

import inspect
import json
import os
import shutil
import subprocess
import sys
from pathlib import Path
from typing import get_origin, get_type_hints

import jsonschema
import pytest
from django.http import HttpResponse

from tests.instruments import simulated
from tests.site import published
from tests.site.conftest import PASSWORD, Api, Phone, event
from tests.site.doors import PIN, Doors, On
from tests.site.signing import Key, sealed
from tests.site.test_authenticator import digits
from tests.site.test_old_bottle import old_and_young, told
from ulsek.batches.models import Lot, Run
from ulsek.core.base.answer import NEVER_MISSING, members
from ulsek.core.base.messages import NOTHING, message
from ulsek.core.results.evaluation_result import FinalResult
from ulsek.core.run.run_result import RunResult
from ulsek.core.sums.sheet import SumAnswer, SumFigure
from ulsek.site.api import api as described_api
from ulsek.tasting.models import Standard
from ulsek.team.models import House

ROOT = Path(__file__).parents[2]


def _people(place):
    """What changes who asks: by password, by PIN, by a code, away from the network; and out again."""
    lead, maker = place.apis["lead"], place.members["maker"].person
    tablet, key = On(place, "bench tablet").signs_in("maker"), Key()
    assert tablet.call("put", "/own/pin", {"password": PASSWORD, "pin": PIN}).status_code == 200
    assert tablet.post("/session/switch", {"person": maker.pk, "pin": PIN}).status_code == 200
    assert tablet.post("/session/key", {"public": key.public}).status_code == 200
    device, away = tablet.get("/session").data["device"], Key()
    text = sealed(device["sealing_key"], person=maker.pk, pin=PIN, device=device["id"], key=away.id)
    assert tablet.post("/session/claims", {"sealed": text, "public": away.public, "stays": True}).status_code == 200
    assert tablet.post("/session/end").status_code == 200
    begun = lead.post("/own/authenticator", {"password": PASSWORD}).data
    assert lead.post("/own/authenticator/confirm", {"code": digits(begun["secret"])}).status_code == 200
    assert lead.post("/own/authenticator/recovery", {"password": PASSWORD}).status_code == 200
    assert lead.post("/own/authenticator/drop", {"password": PASSWORD}).status_code == 204
    code = lead.post(f"/people/{maker.pk}/code").data["code"]
    assert Api().post("/session/code", {"name": "maker", "code": code, "password": "steel-ladle-22"}).status_code == 200


def _coming_and_going(place):
    """A first house is opened, somebody joins it, changes the house, takes it over and leaves; the demo is wiped."""
    House.objects.update(is_demo=True)
    kaja, ilse = ({"sign_in": name, "password": "grey-plover-11"} for name in ("kaja", "ilse"))
    lead, guest = Api(), Api()
    opened = lead.post("/session/opening", {"house": {"name": "Plover Room", "zone": "UTC", "currency": "EUR"}, "lead": ilse})
    assert opened.status_code == 201, opened.content
    code = lead.post("/invitations", {"name": "Kaja", "role": "maker"}).data["code"]
    assert guest.post("/session/join", {"code": code, "person": kaja}).status_code == 201
    assert guest.post("/session/house", {"house": opened.data["house_id"]}).status_code == 200
    heir = next(item["id"] for item in lead.get("/people").data["items"] if item["name"] == "kaja")
    assert lead.post(f"/people/{heir}/hand-over").status_code == 200
    assert lead.post("/own/leave").status_code == 204
    assert place.apis["lead"].post("/house/wipe", {"name": "Tern House"}).status_code == 204


def _grouped(place):
    """Two houses in a group: one joins by a code, a lead is named and dropped, a spec is copied, followed, brought up to date and let go; a house is closed and kept."""
    lead, other = place.apis["lead"], place.apis["stranger"]
    assert lead.post("/group", {"name": "The Shore"}).status_code == 201
    assert other.post("/group/join", {"code": lead.post("/group/code").data["code"]}).status_code == 200
    assert lead.post("/session/house", {"house": place.house.pk}).status_code == 200
    second = place.members["reader"].person
    assert lead.call("put", f"/people/{second.pk}/role", {"role": "lead"}).status_code == 200
    assert lead.post("/group/leads", {"person": second.pk}).status_code == 200
    assert lead.call("delete", f"/group/leads/{second.pk}").status_code == 200
    spec = place.spec()
    first = f"/specs/{spec.pk}/versions/1/copy"
    assert lead.post(first, {"house": place.other.pk}).data["published"]
    (copy,) = lead.get(f"/specs/{spec.pk}/followers").data
    for change in ({"minutes": 41}, {"minutes": 42}):
        draft = lead.get(f"/specs/{spec.pk}/draft").data
        steps = [{**step, **change} if step["id"] == "s4" else step for step in draft["body"]["steps"]]
        saved = lead.put(f"/specs/{spec.pk}/draft", {"spec": {**draft["body"], "steps": steps}, "writer": "tab"}, draft["revision"])
        assert lead.post(f"/specs/{spec.pk}/publish", {"revision": saved.data["revision"], "why": "longer"}).status_code == 201
        if change["minutes"] == 41:
            assert lead.post(f"/specs/{spec.pk}/followers/{copy['spec']}/take").status_code == 200
    assert other.post(f"/specs/{copy['spec']}/follow").status_code == 200
    assert other.post(f"/specs/{copy['spec']}/fork").status_code == 200
    assert other.post("/house/closing", {"name": place.other.name, "password": PASSWORD}).status_code == 200


def _by_taste(doors, lead, maker):
    """A batch settles something by taste, and it goes into the draft; then only words of the draft change."""
    line = {"id": "pinch.salt", "material": "salt", "amount": {"kind": "fixed", "written": "1 g"}}
    done = (
        *(event("weighed", line="juice", mass_g=500), event("step_done", step="s1")),
        *(event("step_added", step={"id": "pinch", "verb": "combine", "lines": [line]}), event("weighed", line="pinch.salt", mass_g=2)),
    )
    run, spec = doors.place.run(doors.scene.spec, mass_g=500), doors.scene.spec.pk
    assert maker.post(f"/runs/{run}/events", {"events": list(done)}).status_code == 200
    assert lead.post(f"/runs/{run}/into-draft").status_code == 200
    draft = lead.get(f"/specs/{spec}/draft").data
    assert lead.post(f"/specs/{spec}/publish", {"revision": draft["revision"], "why": "by taste"}).status_code == 201
    body = {**draft["body"], "name": "Sea buckthorn cordial, cold"}
    assert lead.put(f"/specs/{spec}/draft", {"spec": body, "writer": "tab"}, draft["revision"]).status_code == 200
    assert lead.post(f"/specs/{spec}/correct").status_code == 200


def _tasted(doors):
    """A taster sits down, looks, answers and steps out."""
    seat = Phone()
    code = doors.place.apis["lead"].get(doors.new_open()).data["letters"]
    assert seat.sits(code, "Ada").status_code == 201
    page = seat.get("/seat").data["pages"][0]
    assert seat.says(1, code=page["codes"][0]).status_code == 200
    assert seat.post("/seat/out").status_code == 200


def _made_again(doors):
    """A standard is made again, and reads as it should."""
    path = doors.new_standard()
    read = Standard.objects.get(pk=path.rpartition("/")[2]).readings["brix_reading"]
    assert doors.place.apis["maker"].post(f"{path}/made", {"brix_reading": read}).status_code == 200


def _aged(doors):
    """An old bottle beside a young one of its version shortens its date."""
    table = told(doors.place, *old_and_young(doors.place), right=6)
    assert doors.place.apis["lead"].post(f"{table.path}/shorter-date", {"days": 3, "why": "flat"}).status_code == 200


def test_every_operation_answers_what_its_description_says(place):
    House.objects.filter(pk=place.house.pk).update(is_demo=True)
    published.SEEN.clear()
    with simulated("scale") as scale, simulated("label_printer") as paper:
        doors = Doors(place, scale, paper)
        lead, maker = place.apis["lead"], place.apis["maker"]
        _by_taste(doors, lead, maker)
        _made_again(doors)
        last = [name for name in doors.doors if name.endswith(("/recall", "/withdraw", "/own/password"))]
        for operation in [name for name in doors.doors if name not in last] + last:
            for who, api in (("maker", maker), ("lead", lead)):
                doors.ask(operation, api, who)
        _tasted(doors)
        _aged(doors)
        _grouped(place)
        _people(place)
        _coming_and_going(place)
    assert published.with_bodies() - published.SEEN == set()


def test_an_answer_that_is_not_as_described_is_told():
    def answer(**body):
        return HttpResponse(json.dumps(body), content_type="application/json")

    published.judged("get", "/api/health", answer(status="ok"))
    for wrong in (answer(status=1), answer(status="ok", more=1), answer()):
        with pytest.raises(AssertionError, match="GET /health answers what it does not describe"):
            published.judged("get", "/api/health", wrong)


@pytest.mark.parametrize("value", [float("nan"), float("inf")])
def test_a_number_that_is_none_is_a_fault_and_never_sent(place, monkeypatch, value):
    monkeypatch.setattr("ulsek.sums.api.answer_of", lambda *_: SumAnswer((SumFigure(message("brix"), value, "°Bx"),), NOTHING, ""))
    answer = place.apis["reader"].post("/sums/dilute", {"figures": {}})
    assert (answer.status_code, answer.data["code"]) == (500, "fault")


def test_no_endpoint_returns_a_tuple():
    """Django Ninja takes a tuple of two for a status and a body."""
    views = [op.view_func for _, router in described_api._routers for view in router.path_operations.values() for op in view.operations]
    assert len(views) > 150
    assert [view.__name__ for view in views if get_origin(get_type_hints(inspect.unwrap(view)).get("return")) is tuple] == []


def _first_of_its_kind(stored, kind):
    """JSON of a result without anything that has come to its class since."""
    return {member.name: stored[member.name] for member in members(kind) if member.stored is NEVER_MISSING and member.name in stored}


def test_results_that_an_earlier_version_stored_are_answered_as_they_were(place):
    run_id = place.run(place.spec(), mass_g=500)
    maker = place.apis["maker"]
    done = [event("weighed", line=line, mass_g=mass) for line, mass in (("juice", 500), ("sugar", 259.5), ("malic", 4.0))]
    done += [event("step_done", step=f"s{n}") for n in range(1, 6)]
    assert (
        maker.post(f"/runs/{run_id}/events", {"events": [*done, event("finished", volume_ml=600, rest="spoon", signed=True)]}).status_code
        == 200
    )
    run, lot = Run.objects.get(pk=run_id), Lot.objects.get(run=run_id)
    run.result["evaluation"].pop("leftovers")
    run.result.pop("expected_ml")
    run.result["off_spec"] = "as it was said then"
    run.result["gone_since"] = 1
    lot.final = _first_of_its_kind(lot.final, FinalResult)
    lot.final["keeping"]["reason"] = "as it was said then"
    lot.final["keeping"].pop("safety")
    run.save()
    lot.save()
    state = maker.get(f"/runs/{run_id}").data["state"]
    assert (state["off_spec"], state["expected_ml"], state["evaluation"]["leftovers"]) == ("as it was said then", None, [])
    assert set(state) == {member.name for member in members(RunResult)}
    final = maker.get(f"/lots/{lot.code}").data["final"]
    assert (final["keeping"]["reason"], final["keeping"]["safety"], final["takes_min"]) == ("as it was said then", None, 0.0)


def test_a_field_more_stands_in_json_in_the_description_and_in_typescript(tmp_path):
    """One edit, in one class of the core."""
    for name in ("src", "docs", "manage.py", "demo", "simulators"):
        source = ROOT / name
        (shutil.copytree if source.is_dir() else shutil.copy)(source, tmp_path / name)
    module = tmp_path / "src/ulsek/core/results/working.py"
    text = module.read_text(encoding="utf-8")
    assert text.count("    doubt: Message = NOTHING\n") == 1
    more = text.replace("    doubt: Message = NOTHING\n", "    doubt: Message = NOTHING\n    weighs_g: float = 2.5\n")
    module.write_text(more, encoding="utf-8")
    inside = {**os.environ, "PYTHONPATH": str(tmp_path / "src")}
    code = (
        "from ulsek.core.base.answer import encode; from ulsek.core.base.messages import NOTHING; from ulsek.core.results.working import Working; "
        "print(encode(Working(NOTHING, NOTHING, NOTHING, NOTHING, (), 'source')))"
    )
    assert (
        "'weighs_g': 2.5"
        in subprocess.run([sys.executable, "-c", code], env=inside, cwd=tmp_path, capture_output=True, text=True, check=True).stdout
    )
    openapi = subprocess.run([sys.executable, "manage.py", "openapi"], env=inside, cwd=tmp_path, capture_output=True, text=True, check=True)
    working = json.loads(openapi.stdout)["components"]["schemas"]["Working"]
    assert working["properties"]["weighs_g"] == {"type": "number"} and "weighs_g" in working["required"]
    jsonschema.Draft202012Validator.check_schema(working)
    (tmp_path / "openapi.json").write_text(openapi.stdout, encoding="utf-8")
    types = [str(ROOT / "web/node_modules/.bin/openapi-typescript"), "openapi.json", "--output", "schema.d.ts"]
    subprocess.run(types, cwd=tmp_path, check=True, capture_output=True)
    assert "weighs_g: number;" in (tmp_path / "schema.d.ts").read_text(encoding="utf-8")
