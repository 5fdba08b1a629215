"""The demo, made once."""

import pytest

from velmot.site.demo import skerry_light


@pytest.fixture(scope="session")
def demo_session():
    return skerry_light.session()
