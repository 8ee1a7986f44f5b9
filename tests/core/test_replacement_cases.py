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
from dusky_heron.core.model import Dropper, LoadState, Need, Origin, Part, PartKind, Policy, Position, Role, Surroundings, Topology
from dusky_heron.core.selection import need_of, rank
from dusky_heron.core.selection.rules import HARD_IDS, HARD_RULES

K, R, OK = PartKind, Role, ""
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

CASES = (  # role, old part, kind and marking of the new one, the rule that refuses it ("" for none)
    # X: line to line
    (R.X, FILTER, K.FILM_SAFETY, "1 µF K X2 310 V~ 40/110/56/B", OK),
    (R.X, FILTER, K.FILM_SAFETY, "1 µF K X1 480 V~", OK),
    (R.X, FILTER, K.FILM_SAFETY, "1.5 µF K X2 310 V~", OK),
    (R.X, FILTER, K.FILM_SAFETY, "910 nF K X2 310 V~", OK),
    (R.X, FILTER, K.FILM_SAFETY, "680 nF K X2 310 V~", "capacitance.window"),
    (R.X, FILTER, K.FILM_SAFETY, "2.2 µF K X2 310 V~", "capacitance.window"),
    (R.X, FILTER, K.FILM_SAFETY, "1 µF M X2 275 V~", "voltage.safety"),
    (R.X, FILTER, K.FILM_SAFETY, "1 µF K X3 310 V~", "class.safety"),
    (R.X, FILTER, K.FILM_DC, "1 µF K 630 VDC", "role.dc_on_mains"),
    (R.X, FILTER, K.FILM_DC, "1 µF K 630 VDC", "class.safety"),
    (R.X, FILTER, K.ELECTROLYTIC, "1 µF 450 VDC", "role.polarity"),
    (R.X, FILTER, K.MOTOR_RUN, "1 µF ±5 % 450 V~ cl. B P2", "role.kind"),
    (R.X, FILTER, K.FILM_PULSE, "1 µF J 1600 VDC", "role.dc_on_mains"),
    (R.X, "100 nF 250 V~", K.FILM_SAFETY, "100 nF K X2 275 V~", OK),  # an unclassed old part: the place demands X2
    (R.X, "100 nF 250 V~", K.FILM_AC, "100 nF K 400 V~", "class.safety"),
    # section against section: 40 and 20 µF at 450 V, 20 µF at 25 V
    (R.RESERVOIR, "40/20/20 MFD 450/450/25 WVDC", K.ELECTROLYTIC, "40/20/20 MFD 450/450/50 WVDC", OK),
    (R.RESERVOIR, "40/20/20 MFD 450/450/25 WVDC", K.ELECTROLYTIC, "40/20/20 MFD 450/350/50 WVDC", "voltage.dc"),
    (R.RESERVOIR, "40/20/20 MFD 450/450/25 WVDC", K.ELECTROLYTIC, "40/20/20 MFD 450/25/25 WVDC", "voltage.dc"),
    # a marking that is read in two ways takes no place, and nothing takes its place
    (R.X, FILTER, K.FILM_SAFETY, "1 µF K (X) 310 V~", "marking.provisional"),
    (R.X, FILTER, K.FILM_SAFETY, "1 µF K X2 310 V~ 47X9", "marking.provisional"),
    (R.X, "1 µF K X2 305 V~ 47X9", K.FILM_SAFETY, "1 µF K X2 310 V~", "marking.place"),
    (R.RESERVOIR, "10,000 µF 63 VDC", K.ELECTROLYTIC, "10 000 µF 63 VDC", "marking.place"),
    (R.SMOOTHING, "100 µF 63 V", K.ELECTROLYTIC, "100 µF 63 V", OK),  # the place tells: bare volts on DC
    # Y: line to chassis
    (R.Y, PAIR, K.CERAMIC_SAFETY, "3n3 M Y2 300 V~", OK),
    (R.Y, PAIR, K.CERAMIC_SAFETY, "3n3 M Y1 400 V~", OK),
    (R.Y, PAIR, K.CERAMIC_SAFETY, "2n2 M Y2 300 V~", OK),
    (R.Y, PAIR, K.CERAMIC_SAFETY, "4n7 M Y2 300 V~", "capacitance.window"),
    (R.Y, PAIR, K.CERAMIC_SAFETY, "1n M Y2 300 V~", "capacitance.window"),
    (R.Y, PAIR, K.FILM_SAFETY, "3n3 K X1 440 V~", "class.safety"),
    (R.Y, PAIR, K.FILM_SAFETY, "3n3 K X2 310 V~", "class.safety"),
    (R.Y, PAIR, K.CERAMIC_SAFETY, "3n3 M Y2 250 V~", "voltage.safety"),
    (R.Y, PAIR, K.CERAMIC, "3n3 K 2000 VDC", "role.dc_on_mains"),
    (R.Y, "2n2 M Y1 400 V~", K.CERAMIC_SAFETY, "2n2 M Y2 300 V~", "class.safety"),
    (R.Y, ".01 MFD 600 WVDC", K.CERAMIC_SAFETY, "10n M Y2 300 V~", OK),
    (R.Y, ".01 MFD 600 WVDC", K.FILM_DC, "10n K 1000 VDC", "class.safety"),
    # dropper
    (R.DROPPER, DROP, K.FILM_SAFETY, "680 nF K X2 310 V~ 40/110/56/B", OK),
    (R.DROPPER, DROP, K.FILM_SAFETY, "680 nF K X1 480 V~", OK),
    (R.DROPPER, DROP, K.FILM_SAFETY, "560 nF K X2 310 V~", "capacitance.window"),
    (R.DROPPER, DROP, K.FILM_SAFETY, "820 nF K X2 310 V~", "capacitance.window"),
    (R.DROPPER, DROP, K.FILM_SAFETY, "680 nF M X2 275 V~", "voltage.safety"),
    (R.DROPPER, DROP, K.FILM_DC, "680 nF K 630 VDC", "role.dc_on_mains"),
    (R.DROPPER, DROP, K.FILM_AC, "680 nF K 400 V~", "class.safety"),
    (R.DROPPER, "680 nF K 400 V~", K.FILM_AC, "680 nF K 400 V~", OK),
    (R.DROPPER, "680 nF K 400 V~", K.FILM_AC, "680 nF K 275 V~", "voltage.ac"),
    (R.DROPPER, DROP, K.ELECTROLYTIC, "1 µF 400 VDC", "role.polarity"),
    # motor run
    (R.MOTOR_RUN, PUMP, K.MOTOR_RUN, PUMP, OK),
    (R.MOTOR_RUN, PUMP, K.MOTOR_RUN, "16 µF ±5 % 500 V~ cl. A P2 25/085/21", OK),
    (R.MOTOR_RUN, PUMP, K.MOTOR_RUN, "15 µF ±5 % 450 V~ cl. B P2 25/085/21", "capacitance.window"),
    (R.MOTOR_RUN, PUMP, K.MOTOR_RUN, "16 µF ±5 % 400 V~ cl. B P2 25/085/21", "voltage.ac"),
    (R.MOTOR_RUN, PUMP, K.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. C P2 25/085/21", "duty.operating_class"),
    (R.MOTOR_RUN, PUMP, K.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. B P0 25/085/21", "duty.protection"),
    (R.MOTOR_RUN, PUMP, K.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. B P2 25/070/21", "temperature.upper"),
    (R.MOTOR_RUN, PUMP, K.MOTOR_START, "16-20 µF 330 VAC", "role.start_for_run"),
    (R.MOTOR_RUN, PUMP, K.ELECTROLYTIC, "16 µF 450 VDC", "role.polarity"),
    (R.MOTOR_RUN, PUMP, K.FILM_DC, "16 µF K 630 VDC", "role.dc_on_mains"),
    (R.MOTOR_RUN, PUMP, K.FILM_SAFETY, "16 µF K X2 310 V~", "role.motor_part"),
    (R.MOTOR_RUN, "30+5 µF ±6 % 370/440 VAC", K.MOTOR_RUN, "30+5 µF ±6 % 440 VAC", OK),
    (R.MOTOR_RUN, "30+5 µF ±6 % 370/440 VAC", K.MOTOR_RUN, "30 µF ±6 % 440 VAC", "sections.count"),
    (R.MOTOR_RUN, "16 µF ±5 % 450 V~ 10 000 AFC", K.MOTOR_RUN, "16 µF ±5 % 450 V~", "duty.fault_current"),
    # motor start
    (R.MOTOR_START, START, K.MOTOR_START, START, OK),
    (R.MOTOR_START, START, K.MOTOR_START, "200-220 µF 250 VAC", OK),
    (R.MOTOR_START, START, K.MOTOR_START, "270-324 µF 250 VAC", "capacitance.window"),
    (R.MOTOR_START, START, K.MOTOR_START, "189-227 µF 125 VAC", "voltage.ac"),
    (R.MOTOR_START, START, K.ELECTROLYTIC, "220 µF 450 VDC", "role.polarity"),
    # reservoir, bulk, link
    (R.RESERVOIR, CAN, K.ELECTROLYTIC, "33 µF 500 VDC", OK),
    (R.RESERVOIR, CAN, K.ELECTROLYTIC, "47 µF 500 VDC", OK),
    (R.RESERVOIR, CAN, K.FILM_DC, "32 µF K 600 VDC", OK),
    (R.RESERVOIR, CAN, K.ELECTROLYTIC, "100 µF 500 VDC", "capacitance.window"),
    (R.RESERVOIR, CAN, K.ELECTROLYTIC, "33 µF 450 VDC", "voltage.dc"),
    (R.RESERVOIR, CAN, K.PULSE_ELECTROLYTIC, "33 µF 500 VDC", "role.flash_for_filter"),
    (R.RESERVOIR, CAN, K.MOTOR_RUN, "32 µF ±5 % 450 V~ cl. B P2", "role.kind"),
    (R.RESERVOIR, "32+32 µF 500 VDC", K.ELECTROLYTIC, "33 µF 500 VDC", "sections.count"),
    (R.SMPS_BULK, BULK, K.ELECTROLYTIC, "82 µF M 400 VDC 105 °C", OK),
    (R.SMPS_BULK, BULK, K.ELECTROLYTIC, "100 µF M 450 VDC 105 °C", OK),
    (R.SMPS_BULK, BULK, K.ELECTROLYTIC, "120 µF M 400 VDC 105 °C", "capacitance.window"),
    (R.SMPS_BULK, BULK, K.ELECTROLYTIC, "82 µF M 350 VDC 105 °C", "voltage.dc"),
    (R.SMPS_BULK, BULK, K.ELECTROLYTIC, "82 µF M 400 VDC 85 °C", "temperature.upper"),
    (R.DC_LINK, LINK, K.ELECTROLYTIC, "1500 µF M 450 V", OK),
    (R.DC_LINK, LINK, K.ELECTROLYTIC, "1500 µF M 350 V", "voltage.dc"),
    (R.DC_LINK, LINK, K.PULSE_ELECTROLYTIC, "1500 µF 400 V", "role.flash_for_filter"),
    # energy store, magnetron, snubber: pulses
    (R.ENERGY_STORE, FLASH, K.PULSE_ELECTROLYTIC, "1200 µF 360 V", OK),
    (R.ENERGY_STORE, FLASH, K.ELECTROLYTIC, "1200 µF 400 V", "role.pulse_store"),
    (R.ENERGY_STORE, FLASH, K.PULSE_ELECTROLYTIC, "1500 µF 360 V", "capacitance.window"),
    (R.ENERGY_STORE, FLASH, K.PULSE_ELECTROLYTIC, "1200 µF 330 V", "voltage.dc"),
    (R.MAGNETRON, OVEN, K.HIGH_VOLTAGE_AC, "1.05 µF ±3 % 2100 V~", OK),
    (R.MAGNETRON, OVEN, K.HIGH_VOLTAGE_AC, "1.2 µF ±3 % 2100 V~", "capacitance.window"),
    (R.MAGNETRON, OVEN, K.HIGH_VOLTAGE_AC, "1.05 µF ±3 % 1900 V~", "voltage.ac"),
    (R.MAGNETRON, OVEN, K.MOTOR_RUN, "1 µF ±5 % 450 V~", "role.kind"),
    (R.MAGNETRON, OVEN, K.FILM_DC, "1 µF K 2000 VDC", "role.dc_on_mains"),
    (R.SNUBBER, SNUB, K.FILM_PULSE, "47 nF J 2000 VDC", OK),
    (R.SNUBBER, SNUB, K.FILM_DC, "47 nF J 1600 VDC", "role.kind"),
    (R.SNUBBER, SNUB, K.FILM_PULSE, "47 nF J 1000 VDC", "voltage.dc"),
    # coupling, timing, smoothing, power factor
    (R.COUPLING, COUPLING, K.FILM_DC, "100 nF K 630 VDC", OK),
    (R.COUPLING, COUPLING, K.FILM_DC, "100 nF K 250 VDC", "voltage.dc"),
    (R.COUPLING, COUPLING, K.ELECTROLYTIC, "100 nF 450 VDC", "role.polarity"),
    (R.TIMING, TIMER, K.FILM_DC, "470 nF J 100 VDC", OK),
    (R.TIMING, TIMER, K.FILM_DC, "510 nF J 100 VDC", "capacitance.window"),
    (R.TIMING, TIMER, K.CERAMIC, "470 nF K 100 VDC", "role.kind"),
    (R.SMOOTHING, SMOOTH, K.ELECTROLYTIC, "1000 µF M 25 V", "capacitance.window"),
    (R.SMOOTHING, SMOOTH, K.ELECTROLYTIC, "680 µF M 35 V", OK),
    (R.SMOOTHING, SMOOTH, K.ELECTROLYTIC, "470 µF M 16 V", "voltage.dc"),
    (R.POWER_FACTOR, LAMP, K.FILM_AC, "4 µF ±10 % 250 V~", OK),
    (R.POWER_FACTOR, LAMP, K.FILM_AC, "5 µF ±10 % 250 V~", "capacitance.window"),
    (R.POWER_FACTOR, LAMP, K.FILM_DC, "4 µF K 400 VDC", "role.dc_on_mains"),
)  # fmt: skip


def place(role: Role, old: str, **more: Any) -> Need:
    return need_of(Position("C1", role, read_marking(old), 230, 50, **more))


def part(kind: PartKind, marking: str, **more: Any) -> Part:
    return Part(marking, kind, read_marking(marking), **more)


def refusals(need: Need, offered: Part, policy: Policy | None = None) -> set[str]:
    selection = rank(need, [offered], policy or Policy())
    return {reason.rule_id for row in selection.rejected for reason in row.reasons}


class Cases(unittest.TestCase):
    """Ninety and more of them."""

    def test_every_case(self) -> None:
        self.assertGreaterEqual(len(CASES), 80)
        self.assertEqual({case[0] for case in CASES}, set(Role))
        for role, old, kind, marking, rule in CASES:
            with self.subTest(f"{marking} ({kind}) in {role} for {old}"):
                found = refusals(place(role, old), part(kind, marking))
                self.assertTrue(rule in found if rule else not found, found)

    def test_every_refusal_is_seen_in_some_case(self) -> None:
        """But those of the circuit, of data sheets, of space, of pitch and of policy, which have tests of their own."""
        own = {
            "circuit.simulated",
            "ripple.current",
            "pulse.dvdt",
            "fit.space",
            "fit.pitch",
            "policy.salvaged",
            "policy.larger",
            "policy.dual",
        }
        self.assertEqual({rule.id for rule in HARD_RULES} - {case[4] for case in CASES}, own)


class Rest(unittest.TestCase):
    """Rules that ask for more than two markings."""

    def test_ripple_and_dvdt_are_held_against_what_is_known(self) -> None:
        bulk, snubber = replace(place(R.SMPS_BULK, BULK), ripple_a=0.6), replace(place(R.SNUBBER, SNUB), dvdt_v_s=1e9)
        weak, strong = (part(K.ELECTROLYTIC, BULK, ripple_a=amps) for amps in (0.4, 0.8))
        self.assertEqual(refusals(bulk, weak), {"ripple.current"})
        self.assertEqual(refusals(bulk, strong), set())
        unknown = rank(bulk, [part(K.ELECTROLYTIC, BULK)]).accepted[0]
        self.assertIn("not on record", unknown.conditions[0])
        for dvdt, refused in ((None, {"pulse.dvdt"}), (5e8, {"pulse.dvdt"}), (2e9, set())):
            self.assertEqual(refusals(snubber, part(K.FILM_PULSE, SNUB, dvdt_v_s=dvdt)), refused)

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

    def test_a_demand_may_be_overridden_and_says_so_what_is_hard_never(self) -> None:
        need, larger = place(R.X, FILTER), part(K.FILM_SAFETY, "2.2 µF K X2 310 V~")
        taken = rank(need, [larger], Policy(overridden=frozenset({"capacitance.window"}))).accepted[0]
        self.assertTrue(any(said.startswith("Overridden: 2.2 µF is outside") for said in taken.conditions))
        for rule_id in ("class.safety", "role.polarity", "no.such"):
            with self.assertRaises(InputError) as caught:
                rank(need, [larger], Policy(overridden=frozenset({rule_id})))
            self.assertEqual(caught.exception.field, "overridden")


OFFERED = [part(kind, marking) for _, _, kind, marking, _ in CASES]
PLACES = [place(role, old) for role, old in dict.fromkeys((case[0], case[1]) for case in CASES)]
DEMANDS = [rule.id for rule in HARD_RULES if rule.demand]


class Properties(unittest.TestCase):
    """What holds of every answer."""

    @settings(max_examples=60, deadline=None)
    @given(st.sampled_from(PLACES), st.sets(st.sampled_from(DEMANDS)), st.sets(st.sampled_from(list(Role))))
    def test_nothing_accepted_breaks_what_is_hard(self, need: Need, overridden: set[str], salvaged: set[Role]) -> None:
        """Whatever the policy and whatever was overridden."""
        drawer = [*OFFERED, *(replace(one, origin=Origin.SALVAGED) for one in OFFERED)]
        policy = Policy(frozenset(salvaged), frozenset(overridden))
        for row in rank(need, drawer, policy).accepted:
            broken = [r.id for r in HARD_RULES if r.id in HARD_IDS and r.applies(need.role) and r.check(need, row.part, policy)]
            self.assertEqual(broken, [])

    @settings(max_examples=40, deadline=None)
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
