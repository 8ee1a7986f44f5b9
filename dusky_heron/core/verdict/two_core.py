"""A capacitor from line to the chassis of equipment on a two-core lead: what may be done with it, and what never."""

from collections.abc import Iterator
from dataclasses import dataclass

from dusky_heron.core.model import Equipment, Finding, Role, Word
from dusky_heron.core.verdict.registry import Case, Rule


@dataclass(frozen=True, slots=True)
class Way:
    """One thing that may be done; `never` for what must not."""

    sentence: str
    never: bool = False


REMOVE = Way("Remove it: the set works without, and the chassis cannot be made live by it.")
EARTH = Way(
    "Three-core lead and an earthed chassis, on a fixing of its own that no other job unscrews, line through fuse and switch, "
    "continuity checked; if suppression is wanted, a Y2."
)
DOUBLE_INSULATED = Way("In class II construction a Y1, with the touch current of all such parts under its limit.")
NEVER_EARTH = Way("Never earth this chassis: it is connected to a mains conductor.", never=True)
DECIDES = "local rules and a licensed person decide"


def ways(equipment: Equipment, school: str = "remove") -> tuple[Way, ...]:
    """What may be done with a line-to-chassis part on a two-core lead; nothing for other equipment.

    :param equipment: its protection class, lead, and whether its chassis is connected to the mains
    :param school: which way the workshop names first, an option of the school `two_core`
    :returns: ways, what must never be done first
    :raises InputError: never
    :source: IEC 60384-14 and IEC 61140; local rules and a licensed person decide
    """
    if equipment.live_chassis:
        return (NEVER_EARTH, REMOVE)
    if not equipment.two_core:
        return ()
    if equipment.protection == "II":
        return (REMOVE, DOUBLE_INSULATED)
    return (EARTH, REMOVE, DOUBLE_INSULATED) if school == "earth" else (REMOVE, EARTH, DOUBLE_INSULATED)


def _two_core(rule: Rule, case: Case) -> Iterator[Finding]:
    equipment, printed = case.position.equipment, case.position.marking.class_names
    if not (equipment.two_core or equipment.live_chassis):
        return
    shown = " ".join(printed) or "no class printed"
    if equipment.live_chassis:
        yield rule.says(Word.REPLACE, f"{NEVER_EARTH.sentence} Take this part out.", reading=shown)
    elif "Y1" in printed and equipment.protection == "II":
        yield rule.says(Word.KEEP, "A Y1 on class II equipment: its touch current decides.", reading=shown, limit="Y1")
    elif not printed:
        sentence = "A part with no class from line to a chassis nothing earths: when it shorts, the chassis is live."
        yield rule.says(Word.CONDEMN, sentence, reading=shown, limit="Y1, or an earthed chassis and Y2")
    else:
        sentence = "From line to a chassis nothing earths, only a Y1 in class II construction may stay."
        yield rule.says(Word.REPLACE, sentence, reading=shown, limit="Y1, or an earthed chassis and Y2")


RULES = (
    Rule(
        "y.two_core",
        "Line to chassis on a two-core lead",
        f"IEC 60384-14, IEC 61140; {DECIDES}",
        frozenset({Role.Y}),
        _two_core,
    ),
)
