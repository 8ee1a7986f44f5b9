"""From a condemned part to the part in the hand, over HTTP."""

from dataclasses import asdict
from typing import Any
from urllib.parse import urlencode
from uuid import uuid4

from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyCase

from dusky_heron.core.model import Need, Policy
from dusky_heron.core.selection import rank
from dusky_heron.core.selection.sieve import sieve_of, traits_of
from dusky_heron.record.actor import Actor, MemberRole
from dusky_heron.stock.models import Part
from dusky_heron.stock.queries import drawer
from dusky_heron.workshops.models import Workshop
from tests.api.base import ApiTest
from tests.core.test_sieve import NEEDS, PARTS


class Candidates(ApiTest):
    """The drawer for a place: accepted, together, refused, counted."""

    def ask(self, job: int, name: str) -> Any:
        return self.get(f"positions/{self.position(job, name).id}/candidates")

    def together(self, job: int, name: str) -> Any:
        return self.get(f"positions/{self.position(job, name).id}/together")

    def test_a_dropper_is_chosen_by_its_circuit(self) -> None:
        """34 mA at 207 V need 636 nF; 1.3 W on the zener leave room up to about 938 nF, the role up to 748."""
        found = self.ask(3, "CD1")
        self.assertIn("at least 636 nF by its circuit", found["need"])
        taken = [row["part"]["marking"] for row in found["accepted"]]
        self.assertEqual(taken[0], "680 nF K X2 310 V~ 40/110/56/B")
        refused = {row["part"]["marking"]: [r["rule_id"] for r in row["reasons"]] for row in found["rejected"]}
        self.assertIn("role.dc_on_mains", refused["680 nF K 630 VDC"])
        self.assertLessEqual({"capacitance.window", "circuit.simulated"}, set(refused["560 nF K X2 310 V~ 40/110/56/B"]))

    def test_a_value_too_large_is_refused_by_simulation(self) -> None:
        position = self.position(3, "CD1")
        given = self.get(f"jobs/{position.job_id}/sheet")["positions"][0]["surroundings"]
        self.put(f"positions/{position.id}/surroundings", given | {"version": position.version, "zener": "0.9 W"})
        self.post("parts", {"marking": "748 nF J X2 310 V~", "kind": "film_safety", "quantity": 1})
        refused = {r["part"]["marking"]: r["reasons"] for r in self.ask(3, "CD1")["rejected"]}["748 nF J X2 310 V~"]
        self.assertIn("the zener takes more than its 900 mW", refused[0]["sentence"])

    def test_two_motor_parts_together_and_a_dual_of_singles(self) -> None:
        """8 + 8 µF take a 16 µF place side by side."""
        pairs = [[part["marking"] for part in row["parts"]] for row in self.together(1, "C1")]
        self.assertIn(["8 µF ±5 % 450 V~ cl. B P2"] * 2, pairs)

    def test_the_can_of_the_organ_is_rebuilt_from_singles(self) -> None:
        self.post("parts", {"marking": "32 µF M 525 VDC", "kind": "electrolytic", "quantity": 1})
        self.assertEqual(self.ask(7, "C1")["accepted"][0]["part"]["marking"], "32+32 µF 500 VDC")
        (one,) = self.together(7, "C1")
        self.assertEqual(
            (one["way"], [part["marking"] for part in one["parts"]]), ("singles", ["32 µF M 525 VDC", "33 µF 500 VDC"])
        )
        self.assertTrue(any("never left in parallel" in makes for makes in one["makes"]))

    def test_a_demand_is_overridden_with_a_reason_and_asked_for_again(self) -> None:
        path = f"positions/{self.position(1, 'C1').id}"
        wide = {"rule_id": "capacitance.window", "reason": "18 µF is what the plate says"}
        found = self.post(f"{path}/override", wide)
        self.assertEqual([row["rule_id"] for row in found["overrides"]], ["capacitance.window"])
        row = next(r for r in found["accepted"] if r["part"]["marking"].startswith("18 µF"))
        self.assertTrue(row["conditions"][0].startswith("Overridden: 18 µF is outside"))
        again = self.post(f"{path}/override", wide | {"stands": False})
        self.assertEqual(again["overrides"], [])
        kinds = [entry["kind"] for entry in self.get(f"jobs/{self.position(1, 'C1').job_id}/record")]
        self.assertEqual(kinds[-2:], ["demand overridden", "demand asked for again"])
        for bad, field in (({"rule_id": "class.safety"}, "rule_id"), ({"rule_id": "x"}, "rule_id"), ({"reason": ""}, "reason")):
            self.assertEqual(self.post(f"{path}/override", wide | bad, 422)["errors"][0]["field"], field)
        self.sign_in("vell")
        self.post(f"{path}/override", wide, 403)

    def test_a_workshop_may_leave_overrides_to_its_lead(self) -> None:
        path, wide = (
            f"positions/{self.position(1, 'C1').id}/override",
            {"rule_id": "capacitance.window", "reason": "as on the plate"},
        )
        body = {"username": "tern", "name": "A. Tern", "role": "technician", "password": "long-enough-words"}
        self.post("members", body)
        self.sign_in("tern")
        self.post(path, wide)
        self.sign_in("orne")
        school = next(row for row in self.get("schools") if row["id"] == "overrides")
        self.put("schools", {"id": "overrides", "version": school["version"], "option": "lead", "reason": "two went wrong"})
        self.sign_in("tern")
        self.post(path, wide, 403)
        self.sign_in("orne")
        self.post(path, wide)

    def test_longer_leads_are_an_explicit_choice_with_its_demands(self) -> None:
        position = self.position(3, "CD1")
        added = self.post("parts", {"marking": "680 nF K X2 310 V~", "kind": "film_safety", "quantity": 1, "pitch_mm": 50})
        told = self.get(f"positions/{position.id}/why/{added['id']}")["refusals"]
        self.assertEqual([(r["rule_id"], r["choice"][:16]) for r in told], [("fit.pitch", "Extend the leads")])
        found = self.post(f"positions/{position.id}/override", {"rule_id": "fit.pitch", "reason": "no other in town"})
        row = next(r for r in found["accepted"] if r["part"]["id"] == added["id"])
        self.assertIn("joined mechanically", " ".join(row["adaptations"]))
        self.assertIn("Keep 3 mm", row["adaptations"][-1])

    def test_a_larger_x_says_what_it_does_to_the_plug_pins_and_ranks_behind(self) -> None:
        """Two times 150 kΩ over 1 µF meet 34 V after a second; over 1.5 µF they do not."""
        position = self.position(2, "CX1")
        around = self.get(f"jobs/{position.job_id}/sheet")["positions"][0]["surroundings"]
        self.put(f"positions/{position.id}/surroundings", around | {"version": position.version, "bleeder_measured": "300k"})
        found = self.ask(2, "CX1")["accepted"]
        self.assertIn("Plug pins at 34 V after", found[0]["consequences"][0])
        last = found[-1]
        self.assertTrue(last["part"]["marking"].startswith("1.5 µF"))
        self.assertIn("plug pins hold more than", " ".join(last["conditions"]))

    def test_the_chosen_part_leaves_the_drawer_once_with_its_lot(self) -> None:
        position = self.position(2, "CX1")
        path = f"positions/{position.id}"
        self.post(f"{path}/take-out", {}, 422)
        part = self.ask(2, "CX1")["accepted"][0]["part"]
        self.put(f"parts/{part['id']}", part | {"lot": "L-77", "date_code": "2631"})
        self.post(f"{path}/choice", {"part_id": part["id"]})
        taken = self.post(f"{path}/take-out", {})
        self.assertEqual(taken["choice"]["lot"], "L-77")
        self.assertTrue(taken["choice"]["out_at"])
        moved = self.get(f"parts/{part['id']}/movements")
        self.assertEqual((moved["part"]["quantity"], moved["movements"][0]["says"]), (part["quantity"] - 1, "job 2, CX1"))
        self.post(f"{path}/take-out", {}, 422)
        last = self.get(f"jobs/{position.job_id}/record")[-1]
        self.assertEqual((last["kind"], last["body"]["lot"]), ("taken out of the drawer", "L-77"))

    def test_none_left_is_said_and_nothing_is_taken(self) -> None:
        path = f"positions/{self.position(2, 'CX1').id}"
        part = self.ask(2, "CX1")["accepted"][0]["part"]
        self.post(f"{path}/choice", {"part_id": part["id"]})
        self.post(f"parts/{part['id']}/movements", {"counted": 0})
        refused = self.post(f"{path}/take-out", {}, 422)["errors"][0]["sentence"]
        self.assertIn("There are 0 in", refused)
        self.assertIsNone(self.ask(2, "CX1")["choice"]["out_at"])

    def test_why_not_this_one(self) -> None:
        path = f"positions/{self.position(2, 'CX1').id}/why"
        film = next(part for part in self.get("parts") if part["marking"] == "1 µF K 250 VDC")
        told = self.get(f"{path}/{film['id']}")
        self.assertFalse(told["allowed"])
        self.assertIn("class.safety", [reason["rule_id"] for reason in told["refusals"]])
        self.get(f"{path}/{uuid4()}", 404)

    def test_six_statements_whatever_the_drawer_holds(self) -> None:
        path = f"positions/{self.position(2, 'CX1').id}/candidates"
        for _ in range(2):
            with self.assertNumQueries(8):  # session, member; position, choice, overrides, schools, parts, counts
                self.get(path)
            for k in range(30):
                self.post("parts", {"marking": f"{900 + k} nF K X2 310 V~", "kind": "film_safety", "quantity": 1})

    def test_what_is_not_shown_is_counted_by_its_rule(self) -> None:
        everything = len(self.get("parts"))
        found = self.ask(2, "CX1")
        shown = len(found["accepted"]) + found["more"] + len(found["rejected"])
        self.assertEqual(shown + sum(row["parts"] for row in found["others"]), everything)
        self.assertLessEqual(len(found["rejected"]), 30)


class Question(ApiTest):
    """May this part replace that one."""

    def ask(self, status: int = 200, **typed: Any) -> Any:
        return self.get(f"may-replace?{urlencode(typed)}", status)

    def test_from_two_markings(self) -> None:
        refused = self.ask(old="3n3 M Y2 300 V~", new="3n3 K X1 440 V~")
        self.assertEqual((refused["role"], refused["allowed"]), ("y", False))
        self.assertTrue(any(r["hard"] and "an X never replaces a Y" in r["sentence"] for r in refused["refusals"]))
        self.assertTrue(self.ask(old="1 µF K X2 305 V~", new="1 µF K X1 480 V~")["allowed"])
        for field, typed in (
            ("role", {"old": "32 µF 500 VDC", "new": "33 µF 500 VDC"}), ("old", {"old": "nothing", "new": "1 µF"}),
            ("new", {"old": "1 µF K X2 305 V~", "new": "?"}),
            ("supply_voltage", {"old": "1 µF X2", "new": "1 µF X2", "supply_voltage": "x"}),
        ):  # fmt: skip
            self.assertEqual(self.ask(422, **typed)["errors"][0]["field"], field)


class SameSieve(PropertyCase):
    """The database sieves as the core does."""

    @settings(max_examples=60, deadline=None)
    @given(NEEDS, st.lists(PARTS, min_size=3, max_size=25))
    def test_sql_and_core_agree_and_nothing_acceptable_is_hidden(self, need: Need, parts: list[Any]) -> None:
        workshop = Workshop.objects.create(name="T")
        actor = Actor(id=uuid4(), name="T", role=MemberRole.LEAD, workshop_id=workshop.id)
        rows = []
        for one in parts:
            size = dict(zip(("length_mm", "width_mm", "height_mm"), one.size_mm or (None,) * 3, strict=True))
            traits = asdict(traits_of(one.marking))
            rows.append(Part.objects.create(workshop=workshop, marking=one.marking.text, kind=one.kind, origin=one.origin,
                                            pitch_mm=one.pitch_mm, lead_form=one.lead_form or "", **size, **traits))  # fmt: skip
        sieve = sieve_of(need, Policy())
        found = drawer(actor, sieve)
        left = {str(row.id) for row, one in zip(rows, parts, strict=True) if sieve.refuses(one) is None}
        self.assertLessEqual(left, set(found.rows))
        self.assertEqual(len(found.rows) + sum(found.others.values()), len(parts))
        accepted = {c.part.part_id for c in rank(need, found.parts).accepted}
        self.assertLessEqual(accepted, left)
