"""The tables: sessions, their tracks and lanes, envelopes stored once and in chunks, and revisions."""

from __future__ import annotations

from django.db import models


class StoredChunk(models.Model):
    """A run of points that many envelopes share, named by the digest of its content."""

    digest = models.BinaryField(max_length=32, unique=True)
    data = models.BinaryField()


class StoredEnvelope(models.Model):
    """One envelope's points, named by the digest of its content: its bytes in `data`, or the numbers of its chunks."""

    digest = models.CharField(max_length=64, primary_key=True)
    axis = models.CharField(max_length=8)
    points = models.PositiveIntegerField()
    data = models.BinaryField(default=b"")
    chunks = models.BinaryField(default=b"", help_text="The chunks' ids in order, int64.")


class StoredSession(models.Model):
    """A session. `head` is the number of the revision it stands at; `deleted` is when it was put away."""

    name = models.CharField(max_length=300)
    structure = models.JSONField(help_text="Everything but tracks and lanes, as the session file says it.")
    head = models.PositiveIntegerField(default=0)
    latest = models.PositiveIntegerField(default=0, help_text="The highest revision number given so far.")
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    deleted = models.DateTimeField(null=True, blank=True)
    report = models.JSONField(default=dict, help_text="What its import said.")
    summary = models.JSONField(null=True, help_text="What the start page shows of it; nothing until it is worked out.")
    step = models.CharField(
        max_length=64, default="", help_text="The name that the last step to move `head` came with."
    )
    past: int | None = None
    """Where it stands, in a row that was read for a state in its past, whose `head` is that state's revision."""

    class Meta:
        indexes = [models.Index(fields=["-changed"], name="sessions_by_change")]


class StoredTrack(models.Model):
    """A track as the session file says it."""

    session = models.ForeignKey(StoredSession, on_delete=models.CASCADE, related_name="tracks")
    position = models.PositiveIntegerField()
    key = models.CharField(max_length=300)
    content = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["session", "key"], name="one_track_a_key")]
        ordering = ["position"]


class StoredLane(models.Model):
    """A lane: whose it is, where it lives, a pointer to its envelope, and the revision that touched it last."""

    session = models.ForeignKey(StoredSession, on_delete=models.CASCADE, related_name="lanes")
    position = models.PositiveIntegerField()
    key = models.CharField(max_length=300)
    parameter = models.CharField(max_length=300)
    home = models.CharField(max_length=300)
    extra = models.JSONField(default=list)
    envelope = models.ForeignKey(StoredEnvelope, on_delete=models.PROTECT, related_name="lanes")
    changed = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["session", "key"], name="one_lane_a_key"),
            models.UniqueConstraint(fields=["session", "parameter", "home"], name="one_lane_a_home"),
        ]
        ordering = ["position"]


class Revision(models.Model):
    """One applied change: swaps of rows from `parent` to `number`. Undo walks back, redo forward."""

    session = models.ForeignKey(StoredSession, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.PositiveIntegerField()
    title = models.CharField(max_length=600)
    request = models.JSONField(default=dict, help_text="The verb and its settings, so that it can be reopened.")
    swaps = models.JSONField(
        help_text="Rows before and after: {lanes: [...], tracks: [...], session: ..., summary: ...}."
    )
    touched = models.JSONField(default=list, help_text="What it touched, for going there.")
    made = models.DateTimeField(auto_now_add=True)
    step = models.CharField(max_length=64, default="", help_text="The name that it came with, so that it is done once.")
    replaced = models.BooleanField(
        default=False, help_text="Whether another step was put in its place: no line of the log."
    )
    window = models.CharField(max_length=40, default="", help_text="Which window made it.")
    folds = models.PositiveIntegerField(default=0, help_text="How many steps before it were tidied away into it.")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["session", "number"], name="one_revision_a_number")]
        ordering = ["number"]


class NamedEnvelope(models.Model):
    """An envelope that the swaps of a revision name, so that it is kept as long as the revision is."""

    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="envelopes")
    envelope = models.ForeignKey(StoredEnvelope, on_delete=models.PROTECT, related_name="revisions")


class KeptEnvelope(models.Model):
    """An envelope that an alternative of a session names, so that it is kept as long as that is there."""

    session = models.ForeignKey(StoredSession, on_delete=models.CASCADE, related_name="kept")
    envelope = models.ForeignKey(StoredEnvelope, on_delete=models.PROTECT, related_name="kept")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["session", "envelope"], name="one_kept_an_envelope")]


class StoredMark(models.Model):
    """A revision with a name and some words; it is never tidied away."""

    session = models.ForeignKey(StoredSession, on_delete=models.CASCADE, related_name="marks")
    number = models.PositiveIntegerField(help_text="The revision.")
    name = models.CharField(max_length=300)
    note = models.CharField(max_length=2000, default="")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["session", "number"], name="one_mark_a_revision")]
        ordering = ["number"]


class RememberedMatches(models.Model):
    """What was last decided in the match table for one pair of tracks."""

    session = models.ForeignKey(StoredSession, on_delete=models.CASCADE, related_name="matches")
    source = models.CharField(max_length=300)
    target = models.CharField(max_length=300)
    matches = models.JSONField(default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["session", "source", "target"], name="one_memory_a_pair")]


class KeptBench(models.Model):
    """How a session was last looked at: its pins, sets, heights, range and the rest, for any browser."""

    session = models.OneToOneField(StoredSession, on_delete=models.CASCADE, related_name="bench")
    content = models.JSONField(default=dict)


class StoredSource(models.Model):
    """The file a session came from, as it was, for formats that can be written back into it. No step touches it."""

    session = models.OneToOneField(StoredSession, on_delete=models.CASCADE, related_name="source")
    name = models.CharField(max_length=300)
    data = models.BinaryField(help_text="Its bytes, compressed.")


class StoredRecipe(models.Model):
    """The settings of a carry or retarget under a name, for any session."""

    name = models.CharField(max_length=80, unique=True)
    content = models.JSONField(help_text="The request without its selection, and what its targets were called.")
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name"]


class BookPhrase(models.Model):
    """A phrase in the book, which outlives sessions; `deleted` is when it was put away."""

    name = models.CharField(max_length=300)
    says = models.CharField(max_length=2000, default="", help_text="What it is for.")
    tags = models.JSONField(default=list)
    content = models.JSONField(help_text="The phrase as a request brings it along.")
    summary = models.JSONField(help_text="What lists show of it.")
    made = models.DateTimeField(auto_now_add=True)
    deleted = models.DateTimeField(null=True, blank=True)
    asked = models.CharField(
        max_length=64, default="", db_index=True, help_text="The name of what brought it, so that it comes once."
    )

    class Meta:
        ordering = ["name", "pk"]


class StoredAudio(models.Model):
    """A file of one's own sound that lies in the folder beside the database, named by the digest of its bytes."""

    digest = models.CharField(max_length=64, primary_key=True)
    name = models.CharField(max_length=300, help_text="What it was called when it came first.")
    ending = models.CharField(max_length=8)
    seconds = models.FloatField()
    rate = models.IntegerField()
    channels = models.IntegerField()
    size = models.BigIntegerField(help_text="Bytes.")


class StoredOutline(models.Model):
    """How far a sound reaches over time, named by the digest of what says what it is of."""

    digest = models.CharField(max_length=64, primary_key=True)
    data = models.BinaryField()
    made = models.DateTimeField(auto_now_add=True)


class DoneOnce(models.Model):
    """Something that is done once for a folder and never again, such as loading the demo session."""

    what = models.CharField(max_length=80, primary_key=True)
