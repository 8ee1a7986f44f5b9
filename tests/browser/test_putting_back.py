"""Connectors pin by pin, several photos in a row, a closer look, and the list of what goes back with its photos."""

import tempfile
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from dusky_heron.asfound.models import FoundLine, Photo, Point
from dusky_heron.core.model import Role
from dusky_heron.jobs.actions import add_position, open_job
from dusky_heron.jobs.schemas import JobIn, PositionIn
from dusky_heron.replacement.actions import choose
from dusky_heron.replacement.queries import candidates
from dusky_heron.replacement.schemas import ChoiceIn
from dusky_heron.workshops.models import Member
from tests.api.test_asfound import picture
from tests.browser.base import BrowserTest
from tests.browser.page import PHONE

LINES = ("J3: red black white -", "TB1: L=brown N=blue PE=gnye", "red J3.1 -> C1.2", "grey pump-run -> C1.1")
BACK = ("J3.2 black", "J3.3 white", "TB1.L brown", "TB1.N blue", "TB1.PE green/yellow", "red J3.1 -> C1.2", "grey pump-run -> C1.1")


class PuttingBack(BrowserTest):
    """A pump whose part has no name yet when its wires are noted."""

    def setUp(self) -> None:
        super().setUp()
        self.lead = Member.objects.get(username="orne").actor
        self.job = open_job(self.lead, JobIn(title="Brine pump", supply_voltage="230 V", supply_frequency="50 Hz"))

    def test_from_the_map_to_the_list(self) -> None:
        page = self.sign_in()
        page.open(f"/jobs/{self.job.id}/found")
        page.labelled("One line: colour from -> to").send_keys(*(key for line in LINES for key in (line, Keys.ENTER)))
        page.until(lambda: FoundLine.objects.filter(job_id=self.job.id).count() == len(LINES))
        page.see("TB1", "green/yellow", "empty")
        tables = self.browser.find_elements(By.CSS_SELECTOR, "ol[aria-label=Pins]")
        self.assertEqual([len(table.find_elements(By.TAG_NAME, "li")) for table in tables], [4, 3])
        page.labelled("One line: colour from -> to").send_keys("J4: red blakc", Keys.ENTER)
        page.see("“blakc” is no colour of a pin")

        with tempfile.TemporaryDirectory() as folder:
            files = [Path(folder) / f"{k}.jpg" for k in range(3)]
            for file in files:
                file.write_bytes(picture("JPEG"))
            page.fill("Photo of", "block")
            self.browser.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys("\n".join(str(file) for file in files))
            page.see("block 1", "block 2", "block 3")
        captions = Photo.objects.filter(job_id=self.job.id).values_list("caption", flat=True)
        page.until(lambda: list(captions.all()) == ["block 1", "block 2", "block 3"])

        page.click("block 2")
        view = page.until(lambda: self.browser.find_element(By.CSS_SELECTOR, "[role=dialog] [role=application]"))
        whole = view.get_dom_attribute("viewBox")
        view.send_keys("+", "+", Keys.ARROW_RIGHT)
        page.see("4 ×")
        self.assertNotEqual(view.get_dom_attribute("viewBox"), whole)
        view.send_keys(Keys.ENTER)
        page.fill("What is there", "J3 seen from the wires")
        page.fill("It is", "J3: red")
        page.press(Keys.ENTER)
        page.until(lambda: Point.objects.filter(photo__job_id=self.job.id).exists())
        self.assertEqual(Point.objects.get(photo__job_id=self.job.id).x, 0.505)  # a step is a fourth of what it is from afar
        page.press(Keys.ESCAPE)

        place = add_position(self.lead, self.job.id, PositionIn(name="C1", role=Role.MOTOR_RUN, marking="16 µF ±5 % 450 V~"))
        best = candidates(self.lead, place.id).accepted[0]
        choose(self.lead, place.id, ChoiceIn(part_id=best.part.id, signed=best.to_sign))
        page.open(f"/jobs/{self.job.id}/fit?position={place.id}")
        page.see(*(f"Wire back: {line}." for line in BACK))
        shown = self.browser.find_elements(By.CSS_SELECTOR, "button[aria-label^='Its photo']")
        self.assertEqual(len(shown), 2)  # of the two pins of J3 that no line of a wire tells of
        page.size(*PHONE)
        shown[0].send_keys(Keys.ENTER)
        page.see("J3 seen from the wires", "Closer")
        page.click("Closer")
        page.see("2 ×")
        self.assert_axe_clean("a photo looked at from the fitting list")
