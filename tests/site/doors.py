"""Every operation of the API with a request that it takes, in a house with one of each thing."""

import io
import json
import zipfile
from datetime import timedelta
from itertools import count
from uuid import uuid4

from django.conf import settings
from django.utils import timezone

from tests.core.cordial import FORM, JUICE
from tests.site.conftest import LISTENS, PASSWORD, Api, event
from tests.site.drinks import published_drink
from tests.site.fuzzing import Scene
from ulsek.batches.models import Lot
from ulsek.citrus.models import CutPlan
from ulsek.jobs.models import Job
from ulsek.planning.models import PlacedLine, PlacedOrder
from ulsek.specs.models import Draft, SideDraft, Version
from ulsek.sync.models import SignedAction, State
from ulsek.tasting.models import Panel, PanelSample
from ulsek.team.actions.enrol_device import enrol_device
from ulsek.team.actions.invite import invite
from ulsek.team.models import Membership, Person, RegisterRow

PIN = "482915"
PNG = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
GUM = {"name": "Gum of the house", "kind": "sweetener", "makeup": {"by": "label", "per": "100 mL", "sugars_g": 65, "source": "its label"}}
TABLE = "key,name,kind,sugar_g\nhouse_gum,House gum,sweetener,62\n"


class On(Api):
    """An enrolled device, with or without somebody signed in on it."""

    def __init__(self, place, name):
        super().__init__()
        self.device, secret = enrol_device(place.members["lead"], name)
        self.client.cookies["ulsek_enrolled"] = f"{self.device.pk}.{secret}"

    def signs_in(self, name):
        assert self.post("/session", {"name": name, "password": PASSWORD}).status_code == 200
        return self


class Doors:
    """What each operation is asked with: a path and a body that it takes, and what a lead of another house hears where that is not what its own people do."""

    def __init__(self, place, scale, paper):
        """`scale` and `paper` are the ports of a simulated scale and label printer."""
        self.place, scene, self.days = place, Scene(place), count(1)
        lead, maker = place.apis["lead"], place.apis["maker"]
        scene.instrument.address = f"socket://127.0.0.1:{scale}"
        scene.instrument.save()
        printer = {"name": "paper", "kind": "label_printer", "address": f"socket://127.0.0.1:{paper}"}
        self.printer = lead.post("/instruments", printer).data["id"]
        self.scene, self.spec, self.run, self.lot, self.item = scene, scene.spec.pk, scene.run, scene.lot, scene.item
        self.trial = lead.post(f"/specs/{self.spec}/versions/1/branch", {"name": "Colder"}).data["id"]
        lead.post(f"/specs/{self.trial}/publish", {"revision": 1, "why": "colder"})
        lead.post("/materials.csv", {"text": TABLE, "keep": True})
        photo = maker.post(f"/runs/{self.run}/photos", {"step": "s1", "media_type": "image/png", "data": PNG}).data["id"]
        self.tub = maker.post("/containers", {"name": "white tub", "tare_g": 200}).data["id"]
        self.drink = published_drink(place.members["lead"], "Door long", "white_sugar").pk
        self.pot = lead.post("/register", {"kind": "pot", "name": "wide", "figures": {"pot_cm": 32}}).data["id"]
        self.yard = lead.post("/register", {"kind": "supplier", "name": "Yard"}).data["id"]
        sample = maker.post(f"/citrus/cases/{scene.case.pk}/samples", {"count": 2, "juice_ml": 80}).data["samples"][0]["id"]
        want = {"what": "juice", "fruits": ["lime_persian"], "amount": 200, "by": (timezone.now() + timedelta(hours=3)).isoformat()}
        plan = {"cases": [{"case": str(scene.case.pk)}], "wants": [want]}
        self.planned = maker.post("/citrus/plans", plan).data["id"]
        maker.post(f"/runs/{scene.rehearsal}/share")
        mine = place.members["maker"].person
        job = Job.objects.create(house=place.house, person=mine, kind="library", state="done", asked_at=timezone.now(), file_name="a.zip", media_type="application/zip", data=b"x")  # fmt: skip
        flag = {"spec": FORM, "sugar_g_100ml": 40.0, "acid_g_100ml": 2.4}
        spec, run, item, lot, case = (
            f"/specs/{self.spec}",
            f"/runs/{self.run}",
            f"/stock/{self.item.pk}",
            f"/lots/{self.lot}",
            f"/citrus/cases/{scene.case.pk}",
        )
        first, rehearsal = f"{spec}/versions/1", f"/runs/{scene.rehearsal}"
        duty = {"endpoint": f"{settings.PUSH_SERVICE}/push/x", "keys": LISTENS, "on_duty": True}
        thing = {"actions": [], "now": timezone.now().isoformat()}
        lead_member = place.members["lead"]
        guest = Person.objects.create(username="guest", display_name="Guest")
        Membership.objects.create(house=place.house, person=guest, role="reader")
        mine_alone, unknown = {"maker": None, "reader": 422, "lead": 422}, 404
        glasses = [{"kind": "bought", "name": name} for name in ("Market bottle", "Harbour bottle")]
        panel = {"question": "Which is liked?", "design": {"method": "paired"}, "samples": glasses, "poured_by": mine.pk}
        self.panel = panel
        self.plans, self.sealed = self.new_plan(), self.new_open()
        maker.post(f"{self.sealed}/sheets", {"number": 1, "name": "Ada", "answers": {}})
        self.told = self.new_told()
        Panel.objects.filter(pk=self.told.rpartition("/")[2]).update(results={"next": {"sample": 0, "sugar": 44.0, "acid": 2.6}})
        PanelSample.objects.filter(panel=self.told.rpartition("/")[2], place=0).update(
            version=Version.objects.get(spec=scene.spec, number=1)
        )
        made_again = {"kind": "made", "spec": str(self.spec), "version": 1}
        self.made_again = made_again
        self.standard, self.frozen = self.new_standard(), self.new_standard(kind="frozen", lot=self.lot, portions=40, portion_ml=5)
        self.doors = {
            "GET /health": ("/health", None), "GET /health/ready": ("/health/ready", None), "GET /session": ("/session", None),
            "POST /session/invitation": ("/session/invitation", lambda _role: {"code": invite(lead_member, "Kaja", "reader")[1]}),
            "GET /house": ("/house", None), "PUT /house": ("/house", {"name": "Tern House", "zone": "Europe/Berlin", "currency": "EUR"}, 422),
            "POST /people/{person_id}/hand-over": ("/people/0/hand-over", {}, unknown, {"lead": 404}),
            "POST /stock/many": ("/stock/many", {"items": [{"material": JUICE, "product": "Pressed", "pack": "1 L"}]}), "POST /stock/read-table": ("/stock/read-table", {"text": "item,price\nlemons,3"}), "GET /stock/usual": ("/stock/usual", None),
            "GET /clearances": ("/clearances", None), "PUT /specs/{spec_id}/clearances/{person_id}": (f"{spec}/clearances/{mine.pk}", {"cleared": True}, unknown),
            "POST /lots": ("/lots", {"name": "Old syrup", "days_ago": 1}),
            "GET /backup": ("/backup", None), "POST /own/authenticator": ("/own/authenticator", {"password": PASSWORD}), "POST /own/authenticator/confirm": ("/own/authenticator/confirm", {"code": "000000"}, 422, {"*": 422}),
            "POST /own/authenticator/recovery": ("/own/authenticator/recovery", {"password": PASSWORD}, 422, {"*": 422}), "POST /own/authenticator/drop": ("/own/authenticator/drop", {"password": PASSWORD}),
            "GET /history": ("/history", None), "GET /history/kinds": ("/history/kinds", None), "GET /history.csv": ("/history.csv", None),
            "GET /invitations": ("/invitations", None), "POST /invitations": ("/invitations", {"name": "Kaja", "role": "reader"}),
            "POST /invitations/{invitation_id}/revoke": (lambda: f"/invitations/{invite(lead_member, 'Kaja', 'reader')[0].pk}/revoke", {}, unknown),
            "PUT /people/{person_id}/role": (f"/people/{guest.pk}/role", {"role": "reader"}, unknown), "POST /people/{person_id}/let-go": (lambda: self.goes(guest, gone=False), {}, unknown),
            "POST /people/{person_id}/take-back": (lambda: self.goes(guest, gone=True), {"role": "reader"}, unknown),
            "GET /may-attach": ("/may-attach", None), "PUT /house/units": ("/house/units", {"beside": "cups", "locale": "us"}),
            "PUT /house/altitude": ("/house/altitude", {"altitude_m": 20}),
            "PUT /house/shelf": ("/house/shelf", {"answer": "anhydrous"}), "GET /rules": ("/rules", None), "PUT /rules": ("/rules", {"rules": {}}),
            "POST /session/confirm": ("/session/confirm", {"password": PASSWORD}), "POST /session/key": ("/session/key", {"public": "x"}, None, {"*": 409}),
            "GET /own/sessions": ("/own/sessions", None), "POST /own/sessions/{sign_in_id}/end": (f"/own/sessions/{uuid4()}/end", {}, unknown, {"*": 404}),
            "PUT /own/pin": ("/own/pin", {"password": PASSWORD, "pin": PIN}),
            "GET /people": ("/people", None), "POST /people/{person_id}/code": (f"/people/{mine.pk}/code", {}, unknown),
            "GET /devices": ("/devices", None), "POST /devices": ("/devices", {"name": "back bar"}),
            "POST /devices/{device_id}/revoke": (f"/devices/{On(place, 'old tablet').device.pk}/revoke", {}, unknown),
            "GET /signed-actions/held": ("/signed-actions/held", None),
            "POST /signed-actions/{action_id}/accept": (f"/signed-actions/{self.held('a')}/accept", {}, unknown),
            "POST /signed-actions/{action_id}/throw-away": (f"/signed-actions/{self.held('b')}/throw-away", {}, unknown),
            "GET /sync": ("/sync", None), "POST /signed-actions": ("/signed-actions", thing), "POST /signed-actions/refused": ("/signed-actions/refused", self.refused),
            "GET /instruments": ("/instruments", None), "POST /instruments": ("/instruments", {"name": "x", "kind": "scale", "address": "socket://127.0.0.1:9711"}),
            "POST /instruments/{instrument}/hand": (f"/instruments/{scene.instrument.pk}/hand", {"words": "put 20"}, unknown),
            "DELETE /instruments/{instrument}": (f"/instruments/{scene.instrument.pk}", None, unknown), "GET /duty": ("/duty", None), "PUT /duty": ("/duty", duty),
            "POST /jobs": ("/jobs", {"kind": "library"}), "GET /jobs/{job_id}": (f"/jobs/{job.pk}", None, unknown, {"maker": None, "*": 404}),
            "GET /jobs/{job_id}/file": (f"/jobs/{job.pk}/file", None, unknown, {"maker": None, "*": 404}), "POST /jobs/{job_id}/stop": (f"/jobs/{job.pk}/stop", {}, unknown, {"maker": None, "*": 404}),
            "GET /stock": ("/stock", None), "POST /stock": ("/stock", {"material": "water", "product": "x", "price": "1", "pack_g": "1"}), "GET /materials": ("/materials", None),
            "POST /stock/{stock_id}/readings": (f"{item}/readings", {"brix_reading": 8.2}, unknown), "POST /stock/{stock_id}/events": (f"{item}/events", {"kind": "counted", "body": {"left_g": 900}}, unknown),
            "GET /stock/{stock_id}/events": (f"{item}/events", None, unknown), "GET /stock/{stock_id}/label.pdf": (f"{item}/label.pdf", None, unknown),
            "POST /stock/{stock_id}/print": (f"{item}/print", self.print, unknown), "GET /specs/{spec_id}/draft": (f"{spec}/draft", None, unknown),
            "PUT /specs/{spec_id}/draft": (f"{spec}/draft", {"spec": {**FORM, "id": scene.spec.key}}, unknown), "DELETE /side-drafts/{side_id}": (f"/side-drafts/{self.side()}", None, unknown),
            "POST /side-drafts/{side_id}/take": (f"/side-drafts/{self.side()}/take", {}, unknown), "POST /specs/{spec_id}/publish": (f"{spec}/publish", lambda _: {"revision": Draft.objects.get(spec=scene.spec).revision, "why": "y"}, unknown),
            "GET /words": ("/words", None), "GET /house-bundle": ("/house-bundle", None), "POST /evaluate": ("/evaluate", {"spec": FORM}), "POST /solve": ("/solve", flag), "POST /take": ("/take", {"spec": FORM, "material": "water", "mass_g": 9}),
            "POST /working": ("/working", {"spec": FORM, "step": "s2", "name": "brix"}), "POST /step-line": ("/step-line", {"text": "strain"}), "POST /questions": ("/questions", {"spec": FORM}), "POST /read-draft": ("/read-draft", {"spec": FORM}),
            "POST /answered": ("/answered", {"spec": {**FORM, "doubts": [{"at": "s2", "text": "", "question": "", "answers": [{"word": "yes"}]}]}, "position": 0, "answer": 0}), "GET /specs": ("/specs", None),
            "POST /specs": ("/specs", {"name": "New", "family": "syrup"}), "GET /families/{family}/schools": ("/families/cordial/schools", None), "POST /read": ("/read", {"text": "Mix\n1 kg honey"}),
            "POST /given": ("/given", {"spec": {**FORM, "note": "1 g salt"}, "start": 0, "end": 8, "step": "s2"}),
            "POST /read-many": ("/read-many", {"text": "Mix\n1 kg honey"}), "POST /shared-questions": ("/shared-questions", {"specs": [FORM]}),
            "POST /answered-together": ("/answered-together", {"specs": [{**FORM, "doubts": [{"at": "s2", "text": "", "question": "", "code": "which_ounce"}]}], "key": "which_ounce", "answer": None}),
            "GET /specs/{spec_id}/tree": (f"{spec}/tree", None, unknown), "PUT /specs/{spec_id}/settings": (f"{spec}/settings", {"asks_questions": False}, unknown), "GET /specs/{spec_id}/export": (f"{spec}/export", None, unknown),
            "GET /materials.csv": ("/materials.csv", None), "POST /materials.csv": ("/materials.csv", {"text": TABLE}), "POST /new-materials": ("/new-materials", {"materials": {}}), "GET /material-choices": ("/material-choices", None), "GET /materials/{key}": ("/materials/house_gum", None, unknown), "POST /read-material": ("/read-material", {"body": GUM}),
            "POST /materials": ("/materials", lambda role: {"body": {**GUM, "name": f"Gum of {role}"}}), "PUT /materials/{key}": ("/materials/house_gum", {"body": {**GUM, "name": "House gum"}}, 422), "DELETE /materials/{key}": ("/materials/house_gum", None, unknown),
            "GET /specs/{spec_id}/attachments": (f"{spec}/attachments", None, unknown), "POST /specs/{spec_id}/attachments": (f"{spec}/attachments", self.attach, unknown),
            "GET /attachments/{attachment_id}": (self.attached, None, unknown), "DELETE /attachments/{attachment_id}": (self.attached, None, unknown),
            "GET /specs/{spec_id}/versions": (f"{spec}/versions", None, unknown), "GET /compare": (f"/compare?left={self.spec}&right={self.spec}", None, unknown),
            "POST /specs/{spec_id}/versions/{number}/scores": (f"{first}/scores", {"score": 7}, unknown), "POST /specs/{spec_id}/versions/{number}/copies": (f"{first}/copies", {"to": "Pim"}, unknown),
            "POST /specs/{spec_id}/versions/{number}/branch": (f"{first}/branch", {"name": "Trial"}, unknown), "POST /specs/{spec_id}/promote": (f"/specs/{self.trial}/promote", {}, unknown),
            "POST /specs/{spec_id}/correct": (f"{spec}/correct", {}, unknown, {"lead": 422}), "POST /specs/{spec_id}/versions/{number}/acknowledge": (f"{first}/acknowledge", {}, unknown),
            "GET /specs/{spec_id}/versions/{number}/reading": (f"{first}/reading", None, unknown), "POST /specs/{spec_id}/versions/{number}/answers": (f"{first}/answers", {"answers": {}}, unknown),
            "GET /specs/{spec_id}/card": (f"{spec}/card", None, unknown), "GET /specs/{spec_id}/card.pdf": (f"{spec}/card.pdf", None, unknown), "GET /booklet.pdf": (f"/booklet.pdf?specs={self.spec}", None, 422),
            "GET /specs/{spec_id}/start-by": (f"{spec}/start-by?at=2030-11-27T18:00", None, unknown), "GET /specs/{spec_id}/start-by.ics": (f"{spec}/start-by.ics?at=2030-11-27T18:00", None, unknown),
            "GET /specs/{spec_id}/allergens": (f"{spec}/allergens", None, unknown), "POST /ways": ("/ways", {"spec": FORM, "aims": [{"property": "brix", "value": 45}]}), "POST /keeping": ("/keeping", {"spec": FORM}),
            "POST /parse": ("/parse", {"text": "Mix\n1 kg honey"}), "POST /scale": ("/scale", {"spec": FORM, "serves": 40}), "POST /cost": ("/cost", {"spec": FORM}),
            "POST /capture": ("/capture", {"name": "x", "weighings": [{"material": "honey", "mass_g": 9}]}), "POST /capture/start": ("/capture/start", {"name": "x", "weighings": [{"material": "honey", "mass_g": 9}]}), "POST /gear": ("/gear", {"specs": [FORM]}),
            "GET /runs": ("/runs", None), "POST /runs": ("/runs", lambda _: {"id": str(uuid4()), "spec": str(self.spec)}, 422), "GET /runs/{run_id}": (run, None, unknown), "GET /runs/{run_id}/draft": (f"/runs/{self.finished()}/draft?name=x", None, unknown),
            "POST /runs/{run_id}/events": (f"{run}/events", lambda _: {"events": [event("noted", text="clear")]}, unknown), "GET /lots": ("/lots", None), "GET /lots/{code}": (lot, None, unknown),
            "GET /lots/{code}/label.pdf": (f"{lot}/label.pdf", None, unknown), "GET /shift": ("/shift", None), "GET /runs/{run_id}/offline": (f"{run}/offline", None, unknown), "GET /runs/{run_id}/supplies": (f"{run}/supplies", None, unknown),
            "GET /runs/{run_id}/supplies/scanned": (f"{run}/supplies/scanned?line=juice&code={self.item.code}", None, unknown), "GET /runs/{run_id}/rehearsal": (f"{rehearsal}/rehearsal", None, unknown),
            "POST /runs/{run_id}/share": (f"{rehearsal}/share", {}, unknown, mine_alone), "GET /runs/{run_id}/labels.pdf": (f"/runs/{self.finished()}/labels.pdf", None, unknown), "POST /runs/{run_id}/print": (f"/runs/{self.finished()}/print", self.print, unknown),
            "POST /runs/{run_id}/photos": (f"{run}/photos", {"step": "s1", "media_type": "image/png", "data": PNG}, unknown), "GET /runs/{run_id}/photos/{photo_id}": (f"{run}/photos/{photo}", None, unknown),
            "POST /runs/{run_id}/into-draft": (f"{run}/into-draft", {}, unknown, {"*": 422}), "GET /waits.ics": ("/waits.ics", None), "GET /register": ("/register", None), "GET /register/kinds": ("/register/kinds", None), "POST /register": ("/register", lambda role: {"kind": "pot", "name": f"pot of {role}", "figures": {"pot_cm": 24}}),
            "PUT /register/{entry_id}": (f"/register/{self.pot}", {"kind": "pot", "name": "wide", "figures": {"pot_cm": 32}}, unknown), "DELETE /register/{entry_id}": (self.entry, None, unknown), "GET /containers": ("/containers", None), "POST /containers": ("/containers", lambda role: {"name": f"tub of {role}", "tare_g": 1}),
            "PUT /containers/{key}": (f"/containers/{self.tub}", {"name": "white tub", "tare_g": 201}, unknown), "POST /containers/{key}/cleaned": (f"/containers/{self.tub}/cleaned", {}, unknown),
            "POST /lots/{code}/events": (f"{lot}/events", {"kind": "used", "body": {"amount": 5}}, unknown), "GET /lots/{code}/trace": (f"{lot}/trace", None, unknown), "GET /stock/{stock_id}/trace": (f"{item}/trace", None, unknown),
            "GET /sums": ("/sums", None), "GET /sums/recent": ("/sums/recent", None), "GET /sums/liquids/{code}": (f"/sums/liquids/{self.lot}", None, unknown), "POST /sums/{name}": ("/sums/dilute", {"figures": {"mass": 9, "have": 60, "want": 50}}),
            "POST /sums/{name}/kept": ("/sums/dilute/kept", {"figures": {"mass": 9, "have": 60, "want": 50}}), "GET /sums/{name}/label.pdf": ("/sums/acid_solution/label.pdf", None, None, {"*": (200, 422)}),
            "GET /citrus/varieties": ("/citrus/varieties", None), "GET /citrus/cases": ("/citrus/cases", None), "POST /citrus/cases": ("/citrus/cases", {"fruit": "lemon", "supplier": "x", "count": 9, "weight_g": 900}),
            "POST /citrus/cases/{case_id}/samples": (f"{case}/samples", {"count": 2, "juice_ml": 80}, unknown), "POST /citrus/cases/{case_id}/samples/{sample_id}/aside": (f"{case}/samples/{sample}/aside", {"why": "x"}, unknown, {"*": (200, 422)}),
            "GET /citrus/record/{fruit}": ("/citrus/record/lemon", None), "POST /citrus/plan": ("/citrus/plan", plan, 422), "GET /citrus/plans": ("/citrus/plans", None), "POST /citrus/plans": ("/citrus/plans", plan, 422),
            "PUT /citrus/plans/{plan_id}": (f"/citrus/plans/{self.planned}", plan, unknown), "POST /citrus/plans/{plan_id}/cuts": (f"/citrus/plans/{self.planned}/cuts", self.cut, unknown, {"lead": 422}),
            "POST /citrus/stretch": ("/citrus/stretch", {"fruit": "lemon"}), "POST /citrus/stretch/spec": ("/citrus/stretch/spec", {"fruit": "lemon"}), "POST /citrus/oil-sugar": ("/citrus/oil-sugar", {"fruit": "lemon", "peel_g": 90}),
            "POST /citrus/packed-peel": ("/citrus/packed-peel", {"fruit": "lemon", "ml": 250, "grams": 95}), "POST /citrus/spent-peel": ("/citrus/spent-peel", {"fruit": "lemon", "peel_g": 100, "spent_g": 72, "hours": 18}),
            "GET /citrus/keeps": ("/citrus/keeps", None), "GET /citrus/trials": ("/citrus/trials", None), "POST /citrus/trials": ("/citrus/trials", {"fruit": "lemon", "first": "a", "second": "b", "pairs": [[1, 2]]}),
            "GET /citrus/ledger": ("/citrus/ledger", None), "POST /desk": ("/desk", {"material": JUICE, "mass_g": 900}),
            "POST /specs/{spec_id}/versions/{number}/copy": (f"{first}/copy", {"house": 0}, unknown, {"lead": 404}), "GET /specs/{spec_id}/followers": (f"{spec}/followers", None, unknown),
            "POST /specs/{spec_id}/followers/{copy_id}/take": (f"{spec}/followers/{uuid4()}/take", {}, unknown, {"lead": 404}), "GET /specs/{spec_id}/origin": (f"{spec}/origin", None, unknown),
            "POST /specs/{spec_id}/follow": (f"{spec}/follow", {}, unknown, {"lead": 422}), "POST /specs/{spec_id}/fork": (f"{spec}/fork", {}, unknown, {"lead": 422}),
            "GET /rules/sheet": ("/rules/sheet", None), "PUT /rules/one": ("/rules/one", {"table": "classes", "key": "fresh_juice", "figures": {"days": 2}, "source": "house"}),
            "POST /rules/one/drop": ("/rules/one/drop", {"table": "classes", "key": "fresh_juice"}),
            "POST /read-archive": ("/read-archive", self.archive), "GET /tokens": ("/tokens", None), "POST /tokens": ("/tokens", {"name": "counts"}), "POST /tokens/{token_id}/revoke": (f"/tokens/{lead.post('/tokens', {'name': 'x'}).data['row']['id']}/revoke", {}, unknown),
            "GET /openapi.json": ("/openapi.json", None),
            "POST /group": ("/group", lambda role: {"name": f"Houses of the {role}"}), "GET /group": ("/group", None), "GET /group/houses": ("/group/houses", None, None, {"maker": 403}), "POST /group/code": ("/group/code", {}),
            "POST /group/join": ("/group/join", {"code": "x"}, 422, {"lead": 422}), "POST /group/leads": ("/group/leads", {"person": mine.pk}, unknown, {"lead": 422}),
            "DELETE /group/leads/{person_id}": (f"/group/leads/{lead_member.person.pk}", None, unknown, {"lead": 422}), "DELETE /group": ("/group", None),
            "GET /panels": ("/panels", None), "POST /panels": ("/panels", panel, 422), "POST /panels/beforehand": ("/panels/beforehand", {"aim": "difference", "design": {"method": "triangle"}}), "GET /panels/newest": ("/panels/newest", None), "GET /panels/openly": ("/panels/openly", None),
            "GET /panels/{panel_id}": (self.sealed, None, unknown), "PUT /panels/{panel_id}": (self.plans, panel, unknown), "POST /panels/{panel_id}/open": (lambda: f"{self.new_plan()}/open", {}, unknown),
            "GET /panels/{panel_id}/pouring": (f"{self.sealed}/pouring", None, unknown, {"lead": 403}), "GET /panels/{panel_id}/sheets.pdf": (f"{self.sealed}/sheets.pdf", None, unknown),
            "POST /panels/{panel_id}/sheets": (f"{self.sealed}/sheets", {"number": 2, "name": "Ben", "answers": {}}, unknown), "POST /panels/{panel_id}/seats/{number}/again": (f"{self.sealed}/seats/1/again", {}, unknown),
            "POST /panels/{panel_id}/seal": (lambda: f"{self.new_open()}/seal", {"why": "x"}, unknown), "PUT /panels/{panel_id}/decision": (lambda: f"{self.new_told()}/decision", {"decision": "x", "why": "y"}, unknown),
            "DELETE /panels/{panel_id}": (self.new_plan, None, unknown), "POST /panels/{panel_id}/next-trial": (f"{self.told}/next-trial", {}, unknown),
            "POST /panels/{panel_id}/shorter-date": (f"{self.told}/shorter-date", {"days": 2, "why": "x"}, unknown, {"lead": 422}),
            "GET /standards": ("/standards", None), "POST /standards": ("/standards", made_again, 422), "GET /standards/{standard_id}": (self.standard, None, unknown),
            "POST /standards/{standard_id}/made": (f"{self.standard}/made", {"brix_reading": 45}, unknown, {"*": (200, 422)}),
            "POST /standards/{standard_id}/portion": (f"{self.frozen}/portion", {}, unknown), "POST /standards/{standard_id}/end": (lambda: f"{self.new_standard()}/end", {"why": "x"}, unknown),
            "GET /plan/today": ("/plan/today", None), "PATCH /plan/today/{spec_id}": (f"/plan/today/{self.spec}", {"bottles": 2}, unknown), "DELETE /plan/today/{spec_id}": (f"/plan/today/{self.spec}", None, unknown),
            "GET /plan/list.pdf": ("/plan/list.pdf", None), "GET /plan/list.txt": ("/plan/list.txt", None), "GET /plan/list.ics": ("/plan/list.ics", None),
            "GET /plan/pars": ("/plan/pars", None), "PUT /plan/pars/{spec_id}": (f"/plan/pars/{self.spec}", {"must_ml": [500] * 7}, unknown),
            "POST /plan/pars/{spec_id}/by-use": (f"/plan/pars/{self.used_spec()}/by-use", None, unknown),
            "GET /plan/days": ("/plan/days", None), "PUT /plan/days/{day}": ("/plan/days/2100-01-01", {"name": "party", "times": 2}), "DELETE /plan/days/{day}": (self.unusual, None, unknown),
            "GET /plan/people": ("/plan/people", None), "PUT /plan/people/{person_id}/hours": (f"/plan/people/{mine.pk}/hours", {"week": [["10:00", "18:00"]] * 7}, unknown),
            "POST /plan/people/{person_id}/away": (f"/plan/people/{mine.pk}/away", {"first": "2100-01-01"}, unknown), "DELETE /plan/away/{away_id}": (self.absence, None, unknown),
            "GET /plan/suppliers": ("/plan/suppliers", None), "PUT /plan/suppliers/{entry_id}": (f"/plan/suppliers/{self.yard}", {"weekdays": [1, 4], "cut_off": "16:00", "lead_days": 1, "arrives": "10:00"}, unknown),
            "GET /plan/orders": ("/plan/orders", None), "POST /plan/orders": ("/plan/orders", {"supplier": "Yard", "packs": {JUICE: 2}}),
            "DELETE /plan/orders/{order_id}": (self.ordered, None, unknown),
            "POST /plan/orders/{order_id}/receipt": (lambda: f"{self.ordered()}/receipt", lambda _role: self.came(), unknown),
            "GET /plan/orders/{order_id}/order.pdf": (lambda: f"{self.ordered()}/order.pdf", None, unknown), "GET /plan/orders/{order_id}/order.csv": (lambda: f"{self.ordered()}/order.csv", None, unknown),
            "GET /plan/orders/{order_id}/order.txt": (lambda: f"{self.ordered()}/order.txt", None, unknown),
            "GET /stocktake": ("/stocktake", None), "POST /plan/till/read": ("/plan/till/read", self.till), "POST /plan/till": ("/plan/till", self.till),
            "GET /plan/menu": ("/plan/menu", None), "PUT /plan/menu/{spec_id}": (f"/plan/menu/{self.drink}", {"first": "2100-01-01", "price": "12"}, unknown),
            "DELETE /plan/menu/{spec_id}": (self.on_menu, None, unknown), "GET /plan/allergens": ("/plan/allergens", None),
            "GET /plan/allergens.pdf": ("/plan/allergens.pdf", None), "GET /plan/allergens.csv": ("/plan/allergens.csv", None),
            # What ends things for everybody stands last.
            "POST /lots/{code}/recall": (f"{lot}/recall", {"why": "x"}, unknown), "POST /stock/{stock_id}/recall": (f"{item}/recall", {"why": "x"}, unknown),
            "POST /specs/{spec_id}/versions/{number}/recall": (f"{first}/recall", {"why": "x"}, unknown), "POST /specs/{spec_id}/versions/{number}/withdraw": (f"{first}/withdraw", {"why": "x"}, unknown),
            "POST /house/wipe": ("/house/wipe", {"name": "x"}, 422, {"lead": 422}),
            "POST /house/closing": ("/house/closing", {"name": "x", "password": PASSWORD}, 422, {"lead": 422}), "DELETE /house/closing": ("/house/closing", None),
            "PUT /own/password": ("/own/password", {"old": PASSWORD, "new": PASSWORD}),
        }  # fmt: skip

    def new_plan(self):
        """The path of a panel that is planned."""
        return f"/panels/{self.place.apis['lead'].post('/panels', self.panel).data['id']}"

    def unusual(self):
        """The path of a day that is not usual."""
        day = f"21{next(self.days):02d}-01-01"
        assert self.place.apis["lead"].call("put", f"/plan/days/{day}", {"times": 2}).status_code == 200
        return f"/plan/days/{day}"

    def on_menu(self):
        """The path of a drink that is on the menu."""
        path = f"/plan/menu/{self.drink}"
        assert self.place.apis["lead"].call("put", path, {"first": "2100-01-01"}).status_code == 204
        return path

    def used_spec(self):
        """The spec of the lot, of which some was used on the days before."""
        lot = Lot.objects.get(house=self.place.house, code=self.lot)
        for days in (2, 3, 4):
            lot.events.create(
                kind="used", body={"amount": 100}, by=self.place.members["maker"].person, at=timezone.now() - timedelta(days=days)
            )
        return lot.run.version.spec_id

    def ordered(self):
        """The path of an order that is still to come."""
        order = PlacedOrder.objects.create(
            house=self.place.house, supplier="Yard", placed_at=timezone.now(), placed_by=self.place.members["maker"].person
        )
        self.line = PlacedLine.objects.create(order=order, material=JUICE, product="Pressed", pack_g=1000, packs=2).pk
        return f"/plan/orders/{order.pk}"

    def came(self):
        """All of the order of which `ordered` gave the path."""
        return {"lines": [{"line": self.line, "packs": 2, "price": "9"}]}

    def absence(self):
        """The path of an absence of the maker."""
        path = f"/plan/people/{self.place.members['maker'].person.pk}/away"
        made = self.place.apis["lead"].post(path, {"first": f"21{next(self.days):02d}-02-01"})
        return f"/plan/away/{made.data['id']}"

    def new_standard(self, **more):
        """The path of a standard that is tasted against."""
        return f"/standards/{self.place.apis['lead'].post('/standards', {**self.made_again, **more}).data['id']}"

    def new_open(self):
        """The path of a panel whose seal is on."""
        path = self.new_plan()
        assert self.place.apis["lead"].post(f"{path}/open").status_code == 200
        return path

    def new_told(self):
        """The path of a panel whose seal is broken."""
        path = self.new_open()
        assert self.place.apis["lead"].post(f"{path}/seal", {"why": "x"}).status_code == 200
        return path

    def finished(self):
        return Lot.objects.get(code=self.lot).run_id

    def cut(self, _role):
        """The first row of the plan as it stands now, cut."""
        return {"row": CutPlan.objects.get(pk=self.planned).answer["cuts"][0]["row"], "count": 1}

    def goes(self, guest, *, gone):
        """The address at which a guest, who has left or not, is let go or taken back."""
        Membership.ever.filter(person=guest).update(left_at=timezone.now() if gone else None)
        return f"/people/{guest.pk}/{'take-back' if gone else 'let-go'}"

    def side(self):
        draft = self.scene.spec.draft
        steps = [{**step, "minutes": 50} if step["id"] == "s4" else step for step in draft.body["steps"]]
        return SideDraft.objects.create(
            spec=self.scene.spec,
            body={**draft.body, "steps": steps},
            saved_by=self.place.members["lead"].person,
            saved_at=timezone.now(),
            name="other",
        ).pk

    def entry(self):
        """The path of a new entry of the register."""
        row = RegisterRow.objects.create(house=self.place.house, kind="pot", name=str(uuid4()), figures={"pot_cm": 24})
        return f"/register/{row.pk}"

    def held(self, key):
        """An action that waits for a lead."""
        body = event("noted", text="clear")
        text = json.dumps(
            {
                "format": "ulsek.action",
                "version": 1,
                "id": body["id"],
                "kind": "run_event",
                "subject": str(self.run),
                "house": self.place.house.pk,
                "body": body,
            }
        )
        return SignedAction.objects.create(
            id=body["id"],
            house=self.place.house,
            kind="run_event",
            subject=str(self.run),
            text=text,
            person=self.place.members["maker"].person,
            received_at=timezone.now(),
            state=State.HELD,
        ).pk

    def refused(self, role):
        member = self.place.stranger if role == "stranger" else self.place.members.get(role, self.place.members["lead"])
        said = {
            "format": "ulsek.action",
            "version": 1,
            "id": str(uuid4()),
            "kind": "run_event",
            "subject": str(uuid4()),
            "house": member.house.pk,
            "person": member.person.pk,
            "body": {},
        }
        return {"text": json.dumps(said), "decision": "throw_away"}

    def print(self, _role):
        return {"printer": str(self.printer), "size": "100x70"}

    def attach(self, api, path):
        from django.core.files.uploadedfile import SimpleUploadedFile

        return api.told("post", path, api.client.post(f"/api{path}", {"file": SimpleUploadedFile("a.txt", b"words", "text/plain")}))

    def till(self, api, path):
        from django.core.files.uploadedfile import SimpleUploadedFile

        table = SimpleUploadedFile("till.csv", b"date,item,qty\n2026-11-02,Door long,3\n", "text/csv")
        return api.told("post", path, api.client.post(f"/api{path}", {"file": table}))

    def archive(self, api, path):
        from django.core.files.uploadedfile import SimpleUploadedFile

        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as library:
            library.writestr("specs/cordial.json", json.dumps(FORM))
        return api.told(
            "post", path, api.client.post(f"/api{path}", {"file": SimpleUploadedFile("a.zip", packed.getvalue(), "application/zip")})
        )

    def attached(self):
        from ulsek.specs.models import Attachment

        return f"/attachments/{Attachment.objects.get().pk if Attachment.objects.exists() else 0}"

    def ask(self, operation, api, who):
        """What the operation answers to somebody who asks with the request that it takes."""
        path, body, *_ = self.doors[operation]
        address, method, draft = path() if callable(path) else path, operation.split(" ")[0].lower(), self.scene.spec.draft
        if body in (self.attach, self.archive, self.till):
            return body(api, address)
        draft.refresh_from_db()
        if method == "get":
            return api.get(address)
        return api.call(method, address, body(who) if callable(body) else body, **{"If-Match": f'"{draft.revision}"'})
