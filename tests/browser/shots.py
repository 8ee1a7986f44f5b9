"""The pictures in docs/screenshots, made from the demo data; run by scripts/shots."""

import datetime
import time
from decimal import Decimal
from pathlib import Path

import pypdfium2 as pdfium
from django.utils import timezone
from selenium.webdriver.common.keys import Keys

from dusky_heron.demo.scenario import load
from dusky_heron.discharge.actions import note_charge
from dusky_heron.discharge.schemas import ChargeIn
from dusky_heron.discharge.states import ChargeState
from dusky_heron.handback.actions import hand_back, sign_deviation, write_quote
from dusky_heron.handback.models import Soak
from dusky_heron.handback.queries import handback
from dusky_heron.handback.report import report_pdf
from dusky_heron.handback.schemas import DeviationIn, QuoteIn, QuoteLine, ReturnIn
from dusky_heron.jobs.models import Position
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest
from tests.browser.page import DESKTOP, PHONE
from tests.databases import EMPTY, PASSWORD

FOLDER = Path(__file__).resolve().parents[2] / "docs" / "screenshots"
MARKING = "10,000 MFD 50 VDC"


class Shots(BrowserTest):
    """One current picture of each main view, in a workshop with two years behind it."""

    begins_with = EMPTY

    def test_shots(self) -> None:
        load(PASSWORD, datetime.date.today(), past=True)
        FOLDER.mkdir(parents=True, exist_ok=True)
        page = self.sign_in()
        page.press("/", MARKING)
        page.see("Which capacitance is printed?")
        self.shot("bench")
        page.press(Keys.ESCAPE)
        page.click("Wave-pool circulation pump")
        page.see("C1 can hold")
        self.shot("discharge")
        page.press("e", "e")
        page.see("emptying since")
        page.press("4")
        page.see("Lift one lead")
        page.press("r", "12.9u", Keys.TAB, "Blue", Keys.ENTER)
        page.see("Replace C1")
        self.shot("assess")
        page.press("5")
        page.see("Not these")
        self.shot("replace")
        page.press("t")
        page.see("Chosen:")
        self.handing_back()
        self.powering_up()
        self.remembering()
        page.open("/workshop")
        page.see("Members", "Terms")
        self.shot("workshop")
        page.press("d")
        page.see("3.3 nF")
        self.shot("drawer")
        self.buying()
        self.as_found_and_board()
        page.size(*PHONE)
        page.open()
        page.see("Open jobs")
        page.press("/", MARKING)
        page.see("Which capacitance is printed?")
        self.shot("phone-bench")
        page.press(Keys.ESCAPE)
        page.open()
        page.click("Chlorine dosing controller")
        page.see("CD1 can hold")
        page.press("5")
        page.see("CD1 asks for")
        self.scroll_to("May take the place, best first")
        self.shot("phone-replace")
        page.size(*DESKTOP)

    def handing_back(self) -> None:
        """The pump from the part in the hand to the report."""
        page = self.page
        page.press("6")
        page.see("Take the part out of the drawer first")
        page.click("Take it out of the drawer")
        page.until(lambda: "out of the drawer first" not in page.text())
        actor = Member.objects.get(username="orne").actor
        place = Position.objects.get(job__title="Wave-pool circulation pump")
        note_charge(actor, place.id, ChargeIn(state=ChargeState.KEPT_SHORTED))
        page.see("kept shorted")
        count = len(self.browser.find_elements("css selector", "ol input[type=checkbox]"))
        for done in range(1, count + 1):
            self.browser.execute_script("document.activeElement.blur()")
            page.press("t")
            page.see(f"{done} of {count}")
            if done == count - 2:
                self.shot("fitting")
        page.press("8")
        for meter, value, sees in (
            ("Bench LCR bridge", "0.05", "earth continuity passes"),
            ("Blue hand meter", ">60M", "insulation passes"),
        ):
            page.see("Judge it")
            page.fill("Meter", meter)
            self.browser.execute_script("document.activeElement.blur()")
            page.press("r", value, Keys.ENTER)
            page.see(sees)
        page.click("Begin the soak")
        page.click("Every link is off")
        page.see("to go")
        self.shot("handback")
        Soak.objects.update(at=timezone.now() - datetime.timedelta(minutes=31))
        page.open(self.browser.current_url.removeprefix(self.live_server_url))
        page.see("over")
        page.click("It held")
        page.click("Yes")
        page.see("capacitance in service")
        page.fill("Meter", "Clamp meter")
        self.browser.execute_script("document.activeElement.blur()")
        page.press("r", "16.1u", Keys.ENTER)
        page.see("16.1 µF")
        job_id = Position.objects.get(job__title="Wave-pool circulation pump").job_id
        lines = [QuoteLine(text="C1: 16 µF ±5 % 450 V~, lot 2608", quantity=Decimal(1), each=Decimal("9.80"))]
        write_quote(actor, job_id, QuoteIn(lines=lines, minutes=75))
        reason = "in service within the clamp meter's error of its tolerance; a finer one is on order"
        for check in handback(actor, job_id).checks:
            if check.required and check.state not in ("passes", "signed"):
                sign_deviation(actor, job_id, DeviationIn(check_id=check.id, reason=reason))
        hand_back(actor, job_id, ReturnIn(links_off=True))
        pages = pdfium.PdfDocument(report_pdf(actor, job_id))
        pages[0].render(scale=1.3).to_pil().save(FOLDER / "report.png")
        page.press("9")
        page.see("handed back", "Chain whole")
        self.shot("record")

    def powering_up(self) -> None:
        """The organ supply, stepped."""
        page = self.page
        page.press("b")
        page.see("Open jobs")
        page.click("Organ relay supply")
        page.see("All at a glance")
        page.press("7")
        page.see("Next step")
        page.fill("Rail at full voltage", "300 V")
        page.fill("Current at full voltage", "100 mA")
        page.fill("It takes, at standby", "20 W")
        page.press(Keys.ENTER)
        page.see("Healthy:")
        for percent, rail, current in ((10, "30", "10 mA"), (25, "74", "24 mA"), (50, "149", "49 mA")):
            self.browser.execute_script("document.activeElement.blur()")
            page.press("r", rail, Keys.TAB, current, Keys.ENTER)
            page.see(f"At {percent} % as expected")
        self.shot("power-up")

    def remembering(self) -> None:
        """How long parts of its kind lasted in two years of work, and a word found in every record."""
        self.page.open("/seen-before")
        self.page.press("harkw rs")
        self.page.see("No 67 Organ relay supply")
        self.shot("seen-before")

    def buying(self) -> None:
        """The cheapest basket."""
        page = self.page
        page.open("/shopping")
        page.see("Nothing cheaper exists")
        self.shot("basket")

    def as_found_and_board(self) -> None:
        """How the organ supply was found, a board of the lamp supply, and what the workshop decides for itself."""
        page = self.page
        page.press("b")
        page.see("Open jobs")
        page.click("Organ relay supply")
        page.see("All at a glance")
        page.press("3")
        page.see("rectifier", "Under the chassis")
        self.shot("as-found")
        page.press("b")
        page.see("Open jobs")
        page.click("Ticket-gate lamp supply")
        page.see("All at a glance")
        page.press("a")
        page.see("Next")
        page.press("r")
        for marking, value in (("100 µF 25 V", "97u"), ("220 µF 25 V", "131u"), ("47 µF 50 V", "45.1u")):
            page.press(marking, Keys.TAB, value, Keys.ENTER)
            page.until(lambda: page.labelled("What is printed on it").get_attribute("value") == "")
        self.shot("board")
        page.open("/dropper")
        page.see("hold every load")
        self.shot("dropper")
        page.open("/supply")
        page.see("within the 60 µF")
        page.fill("Grown to", "100u")
        page.see("more than the 60 µF")
        self.shot("supply")

    def scroll_to(self, label: str) -> None:
        self.browser.execute_script(f"document.querySelector('[aria-label=\"{label}\"]').scrollIntoView()")

    def shot(self, name: str) -> None:
        time.sleep(0.4)  # let fonts and the last answer settle; a picture, not a test
        self.page.shot(FOLDER / f"{name}.png")
