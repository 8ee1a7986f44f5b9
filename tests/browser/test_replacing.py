"""From a condemned part to the part in the hand, in the real page."""

import tempfile
from pathlib import Path
from typing import Any

from django.test import override_settings
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.buying.models import Ordered
from dusky_heron.core.model import PartKind
from dusky_heron.demo.price_stand_in import prices
from dusky_heron.stock.actions import add_part
from dusky_heron.stock.schemas import PartIn
from dusky_heron.workshops.models import Member
from tests.api.test_buying import served
from tests.browser.base import BrowserTest


class Replacing(BrowserTest):
    """Motor parts, an X place, the dropper, the can of the organ, and one part for another."""

    def at_replace(self, job: str, sees: str) -> Any:
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

    def test_the_can_of_the_organ_is_rebuilt_from_singles(self) -> None:
        """With a second single in the drawer; what has to be made of them stands beside them."""
        lead = Member.objects.get(username="orne").actor
        add_part(lead, PartIn(marking="32 µF M 525 VDC", kind=PartKind.ELECTROLYTIC, quantity=1, place="D4"))
        page = self.at_replace("Organ relay supply", "C1 asks for")
        page.see("32+32 µF 500 VDC")
        page.focus_by_tab("Together")
        page.press(Keys.ENTER)
        page.see("32 µF + 33 µF a single for each section", "32 µF M 525 VDC (D4) and 33 µF 500 VDC", "never left in parallel")

    def test_a_demand_is_overridden_by_keyboard_and_stands_in_the_record(self) -> None:
        page = self.at_replace("Wave-pool circulation pump", "C1 can hold")
        page.focus_by_tab("Override a demand")
        page.press(Keys.ENTER)
        page.fill("Demand", "Capacitance in the window of the role")
        page.fill("Reason", "18 µF is what the motor's plate says")
        page.press(Keys.ENTER)
        page.see("Overridden: 18 µF is outside", "Ask for it again")
        self.browser.execute_script("document.activeElement.blur()")
        page.press("9")
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
            page.see("Reading the list", "waiting for the worker", "Stop it")
            self.work()
            page.see("is no kind known here", "Mend the refused rows first")
            self.assert_axe_clean("import")
            field.send_keys(str(Path(folder, "good.csv")))
            page.see("waiting for the worker")
            self.work()
            page.see("new: 820 nF J X2 310 V~")
            page.click("Take it, all of it")
            page.see("Taking the list")
            self.work()
            page.see("Taken, all of it.")
            page.click("Undo the whole list")
            page.see("Undoing it")
            self.work()
            page.see("Undone: the drawer is as it was.")

    def test_the_basket_from_the_place_that_waits_to_the_drawer(self) -> None:
        """Job 2's X part is wanted, bought with the rest for less than apart, comes with its lot, and leaves for its place."""
        page = self.at_replace("Changing-room hand dryer", "CX1 emptying")
        page.click("Put it on the shopping list")
        page.see("It is on the list, with what else may take the place.")
        page.press("b")
        page.see("CX1 waits for", "on the shopping list")
        page.open("/shopping")
        page.see("Nothing cheaper exists.", "job 2, CX1", "Each job alone", "Round the corner")
        self.assert_axe_clean("shopping")
        for _ in range(3):
            if "Note it as ordered" not in page.text():
                break
            before = page.text().count("Note it as ordered")
            page.click("Note it as ordered")
            page.until(lambda before=before: page.text().count("Note it as ordered") < before)
        page.see("Nothing is wanted.", "On its way")
        while "It came" in page.text():
            left = page.text().count("It came")
            page.click("It came")
            page.fill("Lot", "L-2648")
            page.press(Keys.ENTER)
            page.until(lambda left=left: page.text().count("It came") < left)
        self.assertFalse(Ordered.objects.filter(closed=False))
        page = self.at_replace_again("Changing-room hand dryer")
        page.press("t")
        page.see("Chosen:", "Tag for the removed part")
        page.click("Take it out of the drawer")
        page.see("Out of the drawer")
        page.focus_by_tab("Tag for the removed part")
        page.press(Keys.ENTER)
        page.see("Job 2, CX1", "removed: 1 µF K X2 305 V~", "The code opens")
        self.assert_axe_clean("label")

    def at_replace_again(self, job: str) -> Any:
        self.page.open()
        self.page.click(job)
        self.page.see("CX1")
        self.page.press("5")
        self.page.see("asks for")
        return self.page

    def test_prices_are_asked_and_a_silent_service_is_said(self) -> None:
        page = self.sign_in()
        page.open("/shopping")
        page.see("Nothing cheaper exists.")
        before = page.text()
        page.focus_by_tab("Suppliers", limit=120)
        page.press(Keys.ENTER)
        with override_settings(PRICE_SERVICE_URL="http://127.0.0.1:9"):
            page.click("Ask for today")
            page.see("Asking suppliers")
            self.work(PRICE_SERVICE_URL="http://127.0.0.1:9")
        page.see("does not answer: its old prices stand.")
        with served(prices) as url, override_settings(PRICE_SERVICE_URL=url):
            page.click("Ask for today")
            page.see("Asking suppliers")
            self.work(PRICE_SERVICE_URL=url)
            page.see("prices renewed.")
        page.until(lambda: page.text() != before)

    def test_the_drawer_is_found_counted_and_moved_by_keyboard(self) -> None:
        page = self.sign_in()
        page.open("/drawer")
        page.fill("Find by any words, value, class or pitch: x2 680n 22.5", "x2 680n 22.5")
        page.until(lambda: "1n M Y1" not in page.text() and "680" in page.text())
        page.focus_by_tab("in B")
        page.press(Keys.ENTER)
        page.see("Write it down", "added")
        page.press("-99", Keys.ENTER)
        page.see("not 99.")
        page.fill("In, or out", "2")
        page.fill("Why", "found behind the shelf")
        page.press(Keys.ENTER)
        page.see("+2", "found behind the shelf")
        self.assert_axe_clean("movements")
