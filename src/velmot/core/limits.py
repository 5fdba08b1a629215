"""How much Velmot takes on: every limit in one place, told to users where it is met and written into the schemas.

Limits count the work that results, not the length of what was asked. Whatever they allow answers in seconds.
"""

from __future__ import annotations

MOST_POINTS = 5_000_000
"""Points of a session, all lanes together."""

MOST_LANES = 10_000
MOST_TRACKS = 5_000
MOST_PARAMETERS = 20_000
MOST_REGIONS = 10_000
MOST_MARKERS = 10_000

MOST_REMARKS = 10_000
"""Notes, and findings that are let be."""

MOST_ALTERNATIVES = 5_000
"""Alternatives of a session, all parameters together."""

MOST_KEPT = 2_500_000
"""Points of a session's alternatives together."""

MOST_SOUNDS = 1_000
"""Excerpts of sound in one region."""

LONGEST_SOUND = 36_000
"""Seconds of one file of sound: ten hours."""

MOST_BARS = 250_000
"""Bars of a session: a million beats in 4/4."""

MOST_TEMPOS = 20_000
MOST_METERS = 20_000

MOST_CLOCK = 250_000
"""Straight pieces that a session's clock needs where the tempo glides."""

MOST_GROUPS = 64
"""Group faders above one track."""

MOST_PIECES = 20_000
"""Straight pieces that one bend is drawn in, where it meets something else that moves."""

MOST_LANDED_POINTS = 1_000_000
"""Points that one step lays down, all its landings together."""

MOST_LANDINGS = 10_000
"""Pieces or regions that one step lays down."""

MOST_TIMES = 1_000
"""How often a carry or a repeat lands."""

MOST_IDS = MOST_LANES
"""Ids in one list of a request."""

MOST_MATCHES = 20_000
"""Decisions of one match table."""

MOST_TARGETS = 1_000
"""Parameters that one retarget lands on."""

MOST_SPOTS = 100_000
"""Points that one request brings."""

MOST_CLIPS = 2_000
"""Lanes in a clipboard or a container."""

MOST_PASSES = 100
"""Passes that lie over each other in one request."""

MOST_RIDDEN = 200
"""Controls in one pass."""

LONGEST_NAME = 300

LONGEST_NOTE = 2_000

LONGEST_UNIT = 20

LARGEST_VALUE = 1e12
"""The furthest from 0 that a parameter's range may reach."""

SMALLEST_LOG = 1e-9
"""The lowest value of a log axis."""

SMALLEST_RANGE = 1e-6
"""The least that a parameter's range may span, in axis units."""

STEEPEST = 1e6
"""The most a mapping may turn one axis unit into, and the most a curve may be moved by."""

MOST_CYCLES = 10_000
"""Cycles of one shape."""

SHORTEST_CYCLE = 1_000
"""The fewest ticks a whole cycle may last: six ten-thousandths of a beat."""

MOST_PHRASES = 2_000
"""Phrases that a session holds."""

MOST_PLACEMENTS = 10_000
"""Placements in a session."""

MOST_BOOK = 10_000
"""Phrases in a phrase book, and in a file of phrases."""

SMALLEST_STEP = 1e-6
"""The finest step that values are rounded to."""

LARGEST_FACTOR = 1000.0
"""The most that something is stretched by at once."""

MOST_MILLISECONDS = 3_600_000.0
"""The furthest that something is shifted in time by the clock: an hour."""
