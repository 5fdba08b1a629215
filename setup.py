"""The built page and the docs go into the wheel, so that who installs it needs no Node and finds its help."""

import shutil
from pathlib import Path

from setuptools import setup
from setuptools.command.build_py import build_py

PAGE = Path(__file__).parent / "frontend" / "dist"
HELP = Path(__file__).parent / "help"


class WithPage(build_py):
    """Python's files, and the page beside the code that serves it."""

    def run(self) -> None:
        super().run()
        if self.editable_mode:
            return
        if not (PAGE / "manifest.json").exists():
            raise SystemExit("the page is not built yet: `make release` does it before the wheel")
        site = Path(self.build_lib) / "velmot" / "site"
        shutil.copytree(PAGE, site / "built", dirs_exist_ok=True)
        if HELP.exists():
            shutil.copytree(HELP, site / "help", dirs_exist_ok=True)


setup(cmdclass={"build_py": WithPage})
