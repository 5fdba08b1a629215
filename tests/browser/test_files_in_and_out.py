"""Bringing files in and taking them out, with the bad ones refused in words."""

import io
import json

import mido
import pytest
from playwright.sync_api import expect

from tests.formats.test_midi import CONDUCTOR, PLAYER, file_of
from tests.formats.test_session_file import MARKUP, small
from velmot.formats import midi


def bring(page, name, data):
    page.get_by_label("File to import").set_input_files({"name": name, "mimeType": "", "buffer": data})


def test_a_table_of_the_chosen_lanes_goes_out_and_comes_in(desk, page, server):
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    page.get_by_role("link", name="Take out…").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Take the 1 chosen lane").click()
    table = download.value.path().read_bytes()
    assert download.value.suggested_filename.endswith(".csv")
    page.goto(server.url)
    bring(page, "bell.csv", table)
    report = page.get_by_role("region", name="Import report")
    expect(report).to_contain_text("1 track, 1 lane, 25 points")
    report.get_by_role("button", name="Open it").click()
    expect(page.locator("section.strip").first).to_be_visible()
    assert server.session(2).lanes[0].envelope == server.session().lane("L1").envelope
    page.goto(server.url)
    bring(page, "bad.csv", table.replace(b",15.0,", b",fifteen,"))
    expect(page.get_by_role("alert")).to_contain_text("ine 4, column beat: “fifteen” is not a number")


def test_a_midi_file_comes_in_with_a_report_and_opens(page, server):
    page.goto(server.url)
    bring(page, "reed.mid", file_of(CONDUCTOR, PLAYER))
    report = page.get_by_role("region", name="Import report")
    expect(report).to_contain_text("2 tracks, 7 lanes")
    expect(report).to_contain_text("1 note: only where they sound is kept, as regions")
    report.get_by_role("button", name="Open it").click()
    expect(page.locator("section.strip").first).to_be_visible()
    assert server.json("sessions/2")["tracks"][0]["name"] == "Reed, channel 1"


def test_a_midi_file_goes_back_into_itself_with_one_lane_changed(desk, page, server):
    source = file_of(CONDUCTOR, PLAYER)
    page.goto(server.url)
    bring(page, "reed.mid", source)
    page.get_by_role("region", name="Import report").get_by_role("button", name="Open it").click()
    expect(page.locator("[data-strip='t1.cc7']")).to_be_visible()
    server.keep_bench(2, {"view": {"start": 0, "end": 4}, "pins": ["t1.cc7"]})
    page.reload()
    page.get_by_role("link", name="Take out…").click()
    expect(page.locator("main")).to_contain_text("the file as it came, byte for byte")
    with page.expect_download() as download:
        page.get_by_role("link", name="Take reed.mid").click()
    assert download.value.path().read_bytes() == source
    page.get_by_role("link", name="Bench").click()
    page.keyboard.press("r")
    desk.drag_range("t1.cc7", 0, 2.5, id=2)
    page.get_by_label("By how many cc").fill("-10")
    page.keyboard.press("Enter")
    desk.apply()
    desk.at_revision(1)
    page.get_by_role("link", name="Take out…").click()
    expect(page.locator("main")).to_contain_text("6 lanes as the file says them")
    with page.expect_download() as download:
        page.get_by_role("link", name="Take reed.mid").click()
    assert download.value.suggested_filename == "reed.mid"
    was, now = (mido.MidiFile(file=io.BytesIO(data)) for data in (source, download.value.path().read_bytes()))
    told = [[[m for m in absolute(t) if not is_level(m)] for t in file.tracks] for file in (was, now)]
    assert told[0] == told[1], "notes, names, tempos and every other controller, for another library"
    levels = [[(m.time, m.value) for t in file.tracks for m in absolute(t) if is_level(m)] for file in (was, now)]
    assert levels == [[(0, 100), (96, 80), (192, 60)], [(0, 90), (96, 70), (192, 50), (288, 60)]]


def absolute(track):
    """A track's messages with their ticks from its start."""
    at = 0
    return [m.copy(time=(at := at + m.time)) for m in track]


def is_level(message):
    return message.type == "control_change" and message.control == 7 and message.channel == 0


def test_a_file_dropped_on_the_page_comes_in(page, server):
    page.goto(server.url)
    page.get_by_role("main").wait_for()
    data = json.dumps(small() | {"name": "Dropped"})
    page.evaluate(
        """data => {
          const transfer = new DataTransfer()
          transfer.items.add(new File([data], 'd.velmot.json'))
          document.querySelector('main').dispatchEvent(
            new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: transfer }))
        }""",
        data,
    )
    expect(page.get_by_role("region", name="Sessions", exact=True)).to_contain_text("Dropped")


@pytest.mark.parametrize(
    ("name", "data", "said"),
    [
        ("notes.mid", b"only some text", "which no MIDI file does"),
        ("empty.mid", b"", "the file is empty (0 bytes)"),
        ("cut.mid", file_of(CONDUCTOR, PLAYER)[:-30], "amaged at byte"),
        ("v9.velmot.json", json.dumps(small(version=9)).encode(), "version 9 is not one this Velmot knows"),
    ],
    ids=["text", "empty", "cut", "version"],
)
def test_bad_files_are_refused_in_words_and_leave_nothing(page, server, name, data, said):
    page.goto(server.url)
    bring(page, name, data)
    expect(page.get_by_role("alert")).to_contain_text(said, ignore_case=True)
    assert [s["name"] for s in server.json("sessions")] == ["Skerry Light"]


def test_a_file_that_is_too_large_is_not_even_sent(desk, page, server, tmp_path):
    huge = tmp_path / "huge.mid"
    with huge.open("wb") as file:
        file.truncate(330 * 1024 * 1024)
    desk.slow(300)
    sent = []
    page.on("request", lambda request: sent.append(request.url))
    page.goto(server.url)
    page.get_by_label("File to import").set_input_files(huge)  # before the page knows how large one may be
    expect(page.get_by_role("alert")).to_contain_text("has 330 MB. Expected: a file of at most 16 MB")
    assert not [url for url in sent if "/import" in url]


def test_markup_in_names_is_shown_as_text(page, server):
    page.goto(server.url)
    bring(page, "m.velmot.json", json.dumps(small() | {"name": MARKUP}).encode())
    page.get_by_role("button", name="Open it").click()
    expect(page.get_by_role("navigation", name="Ledger")).to_contain_text(MARKUP)
    assert page.locator("img").count() == 0


def test_one_lane_taken_out_as_midi_reads_back(desk, server, page):
    desk.open()
    page.get_by_role("link", name="Take out…").click()
    page.get_by_role("button", name="choose none").click()
    page.locator(".el-checkbox", has_text="Swell Level").click()
    page.get_by_label("Lowest value of Swell Level").fill("-60")
    page.get_by_label("Highest value of Swell Level").fill("6")
    page.get_by_label("Highest value of Swell Level").press("Tab")
    expect(page.get_by_text("Swell Level as cc 7, −60.0 dB to 6.0 dB")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("button", name="Take the MIDI file").click()
    data = download.value.path().read_bytes()
    session, _ = midi.read(data, "back")
    assert [t.name for t in session.tracks] == ["Swell"]
    first = next(m for m in mido.MidiFile(file=io.BytesIO(data)).tracks[1] if m.type == "control_change")
    assert first.value == round((-4 + 60) / 66 * 127)


def test_delete_can_be_taken_back_and_a_rename_stays(page, server):
    page.goto(server.url)
    page.get_by_role("button", name="rename").click()
    page.get_by_label("New name").fill("Tidal study")
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Open Tidal study")).to_be_visible()
    page.get_by_role("button", name="Delete Tidal study").click()
    expect(page.get_by_text("There is none yet")).to_be_visible()
    page.get_by_role("button", name="bring back").click()
    expect(page.get_by_role("link", name="Open Tidal study")).to_be_visible()
    page.get_by_role("button", name="Open a fresh Skerry Light, the sample").click()
    expect(page.locator("section.strip").first).to_be_visible()
    assert sorted(s["name"] for s in server.json("sessions")) == ["Skerry Light", "Tidal study"]


def test_a_sheet_and_pictures_are_taken_out_by_hand_and_by_a_key(desk, server, page):
    """A short sheet since a mark, then the strips with what would come, as they are on the bench."""
    desk.open()
    desk.drag_range("bell.level", 32, 48)
    desk.choose_track("Gulls")
    expect(page.get_by_role("button", name="Apply", exact=True)).to_be_enabled()
    desk.canvas_of("bell.level").focus()
    with page.expect_download() as picture:
        page.keyboard.press("Shift+P")
    svg = picture.value.path().read_text()
    assert picture.value.suggested_filename == "Skerry Light.svg"
    for words in ("Bell buoy Level", "Keeper Level", "1.1.00 to 17.1.00", "orange what it would do there."):
        assert words in svg
    assert svg.count("stroke: #b8380b") == 1, "the gulls, who are there as a guest"
    expect(page.get_by_text("A picture of 5 strips is taken out.")).to_be_visible()

    page.get_by_role("link", name="Take out…").click()
    sheet = page.get_by_role("region", name="A recall sheet")
    sheet.get_by_text("plain text", exact=True).click()
    sheet.get_by_text("short: only what moves, its first moves").click()
    with page.expect_download() as taken:
        sheet.get_by_role("link", name="Take the sheet").click()
    said = taken.value.path().read_text()
    assert (
        said.startswith("Skerry Light\n============\n") and "and 10 more moves" in said and "What changed" not in said
    )
    drawing = page.get_by_role("region", name="A picture")
    expect(drawing.get_by_text("4 strips, 9.1.00 to 13.1.00")).to_be_visible()
    drawing.get_by_text("PDF", exact=True).click()
    with page.expect_download() as taken:
        drawing.get_by_role("button", name="Take the picture").click()
    assert taken.value.path().read_bytes().startswith(b"%PDF") and taken.value.suggested_filename == "Skerry Light.pdf"
