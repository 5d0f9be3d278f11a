"""A small house for the site's tests: three roles, one neighbour, one published cordial."""

import functools
import itertools
import json
from datetime import UTC, datetime
from decimal import Decimal
from uuid import uuid4

import pytest
from django.contrib.auth.hashers import make_password
from django.test import Client
from simulators.push_service import Device

from tests.core.cordial import FORM, JUICE
from tests.site.published import judged
from ulsek.batches.models import Run, RunEvent
from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec
from ulsek.specs.models import Spec
from ulsek.stores.actions.read_delivery import read_delivery
from ulsek.stores.actions.receive_delivery import Delivery, receive_delivery
from ulsek.team.access import Member
from ulsek.team.models import House, Membership, Person

PASSWORD = "pale-enamel-7"
LISTENS = Device().keys
"""The keys of a browser that may be alerted."""


@pytest.fixture(autouse=True)
def stand_in_for_push(settings):
    """The one push service that may be reached here, as bin/start allows it."""
    settings.PUSH_SERVICE = "http://127.0.0.1:9717"


class Api:
    """A signed-in browser's calls, with JSON in and out. Every answer of success is judged by the API's own description."""

    def __init__(self, person=None):
        self.client = Client()
        if person is not None:
            self.client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")

    def call(self, method, path, body=None, **headers):
        answer = getattr(self.client, method)(
            f"/api{path}", json.dumps(body) if body is not None else None, content_type="application/json", headers=headers
        )
        return self.told(method, path, answer)

    def get(self, path):
        return self.told("get", path, self.client.get(f"/api{path}"))

    judge = staticmethod(judged)

    def told(self, method, path, answer):
        """The answer with its JSON as `data`, judged."""
        answer.data = json.loads(answer.content) if answer.content and "json" in answer["Content-Type"] else None
        return self.judge(method, f"/api{path}", answer)

    def post(self, path, body=None):
        return self.call("post", path, body if body is not None else {})

    def put(self, path, body, revision):
        return self.call("put", path, body, **{"If-Match": f'"{revision}"'})


class Phone(Api):
    """A taster's phone: it holds the secret of its seat."""

    def __init__(self, person=None):
        super().__init__(person)
        self.secret = ""

    def call(self, method, path, body=None, **headers):
        return super().call(method, path, body, **({"X-Ulsek-Seat": self.secret} if self.secret else {}), **headers)

    def get(self, path):
        return self.call("get", path)

    def sits(self, code, name):
        answer = self.post("/seat", {"code": code, "name": name})
        self.secret = answer.data.get("secret", "")
        return answer

    def says(self, turn, **answer):
        return self.post("/seat/answers", {"id": str(uuid4()), "turn": turn, "answer": answer})


@functools.cache
def hashed():
    """The password as the site keeps it; argon2 is slow on purpose, so it is worked out once."""
    return make_password(PASSWORD)


class Place:
    """The house, its people, and what the tests reach for."""

    def __init__(self):
        self.house = House.objects.create(name="Tern House", zone="Europe/Berlin")
        self.other = House.objects.create(name="Lantern Yard", zone="Europe/Berlin")
        self.members = {role: self._member(self.house, role) for role in ("lead", "maker", "reader")}
        self.stranger = self._member(self.other, "lead", "stranger")
        self.apis = {role: Api(member.person) for role, member in self.members.items()}
        self.apis["stranger"] = Api(self.stranger.person)
        self.apis["nobody"] = Api()

    def _member(self, house, role, name=None):
        person = Person.objects.create(username=name or role, password=hashed(), display_name=(name or role).title())
        Membership.objects.create(house=house, person=person, role=role)
        return Member(person, house, role)

    def delivery(self, **readings):
        item = receive_delivery(
            self.members["maker"],
            JUICE,
            Delivery(product="Pressed", supplier="Hagedorn", price=Decimal("15.20"), pack_g=Decimal(1000), packs=4),
        )
        return read_delivery(self.members["maker"], item.pk, readings) if readings else item

    def spec(self, published=True, body=None):
        spec = start_spec(self.members["lead"], NewSpec("Sea buckthorn cordial", "cordial"), body or FORM)
        # The questions before a first make have tests of their own.
        Spec.objects.filter(pk=spec.pk).update(asks_questions=False)
        if published:
            publish_spec(self.members["lead"], spec.pk, 1, "first")
        return spec

    def run(self, spec=None, role="maker", ago=None, **scale):
        """Starts a batch; `ago` puts its start so far back, so that what happened then can be told of it."""
        spec = spec or self.spec()
        run_id = str(uuid4())
        answer = self.apis[role].post("/runs", {"id": run_id, "spec": str(spec.pk), **scale})
        assert answer.status_code == 201, answer.content
        if ago is not None:
            began = datetime.now(UTC) - ago
            Run.objects.filter(pk=run_id).update(started_at=began)
            started = RunEvent.objects.get(run=run_id)
            started.data["at"] = began.isoformat()
            started.save()
        return run_id


_count = itertools.count(1)


def event(kind, at=None, **body):
    """An event as a tablet sends it."""
    n = next(_count)
    moment = at or datetime.now(UTC).isoformat()
    return {"id": str(uuid4()), "kind": kind, "at": moment, "lamport": n, "device": "tablet", "sequence": n, "body": body}


@pytest.fixture
def place(db):
    return Place()
