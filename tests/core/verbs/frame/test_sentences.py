"""Requests as sentences: every verb by hand, what is missing asks for it, and every option can be seen or is on the sheet."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.verbs.test_every_option import ASKED, DEMO, state_for
from tests.strategies import requests, sessions
from velmot.core.errors import RequestError
from velmot.core.verbs import OPERATIONS, sentence
from velmot.core.verbs.carry.request import Carry
from velmot.core.verbs.frame.telling import in_words
from velmot.core.verbs.retarget.request import Retarget

SAID = {
    "pool": "Pool Bell buoy Level from 9.1.00 to 13.1.00 as swell, with 1 other place.",
    "note": "Note on Bell buoy Level: x.",
    "mend": "Mend 1 finding (dense).",
    "let be": "Let 1 finding (dense) be.",
    "clean up": "Clean up: take out what is there for nothing.",
    "carry": "Carry Bell buoy Level from 9.1.00 to 13.1.00 to Gulls, the same place, copied; edges jump.",
    "retarget": "Retarget Bell buoy Level from 9.1.00 to 13.1.00 to Engine room Rumble cutoff, the same place, "
    "fitted between 30.0 Hz and 4000 Hz, copied; edges jump.",
    "raise": "Raise Bell buoy Level from 9.1.00 to 13.1.00 by 2.00 dB, ramps of 0 beats before and 0 beats after.",
    "clear": "Clear from Bell buoy Level what lies from 9.1.00 to 13.1.00, sealed.",
    "add points": "Add 1 point to Bell buoy Level, on the track.",
    "move points": "Move 2 points of Bell buoy Level by 0.25 beats and by 0.00 dB.",
    "set values": "Lower 2 points of Bell buoy Level by 9 dB.",
    "remove points": "Remove 2 points of Bell buoy Level.",
    "shape segments": "Shape 2 segments of Bell buoy Level: a bend of 2.",
    "draw": "Draw on Bell buoy Level, on the track, thinned to within 0.00 dB.",
    "paste": "Paste Bell buoy Level at 3.1.00 onto the same names, refusing other units.",
    "embed": "Embed all parameters into toll 2.",
    "lift": "Lift all parameters from horn A.",
    "carry regions": "Move horn A to 26.1.00 on their own tracks, automation goes along, the track’s under them stays.",
    "cut regions": "Cut toll 2 at 11.1.00.",
    "join regions": "Join toll 1, toll 2.",
    "change regions": "Name toll 2 cue.",
    "remove regions": "Remove horn A, automation goes too.",
    "make region": "Make a container cue on Bell buoy from 9.1.00 to 13.1.00, taking over nothing.",
    "add marker": "Add the marker tide at 3.1.00.",
    "change markers": "Move marker horn answers 4 beats later.",
    "remove markers": "Remove marker horn answers.",
    "place container": "Place cue on Bell buoy at 3.1.00.",
    "fill gap": "Fill Foghorn Level from 8.3.00 to 9.2.00: join both sides.",
    "place": "Place a saw up on Gulls Level from 9.1.00, once, 100 % of the range, linked.",
    "keep phrase": "Keep Bell buoy Level from 9.1.00 to 13.1.00 as swell, linked where it is.",
    "change places": "Change 1 place of swell: later by 1 beat.",
    "set free": "Set 1 place of swell free, no others.",
    "change phrase": "Change swell: named tide; at 2 places.",
    "ride": "Ride Gulls Level from 9.1.00 to 13.1.00 in touch; touch goes back over 1 beat.",
    "thin": "Thin Bell buoy Level from 9.1.00 to 13.1.00, within 4.00 dB.",
    "reshape": "Reshape Bell buoy Level from 9.1.00 to 13.1.00: by −2.00 dB.",
    "same values": "Same values: Bell buoy Level from 9.1.00 to 13.1.00 to the mean.",
    "retime": "Stretch Bell buoy Level from 9.1.00 to 13.1.00 to 0.5 times its length; what follows stays.",
    "fold": "Fold Swell from 9.1.00 to 13.1.00 into all members.",
    "gather": "Gather what is common to all members up into Swell from 9.1.00 to 13.1.00.",
    "make group": "Make a group wings of Gulls, Keeper.",
    "dissolve group": "Dissolve Swell; what is heard stays.",
    "change group": "Take Keeper into Swell and let Kelp choir out of Swell; what is heard changes.",
    "set mode": "Set Kelp choir to off: its lanes are not heard.",
    "set switch": "Set Kelp choir Vowel filter on to off from 10.1.00 to 11.1.00.",
    "set sound": "Let Bell buoy sound as rain.",
    "follow": "Gulls Pan follows Keeper from 9.1.00 to 13.1.00, in 10 ms, out 120 ms.",
    "make anew": "Make Gulls Pan anew, after what it follows.",
    "keep aside": "Keep aside what Bell buoy Level does as “calm”.",
    "use alternatives": "Use “calm” of Bell buoy Level; what was in use is kept aside.",
    "take range": "Take “calm” of Bell buoy Level from 9.1.00 to 13.1.00, sealed.",
    "rename alternative": "Call “calm” “calmer”.",
    "remove alternatives": "Let “calm” go.",
    "bring back": "Bring back Bell buoy Level from 9.1.00 to 13.1.00 as at revision 1.",
    "set precedence": "Let the track’s lane win where both speak.",
}


@pytest.mark.parametrize("verb", OPERATIONS)
def test_every_verb_says_what_is_asked(verb):
    base = next(base for (v, _), (base, _) in ASKED.items() if v == verb)
    assert in_words(sentence(state_for(verb), verb, OPERATIONS[verb].request(**base))) == SAID[verb]


def test_what_is_missing_asks_for_it():
    parts = sentence(DEMO, "carry", Carry((), ()))
    assert in_words(parts) == "Carry choose lanes, whole, to choose a track, the same place, copied; edges jump."
    assert {p.field for p in parts if p.missing} == {"lanes", "targets"}
    parts = sentence(DEMO, "retarget", Retarget("", ()))
    assert {p.field for p in parts if p.missing} == {"lane", "targets"}


@pytest.mark.parametrize("verb", OPERATIONS)
@settings(max_examples=settings().max_examples // 3)
@given(st.data())
def test_anything_asked_can_be_said_and_its_parts_stand_for_fields(verb, data):
    session = data.draw(sessions())
    request = data.draw(requests(session, verb))
    try:
        parts = sentence(session, verb, request)
    except RequestError as refused:
        assert refused.code.endswith("-unknown")
        return
    fields = set(OPERATIONS[verb].request.__dataclass_fields__)
    assert {p.field for p in parts if p.field} <= fields | {"low", "high"} and all(p.text for p in parts)
