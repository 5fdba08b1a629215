"""What every test shares: a steady Hypothesis profile."""

import json
import os
from pathlib import Path

import pytest
from django.conf import settings as django_settings
from django_vite.core.asset_loader import DjangoViteAssetLoader
from hypothesis import HealthCheck, Phase, settings

# Playwright keeps a loop running in a worker that has had a browser test; the database is asked in the same thread as ever.
os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
SUPPRESSED = [HealthCheck.too_slow, HealthCheck.data_too_large, HealthCheck.filter_too_much]
if "MUTANT_UNDER_TEST" in os.environ:  # the mutation tool runs every test again and again in one process
    SUPPRESSED.append(HealthCheck.differing_executors)
settings.register_profile(
    "velmot",
    deadline=None,
    derandomize=not os.environ.get("VELMOT_NEW_SEEDS"),  # `make test` keeps its seeds, `make properties` draws new ones
    # Shrinking whole sessions takes minutes, so it has to be asked for.
    phases=[p for p in Phase if p is not Phase.shrink or os.environ.get("VELMOT_SHRINK")],
    max_examples=int(os.environ.get("VELMOT_EXAMPLES", "30")),
    suppress_health_check=SUPPRESSED,
)
settings.load_profile("velmot")


@pytest.fixture(scope="session", autouse=True)
def a_built_page(tmp_path_factory: pytest.TempPathFactory) -> None:
    """The page's script stands in for the built one, so that nothing below the browser needs a front end that is built."""
    manifest = tmp_path_factory.mktemp("built") / "manifest.json"
    names = ["src/main.ts", *django_settings.FIRST_FONTS]
    manifest.write_text(
        json.dumps({n: {"file": f"assets/{Path(n).name}", "src": n, "isEntry": n == names[0]} for n in names})
    )
    django_settings.DJANGO_VITE["default"]["manifest_path"] = manifest
    DjangoViteAssetLoader._instance = None  # which has read the other one already
