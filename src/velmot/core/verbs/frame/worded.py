"""What is said of a step before it is taken: every caution a kind with arguments, worded here and nowhere else.

A kind is its code, and after a slash which of several wordings of it: ``limited/lane`` has the code ``limited``.
"""

from __future__ import annotations

from velmot.core.words import Args, written

PLAIN = frozenset(
    {
        "takes",
        "heard-again",
        "linked",
        "pooled",
        "tidied",
        "moot",
        "sum",
        "mean",
        "nothing-fewer",
        "many-points",
        "pieces",
        "thinned-before",
    }
)
"""Codes of what is good to know and no reason to stop: it is said quietly."""

# A count says what it counts, after a stroke how several are called where that is not with an s.
WORDS: dict[str, str] = {
    "alternative-freed": "{count:place} of “{name}” cannot be linked any more: what it says comes, set free",
    "alternative-left": "{count:lane} of “{name}” in regions that are gone: left out",
    "alternative-left/values": "{count:lane} of “{name}” cannot be of {parameter} any more: left out",
    "alternatives-go": "Takes along {count:alternative} of what goes",
    "already-there": "{name} is already there: nothing would change",
    "apart": "{name}: {before:} → {after:point}, {far} apart at most",
    "beyond-end/landing": "What would land beyond the session's end, {where}, is left out",
    "beyond-end/pass": "The pass is cut at the session's end, {where}",
    "beyond-end/places": "{count:place} of {of:} on {name} would not fit: left out",
    "beyond-end/retimed": "{name}: what comes to lie {edge} is left out",
    "crossed": "{name}: the rails cross, it stands upside down there",
    "heard-again": "{what} would be heard again, {where}",
    "heard-differs": "{name} would be heard up to {far} differently at {where}",
    "heard-differs/parameters": "{count:parameter} would be heard differently",
    "heard-elsewhere": "{name} would be heard up to {far} differently at {where}{because}",
    "heard-elsewhere/reads": "{name} reads again, so what else its lanes do is heard too: {what}, up to {far} differently at {where}",
    "holds-only": "{name} {why}",
    "limited/lane": "{name}: {count:span} limited",
    "limited/level": "{name} would have to go further than its level can",
    "limited/member": "a member of {name} would go {far} above what it can be",
    "limited/spans": "{count:span} limited to what {name} can be",
    "limited/values": "{count:value} limited to {reach}",
    "linked": "Goes back into {phrases}: changes {places:place} on {tracks:track}",
    "many-points": "{before:point} become {after:}, as each takes over the others’ moves",
    "moot": "{count:finding went|findings went} along with what was mended before",
    "mean": "{name}: the mean is {mean}",
    "members-heard": "{count:level} under {name} would be heard up to {far} differently, most at {where}",
    "muted/alone": "{name} is muted and its automation is not heard now: where it lands, it would be",
    "muted/regions": "{name} {are} muted, so nothing in {them} is heard: unmute {them} to {what}",
    "neighbours": "{name}: {count:point} beside it {are} replaced",
    "no-change": "It is already like this: nothing would change",
    "no-change/mode": "{name}: set to {mode} already, nothing would change",
    "no-change/precedence": "{wins} lanes win already: nothing would change",
    "no-such-parameter": "{name} has no {parameter} {like}: left out",
    "no-such-parameter/clip": "There is no {name} here: left out",
    "not-embedded/covered": "In {name} another region's {parameter} lane is heard, not the track's",
    "not-embedded/own": "{name} has its own {parameter} lane, which is heard: it stays",
    "not-heard/group": "{name} is silent at {where}: there this would not be heard",
    "not-heard/switch": "{what}{where}: this would not be heard",
    "not-lifted": "{parameter} in {name} {reason}",
    "not-lifted/covered": "{name} overlaps {other}, which would be heard instead: lift both",
    "not-linked/beyond": "What lands on {name} beyond the session's end is not linked",
    "not-linked/parted": "{count:place} would go over the range’s end and come in at its start: plain points, not linked",
    "not-linked/plain": "{count:linked place} would land as plain points",
    "not-linked/several": "{name} is made up of several lanes there: carried as plain points",
    "not-reading": "{name} is not reading its lanes: this would not be heard",
    "not-reading/takes-over": "{name} is not reading its lanes: what it takes over is not heard",
    "not-written": "{name} is {mode}: what a hand does on it is not written",
    "not-mended": "{count:finding} could not be mended: {why}",
    "nothing-fewer": "{name}: nothing was found with fewer points",
    "nothing-fewer/proven": "{name}: with {stays} as they are, no curve of straight lines within {far} has fewer points",
    "nothing-here": "{name} does not reach into the range",
    "nothing-moves/gathered": "{name} does not move there: nothing goes up",
    "nothing-moves/lane": "{name} does not move in {where}",
    "nothing-to-carry": "{name} has nothing in {where}",
    "now-reading": "{name} reads its lanes from now on, which was not so",
    "now-reading/heard": "{name} reads its lanes from now on, which was not so: its {parameter} is heard up to {far} differently at {where}",
    "other-unit": "{name} is in {own}, not in {asked}: it stays",
    "pieces": "{name}: in straight pieces within 0.001{unit}",
    "pooled": "{count:place shares|places share} {name} from now on, up to {far} differently at {where}",
    "pooled/exact": "{count:place shares|places share} {name} from now on, and nothing is heard differently",
    "read-otherwise": "{place} reads {phrase} otherwise from now on; other places stay",
    "region-wins": "In {regions} the region's own {parameter} lane wins: the rest is heard",
    "rests": "{name} would rest at {now} instead of {was}",
    "set-free": "{place} is set free from {phrase}: {reason}",
    "shape-ended": "{phrase} is points from now on: its recipe is given up",
    "silence/between": "{name} is silent in between: {group} {what}",
    "silence/gathered": "{name} is silent in between: its moves are not counted",
    "silence/group": "{name} is silent there: its members become silent",
    "silence/lane": "{name} is silent here: silence stays silence",
    "silence/mapped": "{what}",
    "silenced": "{what} would {no} be heard, {where}: {why}",
    "stopped/markers": "{count:marker stops|markers stop} where the session has {edge}",
    "stopped/points": "In {name} the moved points stop at the next unpicked point or the lane's end",
    "sum/even": "{name} is heard {far} {way} everywhere",
    "sum/most": "{name} is heard up to {far} {way}",
    "source-missing": "“{name}” is not there: a stand-in sounds for it, and is followed",
    "takes": "Takes {what} with {points:point}",
    "takes-over": "The track’s lanes win: the new lane of {name} takes over what its regions do",
    "tidied": "{before:} → {after:point}, {count:lane} gone",
    "thinned-before": "{name}: it was thinned within {far} and nothing there was changed since",
}  # fmt: skip


def in_words(kind: str, args: Args) -> str:
    """What a caution of a kind says."""
    return written(WORDS[kind], args)
