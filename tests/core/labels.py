"""Labels as factories print them, drawn with what they mean: a label maker that shares no code with the reader."""

import random
from dataclasses import dataclass, field

from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking

E12 = (10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82)
E6 = (10, 15, 22, 33, 47, 68)
AC_FORMS = ("{v}V~", "{v} V~", "{v} VAC", "{v}VAC", "AC {v}V", "{v}~", "{v} V AC", "{v} Vac", "{v} V a.c.")
DC_FORMS = ("{v}VDC", "{v} VDC", "{v}V-", "{v} V=", "{v} V DC", "{v}Vdc", "{v} V d.c.")
WORKING_FORMS = ("{v} WVDC", "{v}WV", "{v} VW", "{v} DCWV", "{v} W.V.D.C.", "{v} VDCW")
PERCENT = {
    "±5%": (-0.05, 0.05), "± 10 %": (-0.1, 0.1), "+/-20%": (-0.2, 0.2), "-10+50%": (-0.1, 0.5), "+10-10%": (-0.1, 0.1),
    "-20/+80%": (-0.2, 0.8), "-10/+50": (-0.1, 0.5), "10%": (-0.1, 0.1), "±2.5%": (-0.025, 0.025),
}  # fmt: skip
LETTERS = {"J": (-0.05, 0.05), "K": (-0.1, 0.1), "M": (-0.2, 0.2)}
GOST = {
    "И": (-0.05, 0.05),
    "С": (-0.1, 0.1),
    "В": (-0.2, 0.2),
    "Ф": (-0.3, 0.3),
    "Б": (-0.2, 0.5),
    "А": (-0.2, 0.8),
    "Э": (-0.1, 0.5),
}
TEMPERATURES = ("85°C", "105 °C", "105C", "85C", "-40+105°C", "-25/+85 °C", "-40/+85°C", "-25...+70°C", "Tc 85", "-55 to +125 °C")
CLIMATES = ("40/110/56", "40/100/21", "25/085/21", "40/110/56/B", "25/70/21")
DATES = ("1923", "2145", "1849")
MAKERS = ("", "", "", "", "QUAY", "Made in", "VDE", "ENEC", "SH", "CQC")
MOST_ANSWERS, DEEPEST = 3, 4


@dataclass(frozen=True)
class Truth:
    """What a label means: sections as (farads, AC, DC), classes, tolerance."""

    sections: tuple[tuple[float, float | None, float | None], ...]
    classes: tuple[str, ...] = ()
    tolerance: tuple[float, float] | None = None


@dataclass
class Label:
    """Pieces in the order they are printed, and the truth; whether they may stand in any order."""

    pieces: list[str]
    truth: Truth
    loose: bool = True
    extras: list[str] = field(default_factory=list)


def value(chance: random.Random, low: float, high: float, series: tuple[int, ...] = E12) -> int:
    """Picofarads of a series between two limits."""
    fitting: list[int] = [n * 10**power for power in range(12) for n in series if low <= n * 10**power <= high]
    return chance.choice(fitting)


def unit_forms(pico: int) -> list[str]:
    """A value with its unit, in today's forms."""
    said = []
    if pico < 10_000:
        said += [f"{pico} pF", f"{pico}pF"]
    if 100 <= pico < 1_000_000:
        said += [f"{pico / 1e3:.10g} nF", f"{pico / 1e3:.10g}nF"]
    if pico >= 1_000:
        said += [f"{pico / 1e6:.10g} µF", f"{pico / 1e6:.10g}µF", f"{pico / 1e6:.10g} uF"]
    return [form for form in said if not _groups(form)] or [f"{pico / 1e6:.10g}0 µF"]


def _groups(form: str) -> bool:
    """Whether exactly three figures stand behind the point, a zero before it apart: that is asked about."""
    whole, point, rest = form.partition(".")
    part = "".join(c for c in rest if c.isdigit())
    return bool(point) and len(part) == 3 and whole != "0"


def short_forms(chance: random.Random, pico: int) -> list[str]:
    """Letter as point, bare decimals, comma."""
    said = []
    for letter, scale in (("p", 1), ("n", 1e3), ("µ", 1e6), ("u", 1e6)):
        if 0.1 <= pico / scale < 1000:
            whole, _, part = f"{pico / scale:.10g}".partition(".")
            said.append(f"{whole if whole != '0' else ''}{letter}{part}" if part else f"{whole}{letter}")
    return said


def _tolerance(chance: random.Random) -> tuple[str, tuple[float, float] | None]:
    if chance.random() < 0.4:
        return "", None
    text = chance.choice(list(PERCENT))
    return text, PERCENT[text]


def _extras(chance: random.Random, *, temperature: bool = True) -> list[str]:
    extras = []
    if temperature and chance.random() < 0.4:
        extras.append(chance.choice(TEMPERATURES if chance.random() < 0.5 else CLIMATES))
    if chance.random() < 0.15:
        extras.append(chance.choice(DATES))
    if word := chance.choice(MAKERS):
        extras.append(word)
    return extras


def safety(chance: random.Random) -> Label:
    names = chance.choice((("X2",), ("X1",), ("Y2",), ("Y1",), ("X1", "Y2"), ("X1", "Y1"), ("X2",), ("x2",)))
    y = any(name[0] in "yY" for name in names)
    pico = value(chance, 470, 10_000) if y else value(chance, 4_700, 4_700_000)
    volts = chance.choice((250, 275, 300, 305, 310, 400, 440))
    letter = chance.choice(list(LETTERS)) if chance.random() < 0.5 else ""
    head = chance.choice([*unit_forms(pico), *short_forms(chance, pico)])
    truth = Truth(((pico * 1e-12, float(volts), None),), tuple(n.upper() for n in names), LETTERS.get(letter))
    rated = chance.choice(AC_FORMS).format(v=volts)
    pieces = [
        f"{head}{chance.choice((' ', '')) if head[-1].isalpha() else ' '}{letter}".strip(),
        rated,
        chance.choice(("", "/")).join(names),
    ]
    return Label(pieces, truth, extras=_extras(chance))


def network(chance: random.Random) -> Label:
    large, small = chance.choice((100_000, 150_000, 220_000, 470_000)), chance.choice((2200, 2500, 2700, 3300, 4700))
    volts = chance.choice((250, 275))
    x, y = f"{large / 1e6:g}", f"{small / 1e6:g}" if chance.random() < 0.5 else ""
    text = f"{x} + 2 x {y} µF" if y else f"{x} µF + 2 x {small} pF"
    sections = ((large * 1e-12, float(volts), None), *(((small * 1e-12, float(volts), None),) * 2))
    return Label([text, f"{volts} V~", "X1Y2"], Truth(sections, ("X1", "Y2")), extras=_extras(chance))


def motor(chance: random.Random) -> Label:
    pico = chance.choice((1.5, 2, 2.5, 4, 5, 6.3, 8, 10, 12.5, 14, 16, 20, 25, 30, 35, 40, 45, 50, 60)) * 1e6
    volts = chance.choice((400, 420, 450, 475))
    head = f"{pico / 1e6:g}{chance.choice((' µF', 'µF', ' uF', ' MFD', ' mfd'))}"
    text, tolerance = chance.choice((("±5%", (-0.05, 0.05)), ("± 10 %", (-0.1, 0.1)), ("", None), ("±6 %", (-0.06, 0.06))))
    extras = [
        e
        for e in (
            chance.choice(("50/60Hz", "", "50 Hz")),
            chance.choice(("P0", "P2", "S3", "")),
            chance.choice(("", "25/085/21", "25/70/21")),
        )
        if e
    ]
    extras += [chance.choice(("", "CLASS B", "cl. C", "10000 h", "1.7 %ED", "CONT", "RUN"))]
    return Label(
        [head, text, chance.choice(AC_FORMS).format(v=volts)],
        Truth(((pico * 1e-12, float(volts), None),), (), tolerance),
        extras=extras,
    )


def dual(chance: random.Random) -> Label:
    large, small = chance.choice((25, 30, 35, 40, 45, 50, 60)), chance.choice((3, 4, 5, 7.5, 10))
    text = chance.choice(("{a}+{b} µF", "{a}/{b} MFD", "{a} + {b} uF", "{a} µF + {b} µF")).format(a=large, b=small)
    volts = chance.choice(("370", "440", "370/440"))
    rated = float(volts.split("/")[0])
    sections = ((large * 1e-6, rated, None), (small * 1e-6, rated, None))
    said, tolerance = chance.choice((("", None), ("±6%", (-0.06, 0.06)), ("±5 %", (-0.05, 0.05))))
    return Label([text, said, f"{volts} VAC", chance.choice(("", "60 Hz"))], Truth(sections, (), tolerance))


def start(chance: random.Random) -> Label:
    low, high = chance.choice(((88, 106), (108, 130), (145, 174), (189, 227), (216, 259), (270, 324), (64, 77)))
    volts = chance.choice(("125", "250", "330", "110-125", "220-250"))
    truth = Truth(
        (((low + high) / 2 * 1e-6, float(volts.split("-")[0]), None),),
        (),
        (low * 2 / (low + high) - 1, high * 2 / (low + high) - 1),
    )
    return Label([f"{low}-{high} {chance.choice(('µF', 'MFD'))}", f"{volts} VAC", chance.choice(("", "50/60 Hz", "START"))], truth)


def electrolytic(chance: random.Random) -> Label:
    pico = value(chance, 1e6, 22_000e6, E6)
    volts = chance.choice((16, 25, 35, 50, 63, 100, 250, 350, 400, 450))
    micro = pico / 1e6
    text, tolerance = _tolerance(chance)
    head = f"{micro:g}{chance.choice((' µF', 'µF', ' uF', ' MFD'))}"
    if micro >= 10_000:
        head = f"{micro / 1e3:.0f} {micro % 1e3:03.0f} µF"
    rated = chance.choice((*DC_FORMS, *WORKING_FORMS)).format(v=volts)
    if chance.random() < 0.2:
        rated = chance.choice(
            (
                f"{volts}VDC ({volts * 115 // 100} SURGE)",
                f"{volts} VDC surge {volts * 115 // 100} VDC",
                f"{volts}/{volts * 11 // 10} VDC",
            )
        )
    return Label([head, rated, text], Truth(((micro * 1e-6, None, float(volts)),), (), tolerance), extras=_extras(chance))


def can(chance: random.Random) -> Label:
    count = chance.choice((2, 3, 3, 4))
    values = sorted((chance.choice((8, 16, 20, 30, 32, 40, 50, 60, 80)) for _ in range(count)), reverse=True)
    volts = sorted((chance.choice((25, 300, 350, 400, 450)) for _ in range(count)), reverse=True)
    mark = chance.choice("/-" if count > 2 else "/+")
    if chance.random() < 0.5:
        one = volts[0]
        sections = tuple((v * 1e-6, None, float(one)) for v in values)
        return Label(["+".join(map(str, values)) + " µF", f"{one} {chance.choice(('VDC', 'V-', 'WVDC'))}"], Truth(sections))
    sections = tuple((v * 1e-6, None, float(u)) for v, u in zip(values, volts, strict=True))
    if chance.random() < 0.3:
        symbols = "▲■◗△□"
        text = " ".join(f"{symbols[k]} {v} µF {u} VDC" for k, (v, u) in enumerate(zip(values, volts, strict=True)))
        return Label([text], Truth(sections))
    return Label([mark.join(map(str, values)) + " MFD", "/".join(map(str, volts)) + " WVDC"], Truth(sections), loose=False)


def film(chance: random.Random) -> Label:
    pico = value(chance, 1_000, 4_700_000)
    volts = chance.choice((63, 100, 160, 250, 400, 630, 1000, 1600))
    text, tolerance = _tolerance(chance)
    form = chance.random()
    rated = chance.choice(DC_FORMS).format(v=volts)
    if form < 0.25 and pico < 10_000_000:
        letter = chance.choice(list(LETTERS))
        power = len(str(pico)) - 2
        code = chance.choice(({100: "2A", 250: "2E", 400: "2G", 630: "2J", 1000: "3A"}.get(volts, ""), ""))
        head = f"{code}{pico // 10**power}{power}{letter}"
        return Label(
            [head, "" if code else rated], Truth(((pico * 1e-12, None, float(volts)),), (), LETTERS[letter]), extras=_extras(chance)
        )
    head = chance.choice([*unit_forms(pico), *short_forms(chance, pico)])
    if form < 0.4 and 10_000 <= pico < 1_000_000:
        letter = chance.choice(list(LETTERS))
        return Label(
            [f"{pico / 1e6:g} {letter}", rated], Truth(((pico * 1e-12, None, float(volts)),), (), LETTERS[letter]), extras=["MKT"]
        )
    return Label(
        [head, rated, text],
        Truth(((pico * 1e-12, None, float(volts)),), (), tolerance),
        extras=[chance.choice(("MKT", "MKP", "", "FILM"))],
    )


def foreign(chance: random.Random) -> Label:
    pico = value(chance, 100, 10_000_000, E6)
    volts = chance.choice((160, 250, 400, 500, 630, 1000))
    letter = chance.choice([letter for letter in GOST if letter != "Ф"]) if chance.random() < 0.5 else ""  # мк Ф torn is мкФ
    head = f"{pico} пФ" if pico < 10_000 else f"{pico / 1e6:g} {chance.choice(('мкФ', 'мк'))}".replace(".", ",")
    group = chance.choice(("", "", "Н70", "М47")) if pico < 10_000 else ""
    rated = f"{volts} В{chance.choice('=~')}"
    alternating = rated.endswith("~")
    truth = Truth(
        ((pico * 1e-12, float(volts) if alternating else None, None if alternating else float(volts)),), (), GOST.get(letter)
    )
    return Label([f"{head} {letter}".strip(), group, rated], truth)


def thousands(chance: random.Random) -> Label:
    micro = value(chance, 1_000, 47_000, E6)
    volts = chance.choice((16, 25, 50, 63, 100))
    text = f"{micro // 1000}{chance.choice(',.')}{micro % 1000:03d} {chance.choice(('MFD', 'µF'))}"
    return Label([text, chance.choice((*DC_FORMS, *WORKING_FORMS)).format(v=volts)], Truth(((micro * 1e-6, None, float(volts)),)))


COMMON = (safety, safety, safety, network, motor, motor, dual, start, electrolytic, electrolytic, can, film, film, foreign)


def draw(chance: random.Random) -> Label:
    """A label of any kind; one in fifty with a grouped thousand, which is to be asked about."""
    return thousands(chance) if chance.random() < 0.02 else chance.choice(COMMON)(chance)


def plain(chance: random.Random) -> Label:
    """A label with unit, kind of volts and class printed in today's forms."""
    kind = chance.choice((safety, motor, electrolytic, film))
    while True:
        label = kind(chance)
        head = label.pieces[0]
        if any(unit in head for unit in ("pF", "nF", "µF", "uF")) and not any(
            w in label.pieces[1] for w in ("WV", "VW", "W.V", "CW", "/", "surge")
        ):
            return label


def typed(label: Label, chance: random.Random, *, glue: float = 0.0) -> str:
    """The label as text, its pieces in any order where the order says nothing, some spaces lost."""
    body = [p for p in label.pieces if p]
    extras = [e for e in label.extras if e]
    if label.loose and chance.random() < 0.3:
        chance.shuffle(body)
    for extra in extras:
        body.insert(chance.randint(0, len(body)), extra) if label.loose else body.append(extra)
    text = " ".join(body)
    return "".join(c for c in text if c != " " or chance.random() >= glue)


def says(read: Marking, truth: Truth) -> bool:
    """Whether a reading is the truth."""
    if len(read.sections) != len(truth.sections) or sorted(read.class_names) != sorted(truth.classes):
        return False
    section, found = read.sections[0], None
    if section.low_f is not None and section.high_f is not None:
        found = section.low_f / section.capacitance_f - 1, section.high_f / section.capacitance_f - 1
    if (found is None) != (truth.tolerance is None):
        return False
    if found and truth.tolerance and max(abs(a - b) for a, b in zip(found, truth.tolerance, strict=True)) > 1e-4:
        return False
    return all(
        abs(section.capacitance_f / farads - 1) < 1e-6 and section.rated_ac_v == ac and section.rated_dc_v == dc
        for section, (farads, ac, dc) in zip(read.sections, truth.sections, strict=True)
    )


def reached(text: str, truth: Truth, depth: int = DEEPEST) -> bool:
    """Whether answering the questions leads to the truth, each with at most three answers."""
    try:
        read = read_marking(text)
    except InputError:
        return False
    if not read.provisional:
        return says(read, truth)
    if depth == 0:
        return False
    doubt = read.doubts[0]
    return len(doubt.options) <= MOST_ANSWERS and any(reached(option.text, truth, depth - 1) for option in doubt.options)


def outcome(text: str, truth: Truth) -> str:
    """right, wrong, asked, lost (asked, and no answer is the truth) or refused."""
    try:
        read = read_marking(text)
    except InputError:
        return "refused"
    if not read.provisional:
        return "right" if says(read, truth) else "wrong"
    return "asked" if reached(text, truth) else "lost"
