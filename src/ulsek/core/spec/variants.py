"""Variants: a spec that inherits another and stores only its changes, so that it follows when its base changes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

Body = Mapping[str, Any]
_KEEPS = ("id", "name", "base")
"""What a variant never takes from its base."""


def _by_id(items: Any) -> dict[str, dict[str, Any]]:
    return {str(item["id"]): item for item in items if isinstance(item, dict) and "id" in item} if isinstance(items, list) else {}


def _item_changes(before: Any, after: Any) -> dict[str, Any]:
    """Returns the changes of a list of things with ids: which are gone, which are new and after which, what changed in the others."""
    old, new = _by_id(before), _by_id(after)
    order = list(new)
    changed = {key: _changes(old[key], new[key]) for key in order if key in old and old[key] != new[key]}
    added = [{"after": order[n - 1] if n else "", "item": new[key]} for n, key in enumerate(order) if key not in old]
    return {"gone": [key for key in old if key not in new], "changed": changed, "added": added}


def _is_list_of_things(value: Any) -> bool:
    return isinstance(value, list) and all(isinstance(item, dict) and "id" in item for item in value)


def _changes(before: Body, after: Body) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key in {*before, *after}:
        if before.get(key) == after.get(key):
            continue
        if key not in after:
            found[key] = {"drop": True}
        # Things with ids are compared one by one, so that a change of the base elsewhere still arrives.
        elif _is_list_of_things(after[key]) and _is_list_of_things(before.get(key, [])) and after[key] + list(before.get(key, [])):
            found[key] = {"items": _item_changes(before.get(key, []), after[key])}
        else:
            found[key] = {"set": after[key]}
    return found


def changes_of(base: Body, variant: Body) -> dict[str, Any]:
    """Returns what a variant changes of its base, step by step and line by line; empty for equal bodies."""
    return {key: change for key, change in _changes(base, variant).items() if key not in _KEEPS}


def _items_with(items: Any, change: Mapping[str, Any]) -> list[Any]:
    found = [
        _with(item, change["changed"].get(item.get("id"), {}))
        for item in items
        if isinstance(item, dict) and item.get("id") not in change["gone"]
    ]
    for new in change["added"]:
        if new["item"]["id"] in {item.get("id") for item in found}:
            continue
        places = [item.get("id") for item in found]
        # If the item before it is gone from the base, it goes to the end, so that nothing of a variant is lost.
        at = 0 if not new["after"] else places.index(new["after"]) + 1 if new["after"] in places else len(found)
        found.insert(at, new["item"])
    return found


def _with(base: Body, changes: Mapping[str, Any]) -> dict[str, Any]:
    found = {key: value for key, value in base.items() if "drop" not in changes.get(key, {})}
    for key, change in changes.items():
        if "set" in change:
            found[key] = change["set"]
        elif "items" in change:
            found[key] = _items_with(base.get(key, []), change["items"])
    return found


def inherited(base: Body, changes: Mapping[str, Any], own: Body) -> dict[str, Any]:
    """Returns the variant of a (newer) base: the base with the variant's changes, under the variant's `own` name and id."""
    return {**_with(base, changes), **{key: own[key] for key in _KEEPS if key in own}}
