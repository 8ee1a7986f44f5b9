"""From a condemned part to the part in the hand, in the real page."""

from selenium.webdriver.common.keys import Keys

from tests.browser.base import BrowserTest


class Replacing(BrowserTest):
    """Motor parts, an X place, the dropper, the can of the organ, and one part for another."""

    def at_replace(self, job: str, sees: str):  # type: ignore[no-untyped-def]
        page = self.sign_in()
        page.click(job)
        page.see(sees)
        page.press("5")
        page.see("asks for")
        return page

    def test_motor_parts_alone_and_together(self) -> None:
        page = self.at_replace("Wave-pool circulation pump", "C1 can hold")
        page.see("16 µF ±5 % 450 V~ cl. B P2 25/085/21", "A start capacitor stands seconds, not continuous duty")
        page.focus_by_tab("Together")
        page.press(Keys.ENTER)
        page.see("16 µF in parallel", "8 µF ±5 % 450 V~ cl. B P2 (A2) and 8 µF")
        self.assert_axe_clean("replace")

    def test_a_demand_is_overridden_by_keyboard_and_stands_in_the_record(self) -> None:
        page = self.at_replace("Wave-pool circulation pump", "C1 can hold")
        page.focus_by_tab("Override a demand")
        page.press(Keys.ENTER)
        page.fill("Demand", "Capacitance in the window of the role")
        page.fill("Reason", "18 µF is what the motor's plate says")
        page.press(Keys.ENTER)
        page.see("Overridden: 18 µF is outside", "Ask for it again")
        page.click("Record")
        page.see("demand overridden", "18 µF is what the motor's plate says")

    def test_an_x_place_is_drawn_to_scale_and_dc_film_refused(self) -> None:
        page = self.at_replace("Changing-room hand dryer", "CX1 emptying")
        page.see("It fits the space there is.", "Bend leads from 22.5 to 27.5 mm.", "burns: its DC volts say nothing about AC")
        page.see("from above", "from the side")

    def test_a_dropper_too_large_is_refused_by_simulation(self) -> None:
        page = self.at_replace("Chlorine dosing controller", "CD1 can hold")
        page.see("at least 636 nF by its circuit", "680 nF K X2 310 V~", "burns: its DC volts say nothing about AC")
        page.see("valve on needs 636 nF at the lowest mains")

    def test_one_part_for_another_from_two_markings(self) -> None:
        page = self.sign_in()
        page.open("/may-replace")
        page.fill("The old part, as printed", "3n3 M Y2 300 V~")
        page.fill("The new part, as printed", "3n3 K X1 440 V~")
        page.see("No.", "X1 in a Y2 place: an X never replaces a Y.", "nobody may decide otherwise")
        page.fill("The new part, as printed", "2n2 M Y1 400 V~")
        page.see("It may, by these markings.")
        page.fill("The old part, as printed", "32 µF 500 VDC")
        page.see("choose the place")
        page.fill("What the place does", "reservoir")
        page.fill("The new part, as printed", "100 µF 500 VDC")
        page.see("100 µF is outside 28.8 to 48 µF", "may be overridden with a reason")
        self.assert_axe_clean("may it replace")
