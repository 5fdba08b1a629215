"""What revisions from before named their envelopes, and when each lane was touched last, are worked out once."""

from django.db import migrations


def work_out(apps, schema_editor):
    session_rows = apps.get_model("storage", "StoredSession").objects.values_list("id", "head")
    for session, head in list(session_rows):
        _name_envelopes(apps, session)
        _last_changes(apps, session, head)


def _name_envelopes(apps, session):
    Named = apps.get_model("storage", "NamedEnvelope")
    for step in apps.get_model("storage", "Revision").objects.filter(session=session).iterator():
        sides = [swap[side] for swap in step.swaps["lanes"] for side in ("before", "after")]
        digests = dict.fromkeys(columns["envelope_id"] for columns in sides if columns)
        Named.objects.bulk_create([Named(revision=step, envelope_id=d) for d in digests], batch_size=400)


def _last_changes(apps, session, head):
    """Lanes, and the rows in swaps, learn the revision that touched them last on the way there."""
    revisions = apps.get_model("storage", "Revision").objects.filter(session=session).order_by("number")
    touched, parents = {}, {}
    for step in revisions.iterator():
        parents[step.number] = step.parent
        touched[step.number] = [swap["key"] for swap in step.swaps["lanes"]]

    def last(key, at):
        while at in parents:
            if key in touched[at]:
                return at
            at = parents[at]
        return 0

    for step in revisions.iterator():
        for swap in step.swaps["lanes"]:
            if swap["before"]:
                swap["before"]["changed"] = last(swap["key"], step.parent)
            if swap["after"]:
                swap["after"]["changed"] = step.number
        step.save(update_fields=["swaps"])
    for lane in apps.get_model("storage", "StoredLane").objects.filter(session=session).only("key"):
        if changed := last(lane.key, head):
            lane.changed = changed
            lane.save(update_fields=["changed"])


class Migration(migrations.Migration):
    dependencies = [("storage", "0003_chunks_and_summaries")]
    operations = [migrations.RunPython(work_out, migrations.RunPython.noop)]
