"""Run by a test in a process of its own: readers beside undo and redo, on a database file; prints how many reads were wrong."""

from __future__ import annotations

import os
import sys
import threading


def main(rounds: int) -> None:
    import django

    os.environ["DJANGO_SETTINGS_MODULE"] = "velmot.site.settings"
    django.setup()
    from django.conf import settings
    from django.db import connection

    from velmot.core.verbs import plan
    from velmot.core.verbs.points.request import SetValues
    from velmot.core.verbs.request import Picked
    from velmot.formats import session_file
    from velmot.site.demo import skerry_light
    from velmot.storage import history, sessions, upkeep

    file = settings.DATA / settings.DATABASE
    upkeep.prepare(file)
    id = sessions.create(skerry_light.session())
    texts, head = {0: session_file.write(sessions.load(id))}, 0
    for n in range(1, 5):
        change = plan(sessions.load(id), "set values", SetValues((Picked("L1", (n,)), Picked("L21", (n,))), f"=-{n}"))
        head = history.apply(id, head, change).number
        texts[head] = session_file.write(sessions.load(id))
    wrong, reads, stop = [], [], threading.Event()

    def read() -> None:
        while not stop.is_set():
            sessions._cache.clear()
            now = sessions.opened(id)
            reads.append(now.row.head)
            if session_file.write(now.session) != texts[now.row.head]:
                wrong.append(now.row.head)
        connection.close()

    def put_away() -> None:
        while not stop.is_set():
            sessions.put_away(id)
            sessions.put_away(id, away=False)
        connection.close()

    threads = [threading.Thread(target=work) for work in (read, read, put_away)]
    for thread in threads:
        thread.start()
    for _ in range(rounds):
        while head:
            head = history.undo(id, head).number
        while (after := history.redo(id, head).number) != head:
            head = after
    stop.set()
    for thread in threads:
        thread.join()
    sessions.put_away(id)
    sessions.remove(id)
    with connection.cursor() as cursor:
        pages = cursor.execute("PRAGMA freelist_count").fetchone()[0]
    print(f"{len(wrong)} of {'many' if len(reads) > 20 else 'few'} reads wrong; {pages} pages left free")


if __name__ == "__main__":
    main(int(sys.argv[1]))
