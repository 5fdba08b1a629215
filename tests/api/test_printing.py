"""Sheets and pictures over the API: what is asked comes as a file, what cannot be is refused in words."""

import pytest

from tests.api.test_api import client, demo, post  # noqa: F401
from tests.core.verbs.test_every_option import AFTER_CARRY, DEMO, b
from velmot.core.session.recall import recall_of
from velmot.paper import pictures, sheets

CARRY = {"verb": "carry", "lanes": ["L1"], "targets": ["gulls"], "start": 32, "end": 48}
PICTURE = {"parameters": ["bell.level", "gulls.level"], "start": 0, "end": 64, "form": "svg"}


@pytest.mark.parametrize("form", sheets.FORMS)
def test_a_sheet_is_the_cores(client, demo, form):  # noqa: F811
    answer = client.get(f"/api/sessions/{demo}/export/sheet?form={form}&short=true")
    assert answer.status_code == 200 and answer["Content-Type"] == sheets.MEDIA[form]
    assert f'filename="Skerry Light.{form}"' in answer["Content-Disposition"]
    if form != "pdf":
        assert answer.content == sheets.written(recall_of(DEMO, full=False), form)
    assert len(answer.content) < len(client.get(f"/api/sessions/{demo}/export/sheet?form={form}").content)


def test_a_sheet_says_what_changed_since_a_revision(client, demo):  # noqa: F811
    post(client, f"{demo}/apply", {"request": CARRY, "revision": 0})
    said = client.get(f"/api/sessions/{demo}/export/sheet?form=txt&since=0").content.decode()
    assert "What changed\n  Gulls Level: up to 23.00 dB otherwise, most at " in said
    assert "What changed" not in client.get(f"/api/sessions/{demo}/export/sheet?form=txt").content.decode()
    missing = client.get(f"/api/sessions/{demo}/export/sheet?form=txt&since=99")
    assert missing.status_code in (404, 422) and "99" in missing.json()["message"]


@pytest.mark.parametrize("form", pictures.FORMS)
def test_a_picture_is_the_cores_with_what_would_come_in_it(client, demo, form):  # noqa: F811
    asked = PICTURE | {"form": form, "request": CARRY, "shows": "both"}
    answer = post(client, f"{demo}/export/picture", asked)
    assert answer.status_code == 200 and answer["Content-Type"] == pictures.MEDIA[form]
    wanted = pictures.Wanted(tuple(PICTURE["parameters"]), 0, b(64), "both", AFTER_CARRY)
    assert answer.content == pictures.drawn(DEMO, wanted, form)
    now = post(client, f"{demo}/export/picture", asked | {"shows": "now"})
    assert now.content == pictures.drawn(DEMO, pictures.Wanted(wanted.parameters, 0, b(64)), form)


def test_sound_lies_behind_where_it_is_asked_for(client, demo):  # noqa: F811
    plain, sounding = (
        post(client, f"{demo}/export/picture", PICTURE | {"sound": sound}).content for sound in (False, True)
    )
    assert b"Ground: the sound." in sounding and b"Ground: the sound." not in plain


def test_what_cannot_be_is_refused(client, demo):  # noqa: F811
    for asked, message in (
        (PICTURE | {"parameters": []}, "no lane is chosen"),
        (PICTURE | {"parameters": ["spoon"]}, "spoon"),
        (PICTURE | {"start": 64}, "the range lies beyond"),
        (PICTURE | {"form": "gif"}, "svg"),
    ):
        answer = post(client, f"{demo}/export/picture", asked)
        assert answer.status_code == 422 or answer.status_code == 404
        assert message in answer.json()["message"] + answer.json()["accepted"], answer.json()
    assert client.get(f"/api/sessions/{demo}/export/sheet?form=doc").status_code == 422
