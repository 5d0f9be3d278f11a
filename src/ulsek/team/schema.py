"""Base of the schemas of requests: numbers are finite, also if they come as text."""

from __future__ import annotations

from ninja import Schema as NinjaSchema
from pydantic import ConfigDict


class Schema(NinjaSchema):
    """A schema in which NaN and infinite numbers are refused at their place."""

    model_config = ConfigDict(allow_inf_nan=False)
