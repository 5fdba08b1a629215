"""The bound that lanes are thinned within where nobody says another."""

from __future__ import annotations

from velmot.core.parameters.parameter import Parameter

USUAL = {"dB": 0.1, "octaves": 0.01}
"""Bounds to begin with; of other units a two-hundredth of the parameter's range."""


def usual_bound(parameter: Parameter) -> float:
    """The bound to begin with, in axis units."""
    return USUAL.get(parameter.distance_unit, parameter.span / 200)
