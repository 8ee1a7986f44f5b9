"""Part against place, over every role: may it take it, or which rule refuses it. And what holds of every answer."""

import itertools
import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.circuit.dropper import with_needs
from dusky_heron.core.errors import InputError
from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import (
    Basis,
    Dropper,
    Equipment,
    LoadState,
    Need,
    OldPart,
    Origin,
    Part,
    PartKind,
    Policy,
    Position,
    Role,
    Surroundings,
    Topology,
)
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.selection.consequences import touch_of
from dusky_heron.core.selection.rules import HARD_IDS, HARD_RULES
from tests.core.replacing import pairs

K, R = PartKind, Role
FILTER, PAIR, DROP = "1 µF K X2 305 V~", "3n3 M Y2 300 V~", "680 nF K X2 305 V~"
PUMP, START, CAN = "16 µF ±5 % 450 V~ cl. B P2 25/085/21", "189-227 µF 250 VAC", "32 µF 500 VDC"
BULK, LINK, FLASH, OVEN = "82 µF M 400 VDC 105 °C", "1500 µF M 400 V", "1200 µF 360 V", "1.05 µF ±3 % 2100 V~"
COUPLING, TIMER, SMOOTH, SNUB, LAMP = (
    "100 nF K 400 VDC",
    "470 nF J 63 VDC",
    "470 µF M 25 V",
    "47 nF J 1600 VDC",
    "4 µF ±10 % 250 V~",
)

HUNGRY = Dropper(Topology.BRIDGE, 24, (LoadState("valve", 40e-3, needed_f=700e-9),))


def place(role: Role, printed: str, **more: Any) -> Need:
    return need_of(Position("C1", role, read_marking(printed), 230, 50, **more))


def part(kind: PartKind, marking: str, **more: Any) -> Part:
    return Part(marking, kind, read_marking(marking), **more)


def refusals(need: Need, offered: Part, policy: Policy | None = None) -> set[str]:
    selection = rank(need, [offered], policy or Policy())
    return {reason.rule_id for row in selection.rejected for reason in row.reasons}


# For each rule a place and a part that it alone refuses: what another rule says as well would hide that this one is dead.
EARTHED = {"equipment": Equipment("I")}
ON_MAINS = {"surroundings": Surroundings(basis=Basis.MAINS)}
PLATE = {"surroundings": Surroundings(basis=Basis.MOTOR, volts=400)}
BRIDGE = {"surroundings": Surroundings(basis=Basis.RECTIFIED)}
WITNESSES: dict[str, tuple[Role, str, dict[str, Any], PartKind, str, dict[str, Any]]] = {
    "marking.place": (R.X, "1 µF K X2 305 V~ 47X9", {}, K.FILM_SAFETY, FILTER, {}),
    "marking.provisional": (R.X, FILTER, {}, K.FILM_SAFETY, "1 µF K X2 310 V~ 47X9", {}),
    "role.polarity": (R.SMOOTHING, "10 µF NP 50 V", {}, K.ELECTROLYTIC, "10 µF 50 V", {}),
    "role.start_for_run": (R.MOTOR_RUN, "16 µF ±5 % 450 V~", {}, K.MOTOR_START, "16 µF ±5 % 450 V~", {}),
    "role.dc_on_mains": (R.POWER_FACTOR, LAMP, {}, K.FILM_DC, "4 µF K 630 VDC 250 V~", {}),
    "role.motor_part": (R.MOTOR_RUN, "16 µF ±5 % 450 V~", {}, K.FILM_AC, "16 µF ±5 % 450 V~", {}),
    "role.pulse_store": (R.ENERGY_STORE, FLASH, {}, K.ELECTROLYTIC, FLASH, {}),
    "role.flash_for_filter": (R.RESERVOIR, CAN, {}, K.PULSE_ELECTROLYTIC, CAN, {}),
    "kind.old": (R.COUPLING, "100 nF K MKT 400 VDC", {}, K.CERAMIC, "100 nF K 500 VDC", {}),
    "role.kind": (R.X, FILTER, {}, K.MOTOR_RUN, "1 µF K X2 310 V~", {}),
    "duty.service": (R.POWER_FACTOR, LAMP, {}, K.FILM_AC, "4 µF ±10 % 250 V~ INT", {}),
    "class.safety": (R.Y, PAIR, EARTHED, K.FILM_SAFETY, "3n3 M X1 440 V~", {}),
    "class.live_chassis": (R.Y, PAIR, {"equipment": Equipment("I", live_chassis=True)}, K.CERAMIC_SAFETY, PAIR, {}),
    "voltage.unknown": (R.TIMING, "470 nF J", {}, K.FILM_DC, TIMER, {}),
    "voltage.safety": (R.X, "1 µF K 400 VDC", {}, K.FILM_SAFETY, "1 µF K X2 220 V~", {}),
    "voltage.ac": (R.MOTOR_RUN, "16 µF ±5 % 450 V~", {}, K.MOTOR_RUN, "16 µF ±5 % 440 V~", {}),
    "voltage.dc": (R.TIMING, TIMER, {}, K.FILM_DC, "470 nF J 50 VDC", {}),
    "voltage.old": (R.MOTOR_RUN, "16 µF ±5 % 450 V~", PLATE, K.MOTOR_RUN, "16 µF ±5 % 440 V~", {}),
    "touch.current": (R.Y, "10n M Y1 400 V~", {"equipment": Equipment("II")}, K.CERAMIC_SAFETY, "10n M Y1 400 V~", {}),
    "sections.count": (R.RESERVOIR, "32+32 µF 500 VDC", {}, K.ELECTROLYTIC, CAN, {}),
    "duty.operating_class": (R.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. B", {}, K.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. C", {}),
    "duty.protection": (R.MOTOR_RUN, "16 µF ±5 % 450 V~ P2", {}, K.MOTOR_RUN, "16 µF ±5 % 450 V~ P1", {}),
    "duty.fault_current": (R.MOTOR_RUN, "16 µF ±5 % 450 V~ 10 000 AFC", {}, K.MOTOR_RUN, "16 µF ±5 % 450 V~", {}),
    "pulse.dvdt": (R.SNUBBER, SNUB, {"old": OldPart(dvdt_v_s=1e9)}, K.FILM_PULSE, SNUB, {"dvdt_v_s": 5e8}),
    "pulse.peak": (R.SNUBBER, SNUB, {"old": OldPart(peak_a=20)}, K.FILM_PULSE, SNUB, {"peak_a": 15}),
    "circuit.simulated": (R.DROPPER, DROP, {"surroundings": Surroundings(dropper=HUNGRY)}, K.FILM_SAFETY, DROP, {}),
    "capacitance.window": (R.X, FILTER, {}, K.FILM_SAFETY, "1.6 µF K X2 310 V~", {}),
    "value.tolerance": (R.TIMING, TIMER, {}, K.FILM_DC, "470 nF K 63 VDC", {}),
    "ripple.current": (R.SMPS_BULK, BULK, {"old": OldPart(ripple_a=0.6)}, K.ELECTROLYTIC, BULK, {"ripple_a": 0.5}),
    "esr.higher": (R.SMPS_BULK, BULK, {"old": OldPart(esr_ohm=0.6)}, K.ELECTROLYTIC, BULK, {"esr_ohm": 0.7}),
    "temperature.upper": (R.SMPS_BULK, BULK, {}, K.ELECTROLYTIC, "82 µF M 400 VDC 85 °C", {}),
    "policy.salvaged": (R.RESERVOIR, CAN, {}, K.ELECTROLYTIC, CAN, {"origin": Origin.SALVAGED}),
    "fit.space": (R.RESERVOIR, CAN, {"space_mm": (20.0, 20.0, 40.0)}, K.ELECTROLYTIC, CAN, {"size_mm": (21.0, 20.0, 40.0)}),
    "fit.pitch": (R.X, FILTER, {"pitch_mm": 22.5}, K.FILM_SAFETY, FILTER, {"pitch_mm": 37.5}),
}


class Witnesses(unittest.TestCase):
    """Every rule refuses something by itself."""

    def test_each_rule_alone_refuses_its_witness(self) -> None:
        policies = {"policy.larger": Policy(larger=False), "policy.dual": Policy(dual="singles")}
        self.assertEqual({rule.id for rule in HARD_RULES} - set(policies), set(WITNESSES))
        for rule_id, (role, old, around, kind, marking, made) in WITNESSES.items():
            with self.subTest(rule_id):
                self.assertEqual(refusals(place(role, old, **around), part(kind, marking, **made)), {rule_id})
        grown = part(K.FILM_SAFETY, "1.2 µF K X2 310 V~")
        dual = "30+5 µF ±6 % 370/440 VAC"
        self.assertEqual(refusals(place(R.X, FILTER), grown, policies["policy.larger"]), {"policy.larger"})
        self.assertEqual(refusals(place(R.MOTOR_RUN, dual), part(K.MOTOR_RUN, dual), policies["policy.dual"]), {"policy.dual"})


class Rest(unittest.TestCase):
    """Rules that ask for more than two markings."""

    def test_ripple_and_dvdt_are_held_against_what_is_known(self) -> None:
        """What is not on record of the place is signed for; what is known of it is not met by what nobody knows."""
        bulk, snubber = place(R.SMPS_BULK, BULK, old=OldPart(ripple_a=0.6)), place(R.SNUBBER, SNUB, old=OldPart(dvdt_v_s=1e9))
        weak, strong = (part(K.ELECTROLYTIC, BULK, ripple_a=amps) for amps in (0.4, 0.8))
        self.assertEqual(refusals(bulk, weak), {"ripple.current"})
        self.assertEqual(rank(bulk, [strong]).accepted[0].to_sign, ())
        self.assertEqual(refusals(bulk, part(K.ELECTROLYTIC, BULK, ripple_a=0.6)), set())
        self.assertEqual(refusals(bulk, part(K.ELECTROLYTIC, BULK)), {"ripple.current"})
        self.assertIn("ripple", rank(place(R.SMPS_BULK, BULK), [strong]).accepted[0].to_sign[0])
        low = place(R.SMPS_BULK, BULK, old=OldPart(esr_ohm=0.6))
        for ohm, against in ((None, {"esr.higher"}), (0.61, {"esr.higher"}), (0.6, set()), (0.3, set())):
            self.assertEqual(refusals(low, part(K.ELECTROLYTIC, BULK, esr_ohm=ohm)), against)
        for dvdt, refused in ((None, {"pulse.dvdt"}), (0.99e9, {"pulse.dvdt"}), (1e9, set()), (2e9, set())):
            self.assertEqual(refusals(snubber, part(K.FILM_PULSE, SNUB, dvdt_v_s=dvdt)), refused)
        unread = rank(place(R.SNUBBER, SNUB), [part(K.FILM_PULSE, SNUB, dvdt_v_s=2e9)]).accepted[0]
        self.assertIn("dv/dt", unread.to_sign[0])
        half = rank(place(R.SNUBBER, SNUB, old=OldPart(dvdt_v_s=1e9)), [part(K.FILM_PULSE, SNUB, dvdt_v_s=2e9)]).accepted[0]
        self.assertIn("peak current", half.to_sign[0])

    def test_a_salvaged_part_ranks_behind_a_new_one_whatever_it_costs(self) -> None:
        """And a shelved electrolytic is re-formed first."""
        need, policy = place(R.RESERVOIR, CAN), Policy(frozenset({R.RESERVOIR}))
        free = part(K.ELECTROLYTIC, CAN, origin=Origin.SALVAGED, price=0.0)
        shelved = part(K.ELECTROLYTIC, "33 µF 500 VDC", origin=Origin.OLD_STOCK, price=0.5)
        new = part(K.ELECTROLYTIC, "34 µF 500 VDC", price=9.0)
        ranked = rank(need, [free, shelved, new], policy).accepted
        self.assertEqual(ranked[-1].part, free)
        self.assertIn("Salvaged: its measurements on record before it goes in.", ranked[-1].conditions)
        self.assertTrue(any("re-form" in said for row in ranked if row.part == shelved for said in row.conditions))
        self.assertEqual(refusals(need, free, Policy()), {"policy.salvaged"})

    def test_a_dropper_is_held_against_its_circuit(self) -> None:
        """34 mA at 207 V need 636 nF; a 1 W zener on 24 V takes 8 + 41 mA at 253 V: 49.7 mA, about 750 nF."""
        noted = Dropper(Topology.BRIDGE, 24, (LoadState("standby", 8e-3), LoadState("valve", 34e-3)), zener_w=1.0)
        around = Surroundings(dropper=with_needs(noted, 230, 50))
        need = place(R.DROPPER, DROP, surroundings=around)
        least, most = need.circuit
        self.assertAlmostEqual(least.farads * 1e9, 636, delta=2)
        self.assertAlmostEqual(most.farads * 1e9, 740, delta=20)
        self.assertEqual(refusals(need, part(K.FILM_SAFETY, "620 nF J X2 310 V~")), {"circuit.simulated"})
        self.assertEqual(refusals(need, part(K.FILM_SAFETY, "748 nF J X2 310 V~")), {"circuit.simulated"})
        self.assertEqual(refusals(need, part(K.FILM_SAFETY, DROP)), set())
        tight = replace(noted, zener_w=0.5)  # too hot as it is: nothing of the marked value may go back
        self.assertIn("circuit.simulated", refusals(place(R.DROPPER, DROP, surroundings=Surroundings(
            dropper=with_needs(tight, 230, 50))), part(K.FILM_SAFETY, DROP)))  # fmt: skip

    def test_more_to_the_chassis_than_marked_is_not_taken_before_touch_current_was_computed(self) -> None:
        """Whatever was overridden: a value above the marked one asks for the standard and the class of the equipment."""
        larger, open_window = part(K.CERAMIC_SAFETY, "3n9 M Y2 300 V~"), Policy(overridden=frozenset({"capacitance.window"}))
        self.assertEqual(refusals(place(R.Y, PAIR, **EARTHED), larger, open_window), {"touch.current"})
        at = Position("C1", R.Y, read_marking(PAIR), 230, 50, equipment=Equipment("I"))
        computed = need_of(at, (), touch_of(at, (), "IEC 60335-1 (22.5)"))
        self.assertEqual(refusals(computed, larger), set())  # 4.68 nF carry 0.37 mA of 0.75
        self.assertEqual(refusals(computed, part(K.CERAMIC_SAFETY, "47n M Y2 300 V~")), {"touch.current"})  # 4.5 mA of 3.5

    def test_a_demand_may_be_overridden_and_says_so_what_is_hard_never(self) -> None:
        need, larger = place(R.X, FILTER), part(K.FILM_SAFETY, "2.2 µF K X2 310 V~")
        taken = rank(need, [larger], Policy(overridden=frozenset({"capacitance.window"}))).accepted[0]
        self.assertTrue(any(said.startswith("Overridden: 2.2 µF is outside") for said in taken.conditions))
        for rule_id in ("class.safety", "role.polarity", "no.such"):
            with self.assertRaises(InputError) as caught:
                rank(need, [larger], Policy(overridden=frozenset({rule_id})))
            self.assertEqual(caught.exception.field, "overridden")


PAIRS = list(pairs())
OFFERED = list({(pair.part.kind, pair.part.part_id): pair.part for pair in PAIRS}.values())
PLACES = [need_of(position) for position in {id(pair.position): pair.position for pair in PAIRS}.values()][::3]
DEMANDS = [rule.id for rule in HARD_RULES if rule.demand]


class Properties(unittest.TestCase):
    """What holds of every answer."""

    @settings(max_examples=60, deadline=None)
    @given(st.sampled_from(PLACES), st.sets(st.sampled_from(DEMANDS)), st.sets(st.sampled_from(list(Role))))
    def test_nothing_accepted_breaks_what_is_hard(self, need: Need, overridden: set[str], salvaged: set[Role]) -> None:
        """Whatever the policy and whatever was overridden."""
        drawer = [*OFFERED[::3], *(replace(one, origin=Origin.SALVAGED) for one in OFFERED[1::3])]
        policy = Policy(frozenset(salvaged), frozenset(overridden))
        for row in rank(need, drawer, policy).accepted:
            broken = [r.id for r in HARD_RULES if r.id in HARD_IDS and r.applies(need.role) and r.check(need, row.part, policy)]
            self.assertEqual(broken, [])

    @settings(max_examples=20, deadline=None)
    @given(st.sampled_from(PLACES))
    def test_every_part_is_answered_once_and_every_refusal_has_reason_and_source(self, need: Need) -> None:
        selection = rank(need, OFFERED)
        self.assertEqual(len(selection.accepted) + len(selection.rejected), len(OFFERED))
        for reason in itertools.chain.from_iterable(row.reasons for row in selection.rejected):
            self.assertTrue(reason.sentence.endswith(".") and reason.source, reason)
            self.assertEqual(reason.hard, reason.rule_id in HARD_IDS)

    def test_raising_a_rating_or_adding_a_class_never_turns_acceptable_into_unacceptable(self) -> None:
        families = (
            (R.X, FILTER, K.FILM_SAFETY, [f"1 µF K {c} {v} V~" for v in (275, 305, 310, 480) for c in ("X2", "X1")]),
            (R.Y, PAIR, K.CERAMIC_SAFETY, [f"3n3 M {c} {v} V~" for v in (250, 300, 400) for c in ("Y2", "Y1", "X1Y1")]),
            (R.DROPPER, DROP, K.FILM_SAFETY, [f"680 nF K {c} {v} V~" for v in (275, 305, 480) for c in ("X2", "X1")]),
            (R.SMPS_BULK, BULK, K.ELECTROLYTIC, [f"82 µF M {v} VDC {t} °C" for v in (350, 400, 450) for t in (85, 105, 125)]),
            (R.MOTOR_RUN, PUMP, K.MOTOR_RUN,
             [f"16 µF ±5 % {v} V~ cl. {c} P{p} 25/085/21" for v in (400, 450, 500) for c in "CBA" for p in (0, 2)]),
        )  # fmt: skip
        for role, old, kind, rising in families:
            need = place(role, old)
            taken = [not refusals(need, part(kind, marking)) for marking in rising]
            width = {R.MOTOR_RUN: 6, R.SMPS_BULK: 3, R.Y: 3}.get(role, 2)
            for low, high in itertools.pairwise(range(0, len(rising), width)):  # the same, more volts
                for k in range(width):
                    self.assertLessEqual(taken[low + k], taken[high + k], (rising[low + k], rising[high + k]))
            self.assertTrue(any(taken) and not all(taken), role)
