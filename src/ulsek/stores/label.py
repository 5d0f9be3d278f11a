"""Labels of deliveries, whose code is scanned when a line is taken from one."""

from __future__ import annotations

from django.conf import settings

from ulsek.core.base.figures import quantity
from ulsek.core.base.number_format import grams
from ulsek.core.materials.material import read_material
from ulsek.core.safety.hazards import bottle_words
from ulsek.core.safety.shelf_life_rules import last_day
from ulsek.devices.label import Label
from ulsek.team.access import Member

from .models import StockItem
from .queries import body_of, described


def address(item: StockItem) -> str:
    """Returns the address in the code on a delivery; its last part is the code itself."""
    return f"{settings.BASE_ADDRESS}/stores/{item.code}"


def delivery_label(member: Member, item: StockItem) -> Label:
    """Returns the label of a delivery: its code, date and supplier, its last day if known, its readings, allergens and cautions."""
    material = read_material(item.material, body_of(described(member.house)[item.material], item))
    received = member.local(item.received_at)
    keeps = material.keeps_days
    strong = [
        *([f"RECALLED: do not use. {item.recalled}"] if item.recalled else []),
        f"{item.code}, received {received:%a %d %b %Y}",
        *([f"Use by {last_day(received.date(), keeps):%a %d %b %Y}"] if keeps is not None else []),
    ]
    shown = material.measured()
    was_read = (
        ("brix_reading", getattr(material.composition, "brix_read", False)),
        ("acid_g_100ml", getattr(material.composition, "acid_read", False)),
    )
    read = [quantity(name, shown[name]).text() for name, read in was_read if read and name in shown]
    allergens = f"Allergens: {bottle_words(material.allergens, () if material.allergens_known else (material.name,))}"
    cautions = [f"Caution: {caution}" for caution in material.cautions]
    name = ", ".join([material.name, *([item.form] if item.form else [])])
    came = f"{item.supplier}, {grams(float(item.pack_g))} a pack"
    lines = [name, came, f"read: {' · '.join(read)}" if read else "not read yet", allergens, *cautions, f"{member.house.name}."]
    return Label(item.code, address(item), item.product, tuple(strong), tuple(lines), (name, allergens, *cautions))
