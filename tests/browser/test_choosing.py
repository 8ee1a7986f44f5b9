"""The other ways to fill a place, in the real page: together, empty, ordered, refused with every reason, and one's mind changed."""

from typing import Any

from selenium.webdriver.common.keys import Keys

from dusky_heron.core.model import PartKind, Role
from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.discharge.states import ChargeState
from dusky_heron.handback.report import report_html
from dusky_heron.jobs.actions import add_position, open_job
from dusky_heron.jobs.schemas import JobIn, PositionIn
from dusky_heron.stock.actions import add_part
from dusky_heron.stock.models import Part
from dusky_heron.stock.schemas import PartIn
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest


class Choosing(BrowserTest):
    """One place of a job of its own, kept shorted, at Replace."""

    def at(self, role: Role, marking: str, *parts: tuple[str, PartKind], **job: Any) -> Any:
        lead = Member.objects.get(username="orne").actor
        made = open_job(lead, JobIn(title="Bench press", supply_voltage="230 V", supply_frequency="50 Hz", **job))
        place = add_position(lead, made.id, PositionIn(name="Q9", role=role, marking=marking))
        note_charge(lead, place.id, ChargeIn(state=ChargeState.KEPT_SHORTED))
        for printed, kind in parts:
            add_part(lead, PartIn(marking=printed, kind=kind, quantity=1, place="Z9", humidity_grade=True))
        self.job, self.path = made.id, f"/jobs/{made.id}/replace?position={place.id}"
        page = self.sign_in()
        page.open(self.path)
        page.see("Q9 asks for")
        return page

    def tick_all(self) -> None:
        page = self.page
        page.open(self.path.replace("/replace", "/fit"))
        page.see("Proved empty just before")
        for _ in range(20):
            if "every line is ticked" in page.text():
                return
            done = page.text()
            page.press("t")
            page.until(lambda done=done: page.text() != done)
        page.see("every line is ticked")

    def left(self, printed: str) -> int:
        return Part.objects.get(marking=printed).quantity

    def test_a_dual_by_two_strapped_singles_from_choice_to_report(self) -> None:
        singles = [("22 µF ±5 % 440 VAC", PartKind.MOTOR_RUN), ("7 µF ±5 % 440 VAC", PartKind.MOTOR_RUN)]
        page = self.at(Role.MOTOR_RUN, "22+7 µF ±6 % 370/440 VAC", *singles)
        page.see("Nothing in the drawer may take this place.", "a single for each section")
        page.focus_by_tab("Take these")
        page.press(Keys.ENTER)
        page.see("Chosen: 22 µF ±5 % 440 VAC + 7 µF ±5 % 440 VAC", "a single for each section")
        self.assert_axe_clean("a combination chosen")
        page.click("Take them out of the drawer")
        page.see("Out of the drawer")
        self.assertEqual([self.left(printed) for printed, _ in singles], [0, 0])
        self.tick_all()
        page.see("Strap between the commons fitted")
        report = report_html(Member.objects.get(username="orne").actor, self.job)
        for words in ("22 µF ±5 % 440 VAC", "7 µF ±5 % 440 VAC", "fitted together, a single for each section"):
            self.assertIn(words, report)

    def test_a_line_to_chassis_part_is_removed_with_a_reason(self) -> None:
        page = self.at(Role.Y, ".01 MFD 600 WVDC", two_core=True)
        page.see("Y1 or better")
        page.focus_by_tab("Without a part of the drawer")
        page.press(Keys.ENTER)
        page.click("Remove it, leave it empty")
        page.see("Why? The record and the report say it.")
        page.fill("Why it is left empty, or as it was", "two-core lead: not needed")
        page.press(Keys.ENTER)
        page.see("Chosen: removed, left empty", "two-core lead: not needed")
        self.tick_all()
        page.see("ends sleeved")

    def test_a_specification_is_ordered_received_and_taken(self) -> None:
        page = self.at(Role.MOTOR_RUN, "13 µF ±5 % 480 V~ cl. B P2 25/085/21")
        page.see("What a supplier has to know", "Class B or better at 480 V", "Tolerance -5/+5 % or closer")
        page.click("Order one to this")
        page.see("Chosen: to be ordered", "On the shopping list, to this specification")
        page.open("/shopping")
        page.see("To a specification", "Class B or better at 480 V")
        page.click("It came")
        page.fill("What is printed on it", "13 µF ±5 % 400 V~ cl. B P2 25/085/21")
        page.fill("Made as", "motor run")
        page.click("Into the drawer")
        page.see("400 V AC is below the old part's 480 V AC")
        page.fill("What is printed on it", "13 µF ±5 % 500 V~ cl. B P2 25/085/21")
        page.fill("Lot", "K7")
        page.click("Into the drawer")
        page.until(lambda: "To a specification" not in page.text())
        page.open(self.path)
        page.see("13 µF ±5 % 500 V~ cl. B P2 25/085/21")
        page.press("t")
        page.see("Chosen: 13 µF ±5 % 500 V~")
        page.click("Take it out of the drawer")
        page.see("Out of the drawer, lot K7")
        self.tick_all()

    def test_a_wrong_start_part_is_refused_with_all_its_reasons(self) -> None:
        page = self.at(Role.MOTOR_RUN, "16 µF ±5 % 450 V~ cl. B P2", ("16-20 µF 330 VAC", PartKind.MOTOR_START))
        page.see(
            "A start capacitor stands seconds, not continuous duty",
            "330 V AC is below the old part's 450 V AC",
            "No operating class printed at 450 V or more",
            "No protection class printed; the old part is P2",
        )

    def test_a_choice_is_changed_and_the_part_goes_back(self) -> None:
        parts = [("477 nF K X2 310 V~", PartKind.FILM_SAFETY), ("477 nF K X2 305 V~ 470 kΩ", PartKind.FILM_SAFETY)]
        page = self.at(Role.X, "477 nF K X2 275 V~ 470 kΩ", *parts)
        page.focus_by_tab("477 nF K X2 310 V~")
        page.press(Keys.ENTER)
        page.see("To be signed by who takes it")
        page.press("t")
        page.see("To be signed: The bleeder inside the old part")
        page.fill("Bleeder fitted across it", "470k")
        page.click("Take 477 nF")
        page.see("Chosen: 477 nF K X2 310 V~", "with 470 kΩ across it")
        page.click("Take it out of the drawer")
        page.see("Out of the drawer")
        self.assertEqual(self.left(parts[0][0]), 0)
        self.assert_axe_clean("signed for")
        page.focus_by_tab("477 nF K X2 305 V~ 470 kΩ", limit=120)
        page.press(Keys.ENTER)
        page.click("Take 477 nF")
        page.see("Chosen: 477 nF K X2 305 V~ 470 kΩ")
        self.assertEqual(self.left(parts[0][0]), 1)
