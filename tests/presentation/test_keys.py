"""Keys: each does one thing."""

from collections import Counter

from velmot.presentation.keys import KEYS


def test_no_key_is_given_twice():
    given = Counter(key for one in KEYS for key in one.keys)
    assert not {key for key, count in given.items() if count > 1}, "give the newer one a key that is free"
