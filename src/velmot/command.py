"""`velmot` on the command line: convert files, and plan or apply operations without a screen, one file or many."""

from __future__ import annotations

import argparse
import glob
import json
import os
import sys
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field, fields, replace
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from velmot import batch, library, printing, rendering, tidying, written
from velmot.core import verbs
from velmot.core.errors import RequestError
from velmot.core.session.session import Session
from velmot.core.session.wording import span_text
from velmot.core.tidy.clean_up import cleaned
from velmot.core.tidy.request import CleanUp
from velmot.core.verbs.frame.change import Change
from velmot.core.verbs.frame.heard_alike import heard_text
from velmot.core.verbs.frame.telling import in_words
from velmot.core.verbs.table import VERBS
from velmot.core.words import counted
from velmot.formats import files, midi, points_table, table
from velmot.formats.report import Report
from velmot.formats.requests import from_row

DONE, SOME, REFUSED, STOPPED, CUT_OFF = 0, 1, 2, 130, 141
"""All was done; of many files some were refused; it was refused; it was stopped by its user; nobody reads what is said
any more (both 128 and the signal’s number, as is usual)."""
FOUND = 3
"""`findings` found what was looked for."""


More = Callable[[argparse.ArgumentParser, Any], None]
"""Adds commands to a parser, and to its list of them."""


def main(arguments: Sequence[str] | None = None, more: More | None = None) -> int:
    """Run one command; the exit status says what happened, why it was refused goes to standard error."""
    try:
        chosen = _parser(more).parse_args(arguments)
        with _sentences():
            status: int = chosen.run(chosen) or DONE
            sys.stdout.flush()
            return status
    except _Refused as refused:
        print(f"velmot: {refused}", file=sys.stderr)
        return REFUSED
    except KeyboardInterrupt:
        print("velmot: stopped; what is written is whole, and the same command goes on from there", file=sys.stderr)
        return STOPPED
    except BrokenPipeError:
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())  # or Python says so once more as it ends
        return CUT_OFF


class _Refused(Exception):
    """Why something was not done, as one sentence."""


@contextmanager
def _sentences() -> Iterator[None]:
    """Whatever goes wrong with a request or a file is one sentence."""
    try:
        yield
    except RequestError as error:
        expected = f"; expected: {error.accepted}" if error.accepted else ""
        raise _Refused(f"{error.message}{expected}") from None
    except BrokenPipeError:
        raise
    except OSError as error:
        raise _Refused(f"{error.filename or 'a file'}: {error.strerror}") from None
    except (RecursionError, MemoryError):
        raise _Refused("this is nested too deeply, or too large") from None


def _parser(more: More | None) -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="velmot", description="Carry, retarget and tidy automation in files.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    convert = commands.add_parser("convert", help=f"read files and write others, each {table.ACCEPTED}")
    convert.add_argument("source", nargs="+", type=Path, help="files, folders or patterns; one file: then its target")
    convert.add_argument("--lanes", nargs="+", default=[], help="only these lanes, by id, where the target is a table")
    convert.set_defaults(run=_convert)
    for name, run, says in (
        ("plan", _plan, "say what a request would do to a session file"),
        ("apply", _apply, "do it, and write the session to another file"),
    ):
        command = commands.add_parser(name, help=says)
        command.add_argument("session", nargs="+", type=Path, help="files, folders or patterns, and last the request")
        command.add_argument(
            "--links",
            choices=("follow", "here", "free"),
            help="where it writes on a linked place: follow into its phrase (and everywhere), here only, or set free; "
            "without it hand edits follow, what replaces sets free",
        )
        command.set_defaults(run=run)
    commands.choices["apply"].add_argument("-o", "--output", type=Path, help="the file to write, for one session")
    for name in ("convert", "apply"):
        _add_writing(commands.choices[name])
    render = commands.add_parser("render", help="render a session as sound: the mix, or a file for each track")
    rendering.add_to(render)
    render.set_defaults(run=_render)
    picture, sheet = printing.add_to(commands)
    picture.set_defaults(run=_picture, links=None)
    sheet.set_defaults(run=_sheet)
    batch.add_to(commands).set_defaults(run=_batch)
    look, tidy = tidying.add_to(commands)
    look.set_defaults(run=_findings)
    tidy.set_defaults(run=_tidy)
    _add_writing(tidy)
    for name in ("convert", "plan", "apply", "batch", "render", "picture", "sheet", "findings", "tidy"):
        command = commands.choices[name]
        command.add_argument("--json", action="store_true", help="say it as JSON, a line for each file")
        command.add_argument("--quiet", action="store_true", help="say only what was refused")
    commands.add_parser("verbs", help="list the verbs and their settings").set_defaults(run=_verbs)
    if more:
        more(parser, commands)
    return parser


def _add_writing(command: argparse.ArgumentParser) -> None:
    """How and where something is written."""
    command.add_argument("--folder", type=Path, help="write each of many files into this folder, under its own name")
    command.add_argument(
        "--as", dest="ending", help="the format of many files, by its ending: .mid, .csv, .velmot.json"
    )
    command.add_argument("--overwrite", action="store_true", help="write over files that are there (never over inputs)")
    command.add_argument("--into", type=Path, help="the MIDI file the session came from, to be written back into")
    command.add_argument("--into-another", action="store_true", help="also where that is not the file it came from")
    command.add_argument("--anew", action="store_true", help="a MIDI file of lanes alone, without the source’s notes")
    command.add_argument(
        "--controller", action="append", default=[], metavar="PARAMETER=CONTROLLER", help='as which: "bell.level=cc 7"'
    )
    command.add_argument(
        "--span",
        action="append",
        default=[],
        metavar="PARAMETER=LOW..HIGH",
        help="over which values: bell.level=-60..0",
    )
    command.add_argument("--resolution", type=int, help="ticks a beat of a MIDI file that is written anew")


# ── what is said ──────────────────────────────────────────────────────────────────────────────


@dataclass
class _Said:
    """What happened to one file: lines as they come, and the same for a program to read."""

    source: Path
    lines: list[str] = field(default_factory=list)
    row: dict[str, Any] = field(default_factory=dict)

    def report(self, what: str, report: Report) -> None:
        """What came, changed and was left out."""
        self.row[what] = vars(report)
        for word, lines in (("came", report.came), ("changed", report.changed), ("left out", report.left_out)):
            self.lines += [f"{word}: {line}" for line in lines]

    def tell(self, chosen: argparse.Namespace) -> None:
        """Print it, as was asked for."""
        if chosen.json:
            print(json.dumps({"source": str(self.source), **self.row}, ensure_ascii=False))
        elif not chosen.quiet:
            for line in self.lines:
                print(line)


def _each(chosen: argparse.Namespace, sources: list[Path], work: Callable[[Path, _Said], str]) -> int:
    """Do something with each of many files: one that is refused is named, the others go on; then one summary."""
    counts: dict[str, int] = {}
    for source in sources:
        said = _Said(source)
        try:
            with _sentences():
                happened = work(source, said)
        except _Refused as refused:
            happened = "refused"
            said.row["refused"] = str(refused)
            print(f"velmot: {source}: {refused}", file=sys.stderr)
        counts[happened] = counts.get(happened, 0) + 1
        said.row["happened"] = happened
        said.tell(chosen)
    if not chosen.quiet and not chosen.json:
        parts = ", ".join(f"{n:,} {what}" for what, n in counts.items())
        print(f"{counted(len(sources), 'file')}: {parts}")
    refused_count = counts.get("refused", 0)
    return DONE if not refused_count else REFUSED if refused_count == len(sources) else SOME


def _found(paths: Sequence[Path]) -> list[Path]:
    """Files as they are named, those of folders that a format knows, and those of patterns; RequestError for none."""
    found: list[Path] = []
    for path in paths:
        if path.is_dir():
            found += sorted(x for x in path.iterdir() if x.is_file() and table.by_name(x.name))
        elif glob.has_magic(str(path)) and not path.exists():
            found += sorted(Path(path.anchor or ".").glob(str(path.relative_to(path.anchor))))
        else:
            found.append(path)
    if not found:
        raise RequestError("no-files", place="source", accepted="files, folders or patterns")
    return list(dict.fromkeys(found))


# ── reading and writing ───────────────────────────────────────────────────────────────────────


def _opened(path: Path, said: _Said) -> tuple[Session, bytes]:
    data = path.read_bytes()
    session, report = files.read(data, path.name)
    said.report("read", report)
    return session, data


def _put(
    chosen: argparse.Namespace, said: _Said, session: Session, source: bytes, target: Path, inputs: list[Path]
) -> None:
    """Write a session to a file whose ending says how."""
    inputs = [*inputs, *([chosen.into] if chosen.into else [])]
    written.check_free(target, inputs, chosen.overwrite)
    data, report = _made(chosen, session, source, target)
    said.report("written", report)
    written.write(target, data)
    said.lines.append(f"wrote {target.name}, {len(data):,} bytes")
    said.row["target"], said.row["bytes"] = str(target), len(data)


def _made(chosen: argparse.Namespace, session: Session, source: bytes, target: Path) -> tuple[bytes, Report]:
    """The bytes of a target, and the report of it; RequestError where what is asked for does not go together."""
    format = table.to_write(target.name)
    is_midi = format is midi.FORMAT
    choosing = chosen.controller or chosen.span or chosen.resolution
    if not is_midi and (chosen.into or chosen.anew or choosing):
        raise RequestError("not-midi", name=target.name, place="target", accepted="a target that ends in .mid")
    lanes = getattr(chosen, "lanes", [])
    if lanes:
        if format is not points_table.FORMAT:
            raise RequestError("lanes-table", place="--lanes", accepted="a target that ends in .csv")
        return points_table.write(session, [session.lane(id).id for id in lanes])
    if not is_midi:
        return format.write(session)
    own = chosen.into.read_bytes() if chosen.into else source
    if not chosen.anew and not choosing and (chosen.into or files.comes_back(own)):
        return _into(chosen, session, own)
    made = midi.write(session, _choices(chosen, session), _per_beat(chosen, source))
    if files.came_from(session) and not files.comes_back(source):
        made[1].left_out.append("the notes and all else of the MIDI file it came from: name that file with --into")
    return made


def _per_beat(chosen: argparse.Namespace, source: bytes) -> int:
    """The resolution of a MIDI file that is written anew: as asked, else that of the source."""
    if chosen.resolution:
        return int(chosen.resolution)
    return midi.resolution(source) if files.comes_back(source) else midi.PER_BEAT


def _into(chosen: argparse.Namespace, session: Session, data: bytes) -> tuple[bytes, Report]:
    """The MIDI file a session came from, with what was changed in it."""
    name = chosen.into.name if chosen.into else "the file itself"
    if not files.comes_back(data):
        raise RequestError("into-not", name=name, place="--into", accepted="a MIDI file")
    known = files.came_from(session)
    if known != files.digest_of(data) and not chosen.into_another:
        kind = "into-another" if known else "into-another/unknown"
        raise RequestError(kind, name=name, place="--into", accepted="that file, or --into-another")
    return files.into(session, data)


def _choices(chosen: argparse.Namespace, session: Session) -> list[midi.Choice]:
    """How each parameter goes into a MIDI file: as usual, but for what was asked for."""
    choices = {c.parameter: c for c in midi.usual_choices(session)}
    for text in (*chosen.controller, *chosen.span):
        parameter, equals, _ = text.partition("=")
        if not equals or parameter not in choices:
            raise RequestError(
                "choice", text=text, place="--controller", accepted=", ".join([*choices][:6]) or "a lane"
            )
    for text in chosen.controller:
        parameter, _, controller = text.partition("=")
        choices[parameter] = replace(choices[parameter], controller=controller.strip())
    for text in chosen.span:
        parameter, _, span = text.partition("=")
        low, dots, high = span.partition("..")
        try:
            ends = float(low), float(high)
        except ValueError:
            raise RequestError("span/unread", text=text, place="--span", accepted="bell.level=-60..0") from None
        if not dots or not ends[0] < ends[1]:
            raise RequestError("span/unread", text=text, place="--span", accepted="a low below a high: -60..0")
        choices[parameter] = replace(choices[parameter], low=ends[0], high=ends[1])
    return list(choices.values())


# ── convert ───────────────────────────────────────────────────────────────────────────────────


def _convert(chosen: argparse.Namespace) -> int | None:
    if chosen.folder:
        return _many(chosen, _found(chosen.source), lambda session, said: session)
    if len(chosen.source) != 2:
        raise RequestError("many", place="source", accepted="a source and a target, or --folder FOLDER --as .mid")
    source, target = chosen.source
    said_of = _Said(source)
    table.to_write(target.name)
    session, data = _opened(source, said_of)
    _put(chosen, said_of, session, data, target, [source])
    said_of.tell(chosen)
    return None


def _many(chosen: argparse.Namespace, sources: list[Path], change: Callable[[Session, _Said], Session]) -> int:
    """Read each file, change it, and write it into the folder; what is there already was done before."""
    if chosen.into:
        raise RequestError("many-into", place="--into", accepted="MIDI files as sources, and a folder")
    ending = chosen.ending
    if ending:
        ending = ending if ending.startswith(".") else f".{ending}"
        table.to_write(f"x{ending}")
    chosen.folder.mkdir(parents=True, exist_ok=True)
    taken: dict[str, Path] = {}

    def one(source: Path, said: _Said) -> str:
        known = table.by_name(source.name)
        name = f"{known.stem(source.name) if known else source.stem}{ending}" if ending else source.name
        target = chosen.folder / name
        first = taken.setdefault(name.lower(), source)
        if first != source:
            raise RequestError(
                "same-name",
                name=name,
                first=str(first),
                place="target",
                accepted="files of different names, or two folders",
            )
        if target.exists() and not chosen.overwrite and not any(target.samefile(x) for x in sources if x.exists()):
            said.lines.append(f"{name} is there already")
            return "there already"
        session, data = _opened(source, said)
        _put(chosen, said, change(session, said), data, target, sources)
        return "written"

    return _each(chosen, sources, one)


# ── plan and apply ────────────────────────────────────────────────────────────────────────────


def _request(path: Path) -> tuple[str, Any]:
    """The verb and request of a file, or of standard input."""
    data = sys.stdin.buffer.read() if str(path) == "-" else path.read_bytes()
    marks = {b"\xef\xbb\xbf": "utf-8-sig", b"\xff\xfe": "utf-16", b"\xfe\xff": "utf-16"}
    encoding = next((named for mark, named in marks.items() if data.startswith(mark)), "utf-8")
    try:
        row = json.loads(data.decode(encoding))
        if not isinstance(row, dict):
            raise ValueError("not an object")
        return from_row(row)
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        raise RequestError("request/part", at=place, said=first["msg"].lower(), place=place) from None
    except UnicodeDecodeError as error:
        raise RequestError(
            "request/not-text", start=error.start, place="request", accepted="JSON in UTF-8 or UTF-16"
        ) from None
    except ValueError as error:
        if isinstance(error, RequestError):
            raise
        raise RequestError("request/not-json", error=str(error), place="request", accepted='{"verb": …}') from None


def _changing(chosen: argparse.Namespace, verb: str, request: Any) -> Callable[[Session, _Said], Session]:
    """What a request does to a session; it is said as a sentence, with the figures and cautions of the screen."""

    def change(session: Session, said: _Said) -> Session:
        made = verbs.plan(session, verb, request, chosen.links, sounding=library.sounding(session))
        said.lines.append(in_words(verbs.sentence(session, verb, request)))
        said.lines += _change_lines(session, made)
        said.row |= {"title": made.title, "cautions": [c.message for c in made.cautions]}
        return made.applied_to(session)

    return change


def _sessions_and_request(chosen: argparse.Namespace) -> tuple[list[Path], Path]:
    *sessions, request = chosen.session
    if not sessions:
        raise RequestError("request-none", place="request", accepted="SESSION REQUEST, or SESSIONS… REQUEST --folder")
    return sessions, request


def _plan(chosen: argparse.Namespace) -> int | None:
    sessions, path = _sessions_and_request(chosen)
    change = _changing(chosen, *_request(path))

    def one(source: Path, said: _Said) -> str:
        session, _ = _opened(source, said)
        if not chosen.json:
            said.lines.clear()  # the report is the import’s; what is asked for here is the plan
        change(session, said)
        return "planned"

    if len(sessions) == 1 and not sessions[0].is_dir() and not glob.has_magic(str(sessions[0])):
        said_of = _Said(sessions[0])
        one(sessions[0], said_of)
        said_of.tell(chosen)
        return None
    return _each(chosen, _found(sessions), one)


def _apply(chosen: argparse.Namespace) -> int | None:
    sessions, path = _sessions_and_request(chosen)
    change = _changing(chosen, *_request(path))
    if chosen.folder:
        return _many(chosen, _found(sessions), change)
    if chosen.output is None or len(sessions) != 1:
        raise RequestError("output/many", place="-o", accepted="-o FILE for one session, --folder FOLDER for many")
    table.to_write(chosen.output.name)
    said_of = _Said(sessions[0])
    session, data = _opened(sessions[0], said_of)
    written.check_free(chosen.output, [sessions[0], path, *([chosen.into] if chosen.into else [])], chosen.overwrite)
    _put(chosen, said_of, change(session, said_of), data, chosen.output, [sessions[0], path])
    said_of.tell(chosen)
    return None


def _batch(chosen: argparse.Namespace) -> int | None:
    finished, refused, before = batch.run(chosen, _found(chosen.source))
    if not chosen.quiet and not chosen.json:
        parts = [
            f"{finished:,} done",
            f"{refused:,} refused" if refused else "",
            f"{before:,} done before" if before else "",
        ]
        print(f"{counted(finished + refused + before, 'file')}: {', '.join(filter(None, parts))}")
    return DONE if not refused else SOME if finished or before else REFUSED


def _render(chosen: argparse.Namespace) -> int | None:
    said = _Said(chosen.session)
    session, data = _opened(chosen.session, said)
    said.lines.clear()  # the report is of what is rendered
    report, targets = rendering.render(chosen, session, data)
    said.report("rendered", report)
    for target in targets:
        said.lines.append(f"wrote {target.name}, {target.stat().st_size:,} bytes")
    said.row["targets"] = [str(target) for target in targets]
    said.tell(chosen)
    return None


def _picture(chosen: argparse.Namespace) -> None:
    said = _Said(chosen.session)
    session, _ = _opened(chosen.session, said)
    change = _changing(chosen, *_request(chosen.request)) if chosen.request else None
    _paper(chosen, said, printing.draw(chosen, session, (lambda one: change(one, said)) if change else None))


def _sheet(chosen: argparse.Namespace) -> None:
    said = _Said(chosen.session)
    session, _ = _opened(chosen.session, said)
    _paper(chosen, said, printing.sheet(chosen, session, lambda path: _opened(path, said)[0]))


def _paper(chosen: argparse.Namespace, said: _Said, data: bytes) -> None:
    written.write(chosen.output, data)
    said.lines.append(f"wrote {chosen.output.name}, {len(data):,} bytes")
    said.row["target"] = str(chosen.output)
    said.tell(chosen)


def _findings(chosen: argparse.Namespace) -> int | None:
    session, _ = _opened(chosen.session, _Said(chosen.session))
    found = tidying.found(session, chosen)
    if chosen.json:
        print(json.dumps([tidying.row_of(session, one) for one in found], ensure_ascii=False))
    elif not chosen.quiet:
        print(*tidying.lines_of(session, found), sep="\n") if found else print("nothing is found")
    return FOUND if found and chosen.sure > 0 else None


def _tidy(chosen: argparse.Namespace) -> int | None:
    bounds = tidying.bounds_of(chosen.within)

    def change(session: Session, said: _Said) -> Session:
        after = cleaned(session, CleanUp(bounds))
        said.lines.clear()  # the report is of what is tidied
        said.lines += tidying.report_of(session, after)
        points = [sum(len(x.envelope) for x in state.lanes) for state in (session, after.session)]
        said.row |= {
            "done": [tidying.row_of(session, one) for one in after.done],
            "points_gone": points[0] - points[1],
        }
        return after.session

    if chosen.folder:
        return _many(chosen, _found(chosen.session), change)
    if len(chosen.session) != 1 or chosen.ending:
        raise RequestError("output/many", place="-o", accepted="-o FILE for one session, --folder FOLDER for many")
    said, (source,) = _Said(chosen.session[0]), chosen.session
    session, data = _opened(source, said)
    after = change(session, said)
    if chosen.output:
        _put(chosen, said, after, data, chosen.output, [source])
    said.tell(chosen)
    return None


def _change_lines(session: Session, change: Change) -> Iterator[str]:
    """The same figures and cautions as on screen."""
    session = change.naming(session)
    for t in change.touched:
        far = session.parameter(t.parameter).format_distance(t.difference)
        points = f"{t.points_before} → {t.points_after} points"
        yield f"  {t.name}, {span_text(session, t.start, t.end)}: {points}, up to {far}"
    for swap in change.tracks:
        happens = "changes too" if swap.before and swap.after else "is new" if swap.after else "goes"
        yield f"  {swap.track.name} {happens}"
    if change.heard:
        yield f"  = {heard_text(session, change.heard)}"
    for caution in change.cautions:
        yield f"  ! {caution.message}"


def _verbs(_: argparse.Namespace) -> None:
    """Every request there is, under the verb of the worksheet that makes it."""
    for verb in VERBS:
        print(f"{verb.name} (on the worksheet: {verb.key})")
        for operation in verbs.operations_of(verb):
            summary = (operation.request.__doc__ or "").strip().splitlines()[0]
            print(f"  {operation.verb}: {summary}")
            for f in fields(operation.request):
                _print_setting(f.name, f.metadata)


def _print_setting(name: str, metadata: Any) -> None:
    words = {choice: said for choice, said in metadata.get("words", {}).items() if choice != said}
    called = "".join(f"; {choice}: “{said}”" for choice, said in words.items())
    print(f"    {name}: {metadata.get('says', '')}{called}")


if __name__ == "__main__":
    sys.exit(main())
