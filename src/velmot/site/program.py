"""`velmot`: everything it does on the command line; serving and keeping stand here, files are the commands' own."""

from __future__ import annotations

import argparse
import os
import sys
import webbrowser
from collections.abc import Sequence
from datetime import datetime
from pathlib import Path
from typing import Any

from velmot import __version__, command
from velmot.site.options import add_port, add_serving


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; the exit status says what happened."""
    return command.main(arguments, add_to)


def add_to(parser: argparse.ArgumentParser, commands: Any) -> None:
    """Put the commands that need a folder of data beside those for files."""
    parser.add_argument("--version", action="version", version=f"velmot {__version__}")
    serve = commands.add_parser("serve", help="open Velmot in the browser, on this machine only")
    doctor = commands.add_parser(
        "doctor", help="say whether this machine can run it, and whether what is kept is whole"
    )
    backup = commands.add_parser("backup", help="write all that is kept into one file, beside a running server too")
    restore = commands.add_parser("restore", help="put a backup in the place of what is kept")
    backup.add_argument("-o", "--output", type=Path, help="the file to write; without it one named by the time")
    restore.add_argument("file", type=Path, help="the backup")
    for one, run in ((serve, _serve), (doctor, _doctor), (backup, _backup), (restore, _restore)):
        one.add_argument("--data", type=Path, help="the folder it is kept in, in place of the platform's own")
        one.set_defaults(run=run)
    add_serving(serve)
    add_port(doctor)


def _folder(chosen: argparse.Namespace) -> Path:
    """The folder that is meant, which what is read from now on takes too."""
    if chosen.data:
        os.environ["VELMOT_DATA"] = str(chosen.data.expanduser())
    from velmot.site.paths import DATA

    return DATA


def _serve(chosen: argparse.Namespace) -> int:
    _folder(chosen)
    from velmot.site import serving

    if address := serving.running():
        print(f"Velmot is at {address} already", flush=True)
        if chosen.open:
            webbrowser.open(address)
        return command.DONE
    chosen.prepare = False
    return serving.run(chosen)


def _doctor(chosen: argparse.Namespace) -> int:
    data = _folder(chosen)
    from velmot.site import doctor, serving

    found = doctor.examined(data, chosen.port, serving.running())
    print(doctor.told(found))
    return command.DONE if all(s.fine for s in found) else command.SOME


def _backup(chosen: argparse.Namespace) -> int:
    data = _folder(chosen)
    from velmot.storage import backups

    target = chosen.output or Path(backups.usual_name(datetime.now()))
    try:
        kept = backups.make(data, target)
    except backups.BackupError as error:
        return _refused(error)
    print(
        f"{target}: {target.stat().st_size / 1024 / 1024:.1f} MB, the database and {kept.audio} of your own sound files, checked"
    )
    return command.DONE


def _restore(chosen: argparse.Namespace) -> int:
    data = _folder(chosen)
    from velmot.site.folder import claim
    from velmot.storage import backups
    from velmot.storage.errors import CannotStart

    try:
        backups.check(chosen.file)  # before anything of the folder is touched, and it is made
        claim(data)
        kept, was = backups.restore(chosen.file, data)
    except (backups.BackupError, CannotStart) as error:
        return _refused(error)
    print(f"{data} is as it was on {kept.made}" + (f"; what was there lies in {was}" if was else ""))
    return command.DONE


def _refused(error: Exception) -> int:
    print(f"velmot: {error}", file=sys.stderr)
    return command.REFUSED
