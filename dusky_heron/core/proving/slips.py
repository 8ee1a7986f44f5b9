"""A technician who slips as people do: each slip at a stated rate, remembered with what became of it."""

import math
import random
from dataclasses import replace

from dusky_heron.core import rig
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.metering.taking import TypedReading, take
from dusky_heron.core.model import Condition, Evidence, Measurement, Part, Quantity, Reading, Word
from dusky_heron.core.proving import manual
from dusky_heron.core.proving.bench import Pair, typed
from dusky_heron.core.proving.counting import Slip
from dusky_heron.core.proving.technician import TODAY, Technician, Work
from dusky_heron.core.proving.truth import HANDS_V
from dusky_heron.core.proving.workshop import Offered, specification
from dusky_heron.core.rig.capacitors import Capacitor
from dusky_heron.core.verdict import judge

RATE = 0.03  # of each step that can slip
MISREAD = {"8": "3", "3": "8", "6": "5", "5": "6", "1": "7", "7": "1", "0": "8", "2": "7", "4": "9", "9": "4"}
UNITS = {"µ": "n", "n": "µ", "m": "µ", "p": "n", "k": "M", "M": "k", "G": "M"}
OFTEN = ("decimal", "unit", "thousands", "wrong pair", "in circuit called lifted", "wrong range")  # of a reading, as likely each
LEAST, MOST = 0.5, 1.1  # of the mark, and of its upper tolerance: beyond, a reading speaks against the mark
KEPT = {Word.KEEP, Word.WATCH}


class Human(Technician):
    """Does what the product says, and slips."""

    title = "human"

    def __init__(self, set_id: str, seed: int, rate: float = RATE) -> None:
        super().__init__(set_id, seed)
        self.rate = rate
        self.slipped = random.Random(f"slips {set_id} {seed}")  # noqa: S311 # chance, not secrecy
        self.open: dict[
            tuple[str, int, Quantity], Slip
        ] = {}  # of readings, until the product asks for them again or lets them rest
        self.labels: dict[str, tuple[Slip, str]] = {}  # slips of labels, with what is printed
        self.doubted: set[str] = set()  # places whose label was asked about at once
        self.skipped: dict[str, Slip] = {}
        if self.slips():
            self.bench.meters = rig.meters(self.luck.getrandbits(30), out=("hand",))
            self.keep(Slip("meter out of calibration", "the hand meter errs by more than its accuracy"))

    def slips(self) -> bool:
        """Whether a step slips."""
        return self.slipped.random() < self.rate

    def keep(self, slip: Slip) -> Slip:
        """Remember a slip, and tell it."""
        self.run.slips.append(slip)
        self.run.story.append(f"SLIP, {slip.kind}: {slip.said}.")
        return slip

    @property
    def uncalibrated(self) -> bool:
        """Whether a meter at hand is out of calibration."""
        return not all(meter.calibrated for meter in self.bench.meters.values())

    # Labels

    def read_label(self, place: manual.Place, printed: str) -> str:
        """What is typed for a label, a worn figure guessed now and then."""
        figures = [k for k, sign in enumerate(printed) if sign in MISREAD]
        if not figures or not self.slips():
            return super().read_label(place, printed)
        at = self.slipped.choice(figures)
        guessed = printed[:at] + MISREAD[printed[at]] + printed[at + 1 :]
        slip = self.keep(Slip("worn label guessed", f"“{guessed}” for “{printed}” on {place.name}"))
        slip.matters, asked = self._reads_otherwise(guessed, printed)
        slip.asked = slip.contradicts = asked and slip.matters
        if asked:
            self.doubted.add(place.name)
        self.labels[place.name] = (slip, printed)
        return super().read_label(place, guessed)

    def _reads_otherwise(self, guessed: str, printed: str) -> tuple[bool, bool]:
        """Whether a guess changes what is read, and whether it is asked about at once."""
        right = read_marking(printed, today=TODAY)
        try:
            wrong = read_marking(guessed, today=TODAY)
        except InputError:
            return True, True
        return not _alike(wrong, right), wrong.provisional and not right.provisional

    def settled(self, text: str, place: manual.Place) -> Marking | None:
        """A label whose questions are answered by looking again: a guess that was asked about is put right."""
        if place.name in self.doubted:
            self.run.questions += 1
            text = self.labels[place.name][1]
        marking = super().settled(text, place)
        made = len(self.simulated.capacitors[place.capacitors[0]].sections)
        if marking is not None and place.name in self.labels and len(marking.sections) != made:
            self.run.tell(f"{place.name}: there is no such terminal on it. Reads its label again.")
            marking = super().settled(self.labels[place.name][1], place)
        return marking

    # Readings

    def take_reading(self, work: Work, ask: Measurement) -> Reading | None:
        """One measurement, that may slip in how it is taken or typed."""
        name, k = self.part_of(work, ask.section)
        key = (work.place.name, ask.section, ask.quantity)
        before = self.open.pop(key, None)
        if before:
            before.asked = True
            self.run.questions += 1
        self.look_again(work, ask, before)
        if not self.slips():
            return super().take_reading(work, ask)
        right = super().take_reading(work, ask)
        if right is None:
            return None
        wrong = self.wrong_reading(work, ask, name, k, right)
        if wrong is None:
            return right
        reading, slip = wrong
        slip.matters = self.would_matter(work, right, reading)
        slip.contradicts = slip.matters and self.speaks_against(work, reading)
        self.open[key] = slip
        return reading

    def look_again(self, work: Work, ask: Measurement, before: Slip | None) -> None:
        """Asked to measure once more what does not go with its mark, one looks at the mark too."""
        kept = self.labels.get(work.place.name)
        again = any(r.quantity == ask.quantity == Quantity.CAPACITANCE and r.section == ask.section for r in work.readings)
        if not kept or not again or before or kept[0].asked:
            return
        slip, printed = kept
        slip.asked = slip.contradicts = True
        marking = super().settled(printed, work.place)
        if marking is not None:
            work.position = replace(work.position, marking=marking)
            self.run.tell(f"{work.place.name}: looks again, and reads “{printed}”.")

    def wrong_reading(self, work: Work, ask: Measurement, name: str, k: int, right: Reading) -> tuple[Reading, Slip] | None:
        """The same reading with one slip."""
        kind = self.slipped.choice(OFTEN)
        if kind == "wrong pair":
            other = self.slipped.choice([one for one in self.simulated.capacitors if one != name] or [name])
            shown = rig.measure(self.simulated, self.bench.meters["hand"], "capacitance", *self.simulated.terminals(other))
            if ask.quantity is not Quantity.CAPACITANCE or shown.value is None:
                return None
            text, said = typed(shown, ask.quantity), f"{other} measured for {name}"
        elif kind == "in circuit called lifted":
            if ask.quantity is not Quantity.CAPACITANCE:
                return None
            self.simulated.lay_back(name)
            shown = rig.measure(self.simulated, self.bench.meters["hand"], "capacitance", *self.simulated.terminals(name, k))
            self.simulated.lift(name)
            if shown.value is None:
                return None
            text, said = typed(shown, ask.quantity), f"{name} measured in circuit, noted as lifted"
        else:
            text = self.mistyped(kind, right)
            said = f"{text} for {right.value:.4g}"
        reading = self._typed(work, ask, text, right)
        return (reading, self.keep(Slip(kind, f"{work.place.name}, {ask.quantity}: {said}"))) if reading else None

    def mistyped(self, kind: str, right: Reading) -> str:
        """A value as it is typed with a slip."""
        value = right.value
        if kind == "decimal":
            value *= self.slipped.choice((10.0, 0.1))
        elif kind == "unit":
            value *= self.slipped.choice((1000.0, 1e-3))
        elif kind == "wrong range":
            value = float(f"{value:.1g}")
        unit = {Quantity.CAPACITANCE: "F", Quantity.LEAKAGE: "A", Quantity.DISSIPATION: ""}.get(right.quantity, "Ω")
        if kind == "thousands":
            scale = 10.0 ** (3 * math.floor(math.log10(value) / 3)) if value > 0 else 1.0
            return f"{value / scale:.3f}".replace(".", ",") + f"e{round(math.log10(scale))} {unit}" if unit else f"{value:g}"
        return f"{value:.4g} {unit}".strip()

    def _typed(self, work: Work, ask: Measurement, text: str, right: Reading) -> Reading | None:
        """A slipped text as the product reads it; None where it refuses it aloud."""
        said = TypedReading(
            text, ask.quantity, Condition.LIFTED, frequency=f"{right.frequency_hz:g} Hz" if right.frequency_hz else "",
            volts=f"{right.volts:g} V" if right.volts else "", after=f"{right.seconds:.3g} s" if right.seconds else "",
        )  # fmt: skip
        try:
            value = take(said, specification(right.meter), work.position).value
        except InputError as error:
            self.run.questions += 1
            self.keep(Slip("typed", f"{text}: {error.sentence}", asked=True))  # whether it would have mattered nobody can tell
            return None
        self.run.tell(f"{work.place.name}: {ask.quantity} {text} typed.")
        return replace(right, value=value.value, low=value.low, high=value.high)

    def would_matter(self, work: Work, right: Reading, wrong: Reading) -> bool:
        """Whether another action would follow from the slip alone, with nothing asked."""
        if right.quantity is Quantity.CAPACITANCE:
            section = work.position.parts[right.section]
            return _zone(right.value, section.lowest_f, section.highest_f) != _zone(
                wrong.value, section.lowest_f, section.highest_f
            )
        words = [
            judge(work.position, Evidence((*work.readings, one), work.evidence.signs), today=TODAY, able=self.able).word
            for one in (right, wrong)
        ]
        return (words[0] in KEPT) != (words[1] in KEPT)

    def speaks_against(self, work: Work, reading: Reading) -> bool:
        """Whether what was recorded goes against a reading: its mark, an earlier reading."""
        if reading.quantity is Quantity.CAPACITANCE:
            section = work.position.parts[reading.section]
            return reading.high < LEAST * section.capacitance_f or reading.low > MOST * section.highest_f
        earlier = work.evidence.of(reading.section, reading.quantity)
        return any(one.high < reading.low or one.low > reading.high for one in earlier)

    def assess(self, work: Work) -> None:
        """Judged; a slip of a label that a reading spoke against and nobody asked about stays so."""
        super().assess(work)
        kept = self.labels.get(work.place.name)
        if kept and not kept[0].asked and kept[0].matters:
            kept[0].contradicts = any(
                self.speaks_against(work, one) for one in work.readings if one.quantity is Quantity.CAPACITANCE
            )

    def count_verdict(self, work: Work) -> None:
        """Bad kept and good replaced; with a meter out of calibration apart."""
        before = (self.run.bad, self.run.bad_kept, self.run.good, self.run.good_replaced)
        super().count_verdict(work)
        if self.uncalibrated and work.verdict:
            self.run.uncalibrated += (self.run.bad_kept - before[1]) + (self.run.good_replaced - before[3])
            self.run.bad, self.run.bad_kept, self.run.good, self.run.good_replaced = before

    # Emptying, proving, fitting

    def empties_for(self, work: Work, worst_s: float) -> float:
        """How long the tool stays on: not at all now and then."""
        if not self.slips():
            return worst_s
        slip = self.keep(Slip("emptying skipped", work.place.name))
        slip.matters = self.bench.hand_on(work.place) > HANDS_V
        self.skipped[work.place.name] = slip
        return 0.0

    def lock_off(self, work: Work) -> None:
        """A second supply locked off, or not."""
        there = any(feed.by_itself and feed.name == "battery" for feed in self.simulated.drawing.feeds)
        if there and self.slips():
            self.skipped[work.place.name] = self.keep(Slip("second supply not locked off", work.place.name, matters=True))
            return
        super().lock_off(work)

    def prove_once(self, work: Work, *, shorted_s: float = 0.0) -> str:
        """A proof; what it finds left is what a skipped step comes up by."""
        left = super().prove_once(work, shorted_s=shorted_s)
        slip = self.skipped.get(work.place.name)
        if left and slip and slip.matters:
            slip.contradicts = slip.asked = True
        return left

    def read_pair(self, work: Work, meter_id: str, pair: Pair, kind: str) -> str:
        """What is typed for one pair: another one laid on, or a decimal slipped, now and then."""
        shown = super().read_pair(work, meter_id, pair, kind)
        if not self.slips() or not shown or shown == "OL":
            return shown
        if self.slipped.random() < 0.5:
            other = self.slipped.choice([one for one in self.bench.pairs(work.place) if one != pair] or [pair])
            wrong, said = self.bench.volts(self.bench.meters[meter_id], other, kind), "another pair"
        else:
            wrong, said = f"{float(shown.split(' ')[0]) * self.slipped.choice((10.0, 0.1)):g}", "a decimal"
        slip = self.keep(
            Slip("wrong pair" if said == "another pair" else "decimal", f"{work.place.name}, proof: {wrong} for {shown}")
        )
        slip.matters = (_volts(shown) >= HANDS_V) != (_volts(wrong) >= HANDS_V)
        return wrong

    def take_off(self, work: Work) -> None:
        """Links taken off before power; the step's own question comes to one that was forgotten."""
        if work.links and self.slips():
            self.keep(Slip("link left on", work.place.name, matters=True, contradicts=True, asked=True))
            self.run.questions += 1
        super().take_off(work)

    def fit(self, work: Work, old: Capacitor, classes: set[str], part: Part, one: Offered | None) -> bool:
        """The chosen part, or the one beside it in the bag."""
        if one is None or not self.slips():
            return super().fit(work, old, classes, part, one)
        offered = [other for _, other in self.offers(work, old, classes).values() if other is not None]
        taken = self.slipped.choice(offered)
        slip = self.keep(Slip("wrong part from the bag", f"{taken.facts.label()} for {part.marking.text}, {work.place.name}"))
        unfit = self.run.unfit
        fitted = super().fit(work, old, classes, part, replace(taken, part=part))
        slip.matters = self.run.unfit > unfit
        self.run.unfit = unfit
        return fitted


def _alike(a: Marking, b: Marking) -> bool:
    """Whether two readings of a label lead to the same."""
    close = math.isclose(a.capacitance_f, b.capacitance_f, rel_tol=0.05) and len(a.sections) == len(b.sections)
    volts = (a.rated_ac_v, a.rated_dc_v) == (b.rated_ac_v, b.rated_dc_v)
    return close and volts and a.class_names == b.class_names


def _zone(value: float, low: float, high: float) -> int:
    return -1 if value < low else 1 if value > high else 0


def _volts(text: str) -> float:
    try:
        value = abs(float(text.split(" ")[0]))
    except ValueError:
        return 0.0
    return value / 1000 if "mV" in text else value
