"""What a customer is told: one or two sentences about each part, in words that need no trade."""

from collections.abc import Mapping

from dusky_heron.core.model import Word
from dusky_heron.core.selection.ways import Way

FOUND: Mapping[Word, str] = {
    Word.KEEP: "It was measured and is within its limits.",
    Word.WATCH: "It is within its limits and has aged.",
    Word.UNKNOWN: "It was not judged.",
    Word.REPLACE: "It is no longer within its limits.",
    Word.CONDEMN: "It must not be used again.",
}
STANDS: Mapping[Word, str] = {
    Word.KEEP: "It was measured, is within its limits, and stays.",
    Word.WATCH: "It is within its limits and has aged: it stays for now. Have it looked at again.",
    Word.UNKNOWN: "It is not judged yet.",
}
ONE, SEVERAL = (
    ("A new part is in its place", "A new part is chosen, and not fitted yet."),
    (
        "New parts are in its place",
        "New parts are chosen, and not fitted yet.",
    ),
)


def in_plain_words(word: Word, way: Way | None, *, done: bool) -> str:
    """What was found at a place, and what was done about it.

    :param word: the verdict that counts
    :param way: how the place is filled by what was chosen; None where nothing was
    :param done: whether that was carried out: fitted, or taken out
    :returns: one or two sentences; never that something is in the place which is not
    :source: none; the words are ours
    """
    if way is None or (way is Way.LEFT and word in (Word.KEEP, Word.WATCH)):
        return STANDS.get(word) or f"{FOUND[word]} Nothing is decided about it yet."
    return f"{FOUND[word]} {_done_about(word, way, done=done)}"


def _done_about(word: Word, way: Way, *, done: bool) -> str:
    if way is Way.LEFT:
        return "It was left as it was."
    if way is Way.ORDERED:
        return "Its new part is still to be bought."
    if way is Way.REMOVED:
        return "It was taken out, and its place left empty." if done else "It is to be taken out, and is still in."
    fitted, chosen = ONE if way is Way.SINGLE else SEVERAL
    if not done:
        return chosen
    return f"{fitted} all the same." if word is Word.KEEP else f"{fitted}."
