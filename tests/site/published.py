"""The API's own description as a judge of what it answers."""

import functools
import json
import re

import jsonschema
from django.conf import settings
from referencing import Registry
from referencing.jsonschema import DRAFT202012

SEEN = set()
"""The operations of which an answer with a body was judged."""


@functools.cache
def described():
    return json.loads((settings.FORMATS / "openapi.json").read_text(encoding="utf-8"))


@functools.cache
def _paths():
    """(pattern, path) of every path, those with fewer open places first."""
    found = sorted(described()["paths"], key=lambda path: path.count("{"))
    return [(re.compile(re.sub(r"\{\w+\}", "[^/]+", path) + "$"), path) for path in found]


def operation(method, address):
    """What an address asks for, as the description names it: "GET /specs/{spec_id}"; None if it has no such operation."""
    asked = address.partition("?")[0]
    path = next((path for pattern, path in _paths() if pattern.match(asked) and method.lower() in described()["paths"][path]), None)
    return f"{method.upper()} {path.removeprefix('/api')}" if path else None


@functools.cache
def _judge(method, path, status):
    """What judges the body of an answer; None where none is described."""
    answers = described()["paths"][path][method]["responses"]
    assert str(status) in answers, f"{method} {path} does not say that it answers {status}"
    content = answers[str(status)].get("content")
    if content is None:
        return None
    registry = Registry().with_resource("urn:api", DRAFT202012.create_resource(described()))
    schema = json.loads(json.dumps(content["application/json"]["schema"]).replace('"#/', '"urn:api#/'))
    return jsonschema.Draft202012Validator(schema, registry=registry, format_checker=jsonschema.FormatChecker())


def judged(method, address, answer):
    """Fails where an answer of success is not what the description says. Returns it."""
    name = operation(method, address)
    if name is None or answer.status_code >= 400:
        return answer
    judge = _judge(method.lower(), f"/api{name.partition(' ')[2]}", answer.status_code)
    if judge is None:
        return answer
    found = jsonschema.exceptions.best_match(judge.iter_errors(json.loads(answer.content)))
    assert found is None, f"{name} answers what it does not describe, at {found.json_path}: {found.message[:300]}"
    SEEN.add(name)
    return answer


def with_bodies():
    """Every operation that answers with JSON."""
    return {
        f"{method.upper()} {path.removeprefix('/api')}"
        for path, methods in described()["paths"].items()
        for method, said in methods.items()
        if any("content" in answer for answer in said["responses"].values())
    }
