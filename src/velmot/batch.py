"""`velmot batch`: the same steps over many files, several at a time, with a report, going on where it was stopped."""

from __future__ import annotations

import argparse
import json
import os
import sys
from collections import Counter
from collections.abc import Iterator, Sequence
from concurrent.futures import FIRST_COMPLETED, Future, ProcessPoolExecutor, wait
from dataclasses import asdict, dataclass, field
from hashlib import sha256
from pathlib import Path
from typing import Any

from velmot import library, written
from velmot.core.errors import RequestError
from velmot.core.words import counted
from velmot.formats import files, table

REPORT = "velmot-batch.jsonl"
"""In the folder of what is written: a line for each file, in the order in which they were done."""


@dataclass(frozen=True)
class Job:
    """One file: where it is read and written, and by which steps."""

    source: str
    target: str
    steps: str


@dataclass(frozen=True)
class Outcome:
    """What became of a file: `done`, or `refused` and why; `key` tells the same file with the same steps again."""

    source: str
    target: str
    key: str
    happened: str
    titles: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    refused: str = field(default="")


def add_to(commands: Any) -> argparse.ArgumentParser:
    """The command."""
    batch: argparse.ArgumentParser = commands.add_parser(
        "batch", help="the same requests over many files, several at a time"
    )
    batch.add_argument("source", nargs="+", type=Path, help="files, folders or patterns")
    batch.add_argument(
        "--do",
        type=Path,
        required=True,
        metavar="FILE",
        help="a request as JSON, or a list of them, names in place of ids",
    )
    batch.add_argument("--folder", type=Path, required=True, help="where what comes of it is written, with the report")
    batch.add_argument("--as", dest="ending", help="in another format than each came in: .velmot.json, .mid, .csv")
    batch.add_argument("--jobs", type=int, default=os.cpu_count() or 1, help="how many files at once")
    batch.add_argument(
        "--share", help="only every n-th file: 3/20 is the third of twenty shares, one for each job of a farm"
    )
    return batch


def steps_of(data: bytes) -> list[dict[str, Any]]:
    """The steps of a file; RequestError where it holds none."""
    try:
        said = json.loads(data.decode("utf-8-sig"))
    except ValueError as error:
        raise RequestError(
            "request/not-json", error=str(error), place="--do", accepted='{"verb": …}, or a list of such'
        ) from None
    steps = said if isinstance(said, list) else [said]
    if not steps or not all(isinstance(one, dict) and isinstance(one.get("verb"), str) for one in steps):
        raise RequestError("steps", place="--do", accepted='{"verb": …}, or a list of such')
    return steps


def shared(sources: Sequence[Path], share: str | None) -> list[Path]:
    """The files of one share; every file is in exactly one, by its place in the order of names. RequestError."""
    if not share:
        return list(sources)
    one, slash, of = share.partition("/")
    if not (slash and one.isdigit() and of.isdigit() and 1 <= int(one) <= int(of)):
        raise RequestError("share", text=share, place="--share", accepted="3/20: the third of twenty")
    return sorted(sources)[int(one) - 1 :: int(of)]


def jobs_of(sources: Sequence[Path], folder: Path, ending: str | None, steps: str) -> list[Job]:
    """A job for each file, under its own name in the folder. RequestError where two files would be one."""
    jobs = []
    for source in sources:
        known = table.by_name(source.name)
        stem = known.stem(source.name) if known else source.stem
        own = source.name[len(stem) :] if known else source.suffix
        jobs.append(Job(str(source), str(folder / f"{stem}{ending or own}"), steps))
    twice = next((target for target, count in Counter(job.target for job in jobs).items() if count > 1), None)
    if twice:
        raise RequestError("exists", name=Path(twice).name, place="source", accepted="files of different names")
    return jobs


def key_of(source: bytes, job: Job) -> str:
    """What tells a file with some steps from all others."""
    return sha256(source + b"\0" + job.steps.encode() + b"\0" + job.target.encode()).hexdigest()


def done(job: Job) -> Outcome:
    """Do one file; whatever is wrong with it is its outcome. A kill leaves its target as it was."""
    try:
        source = Path(job.source).read_bytes()
        key = key_of(source, job)
        session, _ = files.read(source, Path(job.source).name)
        titles, cautions = [], []
        for step in json.loads(job.steps):
            change = library.plan(session, step)
            titles.append(change.title)
            cautions += [caution.message for caution in change.cautions]
            session = change.applied_to(session)
        data = _bytes(session, source, job)
        written.write(Path(job.target), data)
    except RequestError as error:
        said = error.message + (f"; expected: {error.accepted}" if error.accepted else "")
        return Outcome(job.source, job.target, "", "refused", refused=said)
    except OSError as error:
        return Outcome(
            job.source, job.target, "", "refused", refused=f"{error.filename or job.source}: {error.strerror}"
        )
    except (RecursionError, MemoryError):
        return Outcome(job.source, job.target, "", "refused", refused="this is nested too deeply, or too large")
    return Outcome(job.source, job.target, key, "done", tuple(titles), tuple(cautions))


def _bytes(session: Any, source: bytes, job: Job) -> bytes:
    """The target's bytes: a MIDI file that is written as MIDI is written back into itself."""
    found = table.to_write(Path(job.target).name)
    if found.into is not None and files.comes_back(source):
        return files.into(session, source)[0]
    return found.write(session)[0]


def known(folder: Path) -> dict[str, Outcome]:
    """What an earlier run has done, by its key; a line that a kill cut off is none."""
    found: dict[str, Outcome] = {}
    try:
        lines = (folder / REPORT).read_text().splitlines()
    except OSError:
        return {}
    for line in lines:
        try:
            outcome = Outcome(**json.loads(line))
        except (ValueError, TypeError):
            continue
        if outcome.happened == "done":
            found[outcome.key] = outcome
    return found


def left_to_do(jobs: Sequence[Job], before: dict[str, Outcome]) -> Iterator[Job]:
    """What was not done yet, or is not there any more, or whose file or steps are others now. RequestError for a target of another's."""
    mine = {x.target for x in before.values()}
    for job in jobs:
        there = Path(job.target).exists()
        try:
            key = key_of(Path(job.source).read_bytes(), job)
        except OSError:
            key = ""
        if there and key in before:
            continue
        if there and job.target not in mine:
            raise RequestError("exists", name=Path(job.target).name, place="--folder", accepted="another folder")
        yield job


def run(chosen: argparse.Namespace, sources: Sequence[Path]) -> tuple[int, int, int]:
    """(done, refused, done before): each outcome is a line of the report as soon as it is there, and is said."""
    steps = json.dumps(steps_of(chosen.do.read_bytes()), sort_keys=True)
    if chosen.ending:
        table.to_write(f"x{chosen.ending}")
    chosen.folder.mkdir(parents=True, exist_ok=True)
    jobs = jobs_of(shared(sources, chosen.share), chosen.folder, chosen.ending, steps)
    todo = list(left_to_do(jobs, known(chosen.folder)))
    counts = {"done": 0, "refused": 0}
    with (chosen.folder / REPORT).open("a") as report:
        for n, outcome in enumerate(_outcomes(todo, max(chosen.jobs, 1)), 1):
            report.write(json.dumps(asdict(outcome), ensure_ascii=False) + "\n")
            report.flush()
            os.fsync(report.fileno())
            counts[outcome.happened] += 1
            _say(chosen, outcome, n, len(todo))
    return counts["done"], counts["refused"], len(jobs) - len(todo)


def _say(chosen: argparse.Namespace, outcome: Outcome, n: int, of: int) -> None:
    if chosen.json:
        print(json.dumps(asdict(outcome), ensure_ascii=False), flush=True)
    elif outcome.refused:
        print(f"velmot: {outcome.source}: {outcome.refused}", file=sys.stderr)
    elif not chosen.quiet:
        print(f"{n} of {of}: {Path(outcome.source).name}, {counted(len(outcome.titles), 'step')}", flush=True)


def _outcomes(todo: Sequence[Job], at_once: int) -> Iterator[Outcome]:
    """The outcomes as they come; no more is begun than is at work, so that a stop ends soon."""
    if at_once == 1 or len(todo) < 2:
        yield from map(done, todo)
        return
    waiting = iter(todo)
    with ProcessPoolExecutor(min(at_once, len(todo))) as pool:
        at_work: set[Future[Outcome]] = set()
        try:
            while True:
                while len(at_work) < 2 * at_once and (job := next(waiting, None)):
                    at_work.add(pool.submit(done, job))
                if not at_work:
                    return
                ready, at_work = wait(at_work, return_when=FIRST_COMPLETED)
                yield from (one.result() for one in ready)
        finally:
            for one in at_work:
                one.cancel()
