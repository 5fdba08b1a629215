"""Tidying: what was found is mended, let be, or cleaned up as a whole. A verb like the others, in a room above the findings."""

import velmot.core.verbs  # noqa: F401 - which reads the modules of this room itself, and has to come first
