"""Drinks of the tests' house: what goes into a glass, and one that is published."""

from ulsek.specs.actions.publish_spec import publish_spec
from ulsek.specs.actions.start_spec import NewSpec, start_spec


def a_drink(name, of, grams, size):
    """A drink in its open form: so many grams of a material, and water to so many in all."""
    lines = [
        {"id": "base", "material": of, "amount": {"kind": "fixed", "mass_g": grams}},
        {"id": "w", "material": "water", "amount": {"kind": "fixed", "mass_g": size - grams}},
    ]
    step = {"id": "s1", "verb": "combine", "vessel": "glass", "lines": lines}
    return {"format": "ulsek.spec", "version": 1, "id": name.lower().replace(" ", "-"), "name": name, "family": "drink", "serve_ml": size, "vessels": [{"id": "glass"}], "steps": [step]}  # fmt: skip


def published_drink(lead, name, of, grams=50.0, size=150.0):
    """A drink that is published: its spec."""
    spec = start_spec(lead, NewSpec(name, "drink"), a_drink(name, of, grams, size))
    publish_spec(lead, spec.pk, 1, "first")
    return spec
