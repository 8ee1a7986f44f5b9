"""The dropper bench over HTTP."""

from typing import Any
from urllib.parse import urlencode

from tests import loose
from tests.api.base import ApiTest

TYPED = {"loads": "standby 8 mA\nvalve on 34 mA"}


class Dropper(ApiTest):
    """As typed, and filled from the dosing controller."""

    def ask(self, status: int = 200, **changed: Any) -> Any:
        return self.get(f"dropper?{urlencode(TYPED | changed)}", status)

    def test_figures_of_a_worked_example(self) -> None:
        """680 nF on 230 V: 4 · 50 · 680 nF · (325.3 − 25.4) = 40.8 mA, 36.4 mA at 207 V; (V̂ − 1.4)/100 Ω = 3.24 A."""
        found = self.ask()
        self.assertAlmostEqual(found["available"]["value"] * 1000, 40.8, delta=0.2)
        self.assertAlmostEqual(found["available_low"]["value"] * 1000, 36.4, delta=0.2)
        self.assertAlmostEqual(found["inrush"]["value"], 3.239, delta=0.001)
        self.assertEqual([row["supply"]["number"] for row in found["rows"]], ["207", "230", "253"])
        self.assertTrue(all(state["holds"] for row in found["rows"] for state in row["states"]))
        self.assertAlmostEqual(found["rows"][0]["zones"][-2]["edge"]["value"] * 1e9, 637, delta=2)
        self.assertIn("mains potential", found["caution"])
        self.assertTrue(found["netlist"].rstrip().endswith(".end"))
        doubled = self.ask(capacitance="1.36 µF")
        self.assertGreater(doubled["zener"]["value"], 2 * found["zener"]["value"])  # too big is a fault too

    def test_a_weak_part_lets_the_valve_go_at_low_mains(self) -> None:
        rows = self.ask(capacitance="600n")["rows"]
        self.assertEqual([[state["holds"] for state in row["states"]] for row in rows], [[True, False], [True, True], [True, True]])

    def test_each_value_is_refused_at_its_field(self) -> None:
        for field, value in (
            ("topology", "ring"), ("supply_voltage", "many"), ("supply_frequency", "0"), ("capacitance", "680"), ("series", "0"),
            ("bleed", "-1"), ("smoothing", "1 V"), ("clamp", "high"), ("loads", "valve"),
        ):  # fmt: skip
            with self.subTest(field):
                self.assertEqual(self.ask(422, **{field: value})["errors"][0]["field"], field)
        self.assertEqual(self.ask(clamp="400 V")["rows"], [])  # a clamp above the mains is never reached

    def test_it_starts_with_what_a_position_is_and_reads(self) -> None:
        path = f"positions/{self.position(3, 'CD1').id}"
        start = self.get(f"{path}/dropper")
        self.assertEqual((start["given"]["capacitance"], start["given"]["clamp"], start["read"]), ("680 nF", "24 V", None))
        self.assertIn("valve on 923 Ω pulls in 16.8 V holds 12 V resets 9 V", start["given"]["loads"])
        self.post(f"{path}/readings", {"value": "600n", "meter_id": self.meter_id()})
        self.assertEqual(self.get(f"{path}/dropper")["given"]["capacitance"], "600 nF")


class DropperCommand(ApiTest):
    """The dosing valve by its coil, what is measured on it, and a doubled value."""

    VALVE = "standby 8 mA\nvalve 920 Ω pulls in 16.8 V holds 12 V resets 9 V"

    def ask(self, path: str = "dropper", status: int = 200, **changed: Any) -> Any:
        return self.get(f"{path}?{urlencode({'loads': self.VALVE} | changed, doseq=True)}", status)

    def test_the_rail_after_the_command_and_what_is_heard(self) -> None:
        found = self.ask(capacitance="350n")
        command = found["command"]
        self.assertEqual((command["supply"]["number"], command["outcome"]), ("207", "clicks and lets go"))
        self.assertEqual([moment["says"] for moment in command["heard"]], ["the command", "pulls in", "lets go"])
        self.assertEqual(len(command["seconds"]), len(command["volts"]))
        self.assertLess(len(command["volts"]), 400)
        self.assertIn("clicks and lets go", [zone["says"] for zone in found["rows"][0]["zones"]])
        self.assertIsNone(self.ask(loads="standby 8 mA")["command"])

    def test_a_doubled_value_cooks_the_zener(self) -> None:
        """At 253 V: 24.4 V · (90.4 − 8) mA = 2.01 W of 1.3 W."""
        found = self.ask(zener_rating="1.3 W")
        self.assertEqual([row["zener_over"] for row in found["heat"]], [False, False, True, True])
        self.assertIn("too big is a fault too", found["heat_says"])
        self.assertAlmostEqual(found["heat"][-1]["zener"]["value"], 2.01, delta=0.03)

    def test_marks_and_reading_stand_on_the_band(self) -> None:
        found = self.ask(marked="680n", reading="612n", reading_error="2 %")
        self.assertAlmostEqual((found["reading"]["high"] - found["reading"]["low"]) / found["reading"]["at"], 0.04, places=3)
        self.assertGreater(found["marked"]["at"], found["reading"]["at"])

    def test_what_is_measured_names_the_fault_and_is_held_against_the_meter(self) -> None:
        """350 nF instead of 680: the rail of the valve sags, the current halves; the meter that reads 680 is doubted."""
        weak = self.ask(capacitance="350n", loads="standby 8 mA\nvalve on 34 mA")
        seen = weak["rows"][1]["states"]
        typed = {
            "loads": "standby 8 mA\nvalve on 34 mA",
            "rails": [state["rail"]["number"] + state["rail"]["unit"] for state in seen],
            "currents": ["", f"{weak['current']['value'] * 1000:.2f} mA"],
        }
        found = self.ask("dropper/faults", **loose(typed), reading="680n")
        self.assertIn("capacitance low", found["suspects"][0]["titles"])
        self.assertTrue(found["suspects"][0]["explains"])
        self.assertRegex(" ".join(found["suspects"][0]["shows"]), r"about 3[345]\d(\.\d)? nF")
        self.assertTrue(any("disagree" in sentence for sentence in found["capacitance"]))
        agreeing = self.ask("dropper/faults", **loose(typed), reading="350n", reading_error="5 %")
        self.assertTrue(any("it is the capacitor" in sentence for sentence in agreeing["capacitance"]))
        factor = self.ask("dropper/faults", **loose(typed), powers=["", "pf 0.12"])
        watts = self.ask("dropper/faults", **loose(typed), powers=["", f"{230 * weak['current']['value'] * 0.12:.4f} W"])
        self.assertEqual(factor["suspects"][0]["titles"], watts["suspects"][0]["titles"])
        alone = self.ask("dropper/faults", 422, rails=["24"], powers=["pf 0.12"])
        self.assertEqual(alone["errors"][0]["field"], "currents.0")
        for field, value in (("rails", ["many"]), ("powers", ["-1 W"]), ("error", "0 %"), ("reading", "5 V")):
            refused = self.ask("dropper/faults", 422, **({"rails": ["24"]} | {field: value}))
            self.assertEqual(refused["errors"][0]["field"], f"{field}.0" if isinstance(value, list) else field)

    def test_a_position_starts_with_its_crossing(self) -> None:
        cd1 = self.position(3, "CD1")
        self.put(
            f"positions/{cd1.id}", {"version": cd1.version, "name": "CD1", "role": "dropper", "marking": "680 nF K X2 305 V~ 1419"}
        )
        self.post(f"positions/{cd1.id}/readings", {"value": "655n", "meter_id": self.meter_id()})
        started = self.get(f"positions/{cd1.id}/dropper")
        self.assertRegex(started["crosses"], r"crosses the 63\d nF its loads need about 20\d\d")
        self.assertEqual((started["given"]["marked"], started["given"]["reading"]), ("680 nF", "655 nF"))


class Others(ApiTest):
    """Bulk, string, re-forming and the walk."""

    def ask(self, path: str, status: int = 200, **typed: Any) -> Any:
        return self.get(f"{path}?{urlencode(typed)}", status)

    def test_a_faded_bulk_restarts(self) -> None:
        good, faded = self.ask("bulk"), self.ask("bulk", bulk="15 µF")
        self.assertTrue(good["runs"])
        self.assertFalse(faded["runs"])
        self.assertIn("restarts", faded["says"])
        self.assertTrue(15e-6 < good["needed"]["value"] < 82e-6)

    def test_a_string_shares_its_voltage(self) -> None:
        found = self.ask("string", capacitors="1500 µF 1 mA\n1200 µF 0,4 mA", voltage="700 V", rating="385 V")
        self.assertEqual([section["over"] for section in found["sections"]], [False, True])
        self.assertEqual(found["worst"]["number"], "389")
        self.assertIn("more than its 385 V", found["says"])

    def test_re_forming_plans_and_reads_its_log(self) -> None:
        plan = self.ask("forming")
        self.assertEqual((plan["resistor"]["number"], plan["word"], len(plan["steps"])), ("110", "too_few", 5))
        told = self.ask("forming", source="125 V", log="1 min 90\n10 min 121")
        self.assertEqual(told["word"], "next")
        self.assertEqual(self.ask("forming", source="125 V", log="1 min 90", warm="true")["word"], "stop")

    def test_the_walk_asks_for_the_next_check(self) -> None:
        found = self.ask("walk", symptom="fuse_blown", fuse="OL")
        self.assertEqual(found["next_id"], "mov")
        self.assertIn("proved empty", found["caution"])
        self.assertEqual(len(found["symptoms"]), 6)

    def test_a_position_starts_the_benches_it_asks_for(self) -> None:
        asked = {
            (7, "C1"): ("supply", "forming"),
            (8, "C1"): ("bulk", "forming"),
            (6, "C6"): ("string", "forming"),
            (3, "CD1"): ("dropper",),
        }
        for (job, name), kinds in asked.items():
            found = self.get(f"positions/{self.position(job, name).id}/benches")
            self.assertEqual(tuple(kind for kind, given in found.items() if given), kinds)
            if job == 7:
                self.assertEqual((found["supply"]["secondary"], found["supply"]["reservoir"]), ("300 V", "32 µF"))
            if job == 6:
                self.assertEqual((found["string"]["balance"], found["string"]["rating"]), ("47 kΩ", "400 V"))
                self.get(f"string?{urlencode(found['string'])}")

    def test_a_step_of_re_forming_goes_on_record(self) -> None:
        path = f"positions/{self.position(7, 'C1').id}/forming"
        self.post(path, {"source": "125 V"}, 422)
        told = self.post(path, {"source": "125 V", "log": "1 min 90\n10 min 121"})
        self.assertEqual(told["word"], "next")
        entry = self.get(f"jobs/{self.position(7, 'C1').job_id}/record")[-1]
        self.assertEqual((entry["kind"], entry["body"]["readings"]), ("re-forming", ["1 min 90", "10 min 121"]))

    def test_each_value_is_refused_at_its_field(self) -> None:
        for path, field, value in (
            ("bulk", "topology", "ring"), ("bulk", "supply_voltage", "0"), ("bulk", "bulk", "82"), ("bulk", "power", "0 W"),
            ("bulk", "efficiency", "120 %"), ("bulk", "least", "x"), ("bulk", "ntc_cold", "-1"), ("bulk", "ntc_hot", "hot"),
            ("string", "capacitors", "1500 µF"), ("string", "capacitors", "1500 µF 1 mA"), ("string", "balance", "0"),
            ("string", "voltage", "much"), ("string", "rating", ""), ("forming", "capacitance", "32"), ("forming", "rating", "0x"),
            ("forming", "resistor", "1 TΩ"), ("forming", "source", "x"), ("forming", "log", "later"), ("forming", "log", "0 200"),
            ("walk", "symptom", "ring"), ("walk", "part_ntc", "x"), ("walk", "bulk", "5 V"), ("walk", "part_bulk", "0"),
        ):  # fmt: skip
            with self.subTest(path=path, field=field, value=value):
                self.assertEqual(self.ask(path, 422, **{field: value})["errors"][0]["field"], field)


class Supply(ApiTest):
    """The organ's supply: 300-0-300 V, a GZ34 and 32 µF."""

    def ask(self, status: int = 200, **changed: Any) -> Any:
        typed = {"rectifier": "valve_gz34", "reservoir": "32 µF", "grown": "100 µF"} | changed
        return self.get(f"supply?{urlencode(typed)}", status)

    def test_growing_beyond_the_rectifier_is_refused_with_the_reason(self) -> None:
        """Source 85 + 20 · (300/230)² = 119 Ω; the first peak is (424.3 − 20)/119 = 3.4 A whatever the reservoir."""
        found = self.ask()
        self.assertAlmostEqual(found["source"]["value"], 119.0, delta=0.1)
        self.assertAlmostEqual(found["now"]["surge"]["value"], 3.397, delta=0.01)
        self.assertTrue(found["now"]["held"][0]["holds"])
        self.assertFalse(found["grown"]["held"][0]["holds"])
        self.assertIn("more than the 60 µF", found["grown"]["held"][0]["sentence"])
        self.assertLess(found["grown"]["ripple"]["value"], found["now"]["ripple"]["value"] / 2.5)
        self.assertGreater(found["grown"]["peak_diode"]["value"], found["now"]["peak_diode"]["value"])
        heat = [found[which]["surge_heat"]["value"] for which in ("now", "grown")]
        self.assertGreater(heat[1], 1.5 * heat[0])  # the same first peak lasts longer
        self.assertIn("to be confirmed", found["limits_source"])
        self.assertIsNone(self.ask(grown="")["grown"])
        self.assertEqual((found["growth"]["largest"], found["suspects"]), (60, []))
        self.assertEqual(found["growth"]["ripple"], sorted(found["growth"]["ripple"], reverse=True))

    def test_hum_at_the_mains_frequency_is_a_missing_half(self) -> None:
        found = self.ask(measured_ripple="30 V", measured_frequency="50 Hz")
        self.assertIn("one half of the winding", found["suspects"][0]["titles"][0])

    def test_a_bleeder_costs_power(self) -> None:
        """V²/R of about 360 V over 47 kΩ: 2.8 W."""
        found = self.ask(bleeder="47 kΩ")["now"]
        self.assertAlmostEqual(found["bleeder"]["value"], found["output"]["value"] ** 2 / 47e3, places=6)

    def test_each_value_is_refused_at_its_field(self) -> None:
        for field, value in (
            ("topology", "ring"), ("rectifier", "lamp"), ("mains", "0"), ("secondary", "many"), ("secondary_winding", "0"),
            ("primary_winding", "-1"), ("drop", "x"), ("reservoir", "32"), ("grown", "100"), ("load", "much"),
            ("supply_frequency", "fast"),
        ):  # fmt: skip
            with self.subTest(field):
                self.assertEqual(self.ask(422, **{field: value})["errors"][0]["field"], field)
