"""Meters, resistors, the drawer, members and intake: added, changed, refused at their fields, and in the record."""

from typing import Any

from dusky_heron.jobs.models import Job, Position
from dusky_heron.record.queries import entries_of
from dusky_heron.record.verifying import verify
from dusky_heron.stock.models import Part
from dusky_heron.workshops.models import Member
from tests.api.base import ApiTest
from tests.databases import PASSWORD

METER = {"name": "New meter", "percent": 1.5, "counts": 2, "display_counts": 4000, "calibration_due": "2027-01-31"}
RESISTOR = {
    "name": "2.2 kΩ 10 W", "resistance": "2k2", "tolerance_percent": 10, "power": "10W", "construction": "wirewound",
    "working_voltage": "0.5 kV", "pulse_energy": "",
}  # fmt: skip
PART = {"marking": "470 nF K X2 310 V~", "kind": "film_safety", "quantity": 3, "place": "B9", "price": "0.85"}
JOB = {"title": "Ticket printer", "supply_voltage": "230", "supply_frequency": "50 Hz"}
POSITION = {"name": "C7", "role": "motor_run", "marking": "10 µF ±5 % 450 V~"}


class Quantities(ApiTest):
    """ESR, insulation and leakage as typed, and what they make of a verdict."""

    def setUp(self) -> None:
        super().setUp()
        job = self.post("jobs", {"title": "Lamp supply", "supply_voltage": "230 V", "supply_frequency": "50 Hz"})
        added = self.post(f"jobs/{job['id']}/positions", {"name": "C8", "role": "smps_bulk", "marking": "82 µF M 400 VDC"})
        self.path = f"positions/{added['id']}/readings"

    def read(self, value: str, status: int = 200, **more: Any) -> Any:
        return self.post(self.path, {"value": value, "meter_id": self.meter_id("Bench LCR bridge"), **more}, status)

    def test_esr_at_120_hz_decides_a_bulk_part(self) -> None:
        self.assertEqual(
            self.read("81u")["verdict"]["next_measurement"]["sentence"], "Measure its ESR at 100 or 120 Hz, one lead lifted."
        )
        judged = self.read("9R0", quantity="esr", frequency="120 Hz")
        self.assertEqual(judged["verdict"]["word"], "replace")
        self.assertEqual(judged["verdict"]["reasons"][0]["limit"], "4.04 Ω by tan δ 0.25 at 120 Hz")
        self.assertEqual(judged["readings"][1]["what"], "ESR at 120 Hz")
        self.assertEqual(judged["readings"][1]["interval"], "8.89 to 9.11 Ω")

    def test_a_new_part_is_compared_with_and_never_judged(self) -> None:
        self.read("81u")
        self.read("0.3", quantity="esr", frequency="100 kHz", condition="new_part")
        judged = self.read("0.8 Ω", quantity="esr", frequency="100k")
        self.assertIn("2.7 times that of a new part", judged["verdict"]["reasons"][0]["sentence"])
        new = self.read("20n", condition="new_part")  # a new part's capacitance says nothing about this one
        self.assertEqual(new["verdict"], judged["verdict"])

    def test_bounds_and_overloads(self) -> None:
        self.assertEqual(self.read(">60M", quantity="insulation")["readings"][-1]["interval"], "at least 54 MΩ")
        beyond = self.read("OL")["readings"][-1]
        self.assertEqual((beyond["value"]["number"], beyond["interval"]), ("OL", "beyond the range of the meter"))
        for value, more, field in (
            ("1 Ω", {"quantity": "leakage"}, "value"), ("200", {"quantity": "esr"}, "value"),
            ("1 Ω", {"quantity": "esr", "frequency": "fast"}, "frequency"), ("1u", {"quantity": "colour"}, "quantity"),
        ):  # fmt: skip
            answer = self.read(value, 422, **more)
            self.assertEqual([error["field"] for error in answer["errors"]], [field])


class Touch(ApiTest):
    """Touch current of the dryer's Y pair, and of a job without one."""

    def test_the_pair_together_against_the_limits_of_its_class(self) -> None:
        """Two of 3.3 nF +20 % on 230 V 50 Hz at +10 %: 0.315 mA by one side, 0.629 mA by both."""
        job = Position.objects.get(job__number=2, name="CY1").job_id
        found = self.get(f"jobs/{job}/touch-current")
        self.assertAlmostEqual(found["neutral_open"]["value"] * 1000, 0.6295, places=3)
        self.assertAlmostEqual(found["normal"]["value"] * 1000, 0.3147, places=3)
        self.assertEqual([check["meets"] for check in found["checks"]], [True, True, True])
        pump = Position.objects.get(job__number=1).job_id
        self.assertIn("No Y position", self.get(f"jobs/{pump}/touch-current")["missing"])

    def test_signs_lead_where_they_say(self) -> None:
        c1 = f"positions/{Position.objects.get(job__number=1).id}"
        for sign, word in (("loose_joint", "unknown"), ("corroded", "replace"), ("vent_open", "condemn")):
            self.assertEqual(self.post(f"{c1}/signs", {"sign": sign})["verdict"]["word"], word)
        offered = {sign["id"]: sign["word"] for sign in self.get("vocabulary")["signs"]}
        self.assertEqual((offered["oil_film"], offered["hot_neighbour"]), ("condemn", "watch"))


class CommonTerminal(ApiTest):
    """Three readings of a dual name its common terminal, or say why they do not."""

    def test_named_open_and_contradicting(self) -> None:
        for ab, bc, ac, common, said in (
            ("30u", "4.29u", "5u", "a", "Terminal a is common; b 30 µF and c 5 µF."),
            ("30u", "OL", "open", "", "One section is open."),
            ("10u", "", "10u", "a", "Terminal a is common"),
            ("30u", "9u", "5u", "", "do not agree"), ("100u", "1.96u", "2u", "", "cannot be told within the error"),
        ):  # fmt: skip
            answer = self.get(f"common-terminal?ab={ab}&bc={bc}&ac={ac}")
            self.assertEqual(answer["common"], common)
            self.assertIn(said, answer["sentence"])
        wrong = self.get("common-terminal?ab=30&bc=5u&ac=4u", 422)
        self.assertEqual(wrong["errors"][0]["field"], "ab")
        self.client.logout()
        self.get("common-terminal?ab=30u&bc=5u&ac=4u", 401)


class Refusals(ApiTest):
    """Each bad value is refused at its field, with a sentence, and nothing is kept."""

    def refused(self, path: str, good: Any, bad: Any) -> None:
        for field, values in bad.items():
            for value in values:
                with self.subTest(path=path, field=field, value=value):
                    answer = self.post(path, good | {field: value}, 422)
                    self.assertIn(field, [error["field"] for error in answer["errors"]])
                    self.assertTrue(all(error["sentence"] for error in answer["errors"]))

    def test_meters(self) -> None:
        bad = {
            "name": ["", " ", "x" * 201, None, 5, "a\x00b"],
            "percent": [-1, 51, "two", None],
            "counts": [-0.1, 1001],
            "display_counts": [0, 99, 1.5, "many"],
            "calibration_due": ["soon", "2027-13-01", "1066-10-14"],
            "highest_voltage": ["", "0", "-600", "high", "2 MV", "10 Ω"],
            "category": ["V", "2", None],
            "category_voltage": ["0 V", "some"],
            "input_resistance": ["", "0", "10 V"],
            "high_voltage_probe": ["perhaps", None],
        }
        before = len(self.get("meters"))
        self.refused("meters", METER, bad)
        self.assertEqual(len(self.get("meters")), before)

    def test_resistors(self) -> None:
        bad = {
            "resistance": ["", "0", "-5", "4.7 V", "k7", "1e400", "x" * 41],
            "power": ["", "0 W", "ten"],
            "working_voltage": ["", "-1", "2 MV"],
            "pulse_energy": ["0", "many"],
            "construction": ["clay", None],
            "tolerance_percent": [-1, 60],
        }
        self.refused("resistors", RESISTOR, bad)

    def test_parts(self) -> None:
        bad = {
            "marking": ["", "quayside", "x" * 301, "99 F"],
            "kind": ["sweet", None],
            "quantity": [-1, 1.5, 10_000_000],
            "place": ["x" * 61],
            "length_mm": [0, -3, 1e9, "wide"],
            "price": [-1, "1.234", "dear"],
        }
        self.refused("parts", PART, bad)

    def test_jobs_and_positions(self) -> None:
        bad = {
            "title": ["", "  ", "x" * 201],
            "supply_voltage": ["", "0 V", "twelve", "2 kV", "-230"],
            "supply_frequency": ["", "50 V", "1e9"],
            "standard": ["IEC 0", "x" * 61],
            "protection_class": ["III"],
            "connection": ["string"],
            "symptom": ["x" * 2001],
        }
        before = Job.objects.count()
        self.refused("jobs", JOB, bad)
        self.assertEqual(Job.objects.count(), before)
        spoilt = {"name": ["", "x" * 41, "C1"], "role": ["tea"], "marking": ["", "C1", "0 µF"], "pitch_mm": [-1, 0]}
        before = Position.objects.count()
        self.refused(f"jobs/{self.job(1).id}/positions", POSITION, spoilt)
        self.assertEqual(Position.objects.count(), before)

    def test_members(self) -> None:
        good = {"username": "quay", "name": "Q. Uay", "role": "technician", "password": "grey-heron-again"}
        bad = {
            "username": ["", "a", "two words", "orne", "vell", "ü"],
            "name": [""],
            "role": ["owner"],
            "password": ["", "short", "password123", "x" * 201],
        }
        before = Member.objects.count()
        self.refused("members", good, bad)
        self.assertEqual(Member.objects.count(), before)


class Instruments(ApiTest):
    """What is typed in any notation is kept as a value, and shown as technicians write it."""

    def test_a_meter_changes_the_interval_of_the_next_reading_only(self) -> None:
        meter = self.post("meters", METER)
        path = f"positions/{self.position(1, 'C1').id}/readings"
        self.post(path, {"value": "16u", "meter_id": meter["id"]})
        self.put(f"meters/{meter['id']}", METER | {"percent": 10, "version": 1})
        readings = self.post(path, {"value": "16u", "meter_id": meter["id"]})["readings"]
        # 4000 counts: 16 µF is shown to 10 nF; 1.5 % + 2 counts = 260 nF, then 10 % + 2 counts = 1.62 µF
        self.assertEqual([r["interval"] for r in readings], ["15.7 to 16.3 µF", "14.4 to 17.6 µF"])

    def test_a_resistor_in_other_notations(self) -> None:
        made = self.post("resistors", RESISTOR)
        self.assertEqual((made["resistance"]["value"], made["resistance"]["unit"]), (2200, "kΩ"))
        self.assertEqual((made["power"]["value"], made["working_voltage"]["value"]), (10, 500))
        changed = self.put(f"resistors/{made['id']}", RESISTOR | {"pulse_energy": "120 J", "version": 1})
        self.assertEqual(changed["pulse_energy"]["number"], "120")

    def test_instruments_stand_in_the_workshops_own_chain(self) -> None:
        actor = Member.objects.get(username="orne").actor
        self.post("meters", METER)
        kinds = [entry.kind for entry in entries_of(actor, actor.workshop_id)]
        self.assertEqual((kinds[0], kinds[-1]), ("workshop founded", "meter added"))
        self.assertTrue(verify(actor, actor.workshop_id).whole)


class Drawer(ApiTest):
    """Parts are added by their marking, found by any words, and offered at once."""

    def test_a_part_is_read_from_its_marking(self) -> None:
        made = self.post("parts", PART)
        self.assertEqual(made["capacitance"][0]["number"], "470")
        self.assertEqual((made["ratings"], made["kind_title"]), ("X2 310 V AC", "safety film"))
        self.assertAlmostEqual(Part.objects.get(id=made["id"]).capacitance_f, 470e-9)

    def test_search_needs_every_word(self) -> None:
        found = self.client.get("/api/parts", {"words": "x2 310 b4"}).json()
        self.assertEqual({part["place"] for part in found}, {"B4"})
        self.assertTrue(all("X2 310" in part["marking"] for part in found))
        self.assertEqual(self.client.get("/api/parts", {"words": "x2 quayside"}).json(), [])

    def test_a_changed_part_is_ranked_as_it_is_now(self) -> None:
        c1 = f"positions/{self.position(1, 'C1').id}/candidates"
        best = self.get(c1)["accepted"][0]["part"]
        self.put(f"parts/{best['id']}", best | {"marking": "16 µF ±5 % 250 V~"})
        answer = self.get(c1)
        self.assertNotIn(best["id"], [row["part"]["id"] for row in answer["accepted"]])
        refused = next(row for row in answer["rejected"] if row["part"]["id"] == best["id"])
        self.assertIn("voltage.ac", [reason["rule_id"] for reason in refused["reasons"]])

    def test_a_choice_keeps_what_the_part_was_then(self) -> None:
        c1 = f"positions/{self.position(1, 'C1').id}"
        best = self.get(f"{c1}/candidates")["accepted"][0]["part"]
        self.post(f"{c1}/choice", {"part_id": best["id"]})
        self.put(f"parts/{best['id']}", best | {"marking": "16 µF ±5 % 500 V~", "place": "Z1"})
        self.assertEqual(self.get(f"{c1}/candidates")["choice"]["marking"], best["marking"])


class Intake(ApiTest):
    """What is written down decides what follows."""

    def test_the_standard_sets_the_working_limit(self) -> None:
        job = self.post("jobs", JOB)
        position = self.post(f"jobs/{job['id']}/positions", {"name": "CX1", "role": "x", "marking": "170 nF X2 310 V~"})
        for standard, volts in (("", 50), ("IEC 60335-1 (22.5)", 34), ("IEC 62368-1 (5.5.2.2)", 50), ("IEC 60831-1", 50)):
            now = self.get(f"jobs/{job['id']}/sheet")["job"]
            self.put(f"jobs/{job['id']}", now | {"standard": standard})
            plan = self.get(f"positions/{position['id']}/discharge")
            self.assertAlmostEqual(plan["working_limit"]["value"], volts, msg=standard)
            self.assertIn(standard or "default", plan["working_limit_source"])

    def test_the_supply_sets_the_voltage_to_plan_with(self) -> None:
        job = self.post("jobs", JOB | {"supply_voltage": "0.4 kV"})
        position = self.post(f"jobs/{job['id']}/positions", {"name": "CX1", "role": "x", "marking": "1 µF X1 440 V~"})
        self.assertAlmostEqual(self.get(f"positions/{position['id']}/discharge")["charge"]["voltage"]["value"], 622.25, places=2)

    def test_where_no_voltage_is_known_it_is_asked_for(self) -> None:
        text = self.client.get("/api/reading-box", {"text": "16 µF"}).json()
        self.assertIsNone(text["charge"])

    def test_the_bench_says_what_comes_next(self) -> None:
        job = self.post("jobs", JOB)
        path = f"jobs/{job['id']}/sheet"

        def stands(stage: str, waits_for: str) -> None:
            sheet = self.get(path)
            self.assertEqual((sheet["stage"], sheet["waits_for"]), (stage, waits_for))

        stands("intake", "name the first position")
        c7 = f"positions/{self.post(path.replace('sheet', 'positions'), POSITION)['id']}"
        stands("discharge", "C7: empty it first")
        self.post(f"{c7}/charge", {"state": "kept_shorted"})
        stands("assess", "C7: measure it")
        self.post(f"{c7}/signs", {"sign": "bulged"})
        stands("replace", "C7: choose from the drawer")
        self.post(f"{c7}/readings", {"value": "10u", "meter_id": self.meter_id()})
        stands("replace", "C7: choose from the drawer")  # a sign condemns, whatever it measures

    def test_a_new_member_signs_in_with_the_first_password(self) -> None:
        new = {"username": "quay", "name": "Q. Uay", "role": "technician", "password": PASSWORD + "s"}
        self.post("members", new)
        self.client.logout()
        signed = self.post("session", {"username": "quay", "password": PASSWORD + "s"})
        self.assertEqual((signed["name"], signed["role"]), ("Q. Uay", "technician"))
        self.assertEqual({m["name"] for m in self.get("members")}, {"M. Orne", "T. Vell", "Q. Uay"})
