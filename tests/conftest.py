"""What every test shares: a steady Hypothesis profile."""

import os

from hypothesis import HealthCheck, Phase, settings

settings.register_profile(
    "velmot",
    deadline=None,
    derandomize=bool(os.environ.get("CI")),
    # Shrinking whole sessions takes minutes, so it has to be asked for.
    phases=[p for p in Phase if p is not Phase.shrink or os.environ.get("VELMOT_SHRINK")],
    max_examples=int(os.environ.get("VELMOT_EXAMPLES", "60")),
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.filter_too_much],
)
settings.load_profile("velmot")
