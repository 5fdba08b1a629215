"""`make docs-site`: the docs as a site into `help/`, which Velmot serves and the wheel holds; a dead link stops it."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parents[1]
HELP = ROOT / "help"
FONTS = ROOT / "frontend/node_modules/@fontsource-variable"


def gathered(into: Path) -> None:
    """The pages of docs, those that lie beside them, and the API's routes as a page."""
    shutil.copytree(ROOT / "docs", into)
    for name in ("CHANGELOG.md", "CONTRIBUTING.md"):
        shutil.copy(ROOT / name, into)
    for page in into.rglob("*.md"):
        text = (
            page.read_text()
            .replace("](../CHANGELOG.md", "](CHANGELOG.md")
            .replace("](../CONTRIBUTING.md", "](CONTRIBUTING.md")
        )
        page.write_text(text.replace("](docs/", "]("))
    (into / "api.md").write_text(_api(json.loads((ROOT / "docs" / "openapi.json").read_text())))


def _api(document: dict) -> str:
    rows = [
        f"| `{way.upper()} {path}` | {(said.get('description') or said.get('summary', '')).splitlines()[0]} |"
        for path, ways in document["paths"].items()
        for way, said in ways.items()
    ]
    head = ["# The API", "", "JSON over HTTP on this machine; every shape stands in [openapi.json](openapi.json).", ""]
    return "\n".join([*head, "| route | what it does |", "| --- | --- |", *rows]) + "\n"


def main(into: Path = HELP) -> int:
    """Gather, build strictly, put the typefaces beside it."""
    with tempfile.TemporaryDirectory() as folder:
        gathered(Path(folder) / "docs")
        command = [sys.executable, "-m", "mkdocs", "build", "--strict", "--quiet", "--clean", "--site-dir", str(into)]
        made = subprocess.run(command, cwd=ROOT, env=os.environ | {"VELMOT_DOCS": f"{folder}/docs"})
    if made.returncode:
        return made.returncode
    (into / "fonts").mkdir(exist_ok=True)
    for part in ("next", "mono"):
        found = FONTS / f"atkinson-hyperlegible-{part}/files/atkinson-hyperlegible-{part}-latin-wght-normal.woff2"
        shutil.copy(found, into / "fonts" / f"{part}.woff2")
    return 0


if __name__ == "__main__":
    sys.exit(main())
