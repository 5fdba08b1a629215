"""Requests as sentences, in parts."""

from velmot.core.verbs.clear.request import Clear
from velmot.presentation.sentences import sentence_out


def test_parts_say_which_field_they_stand_for_and_what_is_missing(small):
    parts = sentence_out(small, "clear", Clear("lanes", ("B",))).parts
    assert "".join(p.text for p in parts).startswith("Clear ") and "Bell Level" in [
        p.text for p in parts if p.field == "lanes"
    ]
    missing = [p for p in sentence_out(small, "clear", Clear("lanes", ())).parts if p.missing]
    assert [p.field for p in missing] == ["lanes"]
