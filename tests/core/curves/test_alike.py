"""Keys of figures: put in anew for what changed they are what sorting all of them gives."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from velmot.core.curves.alike import sorted_keys, with_others

some = st.lists(st.integers(-5, 5), max_size=12).map(lambda x: np.array(x, dtype=np.int32))


def told(made):
    return sorted(zip(made.keys.tolist(), made.places.tolist(), strict=True))


@given(some, some, some, some)
def test_keys_that_were_replaced_stand_where_they_would(before, old, after, new):
    known = sorted_keys(np.concatenate((before, old, after)))
    made = with_others(known, len(before), len(before) + len(old), new)
    fresh = sorted_keys(np.concatenate((before, new, after)))
    assert (np.diff(made.keys) >= 0).all() and told(made) == told(fresh)
