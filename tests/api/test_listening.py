"""Listening over the API: scores, sounds in pieces, readings, one's own files, and what is refused."""

import io
import os
import zipfile

import numpy as np
import pytest
import soundfile
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.api.test_api import client, demo, post  # noqa: F401
from tests.formats.test_midi import file_of
from velmot.core.session.heard import heard
from velmot.core.session.session import Session
from velmot.core.session.sounds import Audio, Sound
from velmot.core.session.track import Track
from velmot.core.time.ticks import ticks_of
from velmot.presentation.listening import key_of
from velmot.storage import own_audio
from velmot.storage import sessions as stored
from velmot.storage.models import StoredAudio


@pytest.fixture
def audio(settings, tmp_path):
    settings.AUDIO = tmp_path / "audio"
    return settings.AUDIO


def wav(seconds=1.0, rate=44_100, sides=1, hz=1000, kind="WAV", subtype=None):
    t = np.arange(round(seconds * rate)) / rate
    data = io.BytesIO()
    soundfile.write(data, np.column_stack([0.5 * np.sin(2 * np.pi * hz * t)] * sides), rate, subtype, format=kind)
    return data.getvalue()


def sent(client, data, name="take.wav"):  # noqa: F811
    return client.post("/api/audio", {"file": SimpleUploadedFile(name, data)})


def test_a_score_says_what_sounds_now_and_if_applied_and_only_the_touched_track_differs(client, demo):  # noqa: F811
    body = {
        "start": 20,
        "end": 30,
        "request": {"verb": "carry", "lanes": ["L1"], "targets": ["rain"], "start": 32, "end": 48},
    }
    said = post(client, f"{demo}/score", body).json()
    now, come = ({c["id"]: c for c in said[x]["channels"]} for x in ("now", "applied"))
    assert [c["id"] for c in said["now"]["channels"]][-1] == "hall" and "swell" not in now, (
        "buses come last, groups are none"
    )
    assert [*come] == ["rain", "weather", "hall"] and now["rain"] != come["rain"], "and the buses it reaches"
    assert now["weather"] == come["weather"]
    gain = next(g for g in now["bell"]["gains"] if g["parameter"] == "bell.level")
    net = heard(stored.load(demo), "bell.level").envelope.value_at(ticks_of(32))
    assert (gain["times"][0], gain["values"][0]) == (pytest.approx(20), pytest.approx(10 ** (net / 20))), (
        "with its group"
    )
    assert post(client, f"{demo}/score", {"start": 20, "end": 30}).json()["applied"] is None
    assert set(now["rain"]["unheard"]) == {"rain.shimmer.on", "rain.shimmer.shimmer"} and now["bell"]["unheard"] == []
    some = post(client, f"{demo}/score", {"start": 20, "end": 30, "tracks": ["gulls"]}).json()["now"]["channels"]
    assert {c["id"] for c in some} == {"gulls", "weather", "hall"}


def test_a_sound_in_pieces_is_the_same_as_in_one(client, demo):  # noqa: F811
    said = post(client, f"{demo}/score", {"start": 0, "end": 10, "tracks": ["keeper"]}).json()["now"]
    piece = next(c for c in said["channels"] if c["id"] == "keeper")["pieces"][0]
    made = []
    for n in (0, 1):
        answer = client.get(f"/api/sessions/{demo}/sound", {"key": piece["key"], "n": n})
        assert answer["X-Sides"] == "1" and "immutable" in answer["Cache-Control"]
        made.append(np.frombuffer(answer.content, "<f4"))
    assert [len(x) for x in made] == [4 * 48_000] * 2 and abs(made[0]).max() > 0.1
    for bad in ("nothing", "e30=", "", "\u2603"):
        answer = client.get(f"/api/sessions/{demo}/sound", {"key": bad, "n": 0})
        assert answer.status_code in (400, 422) and answer.json()["place"] == "key", bad


def test_readings_say_how_much_louder_it_would_be_and_what_evens_it(client, db):  # noqa: F811
    """A sine 6 dB quieter if applied: 6.02… LU, taken off what is there now."""
    from velmot.core.parameters.parameter import level, pan

    track = Track("t", "T", parameters=(level("t.level"), pan("t.pan")), sound=Sound("tone", hz=997, amplitude=0.5))
    id = stored.create(Session("s", ticks_of(16), (track,)))
    draw = {"verb": "draw", "parameter": "t.level", "stroke": [{"at": 0, "value": -6}, {"at": 16, "value": -6}]}
    said = post(client, f"{id}/readings", {"start": 0, "end": 4, "request": draw}).json()
    assert said["now"][0]["peak"] == pytest.approx(-9.03, abs=0.01) and said["now"][1]["track"] == "t"
    assert said["now"][0]["mean"] == pytest.approx(-12.04, abs=0.01)
    assert said["now"][0]["loudness"] == pytest.approx(-9.03, abs=0.03)
    assert said["louder"] == pytest.approx(-6, abs=0.01)
    assert (said["lower_now"], said["lower_applied"]) == (pytest.approx(10 ** (-6 / 20), abs=1e-3), 1.0)
    assert said["now"][0]["clips"] is None and 0 <= said["now"][0]["at"] <= 4
    alone = post(client, f"{id}/readings", {"start": 0, "end": 4}).json()
    assert alone["applied"] == [] and alone["louder"] is None
    assert post(client, f"{id}/readings", {"start": 0, "end": 1e5}).status_code == 422


def test_an_outline_reaches_as_far_as_the_sound_and_only_where_it_is(client, demo):  # noqa: F811
    import base64

    said = client.get(f"/api/sessions/{demo}/outline", {"track": "foghorn"}).json()
    columns = np.frombuffer(base64.b64decode(said["columns"]), np.uint8)
    at = lambda seconds: columns[round(seconds * said["per_second"])]  # noqa: E731
    assert len(columns) == round(167.825 * said["per_second"]) and at(5) == 0 < at(13) and at(19.8) == 0
    assert client.get(f"/api/sessions/{demo}/outline", {"track": "nobody"}).status_code == 422


def test_own_audio_is_kept_once_by_its_digest_and_sounds_at_any_rate(client, demo, audio):  # noqa: F811
    one = sent(client, wav(2.0, sides=2), "My take.wav").json()
    assert one["seconds"] == pytest.approx(2.0) and (one["rate"], one["channels"], one["name"]) == (
        44_100,
        2,
        "My take.wav",
    )
    assert sent(client, wav(2.0, sides=2), "again.wav").json()["digest"] == one["digest"]
    assert [p.name for p in audio.iterdir()] == [f"{one['digest']}.wav"]
    sound = {"kind": "file", "name": one["name"], "digest": one["digest"]}
    step = post(
        client,
        f"{demo}/apply",
        {"revision": 0, "request": {"verb": "set sound", "tracks": ["bell"], "sound": sound, "at": 8}},
    )
    assert step.status_code == 200, step.json()
    said = post(client, f"{demo}/score", {"start": 0, "end": 10, "tracks": ["bell"]}).json()["now"]
    (piece,) = next(c for c in said["channels"] if c["id"] == "bell")["pieces"]
    assert piece["start"] == pytest.approx(5.0) and said["missing"] == []
    answer = client.get(f"/api/sessions/{demo}/sound", {"key": piece["key"], "n": 0})
    samples = np.frombuffer(answer.content, "<f4").reshape(-1, 2)
    t = np.arange(len(samples)) / 48_000
    expected = np.where(t < 2, 0.5 * np.sin(2 * np.pi * 1000 * t), 0)
    inside = (t > 0.05) & (t < 1.95)
    assert answer["X-Sides"] == "2" and samples[inside, 0] == pytest.approx(expected[inside], abs=2e-3)
    assert not samples[t > 2.01].any()
    long = sent(client, wav(9.0, hz=1000.3), "long.wav").json()
    key = key_of(Sound("file", audio=Audio(long["name"], long["digest"])), "any")
    second = np.frombuffer(client.get(f"/api/sessions/{demo}/sound", {"key": key, "n": 1}).content, "<f4")
    sine = 0.5 * np.sin(2 * np.pi * 1000.3 * (4 + np.arange(len(second)) / 48_000))
    assert second == pytest.approx(sine, abs=2e-3), "a later piece goes on where the first one ends"
    (audio / f"{one['digest']}.wav").unlink()
    gone = post(client, f"{demo}/score", {"start": 0, "end": 10, "tracks": ["bell"]}).json()["now"]
    assert gone["missing"] == ["My take.wav"]
    assert next(c for c in gone["channels"] if c["id"] == "bell")["pieces"], "its stand-in sounds"


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("x.wav", b"no sound at all", "no audio"),
        ("x.txt", wav(0.1), "is no sound"),
        ("x.wav", wav(0.0), "no length"),
        ("x.wav", wav(0.1, sides=64), "64 channels"),
        ("x.wav", wav(0.01, rate=700_000), "700,000 samples a second"),
        ("x.flac", wav(2.0, kind="FLAC")[:-2000], "damaged"),
    ],
)
def test_what_is_no_sound_is_refused_in_words_and_nothing_is_kept(client, db, audio, name, data, said):  # noqa: F811
    answer = sent(client, data, name)
    assert answer.status_code == 422 and said in answer.json()["message"], answer.json()
    assert answer.json()["place"] and answer.json()["accepted"]
    assert not audio.exists() or not [*audio.iterdir()]


def test_a_value_that_is_no_number_is_refused_with_its_place(client, db, audio):  # noqa: F811
    data = io.BytesIO()
    samples = np.zeros(48_000, dtype=np.float32)
    samples[30_000] = np.nan
    soundfile.write(data, samples, 48_000, "FLOAT", format="WAV")
    answer = sent(client, data.getvalue()).json()
    assert "no number" in answer["message"] and answer["place"].endswith(" s")
    assert sent(client, wav(0.5, rate=192_000)).status_code == 200


def test_the_mix_and_a_file_for_each_track_are_taken_out_and_add_up(client, demo):  # noqa: F811
    ask = {"start": 32, "end": 36, "bits": "32f"}
    mix, rate = soundfile.read(io.BytesIO(b"".join(post(client, f"{demo}/export/sound", ask).streaming_content)))
    assert (rate, len(mix)) == (48_000, round(2.5 * 48_000))
    answer = post(client, f"{demo}/export/sound", ask | {"each": True})
    assert answer["Content-Disposition"].startswith('attachment; filename="Skerry Light.zip"')
    with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as archive:
        each = [soundfile.read(io.BytesIO(archive.read(name)))[0] for name in archive.namelist()]
        assert len(each) == 9 and "Bell buoy.wav" in archive.namelist()
    assert sum(each) == pytest.approx(mix, abs=1e-6) and abs(mix).max() > 0.01
    one = post(
        client, f"{demo}/export/sound", ask | {"tracks": ["bell"], "rate": 44_100, "bits": "16", "ending": ".flac"}
    )
    bell, rate = soundfile.read(io.BytesIO(b"".join(one.streaming_content)))
    assert rate == 44_100 and len(bell) == round(2.5 * 44_100) and abs(bell).max() < abs(mix).max()
    for wrong, place in (
        ({"rate": 8000}, "rate"),
        ({"bits": "8"}, "bits"),
        ({"bits": "32f", "ending": ".flac"}, "bits"),
        ({"end": 32}, "range"),
        ({"end": 9999}, "range"),
    ):
        answer = post(client, f"{demo}/export/sound", ask | wrong)
        assert answer.status_code == 422 and answer.json()["place"] == place, answer.json()


def test_the_notes_of_a_midi_file_sound_where_it_has_them(client, db):  # noqa: F811
    note = b"\x00\xc0\x10" + b"\x83\x60\x90\x45\x7f" + b"\x83\x60\x80\x45\x00"  # an organ, 440 Hz, from beat 1 to 2
    made = client.post("/api/sessions/import", {"file": SimpleUploadedFile("a.mid", file_of(b"", note))}).json()
    said = post(client, f"{made['id']}/score", {"start": 0, "end": 4}).json()["now"]
    channel = next(c for c in said["channels"] if c["pieces"])
    (piece,) = channel["pieces"]
    answer = client.get(f"/api/sessions/{made['id']}/sound", {"key": piece["key"], "n": 0})
    samples = np.frombuffer(answer.content, "<f4")
    begins = np.argmax(abs(samples) > 0.01) / 48_000
    assert piece["start"] == pytest.approx(begins, abs=0.01)
    spectrum = abs(np.fft.rfft(samples[round((begins + 0.05) * 48_000) :][:9600]))
    assert np.argmax(spectrum) * 5 == pytest.approx(440, abs=5)


def test_own_audio_that_no_session_and_no_history_names_goes_after_a_day(client, demo, audio):  # noqa: F811
    laid, _, fresh = (sent(client, wav(1.0, hz=hz), f"{hz}.wav").json() for hz in (500, 600, 700))
    sound = {"kind": "file", "name": laid["name"], "digest": laid["digest"]}
    request = {"verb": "set sound", "tracks": ["bell"], "sound": sound, "at": 8}
    assert post(client, f"{demo}/apply", {"revision": 0, "request": request}).status_code == 200
    assert post(client, f"{demo}/undo", {"revision": 1}).status_code == 200, "its history names it still"
    (audio / ".coming-half.wav").write_bytes(b"RIFF")
    for path in audio.iterdir():
        if path.stem != fresh["digest"]:
            os.utime(path, (1e9, 1e9))

    def left() -> set[str]:
        own_audio.forget_unused()
        assert {path.stem for path in audio.iterdir()} == {kept.digest for kept in StoredAudio.objects.all()}
        return {path.stem for path in audio.iterdir()}

    assert left() == {laid["digest"], fresh["digest"]}
    stored.put_away(demo)
    assert left() == {laid["digest"], fresh["digest"]}, "it can still be brought back"
    stored.remove(demo)
    assert left() == {fresh["digest"]}


def test_every_hall_has_its_impulse_and_no_other_number(client):  # noqa: F811
    from velmot.sound.stand_ins.hall import DECAYS

    for i in range(len(DECAYS)):
        answer = client.get(f"/api/sound/impulse/{i}")
        assert answer.status_code == 200 and len(answer.content) % 8 == 0 and len(answer.content) > 48_000
    for i in (-1, len(DECAYS)):
        assert client.get(f"/api/sound/impulse/{i}").status_code in (404, 422)
