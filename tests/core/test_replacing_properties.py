"""What holds of every replacement: worse is never better, knowing less never accepts more, and a share is judged as a whole is."""

import unittest
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from dusky_heron.core.markings import read_marking
from dusky_heron.core.model import (
    Basis,
    CircuitLimit,
    Equipment,
    Need,
    OldPart,
    Origin,
    Part,
    PartKind,
    Position,
    Role,
    Surroundings,
)
from dusky_heron.core.selection import need_of, rank, why_before
from dusky_heron.core.selection.combine import VALUE_RULES, combinations, share_of
from dusky_heron.core.selection.rules import HARD_RULES
from dusky_heron.core.selection.ways import Way
from tests.core.replacing import pairs

# What is printed on a part, piece by piece, worst first.
STEPS: dict[str, tuple[str, ...]] = {
    "tolerance": ("±20 %", "±10 %", "±6 %", "±5 %", "±2 %"),
    "volts": ("", "125", "220", "250", "275", "305", "370", "400", "440", "450", "500", "630"),
    "upper": ("", "70", "85", "105", "125"),
    "x": ("", "X3", "X2", "X1"),
    "y": ("", "Y4", "Y3", "Y2", "Y1"),
    "hours": ("", "D", "C", "B", "A"),
    "protection": ("P0", "P1", "P2"),
    "service": ("INT", ""),
}


@dataclass(frozen=True)
class Printed:
    """A part as its pieces are printed: each a step of its ladder."""

    value: str
    sign: str
    tolerance: int
    volts: int
    upper: int
    letters: tuple[tuple[str, int], ...] = ()

    def text(self, without: str = "") -> str:
        """All of it, or without one of its pieces."""
        said = {
            "tolerance": STEPS["tolerance"][self.tolerance],
            "volts": STEPS["volts"][self.volts],
            "upper": STEPS["upper"][self.upper],
        }
        said["volts"] += f" V{self.sign}" if said["volts"] else ""
        said["upper"] += " °C" if said["upper"] else ""
        for name, step in self.letters:
            word = STEPS[name][step]
            said[name] = f"cl. {word}" if name == "hours" and word else word
        return " ".join([self.value, *(word for name, word in said.items() if word and name != without)])


SHAPES = {
    Role.X: ("1 µF", "~", PartKind.FILM_SAFETY, ("x",)),
    Role.Y: ("1n", "~", PartKind.CERAMIC_SAFETY, ("y",)),
    Role.DROPPER: ("680 nF", "~", PartKind.FILM_SAFETY, ("x",)),
    Role.MOTOR_RUN: ("16 µF", "~", PartKind.MOTOR_RUN, ("hours", "protection", "service")),
    Role.POWER_FACTOR: ("4 µF", "~", PartKind.FILM_AC, ("service",)),
    Role.RESERVOIR: ("32 µF", "DC", PartKind.ELECTROLYTIC, ()),
    Role.SMPS_BULK: ("82 µF", "DC", PartKind.ELECTROLYTIC, ()),
    Role.TIMING: ("470 nF", "DC", PartKind.FILM_DC, ()),
    Role.COUPLING: ("100 nF", "DC", PartKind.FILM_DC, ()),
}
WORSE: dict[str, Callable[[Part], Part]] = {
    "origin": lambda p: replace(p, origin=Origin.SALVAGED),
    "stock": lambda p: replace(p, quantity=0),
    "grade": lambda p: replace(p, humidity_grade=False),
    "ripple": lambda p: replace(p, ripple_a=0.4),
    "unread ripple": lambda p: replace(p, ripple_a=None),
    "esr": lambda p: replace(p, esr_ohm=2.0),
    "date": lambda p: replace(p, made=None),
    "size": lambda p: replace(p, size_mm=(30.0, 30.0, 60.0)),
    "pitch": lambda p: replace(p, pitch_mm=52.5),
}


@st.composite
def printed(draw: st.DrawFn, role: Role) -> Printed:
    value, sign, _, letters = SHAPES[role]
    fair = draw(st.booleans())  # half of them at the better end, so that many are accepted
    steps = {name: draw(st.integers(len(ladder) * fair // 2, len(ladder) - 1)) for name, ladder in STEPS.items()}
    return Printed(value, sign, steps["tolerance"], steps["volts"], steps["upper"], tuple((name, steps[name]) for name in letters))


def part(role: Role, text: str, name: str = "p", **more: Any) -> Part:
    best: dict[str, Any] = {"humidity_grade": True, "ripple_a": 1.0, "esr_ohm": 0.1, "made": 2024.0, "size_mm": (10.0, 10.0, 20.0),
                            "pitch_mm": 15.0}  # fmt: skip
    return Part(name, SHAPES[role][2], read_marking(text), **{**best, **more})


def place(role: Role, text: str, supply: float | None, kept: str) -> Need:
    around = {"mains": Surroundings(), "rectified": Surroundings(Basis.RECTIFIED), "plate": Surroundings(Basis.MOTOR, 400.0)}[kept]
    old = OldPart(ripple_a=0.5, esr_ohm=1.0)
    return need_of(
        Position(
            "C1", role, read_marking(text), supply, 50.0, surroundings=around, equipment=Equipment("I"), old=old,
            space_mm=(20.0, 20.0, 40.0), pitch_mm=15.0,
        )
    )  # fmt: skip


ROLES_DRAWN = st.sampled_from(list(SHAPES))
PLACES = st.tuples(
    st.sampled_from([100.0, 120.0, 230.0, 277.0, 400.0, 480.0, None]), st.sampled_from(["mains", "rectified", "plate"])
)


class Monotone(unittest.TestCase):
    """Over roles, places and parts drawn."""

    @settings(max_examples=400, deadline=None)
    @given(st.data(), ROLES_DRAWN, PLACES)
    def test_a_worse_part_is_neither_accepted_where_a_better_is_not_nor_ranked_before_it(
        self, data: st.DataObject, role: Role, around: tuple[float | None, str]
    ) -> None:
        need = place(role, data.draw(printed(role)).text(), *around)
        has = data.draw(printed(role))
        made: dict[str, Callable[[], Part]] = {
            name: lambda name=name: part(role, replace(has, **{name: getattr(has, name) - 1}).text())  # type: ignore[misc]
            for name in ("tolerance", "volts", "upper")
            if getattr(has, name) > 0
        }
        for name, step in has.letters:
            if step > 0:
                lower = tuple((n, s - (n == name)) for n, s in has.letters)
                made[name] = lambda lower=lower: part(role, replace(has, letters=lower).text())  # type: ignore[misc]
        better = part(role, has.text(), "a")
        made |= {name: lambda change=change: change(part(role, has.text())) for name, change in WORSE.items()}  # type: ignore[misc]
        for name, change in made.items():
            worse = replace(change(), part_id="b")
            accepted = [row.part.part_id for row in rank(need, [worse, better]).accepted]
            self.assertIn(accepted, ([], ["a"], ["a", "b"]), (name, better.marking.text, worse.marking.text))

    @settings(max_examples=300, deadline=None)
    @given(st.data(), ROLES_DRAWN, PLACES)
    def test_knowing_less_of_the_offered_part_never_accepts_more(
        self, data: st.DataObject, role: Role, around: tuple[float | None, str]
    ) -> None:
        need = place(role, data.draw(printed(role)).text(), *around)
        has = data.draw(printed(role))
        whole = bool(rank(need, [part(role, has.text())]).accepted)
        for piece in ("volts", "upper", *(name for name, _ in has.letters if name != "service")):
            less = part(role, has.text(without=piece))
            self.assertLessEqual(bool(rank(need, [less]).accepted), whole, (piece, has.text()))

    @settings(max_examples=200, deadline=None)
    @given(st.data(), st.sampled_from([role for role in SHAPES if SHAPES[role][1] == "DC"]))
    def test_knowing_less_of_the_old_part_never_accepts_more(self, data: st.DataObject, role: Role) -> None:
        """Its volts, where its circuit is not known; what it is made as."""
        was, offered = data.draw(printed(role)), part(role, data.draw(printed(role)).text())
        less = place(role, was.text(without="volts"), 230.0, "mains")
        self.assertFalse(rank(less, [offered]).accepted)
        film, unknown = (f"1 µF ±10 % {material} 400 VDC" for material in ("MKT", ""))
        for kind in PartKind:
            one = Part("p", kind, read_marking("1 µF ±10 % NP 400 VDC" if kind is PartKind.ELECTROLYTIC else "1 µF ±10 % 400 VDC"))
            taken = [bool(rank(place(Role.COUPLING, text, 230.0, "mains"), [one]).accepted) for text in (unknown, film)]
            self.assertLessEqual(taken[0], taken[1], kind)

    def test_on_230_volts_a_305_volt_part_is_preferred_and_on_120_it_is_not(self) -> None:
        kinds = [part(Role.X, f"1 µF ±10 % X2 {volts} V~", f"{volts}", price=float(volts == 310)) for volts in (275, 310)]
        for supply, first in ((230.0, "310"), (120.0, "275")):
            need = place(Role.X, "1 µF ±10 % X2 275 V~", supply, "mains")
            self.assertEqual(rank(need, kinds).accepted[0].part.part_id, first)

    def test_why_the_first_is_before_the_second_is_what_it_is(self) -> None:
        need = place(Role.SMPS_BULK, "82 µF ±20 % 400 V 105 °C", 230.0, "rectified")
        same = "82 µF ±20 % 400 V 105 °C"
        rows = {
            "value": part(Role.SMPS_BULK, "84 µF ±20 % 400 V 105 °C", "b"),
            "temperature": replace(part(Role.SMPS_BULK, same, "b"), made=2025.0),
            "ripple current": part(Role.SMPS_BULK, "82 µF ±20 % 400 V 125 °C", "b", ripple_a=0.9),
            "date": part(Role.SMPS_BULK, "82 µF ±20 % 400 V 125 °C", "b", made=2019.5),
            "price": part(Role.SMPS_BULK, "82 µF ±20 % 400 V 125 °C", "b", price=2.0),
        }
        best = part(Role.SMPS_BULK, "82 µF ±20 % 400 V 125 °C", "a", price=1.0)
        for about, other in rows.items():
            first, second = rank(need, [other, best]).accepted
            self.assertEqual(first.part.part_id, "a")
            self.assertIn(about, why_before(first, second))


class Shares(unittest.TestCase):
    """Of what is put together each part is judged in its own share."""

    def test_no_part_of_a_combination_would_be_refused_in_its_share(self) -> None:
        seen = list(pairs())
        taken = [pair.part for pair in seen if pair.answer.startswith(("ok", "sign"))]
        drawer = [replace(one, part_id=f"{k}", quantity=3) for k, one in enumerate(taken)]
        found = 0
        for position in {id(pair.position): pair.position for pair in seen}.values():
            need = need_of(position)
            for one in combinations(need, drawer):
                found += 1
                for number, offered in enumerate(one.parts):
                    share = share_of(need, number) if one.way is Way.SINGLES else need
                    told = {"voltage.dc", "voltage.old"} if one.way is Way.SERIES and one.worst_share_v else set()
                    told |= {"class.safety", "voltage.old"} if one.way is Way.SERIES and "Y1" in need.place_classes else set()
                    refused = {reason.rule_id for row in rank(share, [offered]).rejected for reason in row.reasons}
                    self.assertLessEqual(refused, told | VALUE_RULES, (position, offered))
        self.assertGreater(found, 100)

    def test_what_leads_to_the_chassis_is_added_up(self) -> None:
        """0.5 mA at 2π · 50 Hz · 253 V are 6.29 nF: two of 3.3 nF ±20 % pass it, though each by itself does not."""
        need = need_of(Position("C1", Role.Y, read_marking("6n8 M Y1 250 V~"), 230.0, 50.0, equipment=Equipment("II")))
        twice = Part("p", PartKind.CERAMIC_SAFETY, read_marking("2n7 M Y1 250 V~"), 2)
        self.assertFalse([rule for rule in HARD_RULES if rule.id == "touch.current" and rule.check(need, twice, None)])  # type: ignore[arg-type]
        self.assertEqual(combinations(need, [twice]), ())
        within = replace(twice, marking=read_marking("2n2 M Y1 250 V~"))
        self.assertEqual([one.way for one in combinations(need, [within])], [Way.PARALLEL])
        self.assertIn("touch current", combinations(need, [within])[0].to_sign[0])

    def test_a_network_is_rebuilt_from_singles_of_its_classes(self) -> None:
        need = need_of(
            Position("C1", Role.X, read_marking("0.1 + 2 x 0.0027 µF X1 Y2 250 V~"), 230.0, 50.0, equipment=Equipment("I"))
        )
        right = [("100 nF K X1 300 V~", 1), ("2n7 M Y2 300 V~", 2)]
        wrong = [("100 nF K X2 310 V~", 1), ("2n7 M X1 440 V~", 2)]
        kind = PartKind.FILM_SAFETY
        (one,) = combinations(need, [Part(text, kind, read_marking(text), number) for text, number in right])
        self.assertEqual(sorted(p.part_id for p in one.parts), ["100 nF K X1 300 V~", "2n7 M Y2 300 V~", "2n7 M Y2 300 V~"])
        for most, found in ((6.48e-9, 1), (6.47e-9, 0)):  # twice 2.7 nF +20 %
            bound = replace(need, touch=CircuitLimit(most, "too much", least=False))
            drawer = [Part(text, kind, read_marking(text), number) for text, number in right]
            self.assertEqual(len(combinations(bound, drawer)), found)
        for swapped in ((right[0], wrong[1]), (wrong[0], right[1])):
            self.assertEqual(combinations(need, [Part(text, kind, read_marking(text), number) for text, number in swapped]), ())
