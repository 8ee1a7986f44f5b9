"""The dropper bench and the supply bench in the real page, by themselves and inside a position."""

from urllib.parse import unquote

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests import some
from tests.browser.base import BrowserTest
from tests.core.spice import run


class Benches(BrowserTest):
    """The dosing controller's dropper, the organ's reservoir, a walk, and a step of re-forming."""

    def test_the_dosing_valve_drops_out_at_low_mains(self) -> None:
        """CD1 reads 600 nF of 680: 636 nF would hold the valve's 34 mA at 207 V; at 230 V 567 nF do."""
        page = self.sign_in()
        page.click("Chlorine dosing controller")
        page.see("CD1 can hold")
        page.press("4")
        page.see("Lift one lead")
        page.fill("Meter", "Bench")
        page.fill("Reading", "600n")
        page.press(Keys.ENTER)
        page.see("Replace CD1", "For valve on at 207 V it gives 32.1 mA of 34 mA")
        page.focus_by_tab("Dropper bench")
        page.press(Keys.ENTER)
        page.see("hold every load at 207 V", "is at mains potential", "636", "power factor", "the rail sags below")
        page.see("It is below the 636 nF its loads need at the lowest mains.")
        self.assertEqual(page.labelled("Capacitance").get_attribute("value"), "600 nF")
        page.fill("Capacitance", "680")
        page.see("Capacitance needs its unit")
        page.fill("Capacitance", "350n")
        page.see("At 207 V, given the command, it clicks and lets go.", "falls away")
        page.fill("Capacitance", "1.36u")
        page.focus_by_tab("More values")
        page.press(Keys.ENTER)
        page.fill("Zener, rated", "1.3 W")
        page.see("As it is the zener takes 2.01 W, more than its 1.3 W: too big is a fault too.")
        self.assert_axe_clean("dropper bench")

    def test_backwards_from_what_is_measured_on_the_dosing_controller(self) -> None:
        """350 nF at 230 V: 26 mA from the mains, and a rail of 12.7 V with the valve on; the meter read 655 nF of it."""
        page = self.sign_in()
        page.click("Chlorine dosing controller")
        page.see("CD1 can hold")
        page.press("4")
        page.see("Lift one lead")
        page.fill("Meter", "Bench")
        page.fill("Reading", "655n")
        page.press(Keys.ENTER)
        page.see("Watch CD1")
        page.focus_by_tab("Dropper bench")
        page.press(Keys.ENTER)
        page.see("On a straight line it crosses the 636 nF its loads need about 20")
        page.fill("Capacitance", "680n")
        page.focus_by_tab("Which fault explains it")
        page.press(Keys.ENTER)
        page.press(Keys.TAB, "24", Keys.TAB, Keys.TAB, "24.9 mA", Keys.TAB, Keys.TAB, "12.7")
        page.see("capacitance low", "they disagree, the fault is elsewhere", "Explains what was measured")

    def test_a_value_is_changed_on_its_drawing_by_hand_and_by_keyboard(self) -> None:
        page = self.sign_in()
        page.open("/dropper")
        page.see("hold every load")
        self.browser.find_element(By.CSS_SELECTOR, "[aria-label='Capacitance 680 nF: change it']").click()
        page.press("350n", Keys.ENTER)
        page.see("20.9 mA", "12.5 V, holds")
        self.assertEqual(page.labelled("Capacitance").get_attribute("value"), "350n")
        page.focus_by_tab("Series resistor 100 Ω")
        page.press(Keys.ENTER, "many", Keys.ESCAPE)
        page.see("Series resistor")
        self.assertEqual(page.labelled("Series resistor").get_attribute("value"), "many")
        self.assertTrue(page.labelled("Series resistor").get_attribute("aria-invalid"))

    def test_supplies_are_drawn_as_they_are_told(self) -> None:
        page = self.sign_in()
        drawn = {
            "switching": "its valleys reach 270 V, above the 200 V the converter runs on. Ripple 21.2 V.",
            "forming": "Five steps up to 500 V, 50 min in all.",
        }
        for kind, says in drawn.items():
            page.open(f"/supply/{kind}")
            page.until(lambda says=says: self.browser.find_elements(By.CSS_SELECTOR, f"[role=img][aria-label*='{says}']"))
        page.fill("Time and volts across it", "5 min 90 V\n10 min 118 V")
        page.until(lambda: self.browser.find_elements(By.CSS_SELECTOR, "[role=img][aria-label='2 readings, the last 118 V.']"))
        page.open("/supply/string")
        page.fill("Each rated", "290 V")
        page.see("One stands at 297 V, more than its 290 V")
        bars = self.browser.find_elements(By.CSS_SELECTOR, "figure [style*='width']")
        self.assertEqual(["danger" in some(bar.get_attribute("class")) for bar in bars], [False, True])

    def test_a_netlist_runs_as_it_is_downloaded(self) -> None:
        page = self.sign_in()
        page.open("/dropper")
        page.see("Netlist for a SPICE simulator")
        link = self.browser.find_element(By.PARTIAL_LINK_TEXT, "Netlist")
        found = run(unquote(some(link.get_attribute("href")).split(",", 1)[1]))
        self.assertAlmostEqual(found["output_v"], 24, delta=0.3)
        self.assertAlmostEqual(found["input_a"] * 1000, 48.1, delta=0.6)

    def test_the_walk_from_the_inlet_leads_to_the_bridge(self) -> None:
        page = self.sign_in()
        page.open("/supply/walk")
        page.see("Next: Fuse", "proved empty")
        for check, reads, then in (
            ("Fuse", "OL", "Next: MOV"), ("MOV", "OL", "Next: X capacitor"), ("X capacitor and its bleed", "1M", "Next: Bridge"),
            ("Bridge", "0.02", "Next: Switch"), ("Switch", "2M", "Next: Bulk capacitor, leakage"),
        ):  # fmt: skip
            page.fill(f"{check}: reads", reads)
            page.see(then)
        page.fill("Bulk capacitor, leakage: reads", "many")
        page.see("cannot read")
        page.fill("Bulk capacitor, leakage: reads", "400k")
        page.see("Replace what is found, then first power through a lamp.", "A diode of the bridge is shorted")
        self.assert_axe_clean("fault walk")

    def test_re_forming_is_judged_and_kept(self) -> None:
        page = self.sign_in()
        page.click("Organ relay supply")
        page.see("All at a glance")
        page.press("4")
        page.see("Replace C1")
        page.focus_by_tab("Re-forming")
        page.press(Keys.ENTER)
        page.see("It may burst", "in five steps")
        page.fill("Time and volts across it", "1 min 90")
        page.see("may still fall: wait")
        page.fill("Time and volts across it", "1 min 90\n10 min 121")
        page.see("the next step may follow")
        page.click("Put this step on record")
        page.see("On record.")
        page.press("9")
        page.see("re-forming", "10 min 121")

    def test_growing_the_organs_reservoir_is_refused_with_the_reason(self) -> None:
        page = self.sign_in()
        page.click("Organ relay supply")
        page.see("All at a glance")
        page.press("4")
        page.see("Replace C1")
        page.focus_by_tab("Supply bench")
        page.press(Keys.ENTER)
        page.see("No limit is kept for this rectifier", "stands here as an example")
        page.fill("With a", "valve GZ34")
        page.see("32 µF is within the 60 µF a valve GZ34 allows.")
        page.fill("Grown to", "100")
        page.see("Reservoir needs its unit")
        self.assertEqual(page.labelled("With a").get_attribute("value"), "valve_gz34")
        page.fill("Grown to", "100u")
        page.see("100 µF is more than the 60 µF a valve GZ34 allows: the surge at switch-on and the peaks shorten its life")
        self.assert_axe_clean("supply bench")
