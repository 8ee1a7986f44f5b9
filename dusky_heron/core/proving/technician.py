"""A technician at work on a simulated set: does what the product says next, by the functions that API and page use."""

import datetime
import math
import random
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from dusky_heron.core import rig
from dusky_heron.core.discharge.falling import HANDS_IN_V
from dusky_heron.core.discharge.limits import limits_of, limits_table, working_limit
from dusky_heron.core.discharge.pins import behind_plug, on_the_pins
from dusky_heron.core.discharge.planning import PlannedCharge, plan_position, recharged_by
from dusky_heron.core.discharge.proving import (
    KnownSource,
    PairReading,
    charged_by,
    check_first_stage,
    check_proof,
    hides_charge,
    left_on,
    meter_refusals,
    needs_probe,
    not_settled,
    proof_pairs,
)
from dusky_heron.core.discharge.rebound import LEAST_PROOF_S, dielectric_of, expected_rebound, proof_holds
from dusky_heron.core.discharge.search import beyond_tools, rank_tools, recommended
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.markings.model import Marking
from dusky_heron.core.metering.accuracy import fine_enough
from dusky_heron.core.metering.taking import TypedReading, take
from dusky_heron.core.metering.volts import Volts, read_volts
from dusky_heron.core.model import Condition, Evidence, Measurement, Part, PartKind, Position, Reading, Role, Sign, Verdict, Word
from dusky_heron.core.model.voltages import rule_voltage
from dusky_heron.core.proving import manual, truth
from dusky_heron.core.proving.bench import Bench, Pair, typed
from dusky_heron.core.proving.counting import Run
from dusky_heron.core.proving.truth import State
from dusky_heron.core.proving.workshop import (
    KNOWN_V,
    RESISTORS,
    SPACE,
    Offered,
    as_fitted,
    drawer_for,
    like_new,
    spares_for,
    specification,
    volt_ranges,
    voltmeter,
)
from dusky_heron.core.returning.checks import Outcome, Repaired, checks_for, take_check
from dusky_heron.core.returning.powerup import KINDS, Logged, Step, power_up_plan, read_trend, usual_kind
from dusky_heron.core.rig.capacitors import Capacitor
from dusky_heron.core.rig.simulated import SimulatedSet
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.selection.question import likely_kind
from dusky_heron.core.verdict import judge

TODAY = datetime.date(2026, 6, 1)
SOONEST_S, LATEST_S = 5.0, 1800.0  # from the plug to the bench
EMPTIES = 3  # times it is emptied before a second feed is looked for
KEPT_ON_S = (600.0, 1800.0, 5400.0)  # a link stays on so long before it is taken off to measure, then longer
NETWORK, NETWORK_F = "0.1 + 2 x 0.0027 µF X1 Y2 275 V~", 10e-9  # what the shop has for an old interference network
PINS_AFTER_S, FIXED = 1.0, ("drive", "lighting")  # fixed wiring has no pins
STEPS = (25.0, 60.0, 100.0)  # of a ramp, as the workshop has set them
ROUNDS = 4  # of mending after a stop
MOST_MEASURED = 10  # of one part: beyond, nobody believes that it ends
WORK_S = 300.0  # hands in
KNOWN_METERS = ("hand", "fine", "bridge", "insulation", "leakage")


@dataclass
class Work:
    """A place in work: what the product knows of it, and how its charge stands."""

    place: manual.Place
    position: Position
    readings: list[Reading] = field(default_factory=list)
    state: str = "unknown"  # as the charge line has it: unknown, emptying, proved, kept shorted
    verdict: Verdict | None = None
    links: list[tuple[str, str]] = field(default_factory=list)
    linked_s: float = 0.0
    charged: int = 0
    removed: bool = False
    signs: frozenset[Sign] = frozenset()

    @property
    def evidence(self) -> Evidence:
        """All that was read and seen."""
        return Evidence(tuple(self.readings), self.signs)


class Technician:
    """The obedient one: every step as the product has it, every question answered as it is."""

    title = "obedient"

    def __init__(self, set_id: str, seed: int) -> None:
        self.luck = random.Random(f"{set_id} {seed} {self.title}")  # noqa: S311 # chance, not secrecy
        self.run = Run(set_id, seed, self.title)
        simulated = rig.make(set_id, seed, quick=True)
        self.bench = Bench(simulated, rig.meters(self.luck.getrandbits(30)))
        self.works: list[Work] = []
        self.changed: set[str] = set()
        self.pins_v = 0.0  # what the plug held after the last time it was pulled at the peak

    @property
    def simulated(self) -> SimulatedSet:
        """The set on the bench."""
        return self.bench.simulated

    # The job

    def work(self) -> Run:
        """The whole job, from the label to the hand-back."""
        run = self.run
        faults = "; ".join(map(str, self.simulated.faults)) or "none"
        run.story.append(f"In truth: {self.simulated.drawing.title}, faults: {faults}.")
        self.in_use()
        self.intake()
        if not self.make_dead():
            return run
        for work in self.works:
            self.assess(work)
        for work in self.works:
            if work.verdict and work.verdict.word in (Word.REPLACE, Word.CONDEMN) and not self.renew(work):
                return run
        for work in self.works:
            if not work.removed:
                self.bench.lay_back(work.place)
        if self.first_power():
            self.hand_back()
        return run

    def in_use(self) -> None:
        """It was in use at its owner's, the plug was pulled at some instant, and it reached the bench."""
        simulated = self.simulated
        simulated.plug()
        manual.settle(simulated)
        simulated.soak()
        simulated.unplug()
        gone = math.exp(self.luck.uniform(math.log(SOONEST_S), math.log(LATEST_S)))
        simulated.wait(gone)
        self.run.story.append(f"In use, unplugged, on the bench {gone:.0f} s later.")

    def intake(self) -> None:
        """Every place with its label as it is printed, and what the manual says of its circuit."""
        simulated = self.simulated
        equipment, supply = manual.equipment_of(simulated), manual.supply_of(simulated)
        for place in manual.places_of(simulated):
            part = simulated.capacitors[place.capacitors[0]]
            text = self.read_label(place, part.printed)
            marking = self.settled(text, place)
            if marking is None:
                continue
            position = Position(
                place.name, place.role, marking, supply, simulated.drawing.hertz, space_mm=SPACE, surroundings=place.around,
                equipment=equipment, old=place.old, reaches=place.reaches,
            )  # fmt: skip
            work = Work(place, position)
            work.signs = frozenset(sign for name in place.capacitors for sign in simulated.capacitors[name].seen)
            self.works.append(work)

    def read_label(self, place: manual.Place, printed: str) -> str:
        """What is typed for a label."""
        self.run.tell(f"{place.name}, {place.role}: types “{printed}”.")
        return printed

    def settled(self, text: str, place: manual.Place) -> Marking | None:
        """A label as it was read, its questions answered with what is so."""
        try:
            marking = read_marking(text, today=TODAY)
        except InputError as error:
            self.run.tell(f"{place.name}: {error.sentence} Types what the manual says.")
            self.run.questions += 1
            marking = read_marking(self._by_manual(place))
        for _ in range(4):
            known = Position(place.name, place.role, marking, surroundings=place.around).marking
            if not known.doubts:
                return marking
            doubt = known.doubts[0]
            self.run.questions += 1
            self.run.tell(f"{place.name}: asked “{doubt.asks}”")
            answers = [read_marking(option.text, today=TODAY) for option in doubt.options]
            right = [one for one in answers if self._true(one, place)]
            marking = right[0] if right else read_marking(self._by_manual(place))
        self.run.tell(f"{place.name}: its label asks for ever.")
        self.run.endless += 1
        return None

    def _true(self, marking: Marking, place: manual.Place) -> bool:
        """Whether a reading of a label is what the part was made as."""
        part = self.simulated.capacitors[place.capacitors[0]]
        made = [section.marked_f for section in part.sections]
        read = [section.capacitance_f for section in marking.sections]
        volts = max(marking.ac_ratings, default=0.0) if part.ac else marking.rated_dc_v
        alike = len(made) == len(read) and all(abs(a / b - 1) < 0.1 for a, b in zip(made, read, strict=True))
        return alike and (not volts or abs(volts / part.rated_v - 1) < 0.1)

    def _by_manual(self, place: manual.Place) -> str:
        """What the parts list of the manual says."""
        part = self.simulated.capacitors[place.capacitors[0]]
        values = " + ".join(f"{section.marked_f * 1e6:.6g} µF" for section in part.sections)
        classes = "".join(sorted(truth.classes_of(part)))
        return f"{values} {classes} {part.rated_v:g} {'V~' if part.ac else 'VDC'}"

    # Emptying and proving

    def make_dead(self) -> bool:
        """Every place emptied and proved, or kept shorted; False where the job goes to somebody licensed."""
        return all(self.empty(work) and self.prove(work) for work in self.works)

    def empty(self, work: Work) -> bool:
        """The tool the product recommends, across every point, for the worst time; what recharges it locked off first."""
        plan = plan_position(work.position, work.evidence)
        if plan is None:
            self.run.tell(f"{work.place.name}: no voltage to plan with.")
            self.run.waits += 1
            return False
        self.lock_off(work)
        limit = working_limit(None, plan.highest_f, plan.each_v)
        tool = recommended(rank_tools(RESISTORS, plan, limit))
        if tool is None:
            self.run.tell(f"{work.place.name}: {beyond_tools(plan, tool_found=False)}")
            self.run.waits += 1
            return False
        worst = tool.times[-1].worst_s
        ohm = tool.resistance_ohm * self.luck.uniform(0.96, 1.04)
        laid = True
        for said, a, b in self.bench.points(work.place, work.position.marking):
            seconds = self.empties_for(work, worst)
            laid = laid and seconds > 0
            if seconds:
                self.bench.empty(a, b, ohm, seconds)
                self.run.tell(f"{work.place.name}: {tool.name} {said} for {seconds:.1f} s, planned {plan.each_v:.0f} V.")
        if laid:
            work.state = "emptying"
            self.check_hands(work, "the plan says empty by now")
        return True

    def empties_for(self, work: Work, worst_s: float) -> float:
        """How long the tool stays on: as long as the worst time says."""
        return worst_s

    def lock_off(self, work: Work) -> None:
        """A second supply that the product warns of is locked off, where there is one."""
        if "second supply" in recharged_by(work.position.role, work.position.surroundings):
            feeds = [feed for feed in self.simulated.drawing.feeds if feed.by_itself and feed.name == "battery"]
            for feed in feeds:
                self.simulated.drawing.feeds.remove(feed)
                self.simulated.wait(0.0)
                self.run.tell(f"{work.place.name}: told of a second supply, locks it off.")

    def prove(self, work: Work) -> bool:
        """Live, dead, live; emptied again where something is left; the link where what creeps back asks for it."""
        for _ in range(EMPTIES):
            left = self.prove_once(work)
            if not left:
                return work.state in ("proved", "kept shorted")
            self.run.tell(f"{work.place.name}: {left}")
            if not self.empty(work):
                return False
        self.run.tell(f"{work.place.name}: it does not stay empty.")
        self.run.waits += 1
        return False

    def prove_once(self, work: Work, *, shorted_s: float = 0.0) -> str:
        """One proof; what it found left, or nothing where it is proved, linked or refused."""
        position, place = work.position, work.place
        plan = plan_position(position, work.evidence)
        if plan is None:
            return ""
        hidden = hides_charge(position.marking, work.evidence, role=position.role, charge=plan)
        if hidden:
            self.run.tell(f"{place.name}: {hidden}")
            self.link(work)
            return ""
        pairs = proof_pairs(position.marking, position.surroundings)
        nodes = self.bench.laid(place, len(pairs))
        after_probe = None
        try:
            if needs_probe(plan, position.role, position.surroundings):
                after_probe = self.first_stage(work, pairs, nodes)
            meter_id = next(
                name for name in ("hand", "fine")
                if not meter_refusals(
                    voltmeter(self.bench.meters[name]), plan, role=position.role, around=position.surroundings, fixed_wiring=False,
                    after_probe_v=after_probe,
                )
            )  # fmt: skip
            readings = self.read_pairs(work, meter_id, pairs, nodes)
            left = left_on(readings)
            if left:
                return left[0].sentence
            asks = not_settled(position.marking, position.surroundings)
            if asks:
                raise InputError("readings", asks)
            known = self.known_source(meter_id)
            highest = check_proof(pairs, readings, known, known)
        except InputError as error:
            return error.sentence
        except StopIteration:
            return "No meter of the workshop may be laid on it."
        self.proved(work, plan, highest, shorted_s)
        return ""

    def proved(self, work: Work, plan: PlannedCharge, highest_v: float, shorted_s: float) -> None:
        """The record says proved, and hands go in; or it asks for the link."""
        rebound = expected_rebound(dielectric_of(work.position.marking, work.position.role), plan.highest_f, plan.each_v)
        holds = proof_holds(0.0 if rebound.harmless else rebound.voltage_v, highest_v, shorted_s=shorted_s)
        if holds < LEAST_PROOF_S:
            self.link(work)
            return
        work.state = "proved"
        if rebound.store_shorted:
            self.check_later(work, holds)
        self.run.tell(f"{work.place.name}: proved below {HANDS_IN_V:g} V, at most {highest_v:.2f} V, for {holds:.0f} s.")
        self.check_hands(work, "the record says proved")

    def check_later(self, work: Work, seconds: float) -> None:
        """Hands are in as long as the proof holds: what they would meet at its end, if nobody did anything."""
        volts = self.bench.hand_later(work.place, seconds)
        self.run.touched += volts > truth.HANDS_V
        if volts > HANDS_IN_V:
            self.run.outlived += 1
            self.run.tell(f"OUTLIVED: {volts:.1f} V on {work.place.name} within {seconds:.0f} s, and its proof still holds.")

    def link(self, work: Work) -> None:
        """The shorting link on every point; it stays while hands are in."""
        for _, a, b in self.bench.points(work.place, work.position.marking):
            if (a, b) not in work.links and a != b:
                self.simulated.short(a, b)
                work.links.append((a, b))
        work.linked_s = self.simulated.second
        work.state = "kept shorted"
        self.run.tell(f"{work.place.name}: what may creep back asks for the link; it is on.")
        self.check_hands(work, "the record says kept shorted")

    def take_off(self, work: Work) -> None:
        """The links of a place off."""
        for a, b in work.links:
            self.simulated.unshort(a, b)
        work.links, work.state = [], "link off"

    def unlink(self, work: Work) -> bool:
        """The link off to measure: proved again at once, with the time it was on counted; False where that cannot be."""
        for kept_on_s in KEPT_ON_S:
            self.simulated.wait(max(kept_on_s - (self.simulated.second - work.linked_s), 0.0))
            since = work.linked_s
            self.take_off(work)
            left = self.prove_once(work, shorted_s=kept_on_s)
            work.linked_s = since
            if work.state == "proved":
                return True
            if left:
                self.run.tell(f"{work.place.name}: {left}")
                self.empty(work)
        return False

    def first_stage(self, work: Work, pairs: Sequence[str], nodes: Sequence[Pair]) -> float:
        """The probe on every pair first; then shorted through the tool."""
        probe = self.bench.meters["probe"]
        dc, _ = volt_ranges("probe")
        read = [read_volts(self.bench.volts(probe, pair, "dc"), dc, field="probe") for pair in nodes]
        most = check_first_stage(pairs, read)
        self.run.tell(f"{work.place.name}: the probe shows at most {most:.0f} V, then shorted through the tool.")
        for _, a, b in self.bench.points(work.place, work.position.marking):
            self.bench.empty(a, b, 1e6, 10.0)
            self.bench.empty(a, b, 1e4, 1.0)
        return most

    def read_pairs(self, work: Work, meter_id: str, pairs: Sequence[str], nodes: Sequence[Pair]) -> list[PairReading]:
        """What the meter shows on every pair, on DC and on AC."""
        meter = self.bench.meters[meter_id]
        dc, ac = volt_ranges(meter_id)
        found = []
        for said, pair in zip(pairs, nodes, strict=True):
            shown_dc, shown_ac = (self.read_pair(work, meter_id, pair, kind) for kind in ("dc", "ac"))
            if "OL" in (shown_dc, shown_ac) or "dead" in (shown_dc, shown_ac):
                raise InputError("readings", f"{meter.title}: beyond its ranges, {said}. Empty it again.")
            alternating = read_volts(shown_ac, ac, field="ac")
            low = Volts(0.0, 0.0, 0.1) if abs(alternating.shown) >= HANDS_IN_V and self.ghost(pair) else None
            found.append(PairReading(said, read_volts(shown_dc, dc, field="dc"), alternating, low))
        return found

    def read_pair(self, work: Work, meter_id: str, pair: Pair, kind: str) -> str:
        """What is typed for one pair."""
        return self.bench.volts(self.bench.meters[meter_id], pair, kind)

    def ghost(self, pair: Pair) -> bool:
        """Whether a low-impedance reading loads an AC voltage away."""
        a, b = pair
        meter = self.bench.meters["fine"]
        shown = rig.measure(self.simulated, meter, "volts_low", a, b) if b is not None else None
        return shown is not None and (shown.value or 0.0) < HANDS_IN_V

    def known_source(self, meter_id: str) -> KnownSource:
        """What the meter shows on the proving unit, before and after."""
        dc, _ = volt_ranges(meter_id)
        shown = read_volts(f"{KNOWN_V * (1 + self.bench.meters[meter_id].errs[0] * 0.005):.2f}", dc, field="known")
        return KnownSource(shown, shown)

    def check_hands(self, work: Work, why: str) -> None:
        """A hand where the record allows one, and what it would meet in truth."""
        volts = self.bench.hand_on(work.place)
        if volts > truth.HANDS_V:
            self.run.touched += 1
            self.run.tell(f"TOUCHED: {volts:.0f} V on {work.place.name}, and {why}.")

    # Measuring and deciding

    def able(self, ask: Measurement) -> bool:
        """Whether a meter of the workshop can take a measurement as fine as it is asked for."""
        return any(fine_enough(specification(name), ask) for name in KNOWN_METERS)

    def assess(self, work: Work) -> None:
        """Lifted, measured as it is asked, judged."""
        if work.state == "kept shorted" and not self.unlink(work):
            self.run.tell(f"{work.place.name}: it cannot be measured without its link.")
        self.bench.lift(work.place)
        while True:
            verdict = judge(work.position, work.evidence, today=TODAY, able=self.able)
            ask = verdict.next_measurement
            if ask is None:
                break
            if len(work.readings) >= MOST_MEASURED * len(work.position.parts):
                self.run.endless += 1
                break
            reading = self.take_reading(work, ask)
            if reading is None:
                break
            work.readings.append(reading)
        work.verdict = verdict
        self.touch_part(work)
        self.run.measurements.append(math.ceil(len(work.readings) / len(work.position.parts)))
        self.run.tell(f"{work.place.name}: {verdict.word}. {verdict.reasons[0].sentence}")
        if verdict.word == Word.UNKNOWN:
            self.run.endless += 1
        self.count_verdict(work)

    def touch_part(self, work: Work) -> None:
        """Hands on a part that was read, or on its link where it may hide a charge."""
        plan = plan_position(work.position, work.evidence)
        hidden = plan and hides_charge(work.position.marking, work.evidence, role=work.position.role, charge=plan)
        if hidden:
            self.run.tell(f"{work.place.name}: {hidden}")
            self.link(work)
        else:
            self.bench.handle(work.place)
            self.check_hands(work, f"the record says {work.state}, and it was read")

    def empty_lifted(self, name: str) -> None:
        """A part that turned out charged, emptied by itself through the tool; another meter where one died of it."""
        single = self.bench.alone(name)
        for k in range(len(single.capacitors[name].sections)):
            single.join(*single.terminals(name, k), 1e3, 30.0)
        self.bench.meters |= {key: meter for key, meter in rig.meters(self.run.seed).items() if self.bench.meters[key].dead}

    def part_of(self, work: Work, number: int) -> tuple[str, int]:
        """The capacitor and its section that a part of a place is."""
        names = work.place.capacitors
        return (names[number], 0) if len(names) > 1 else (names[0], number)

    def take_reading(self, work: Work, ask: Measurement) -> Reading | None:
        """One measurement as it is asked for, typed and read."""
        name, k = self.part_of(work, ask.section)
        times = sum(r.quantity == ask.quantity and r.section == ask.section for r in work.readings)
        shown, meter_id = self.bench.measured(name, k, ask, times)
        text = typed(shown, ask.quantity)
        if charged_by(ask.quantity, shown.volts):
            self.run.tell(f"{work.place.name}: {charged_by(ask.quantity, shown.volts)}")
            self.empty_lifted(name)
        if not text:
            self.run.tell(f"{work.place.name}: the {meter_id} shows {shown.text}: it holds a charge, emptied again.")
            work.charged += 1
            self.empty_lifted(name)
            return None if work.charged > EMPTIES else self.take_reading(work, ask)
        return self.typed_reading(work, ask, text, meter_id, shown)

    def typed_reading(self, work: Work, ask: Measurement, text: str, meter_id: str, shown: rig.Shown) -> Reading | None:
        """What was typed, as the product reads it."""
        said = TypedReading(
            text, ask.quantity, Condition.LIFTED, frequency=f"{shown.hertz:g} Hz" if shown.hertz else "",
            volts=f"{shown.volts:g} V" if shown.volts else "", after=f"{shown.seconds:.3g} s" if shown.seconds else "",
        )  # fmt: skip
        try:
            taken = take(said, specification(meter_id), work.position)
        except InputError as error:
            self.run.questions += 1
            self.run.tell(f"{work.place.name}: {text}: {error.sentence}")
            return None
        self.run.tell(f"{work.place.name}: {ask.quantity} {text} with the {meter_id}.")
        value = taken.value
        return Reading(
            value.value, value.low, value.high, taken.condition, ask.section, meter_id, taken.quantity, taken.frequency_hz,
            volts=taken.volts, seconds=taken.seconds,
        )  # fmt: skip

    def states(self, work: Work) -> list[State]:
        """What the parts of a place are."""
        unbled = {fault.part for fault in self.simulated.faults if fault.what == "bleeder_open"} - self.changed
        return [State.BAD if name in unbled else truth.state_of(self.simulated.capacitors[name]) for name in work.place.capacitors]

    def count_verdict(self, work: Work) -> None:
        """Bad kept and good replaced."""
        run, states, word = self.run, self.states(work), work.verdict.word if work.verdict else Word.UNKNOWN
        replaced = word in (Word.REPLACE, Word.CONDEMN)
        if State.BAD in states:
            run.bad += 1
            kept = word == Word.KEEP
            run.bad_kept += kept
            if kept:
                run.story.append(f"BAD KEPT: {work.place.name}.")
        elif all(state is State.SOUND for state in states):
            run.good += 1
            run.good_replaced += replaced
            if replaced:
                run.story.append(f"GOOD REPLACED: {work.place.name}.")
        elif State.INTERMITTENT in states:
            run.intermittent_kept += word == Word.KEEP

    # Choosing and fitting

    def renew(self, work: Work) -> bool:
        """Another part chosen and fitted, or the place left empty where that is offered; False where the job waits for one."""
        old = self.simulated.capacitors[work.place.capacitors[0]]
        classes = truth.classes_of(old)
        if work.position.equipment.live_chassis and work.position.role is Role.Y:
            work.removed = True
            self.run.tell(f"{work.place.name}: live chassis, no Y part is offered; removed and left empty.")
            return True
        offered = self.offers(work, old, classes)
        try:
            need = need_of(work.position)
        except InputError as error:
            self.run.tell(f"{work.place.name}: {error.sentence}")
            self.run.waits += 1
            return False
        accepted = rank(need, [part for part, _ in offered.values()]).accepted
        if not accepted and work.position.role is Role.Y and work.position.equipment.two_core:
            work.removed = True
            self.run.tell(f"{work.place.name}: nothing may lead to a chassis without an earth; removed and left empty.")
            return True
        if not accepted:
            why = need.open_question or need.asks_class or "nothing at hand may take its place: ordered"
            self.run.tell(f"{work.place.name}: {why}")
            self.run.waits += 1
            return False
        best = next((one for one in accepted if not one.to_sign), accepted[0])
        if best.to_sign:
            self.run.questions += 1
        facts = offered[best.part.part_id][1]
        return self.fit(work, old, classes, best.part, facts)

    def offers(self, work: Work, old: Capacitor, classes: set[str]) -> dict[str, tuple[Part, Offered | None]]:
        """What is at hand: the drawer, the shop, the maker's own spare; nothing but that for a part of several sections."""
        own = work.position.marking
        found: dict[str, tuple[Part, Offered | None]] = {
            "maker's own": (
                Part(
                    "maker's own",
                    likely_kind(own, work.position.role),
                    own,
                    size_mm=(10, 8, 15),
                    dvdt_v_s=1e9,
                    peak_a=99.0,
                    ripple_a=9.0,
                ),
                None,
            )
        }
        if any(s.marked_f < NETWORK_F for s in old.sections) and len(old.sections) == 3:
            network = read_marking(NETWORK)
            found["shop"] = (replace(found["maker's own"][0], part_id="shop", kind=PartKind.FILM_SAFETY, marking=network), None)
        if len(old.sections) == 1:
            for one in (*drawer_for(old, self.luck), *spares_for(old, classes, self.luck)):
                found[one.part.part_id] = (one.part, one)
        return found

    def fit(self, work: Work, old: Capacitor, classes: set[str], part: Part, one: Offered | None) -> bool:
        """The chosen part in its place, in every one of a bank or a string."""
        supply, earthed = work.position.supply_v or 0.0, work.position.equipment.protection == "I"
        if one is not None and not truth.is_fit(old, classes, supply, earthed=earthed, space=SPACE, one=one.facts):
            self.run.unfit += 1
            self.run.tell(f"UNFIT: {one.facts.label()} for {work.place.name}, “{old.printed}”.")
        for name in work.place.capacitors:
            was = self.simulated.capacitors[name]
            self.bench.out.pop(name, None)
            self.simulated.fit(as_fitted(was, one.facts, self.luck) if one else like_new(was, self.luck))
        self.changed.add(work.place.name)
        self.run.tell(f"{work.place.name}: fits {part.marking.text}.")
        work.position = replace(work.position, marking=part.marking)
        work.readings = []
        return True

    # Power and hand-back

    def first_power(self) -> bool:
        """Brought up by the plan, judged at each step; what a stop shows is mended, and it begins again."""
        expected = manual.healthy(self.simulated.drawing.id)
        kind = manual.KINDS.get(self.simulated.drawing.id) or usual_kind({work.position.role for work in self.works})
        rail = expected.rail_v if KINDS[kind].get("rail", True) and kind != "motor" else None
        plan = power_up_plan(
            kind,
            rail_v=rail,
            current_a=expected.current_a,
            percents=STEPS if KINDS[kind]["ramp"] and "percents" not in KINDS[kind] else None,
        )
        for _ in range(ROUNDS):
            stopped = self.bring_up(plan, expected, rail=rail is not None)
            if not stopped:
                return True
            if not self.mend():
                self.run.needless_stop += 1
                self.run.tell("Nothing is found that explains it; says so, and goes on.")
                return True
        self.run.endless += 1
        return False

    def bring_up(self, plan: Sequence[Step], expected: manual.Healthy, *, rail: bool) -> bool:
        """Steps up to the first that is not as expected; True for a stop."""
        log: list[Logged] = []
        for work in self.works:
            self.take_off(work)
        for step in plan:
            self.simulated.plug(step.percent)
            manual.settle(self.simulated)
            read = manual.read(self.simulated)
            log.append(self.logged(step, read))
            trend = read_trend(plan, log)
            self.run.tell(f"At {step.percent:g} %: {read.rail_v:.1f} V, {read.current_a:.3g} A. {trend.sentence}")
            if trend.stop:
                self.simulated.unplug()
                self.simulated.wait(1.0)
                return True
            if step.percent == 100.0 and truth.power_shows(expected, read, rail=rail):
                self.run.missed_stop += 1
                self.run.tell(f"MISSED: the manual gives {expected.rail_v:.1f} V and {expected.current_a:.3g} A.")
        self.simulated.unplug(90.0)
        self.simulated.wait(PINS_AFTER_S)
        self.pins_v = abs(self.simulated.volts(*manual.supply_line(self.simulated)))
        return False

    def logged(self, step: Step, read: manual.Healthy) -> Logged:
        """Rail and current as the meters show them."""
        hand, clamp = (self.bench.meters[name].errs[0] for name in ("hand", "clamp"))
        volts = read.rail_v * (1 + 0.005 * hand) if step.rail_v is not None else None
        ampere = read.current_a * (1 + 0.015 * clamp) + 0.002 * clamp
        return Logged(step.percent, volts, max(ampere, 0.0))

    def mend(self) -> bool:
        """What is wrong besides capacitors is found and changed; whatever holds a charge is made dead first."""
        wrong = [piece for piece in self.simulated.pieces.values() if piece.fault]
        bad = [work for work in self.works if State.BAD in self.states(work) and not work.removed]
        if not wrong and not bad:
            return False
        for work in self.works:
            work.state = "unknown"
        if not self.make_dead():
            return False
        for piece in wrong:
            self.simulated.fit(replace(piece, fault="", at=1.0))
            self.run.tell(f"Finds {piece.name} {piece.fault}, and changes it.")
        for work in bad:
            for name in work.place.capacitors:
                self.simulated.fit(like_new(self.simulated.capacitors[name], self.luck))
            self.run.tell(f"Finds {work.place.name} bad after all, and changes it.")
        return True

    def hand_back(self) -> None:
        """What goes back, and whether it comes back within a year."""
        self.check_pins()
        left = [piece.name for piece in self.simulated.pieces.values() if piece.fault]
        aged = [name for name, part in self.simulated.capacitors.items() if truth.state_of(a_year_on(part)) is State.BAD]
        aged = [name for name in aged if not any(work.removed and name in work.place.capacitors for work in self.works)]
        if left or aged:
            self.run.returns += 1
            self.run.story.append(f"Comes back within a year: {', '.join((*left, *aged))}.")
        self.run.tell("Handed back.")

    def check_pins(self) -> None:
        """What the pins hold after unplugging, ten times; where it is too much its bleeder is looked for."""
        places = [work.position for work in self.works]
        across = on_the_pins(places)
        if not across or self.simulated.drawing.id in FIXED:
            return
        farads, volts = behind_plug(across).across_f, across[0].supply_v or 0.0
        rows = limits_of(limits_table(), None, role=None, capacitance_f=farads, from_v=rule_voltage(volts).volts)
        protection = self.works[0].position.equipment.protection
        checks = checks_for(Repaired(protection, False, True, places, frozenset(self.changed), pins=rows))
        check = next((one for one in checks if one.id == "pins"), None)
        if check is None:
            return
        phases = [abs(math.sin(math.tau * self.luck.random())) for _ in range(check.readings)]
        typed_ = " ".join(f"{self.pins_v * phase:.1f}" for phase in phases)
        said = take_check(check, typed_, specification("hand"))
        self.run.tell(f"Plug pins: {said.sentence}")
        if said.outcome is not Outcome.PASSES:
            for piece in [one for one in self.simulated.pieces.values() if one.fault]:
                self.simulated.fit(replace(piece, fault="", at=1.0))
                self.run.tell(f"Finds {piece.name} {piece.fault}, and changes it.")


def a_year_on(part: Capacitor) -> Capacitor:
    """A part a year later: what wore it goes on as it did."""
    if part.years <= 0:
        return part
    sections = tuple(replace(one, kept=max(one.kept - (1 - one.kept) / max(part.years, 1.0), 0.05)) for one in part.sections)
    return replace(part, years=part.years + 1, sections=sections)
