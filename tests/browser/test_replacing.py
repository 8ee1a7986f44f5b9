"""From a condemned part to the part in the hand, in the real page."""

import tempfile
from pathlib import Path

from selenium.webdriver.common.by import By
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

    def test_a_stock_list_with_errors_then_mended_taken_and_undone(self) -> None:
        page = self.sign_in()
        page.open("/drawer")
        page.see("Import a list")
        page.click("Import a list")
        page.see("Nothing is changed")
        with tempfile.TemporaryDirectory() as folder:
            for name, rows in (
                ("bad", "nothing;film;1\n820 nF J X2 310 V~;safety film;3\n"),
                ("good", "820 nF J X2 310 V~;safety film;3\n"),
            ):
                Path(folder, f"{name}.csv").write_text(f"marking;kind;quantity\n{rows}", encoding="utf-8")
            field = self.browser.find_element(By.CSS_SELECTOR, "input[type=file]")
            field.send_keys(str(Path(folder, "bad.csv")))
            page.see("is no kind known here", "Mend the refused rows first")
            self.assert_axe_clean("import")
            field.send_keys(str(Path(folder, "good.csv")))
            page.see("new: 820 nF J X2 310 V~")
            page.click("Take it, all of it")
            page.see("Taken, all of it.")
            page.click("Undo the whole list")
            page.see("Undone: the drawer is as it was.")
