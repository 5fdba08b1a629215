"""The typefaces of paper: they hold the letters of most tongues, and come with the library that draws."""

from pathlib import Path

import matplotlib

_FOLDER = Path(matplotlib.get_data_path()) / "fonts" / "ttf"
PLAIN = _FOLDER / "DejaVuSans.ttf"
BOLD = _FOLDER / "DejaVuSans-Bold.ttf"
