"""The drawer, the instruments, the members and the reading box, in the real page."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.instruments.models import Meter
from dusky_heron.stock.models import Part
from dusky_heron.workshops.models import Member
from tests import some
from tests.browser.base import BrowserTest
from tests.databases import PASSWORD


class ReadingBox(BrowserTest):
    """On every screen, before any job exists."""

    def test_the_same_answer_on_every_screen(self) -> None:
        page = self.sign_in()
        for path in ("/", "/drawer", "/meters", "/workshop"):
            page.open(path)
            page.see("M. Orne")
            page.press("/", "µ68 K X2 305~")
            page.see("680 nF", "612 to 748 nF", "69.6 mJ", "at 431 V", "X2 X1 Y2 Y1", "may take its place")
            page.press(Keys.ESCAPE)
            page.until(lambda: "may take its place" not in page.text())

    def test_what_is_ambiguous_unread_or_unreadable_is_said(self) -> None:
        page = self.sign_in()
        page.press("/", "16 mF 450 VAC quayside")
        page.see("mF is read as microfarad", "Which capacitance is printed? 16 µF F2 16 000 µF F3", "not read: quayside")
        page.see("3.56 kJ", "at 636 V, as 16 000 µF")  # the larger, 16 mF +10 % of a motor part, at the peak of 450 V
        page.retype("quayside")
        page.see("No capacitance found")
        page.press(Keys.ENTER)
        self.assertFalse(self.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))

    def test_enter_looks_in_the_drawer(self) -> None:
        page = self.sign_in()
        page.press("/", "470n X2", Keys.ENTER)
        page.see("Where does 470n X2 go?")
        page.focus_by_tab("Look in the drawer")
        page.press(Keys.ENTER)
        page.see("Find by any words")
        self.assertEqual(page.labelled("Find by any words").get_attribute("value"), "470n")


class Drawer(BrowserTest):
    """Parts added and changed by keyboard."""

    def test_find_add_and_change_a_part(self) -> None:
        page = self.sign_in()
        page.press("d")
        page.see("Drawer", "3.3 nF")
        page.fill("Find by any words", "motor start")
        page.until(lambda: "2.2 nF" not in page.text())
        page.see("16-20 µF 330 VAC", "189-227 µF 250 VAC")
        page.retype("no such words")
        page.see("No part of the drawer is all of that.")
        page.fill("Find by any words", "x2")
        page.press(Keys.TAB)
        page.press("n")
        page.see("What is printed on it")
        page.press("quayside", Keys.ENTER)
        page.see("No capacitance found")
        page.retype("µ33 K X2 305~ 40/110/56/B")
        page.see("330 nF", "class X2", "−40 to 110 °C")
        page.fill("How many", "seven")
        page.press(Keys.ENTER)
        page.see("Type a whole number.")
        page.fill("How many", "7")
        page.fill("Price", "0,55")
        page.press(Keys.ENTER)
        page.until(lambda: not self.browser.find_elements(By.CSS_SELECTOR, "[role=dialog]"))
        page.see("µ33 K X2 305~ 40/110/56/B")
        made = Part.objects.get(marking__startswith="µ33")
        self.assertEqual((made.quantity, str(made.price)), (7, "0.55"))


class Meters(BrowserTest):
    """Instruments added, changed, and changed by two."""

    def test_add_a_meter_and_see_both_versions_of_another(self) -> None:
        page = self.sign_in()
        page.press("m")
        page.see("Old yellow meter", "overdue")
        page.press("n")
        page.see("Accuracy")
        page.press("Green meter")
        page.fill("Accuracy", "1,5")
        page.fill("and ± counts of the last digit", "4")
        page.fill("Display", "6000")
        page.press(Keys.ENTER)
        page.see("±(1.5 % + 4), 6000 counts")
        page.click("Blue hand meter")
        page.see("Save")
        Meter.objects.filter(name="Blue hand meter").update(percent=9, version=2)
        page.fill("Accuracy", "3")
        page.press(Keys.ENTER)
        page.see("Somebody changed this since you opened it.", "Accuracy, ± % of reading 9 3")
        page.click("Take theirs")
        page.until(lambda: page.labelled("Accuracy").get_attribute("value") == "9")

    def test_add_a_resistor_in_the_workshops_notation(self) -> None:
        page = self.sign_in()
        page.press("m")
        page.see("Discharge resistors")
        page.click("Add a resistor")
        page.see("Working voltage")
        page.press("3k3 box")
        page.fill("Value", "3k3")
        page.fill("Tolerance", "5")
        page.fill("Rated power", "20")
        page.fill("Working voltage", "12 A")
        page.press(Keys.ENTER)
        page.see("is not a unit of it (V)")
        page.fill("Working voltage", "800")
        page.press(Keys.ENTER)
        page.see("3.3 kΩ ±5 %, 20 W, 800 V")


class Workshop(BrowserTest):
    """Members and passwords."""

    def test_a_lead_adds_a_member_who_signs_in_and_changes_the_password(self) -> None:
        page = self.sign_in()
        page.press("w")
        page.see("Saltgate Lido & Picture House workshop", "T. Vell")
        page.click_summary("Record of the workshop")
        page.see("Whole: none altered.", "part added")
        page.click_summary("Record of the workshop")
        page.click("Add a member")
        page.see("First password")
        page.press("Q. Uay")
        page.fill("User name", "quay")
        page.fill("First password", "short")
        page.press(Keys.ENTER)
        page.see("too short")
        page.fill("First password", "heron-by-the-water")
        page.press(Keys.ENTER)
        page.see("Q. Uay quay technician")
        self.browser.delete_all_cookies()
        page.sign_in("quay", "heron-by-the-water")
        page.press("w")
        page.see("Change my password")
        self.assertNotIn("Add a member", page.text())
        page.click("Change my password")
        page.see("Present password")
        page.press("wrong", Keys.TAB, "a-newer-heron-word", Keys.ENTER)
        page.see("That is not your present password.")
        page.fill("Present password", "heron-by-the-water")
        page.press(Keys.ENTER)
        page.see("The password is changed.")
        self.assertTrue(Member.objects.get(username="quay").check_password("a-newer-heron-word"))

    def test_sign_out_and_theme_are_in_the_menu(self) -> None:
        page = self.sign_in()
        page.click("M. Orne")
        page.see("Dark page")
        page.click("Dark page")
        self.assertIn("dark", some(self.browser.find_element(By.TAG_NAME, "html").get_attribute("class")))
        page.open()
        page.see("Open jobs")
        self.assertIn("dark", some(self.browser.find_element(By.TAG_NAME, "html").get_attribute("class")))
        self.browser.execute_script("localStorage.clear()")
        page.click("M. Orne")
        page.click("Sign out")
        page.see("User name")
        page.sign_in("vell", PASSWORD)
        page.see("T. Vell · apprentice")


class Signs(BrowserTest):
    """What is seen condemns, whatever is measured; an apprentice does not decide."""

    def test_a_bulged_can_is_condemned_though_it_measures_right(self) -> None:
        page = self.sign_in("vell")
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        page.press("4")
        page.see("Lift one lead")
        page.press("r", "16u", Keys.TAB, "Blue", Keys.ENTER)
        page.see("Keep C1", "0 % over the marked 16 µF: inside its tolerance")
        page.click("can bulged")
        page.see("Condemn C1", "The can is bulged", "seen: bulged")
        page.press("5")
        page.see("Take 16 µF from A1")
        page.press("t")
        self.assertIn("a technician signs", page.see("Take 16 µF from A1"))  # and says so before it is tried


class Assessing(BrowserTest):
    """ESR, touch current and the common terminal on the page."""

    def test_esr_is_asked_for_and_settles_it(self) -> None:
        page = self.sign_in()
        page.click("Flume pump drive")
        page.see("C6 can hold")
        page.press("4")
        page.see("Cannot tell yet C6")
        page.press("r", "1480u", Keys.ENTER)
        page.see("Part 1: reads 1 % under", "Lift one lead and measure part 2.")
        page.press("r", "1490u", Keys.ENTER)  # the form has moved on to part 2
        page.see("Part 2: reads 1 % under", "Measure the ESR of part 1 at 100 or 120 Hz, one lead lifted.")
        page.fill("What is measured", "ESR")
        page.fill("At", "120 Hz")
        page.fill("Reading", "60m")
        page.press(Keys.ENTER)
        page.see("ESR at 120 Hz, part 1")
        page.fill("Reading", "64m")
        page.press(Keys.ENTER)
        page.see("Keep C6", "ESR at 120 Hz, part 2")  # 0.26 / (2π · 120 Hz · 1500 µF) = 230 mΩ

    def test_touch_current_and_the_common_terminal(self) -> None:
        page = self.sign_in()
        page.click("Changing-room hand dryer")
        page.see("CX1 asks for")
        page.press("4")
        page.see("Replace CX1")
        page.press(".")
        page.see("Touch current, earth lost", "629 µA", "315 µA", "within 750 µA")
        bar = self.browser.find_element("css selector", "figure svg").get_attribute("aria-label")
        self.assertIn("healthy up to 3.96 nF", some(bar).replace("\u00a0", " "))
        page.press("n")
        page.see("Add a position")
        page.press("C9", Keys.TAB, Keys.TAB, "30+5 µF ±6% 440 VAC", Keys.ENTER)
        page.see("C9 can hold")
        page.press("4")
        page.focus_by_tab("Which terminal is common?")
        page.press(Keys.ENTER, Keys.TAB, "30u", Keys.TAB, "4.29u", Keys.TAB, "5u")
        page.see("Terminal a is common; b 30 µF and c 5 µF.")
