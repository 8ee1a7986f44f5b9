"""The dropper bench over HTTP."""

from urllib.parse import urlencode

from tests.api.base import ApiTest

TYPED = {"loads": "standby 8 mA\nvalve on 34 mA"}


class Dropper(ApiTest):
    """As typed, and filled from the dosing controller."""

    def ask(self, status: int = 200, **changed: str):  # type: ignore[no-untyped-def]
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
        self.assertEqual(start["given"]["loads"], "standby 8 mA\nvalve on 34 mA")
        self.post(f"{path}/readings", {"value": "600n", "meter_id": self.meter_id()})
        self.assertEqual(self.get(f"{path}/dropper")["given"]["capacitance"], "600 nF")


class Supply(ApiTest):
    """The organ's supply: 300-0-300 V, a GZ34 and 32 µF."""

    def ask(self, status: int = 200, **changed: str):  # type: ignore[no-untyped-def]
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

    def test_each_value_is_refused_at_its_field(self) -> None:
        for field, value in (
            ("topology", "ring"), ("rectifier", "lamp"), ("mains", "0"), ("secondary", "many"), ("secondary_winding", "0"),
            ("primary_winding", "-1"), ("drop", "x"), ("reservoir", "32"), ("grown", "100"), ("load", "much"),
            ("supply_frequency", "fast"),
        ):  # fmt: skip
            with self.subTest(field):
                self.assertEqual(self.ask(422, **{field: value})["errors"][0]["field"], field)
