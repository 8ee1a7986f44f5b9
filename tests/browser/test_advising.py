"""What the advice must not miss, in the real page: a short in ohms, a bleeder, a leak at the wrong volts, the walk, a high rail."""

from selenium.webdriver.common.keys import Keys

from dusky_heron.circuits.models import WalkReading
from dusky_heron.core.model import Role
from dusky_heron.jobs.actions import add_position
from dusky_heron.jobs.models import Job, Position
from dusky_heron.jobs.schemas import PositionIn
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest


class Advising(BrowserTest):
    """Each by keyboard, on the demo's jobs."""

    def keys(self, *keys: str) -> None:
        self.browser.execute_script("document.activeElement.blur()")
        self.page.press(*keys)

    def assess(self, title: str, name: str) -> None:
        self.page.click(title)
        self.page.see("Hand back", name)
        position = Position.objects.get(job__title=title, name=name)
        self.page.open(f"/jobs/{position.job_id}/assess?position={position.id}")
        self.page.see("Judge it")

    def read(self, value: str, *sees: str) -> None:
        self.keys("r")
        self.page.press(value, Keys.ENTER)
        self.page.see(*sees)

    def test_a_shorted_run_part_by_the_ohms_range(self) -> None:
        page = self.sign_in()
        self.assess("Wave-pool circulation pump", "C1")
        page.fill("Meter", "Blue hand meter")
        page.fill("What is measured", "resistance")
        self.read("3 Ω", "Condemn C1", "It conducts: it is shorted.")
        self.assert_axe_clean("a short")

    def test_farads_typed_as_ohms_are_asked_about(self) -> None:
        """After a sound capacitance its resistance is offered, and nothing is set to it by itself."""
        page = self.sign_in()
        self.assess("Wave-pool circulation pump", "C1")
        page.fill("Meter", "Blue hand meter")
        self.read("16u", "Keep C1", "Measure its resistance too")
        self.read("11u", "Replace C1")
        self.read("16u", "Keep C1")
        page.click("Measure that")
        page.press("16u", Keys.ENTER)
        page.see("Was it farads?")
        page.retype(">60M")
        page.press(Keys.ENTER)
        page.until(lambda: "Measure its resistance too" not in page.text())

    def test_an_oven_part_with_its_bleeder(self) -> None:
        """10 MΩ inside: read as such it is kept, gone it is replaced."""
        page = self.sign_in()
        made = PositionIn(name="C6", role=Role.MAGNETRON, marking="1.05 µF ±3 % 2100 V~ 10 MΩ")
        add_position(Member.objects.get(username="orne").actor, Job.objects.get(number=5).id, made)
        self.assess("Kiosk popcorn oven", "C6")
        page.fill("Meter", "Blue hand meter")
        self.read("1.05u", "Keep C6", "Measure its resistance too")
        page.fill("What is measured", "resistance")
        self.read("10.1M", "Keep C6")
        page.until(lambda: "Measure its resistance too" not in page.text())
        page.fill("What is measured", "insulation")
        page.fill("At, such as 500 V", "500 V")
        self.read("3 GΩ", "Replace C6", "The bleeder inside it is open")

    def test_a_leak_at_the_wrong_volts_is_asked_again(self) -> None:
        page = self.sign_in()
        self.assess("Ticket-gate lamp supply", "C1")
        page.fill("Meter", "Blue hand meter")
        page.fill("What is measured", "leakage")
        page.fill("At, such as 500 V", "12 V")
        self.read("2u", "At 12 V it says nothing of")
        page.fill("What is measured", "leakage")
        page.fill("At, such as 500 V", "400 V")
        self.read("200u", "400 V")
        page.until(lambda: "it says nothing of" not in page.text())

    def test_the_fault_walk_goes_on_the_record(self) -> None:
        page = self.sign_in()
        self.assess("Ticket-gate lamp supply", "C1")
        page.until(lambda: "Fault walk of its supply" in page.text())
        page.focus_by_tab("Fault walk of its supply")
        page.press(Keys.ENTER)
        page.see("the fuse is blown", "Next: Fuse")
        page.fill("Fuse: reads", "OL")
        page.press(Keys.ENTER)
        page.until(lambda: WalkReading.objects.count() == 1)
        page.fill("MOV: reads", ">20M")
        page.press(Keys.ENTER)
        page.until(lambda: WalkReading.objects.count() == 2)
        self.assert_axe_clean("the walk")
        page.press(Keys.ESCAPE)
        self.keys("9")
        page.see("fault walk", "The fuse is open", "Chain whole")

    def test_a_power_up_stops_at_a_high_rail(self) -> None:
        page = self.sign_in()
        page.click("Organ relay supply")
        page.see("C1 asks for")
        self.keys("7")
        page.see("Next step")
        page.fill("Rail at full voltage", "300 V")
        page.fill("Current at full voltage", "100 mA")
        page.fill("Steps, %", "50 100")
        page.press(Keys.ENTER)
        page.see("150")
        self.keys("r")
        page.press("225", Keys.TAB, "49 mA", Keys.ENTER)
        page.see("225 V for 150 V: too high", "Off")
        self.assertNotIn("Next step", page.text())
        self.assertTrue(Job.objects.filter(number=7, power_steps__stop=True).exists())
