"""A job that came from another workshop: whose word it is, how a lead takes it over, and what is said where it was altered."""

from dusky_heron.assessment.models import Reading
from dusky_heron.jobs.models import Job
from dusky_heron.transfer.inward import take_in
from dusky_heron.transfer.outward import as_zip
from dusky_heron.workshops.actions import found_workshop
from dusky_heron.workshops.models import Member
from tests.browser.base import BrowserTest
from tests.databases import PASSWORD


class FromFile(BrowserTest):
    """In the real page."""

    def test_it_is_marked_accepted_by_a_deliberate_act_and_what_was_altered_is_named(self) -> None:
        actor = Member.objects.get(username="orne").actor
        content = as_zip(actor, Job.objects.get(number=7, workshop_id=actor.workshop_id).id)
        job = take_in(found_workshop("Far Quay", "stranger", "S. Tranger", PASSWORD), content)
        page = self.sign_in("stranger")
        page.open(f"/jobs/{job.id}/record")
        page.see("Chain whole", "Came in a file from another workshop.", "Nothing that was signed")
        page.click("Accept as lead")
        self.assertFalse(Job.objects.get(id=job.id).accepted)
        page.click("Accept as lead")
        page.see("A lead here accepted it.", "file accepted")
        Reading.objects.filter(position__job_id=job.id).update(value=1e-6)
        page.open(f"/jobs/{job.id}/record")
        page.see("Altered: what is shown is not what was written.", "A reading is not what its file wrote")
