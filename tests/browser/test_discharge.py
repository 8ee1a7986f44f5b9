"""Emptying, watching and proving in the real page, by keyboard: flash bank, drive, oven and pump of the demo."""

import datetime
import math
from unittest import mock

from django.utils import timezone
from selenium.webdriver.common.keys import Keys

from dusky_heron.assessment.actions import enter_reading
from dusky_heron.assessment.schemas import ReadingIn
from dusky_heron.core.model import Condition, Quantity, Role
from dusky_heron.discharge.queries import charge_line
from dusky_heron.jobs.actions import add_position, open_job
from dusky_heron.jobs.models import Position as Placed
from dusky_heron.jobs.queries import job_places
from dusky_heron.jobs.schemas import JobIn, PositionIn
from dusky_heron.workshops.models import Member
from tests import some
from tests.browser.base import BrowserTest
from tests.browser.page import DESKTOP, PHONE, Page


class Discharge(BrowserTest):
    """Jobs 1, 4, 5 and 6."""

    def prove(self, page: Page, pairs: int) -> int:
        """The sequence for so many pairs, from wherever the focus is; how many keys it took."""
        self.browser.execute_script("document.activeElement.blur()")
        return page.prove(pairs)

    def to_the_bench(self, page: Page) -> None:
        """By its key, once no field has the focus."""
        page.until(lambda: self.browser.execute_script("return document.activeElement === document.body"))
        page.press("b")
        page.see("Open jobs")

    def later(self, seconds: float) -> "mock._patch[mock.Mock]":
        """The server's clock moved on."""
        return mock.patch("django.utils.timezone.now", return_value=timezone.now() + datetime.timedelta(seconds=seconds))

    def test_a_tester_that_charges_it_takes_the_proof_away(self) -> None:
        page = self.sign_in()
        page.focus_by_tab("Wave-pool circulation pump")
        page.press(Keys.ENTER)
        page.see("A joint inside may hide a charge from every meter", "read its capacitance before hands")
        self.prove(page, 3)
        page.see("C1 proved below 5 V")
        member = Member.objects.get(username="orne")
        pump = Placed.objects.get(job__number=1)
        meter = member.workshop.meters.get(name="Blue hand meter").id
        read = ReadingIn(value=">60M", quantity=Quantity.INSULATION, volts="500 V", meter_id=meter, condition=Condition.LIFTED)
        enter_reading(member.actor, pump.id, read)
        page.open(f"/jobs/{pump.job_id}/discharge")
        page.see("revoked: An insulation reading at 500 V has charged it")

    def test_flash_bank_from_marking_to_proof(self) -> None:
        page = self.sign_in()
        page.press("/", "1200 µF 360 V")
        page.see("93.3 J", "at 360 V", "Can kill.")
        page.press(Keys.ESCAPE)
        page.focus_by_tab("Stage-front flash bank")
        page.press(Keys.ENTER)
        page.see("C4 can hold, 3 in parallel", "280 J", "Can kill, with blast and burns.", "Empty it through 1 kΩ 50 W wire-wound")
        page.press("e", "e")
        page.see("C4 emptying since", "not proved", "Up to 54 V (6.3 J) may creep back", "Watching it fall")
        page.press("f")
        for t in range(7):
            page.press(f"{t}, {360 * math.exp(-t / 3.6):.1f}", Keys.ENTER)
        page.see("Falling as a discharge does", "τ, 3.13 s to 4.14 s", "With 3 600 µF: 1 kΩ", "68 V read at 6 s")
        page.until(lambda: self.browser.find_elements("css selector", "figure canvas"))
        self.prove(page, 5)
        page.see("Up to 54 V (6.3 J) may creep back while it stands open, over 5 V within", "not proved without the link")
        page.fill("The link stays on, and where", "red clip across it")
        page.press(Keys.ENTER)
        page.see("C4 kept shorted since", "red clip across it")
        self.a_link_is_asked_for_before_power(page)

    def a_link_is_asked_for_before_power(self, page: Page) -> None:
        """Once, at the first step; then it counts as energised."""
        self.browser.execute_script("document.activeElement.blur()")
        page.press("7")
        page.see("Next step")
        page.press("r", Keys.TAB, "20 mA", Keys.ENTER)
        page.see("Kept shorted: C4, red clip across it, since")
        page.click("Every link is off")
        page.see("C4 energised since")

    def test_a_proof_of_film_lapses_after_half_an_hour(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        self.prove(page, 3)
        page.see("C1 proved below 5 V at")
        for minutes, said in ((29, "C1 proved below 5 V at"), (33, "C1 proof of")):
            with self.later(minutes * 60):
                self.browser.refresh()
                page.see(said)
        self.to_the_bench(page)

    def test_a_link_goes_on_and_comes_off(self) -> None:
        page = self.sign_in()
        page.click("Stage-front flash bank")
        page.see("C4 can hold")
        page.click("Kept shorted")
        page.fill("Where the link is", "blue clip")
        page.click("The link is on")
        page.see("C4 kept shorted since", "blue clip")
        page.click("The link is off")
        page.see("Press again: The link is off")
        page.click("Press again: The link is off")
        page.see("C4 link off since")
        page.see("Take it back")
        page.press("u")
        page.see("C4 kept shorted since", "blue clip")

    def test_a_stray_letter_changes_nothing_and_single_keys_can_be_switched_off(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("e")
        page.see("Press again: Empty with this")
        page.press(*"kezexq")
        self.assertIn("C1 unknown", page.text())
        page.press("?")
        page.see("Single keys act on this device")
        self.browser.find_element("css selector", "[role=dialog] input[type=checkbox]").click()
        page.click("Close")
        page.press("e", "e", "3")
        page.see("C1 can hold")
        self.assertIn("C1 unknown", page.text())
        page.press("?")
        page.see("Single keys act on this device")
        self.browser.find_element("css selector", "[role=dialog] input[type=checkbox]").click()
        page.click("Close")
        page.press("e", "e")
        page.see("C1 emptying since")
        page.press("u")
        page.see("C1 unknown")  # and taken back

    def test_above_a_kilovolt_the_probe_comes_first(self) -> None:
        page = self.sign_in()
        page.click("Kiosk popcorn oven")
        page.see("4.77 J", "2.97 kV", "Its bleeder measured open: only leakage empties it", "1 MΩ high-voltage stick")
        page.see("The probe on every pair, then short it through the tool, then the multimeter.")
        page.press("p", "50", Keys.TAB, "50", Keys.TAB)
        for _ in range(3):
            page.press("0", Keys.TAB, Keys.SPACE, Keys.SPACE)
        page.press(Keys.TAB, Keys.TAB, "50", Keys.TAB, "50", Keys.ENTER)
        page.see("Short it through the tool once the probe shows it below 1 kV")
        page.labelled_box("Shorted through the tool after the probe").click()
        page.click("Record the proof")
        page.see("not proved without the link")
        page.fill("The link stays on, and where", "across it")
        page.click("Record the proof")
        page.see("C5 kept shorted since", "across it")
        self.assertEqual(page.labelled("The link stays on, and where").get_attribute("value"), "")  # of the next proof: not said
        self.assertNotIn("half typed", page.text())

    def test_fourteen_parts_are_proved_in_one_go(self) -> None:
        """84 readings of 14 two-terminal parts: at most 1.1 keys a reading and ten."""
        lead = Member.objects.get(username="orne").actor
        job = open_job(lead, JobIn(title="Filter board", supply_voltage="230 V", supply_frequency="50 Hz")).id
        for number in range(14):
            add_position(lead, job, PositionIn(name=f"C{number}", role=Role.X, marking="470 nF X2 310 V~"))
        page = self.sign_in()
        page.click("Filter board")
        page.see("C0 can hold")
        page.click_summary("Prove several at once")
        page.until(lambda: self.browser.execute_script("return document.activeElement.ariaLabel") == "Known source first, V, DC")
        keys = ["50", Keys.TAB, "50", Keys.TAB, *[Keys.SPACE] * 84, Keys.TAB, "50", Keys.TAB, "50", Keys.ENTER]
        self.assertLessEqual(sum(len(key) for key in keys), 1.1 * 84 + 10)
        page.press(*keys)
        page.see("C13 proved below 5 V at")
        states = {item.state for item in charge_line(job_places(lead, job))}
        self.assertEqual(states, {"proved"})

    def test_drive_warns_of_what_a_short_end_to_end_leaves(self) -> None:
        page = self.sign_in()
        page.click("Flume pump drive")
        page.see(
            "C6 can hold, 2 in series", "576 J", "800 V", "Discharge every capacitor by itself: the whole 800 V may stand on one",
            "may leave 80 V on one", "5.76 J", "1 across C6 part 1 2 across C6 part 2", "Now across",
        )  # fmt: skip
        page.press("c")
        page.see("Circuit of C6")
        page.fill("How many", "1")
        page.press(Keys.ENTER)
        page.see("A bank or a string has two parts or more.")
        page.press(Keys.ESCAPE)
        page.press("e", "e")
        page.see("C6 emptying since", "1 of 2 emptied, the others not yet")
        page.until(lambda: page.labelled("Now across").get_attribute("value") == "1")
        page.press("e", "e")
        page.see("by now, at worst")

    def test_a_voltage_that_is_left_ends_a_proof(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold", "Prove it below 5 V")
        self.prove(page, 3)
        page.see("C1 proved below 5 V at")
        page.press("p", "230", Keys.TAB, "230", Keys.TAB, Keys.SPACE, "229", Keys.ENTER)
        page.see("229 V AC is left, one terminal to the other: it is not empty.")
        field = self.browser.find_element("css selector", "[aria-label='one terminal to the other, AC, V']")
        self.assertEqual(field.get_attribute("value"), "229")
        page.see("C1 unknown: 229 V AC is left")  # what was proved before counts no more
        self.browser.execute_script("document.activeElement.blur()")
        page.click("Energised")
        page.click("Press again: Energised")
        page.see("C1 energised since")

    def test_rising_is_said_in_the_danger_colour(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("e", "e")
        page.see("Watching it fall")
        page.press("f")
        for typed, said in (("0, 20", "20 V read at 0 s"), ("1, 20.06", "20.1 V read at 1 s"), ("2, 20.13", "Rising")):
            page.press(typed, Keys.ENTER)
            page.see(said)
        page.see("Rising: something still feeds it. Stop", "C1 rising since", "Its voltage rose while it was emptied")
        self.browser.execute_script("document.activeElement.blur()")
        self.to_the_bench(page)
        page.see("C1 rising since", "find what feeds it")

    def test_a_second_feed_stops_the_work_at_its_first_reading(self) -> None:
        page = self.sign_in()
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("e", "e")
        page.see("Watching it fall")
        page.press("f")
        for t, volts in enumerate((31, 23, 18, 325)):
            page.press(f"{t}, {volts}", Keys.ENTER)
            page.see(f"{volts} V read at {t} s" if t < 3 else "It stepped up")
        page.see("It stepped up: something fed it again. Stop, hands off", "C1 rising since")
        self.assertNotIn("at most", page.text())

    def test_a_log_is_pasted_whole_and_a_bad_line_keeps_it(self) -> None:
        page = self.sign_in()
        page.click("Stage-front flash bank")
        page.see("C4 can hold")
        page.press("e", "e")
        page.see("Watching it fall")
        lines = ["t;U", *(f"{t};{360 * math.exp(-t / 3.6):.1f}".replace(".", ",") for t in range(9))]
        field = page.labelled("Time and volts")
        paste = "arguments[0].value = arguments[1]; arguments[0].dispatchEvent(new Event('input', {bubbles: true}))"
        self.browser.execute_script(paste, field, "\n".join([*lines, "nine seconds"]))
        field.send_keys(Keys.ENTER)
        page.see("Line 11: cannot read “nine seconds”.")
        self.assertIn("0;360,0", some(field.get_attribute("value")))
        self.browser.execute_script(paste, field, "\n".join(lines))
        field.send_keys(Keys.ENTER)
        page.see("Falling as a discharge does", "39 V read at 8 s")
        page.click("Log it")
        page.see("Type time and volts")
        self.assertEqual(len(self.browser.find_elements("css selector", "figure tbody tr")), 9)

    def test_bleeder_plug_pins_and_other_ways_of_the_dryer(self) -> None:
        page = self.sign_in()
        page.click("Changing-room hand dryer")
        page.see("CX1 asks for")
        page.press("2")
        page.see("CX1 can hold", "Its bleeder measured open", "It reads 742 nF; planned with the marked 1 µF")
        page.see("325 V after 1 s", "plan 358 V", "325 V left: fails 34 V.")
        page.focus_by_tab("Bleeder")
        page.press(Keys.ENTER)
        page.see("A bleeder is never trusted", "as marked 300 kΩ", "One failing short puts 358 V on the rest")
        page.fill("Resistor size", "0.25")
        page.see("2 × 180 kΩ in series, each at least")
        page.focus_by_tab("Lamp, load, blade")
        page.press(Keys.ENTER)
        page.see("Dark at 76.7 V", "tool blade · advised against")
        page.fill("Lamp, rated power", "dim")
        page.see("cannot read “dim”")

    def test_each_state_is_clean_by_axe_on_desktop_phone_and_in_the_dark(self) -> None:
        page = self.sign_in()
        page.click("Flume pump drive")
        page.see("C6 can hold")
        page.press("e", "e")
        page.see("Watching it fall")
        page.press("f")
        for t in range(4):
            page.press(f"{t}, {800 * math.exp(-t / 1.5):.0f}", Keys.ENTER)
            page.see("Log at least" if t < 2 else "Falling as a discharge does")
        for dark, size in ((False, DESKTOP), (False, PHONE), (True, DESKTOP)):
            page.size(*size)
            page.dark(dark)
            page.see("C6 can hold", "τ,")
            self.browser.execute_script("document.querySelectorAll('details').forEach((d) => (d.open = true))")
            self.assert_axe_clean(f"discharge dark={dark} {size}")
            self.assertLessEqual(self.browser.execute_script("return document.documentElement.scrollWidth"), size[0])
        page.size(*DESKTOP)
        page.press("c")
        page.see("Circuit of C6")
        self.assert_axe_clean("circuit")

    def test_a_limit_is_changed_with_a_reason(self) -> None:
        page = self.sign_in()
        page.open("/policy")
        page.click("34 V after 1 s")
        page.see("Why")
        page.fill("Limit", "-4")
        page.fill("Why", "edition in force here")
        page.click("Count with this")
        page.see("must be more than 0 V")
        page.fill("Limit", "30")
        page.click("Count with this")
        page.see("30 V after 1 s", "changed here: edition in force here; the source says 34 V after 1 s")


class Ambiguous(BrowserTest):
    """What has two readings is chosen on the page."""

    def test_the_other_reading_is_chosen_by_keyboard(self) -> None:
        page = self.sign_in()
        page.press("/", "16 mF 450 VAC")
        page.see("Which capacitance is printed?", "as 16 000 µF", "Arc hazard")
        page.focus_by_tab("16\u00a0000 µF")
        page.press(Keys.ENTER)
        page.until(lambda: "Which capacitance is printed?" not in page.text())
        box = self.browser.find_element("css selector", "input[aria-label^='Reading box']")
        self.assertEqual(box.get_attribute("value"), "16000 µF 450 VAC")
        page.press(Keys.ESCAPE, "/", "0.1 µF 630V")
        page.see("AC or DC is not known", "630 V AC", "630 V DC")
